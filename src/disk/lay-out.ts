/** Lays out a project in a folder: never over a file that is there. */

import { basename } from 'node:path';
import type { Layout } from '../core/starter/render.ts';
import { commit } from './journal.ts';
import { below, type Place } from './place.ts';
import { lstatOrNull } from './stat.ts';

/** The files of `layout` that stand in `folder` already. */
export function inTheWay(folder: Place, layout: Layout): string[] {
  return [...layout.files.keys()].filter((path) => lstatOrNull(below(folder, path)) !== null);
}

/** Writes what `folder` lacks of `layout`: all of it or, with a `CravelError`, nothing. */
export async function layOut(folder: Place, { files, folders }: Layout): Promise<void> {
  const missing = [...files].filter(([path]) => lstatOrNull(below(folder, path)) === null);
  await commit(folder, {
    title: `scaffold ${basename(folder)}`,
    files: missing.map(([path, after]) => ({ path, before: null, after })),
    folders,
  });
}
