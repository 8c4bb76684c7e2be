/** Lays out a project in a folder: never over a file that is there. */

import { basename } from 'node:path';
import { isRead } from '../core/read/read.ts';
import { SETTINGS_FILE } from '../core/settings/settings.ts';
import { withLineEnd } from '../core/site/line-ends.ts';
import type { Layout } from '../core/starter/render.ts';
import { below, type DiskPath } from './disk-path.ts';
import { listSite } from './inventory.ts';
import { commit } from './journal.ts';
import { lineEndOf } from './line-end.ts';
import { lstatOrNull, statOrNull } from './stat.ts';

/** The files of `layout` that stand in `folder` already. */
export function inTheWay(folder: DiskPath, layout: Layout): string[] {
  return [...layout.files.keys()].filter((path) => lstatOrNull(below(folder, path)) !== null);
}

/** Writes what `folder` lacks of `layout`: all of it or, with a `CravelError`, nothing. `keep`: see `commit`. */
export async function layOut(folder: DiskPath, { files, folders }: Layout, keep = 0): Promise<void> {
  const missing = [...files].filter(([path]) => lstatOrNull(below(folder, path)) === null);
  // What is added to a project ends its lines as that does.
  const isThere = statOrNull(folder)?.isDirectory() === true;
  const lineEnd = isThere ? lineEndOf(folder, listSite(folder).inventory.files) : null;
  const added = (path: string, bytes: Uint8Array) =>
    lineEnd !== null && (isRead(path) || path === SETTINGS_FILE) ? withLineEnd(bytes, lineEnd) : bytes;
  const change = {
    title: `scaffold ${basename(folder)}`,
    files: missing.map(([path, after]) => ({ path, before: null, after: added(path, after) })),
    folders,
  };
  await commit(folder, change, keep);
}
