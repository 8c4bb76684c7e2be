/** Asks what stands at a path, where nothing may stand. */

import type { OwnMarks } from '../core/change/files.ts';
import type { DiskPath } from './disk-path.ts';
import { lstatSync, type Stats, statSync } from './fs.ts';

/** What the system answers where nothing stands, or can. */
const NOTHING: ReadonlySet<string> = new Set(['ENOENT', 'ENOTDIR', 'ENAMETOOLONG']);

/** What a path leads to, links followed; null where there is nothing. */
export function statOrNull(path: DiskPath): Stats | null {
  return orNull(() => statSync(path));
}

/** What stands at a path itself, be it a link; null where there is nothing. */
export function lstatOrNull(path: DiskPath): Stats | null {
  return orNull(() => lstatSync(path));
}

/** What a file has besides its bytes. Throws the system's error where there is none. */
export function marksAt(path: DiskPath): OwnMarks {
  const { mode, uid, gid, mtime } = lstatSync(path);
  return { mode, uid, gid, mtime };
}

function orNull(ask: () => Stats): Stats | null {
  try {
    return ask();
  } catch (error) {
    const { code } = error as NodeJS.ErrnoException;
    // The last is said of a path with a null character in it, which no file has.
    if (code !== undefined && (NOTHING.has(code) || code === 'ERR_INVALID_ARG_VALUE')) return null;
    throw error;
  }
}
