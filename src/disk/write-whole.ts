/** Writes a file that somebody pointed to: as a whole or not at all, and without changing what it is. */

import { CravelError, fail } from '../core/errors.ts';
import { removeDead } from './beside.ts';
import { around, below, type DiskPath } from './disk-path.ts';
import { syncFolder } from './durable.ts';
import {
  closeSync,
  fchmodSync,
  fchownSync,
  fstatSync,
  fsyncSync,
  openSync,
  realpathSync,
  renameSync,
  rmSync,
  type Stats,
} from './fs.ts';
import { isUniqueName, uniqueName } from './process.ts';
import { reasonOf } from './reason.ts';
import { lstatOrNull, statOrNull } from './stat.ts';
import { writeAll } from './write-all.ts';

const BESIDE = '.cravel-';
/** Names of what other programs read while it is written; a file that is open there would not be seen to be replaced. */
const STREAMS = /^\/(?:dev|proc)\//;
/** What Windows calls its devices. */
const DEVICES = /^\\\\\.\\/;

/**
 * Writes `pieces` to a file. One that is there is replaced in one step and keeps its mode and owner; a link is followed;
 * what is no regular file is written through. Throws a `CravelError` where that cannot be.
 */
export function writeWhole(file: DiskPath, pieces: Iterable<string | Uint8Array>): void {
  try {
    if (DEVICES.test(file)) return writeThrough(file, pieces);
    const stats = statOrNull(file);
    if (stats === null && lstatOrNull(file) !== null)
      throw fail('refused', file, 'it is a link that leads nowhere');
    if (stats?.isDirectory()) throw fail('refused', file, 'it is a folder, not a file');
    if (stats?.isFile() && (stats.mode & 0o222) === 0) throw fail('read-only', file);
    // A file of several names stays one file under all of them.
    if (stats !== null && (!stats.isFile() || stats.nlink > 1 || STREAMS.test(file)))
      return writeThrough(file, pieces);
    replace(stats === null ? file : realpathSync(file), stats, pieces);
  } catch (error) {
    if (error instanceof CravelError) throw error;
    throw fail('refused', file, reasonOf(error));
  }
}

function writeThrough(file: DiskPath, pieces: Iterable<string | Uint8Array>): void {
  const handle = openSync(file, 'w');
  try {
    for (const piece of pieces) writeAll(handle, piece);
  } finally {
    closeSync(handle);
  }
}

function replace(file: DiskPath, like: Stats | null, pieces: Iterable<string | Uint8Array>): void {
  const folder = around(file);
  removeDead(folder, BESIDE);
  const beside = below(folder, BESIDE + uniqueName());
  const handle = openSync(beside, 'wx');
  try {
    try {
      for (const piece of pieces) writeAll(handle, piece);
      if (like !== null) takeAfter(handle, like);
      fsyncSync(handle);
    } finally {
      closeSync(handle);
    }
    renameSync(beside, file);
  } catch (error) {
    rmSync(beside, { force: true });
    throw error;
  }
  syncFolder(folder);
}

/** Gives a file the owner and the permissions of another one. */
function takeAfter(handle: number, { uid, gid, mode }: Stats): void {
  const now = fstatSync(handle);
  if (now.uid !== uid || now.gid !== gid) fchownSync(handle, uid, gid);
  fchmodSync(handle, mode & 0o7777);
}

/** True for the name of a file that is being written to be put in the place of another. */
export function isBesideWhole(name: string): boolean {
  return name.startsWith(BESIDE) && isUniqueName(name.slice(BESIDE.length));
}
