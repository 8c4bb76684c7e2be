/** Puts a packed copy in its place: as a whole or not at all, at whatever instant it ends. */

import { fail } from '../core/errors.ts';
import { writeArchive } from './archive-writing.ts';
import { hashOfFile } from './digest.ts';
import { around, type DiskPath } from './disk-path.ts';
import { syncFolder } from './durable.ts';
import { lstatSync, renameSync } from './fs.ts';
import { type Beside, note } from './open-placing.ts';
import type { PackTarget } from './pack-target.ts';
import { notePacked, type Packed, type PackedFile } from './packed.ts';
import { reasonOf } from './reason.ts';
import { whileHeldBack } from './signals.ts';
import { lstatOrNull } from './stat.ts';

type Tell = (done: number, total: number) => Promise<void> | void;

/** What became of a copy. */
export interface Placed {
  /** The bytes that lie there. */
  readonly bytes: number;
  /** Why nobody will know of it later; null where that is noted. */
  readonly unnoted: string | null;
}

/** The caller holds the project's lock. `at`: the address that the copy is made for. Throws a `CravelError`. */
export async function placeCopy(
  root: DiskPath,
  target: PackTarget,
  beside: Beside,
  files: readonly PackedFile[],
  at: string | null,
  tell: Tell,
): Promise<Placed> {
  const { path, form } = target;
  const packed: Packed = {
    cravel: 1,
    target: path,
    form,
    hash: null,
    packed: new Date().toISOString(),
    at,
    files,
  };
  if (form !== 'folder') return placeArchive(root, target, beside, packed, tell);
  return whileHeldBack(() => {
    const isThere = lstatOrNull(path) !== null;
    if (isThere) {
      note(root, { cravel: 1, target: path, ...beside, packed });
      renameSync(path, beside.other);
    }
    try {
      renameSync(beside.staged, path);
    } catch (error) {
      if (isThere) renameSync(beside.other, path);
      throw error;
    }
    syncFolder(around(path));
    const bytes = files.reduce((sum, file) => sum + file.bytes, 0);
    return Promise.resolve({ bytes, unnoted: whyUnnoted(root, packed) });
  });
}

async function placeArchive(
  root: DiskPath,
  { path, form }: PackTarget,
  { staged, other }: Beside,
  packed: Packed,
  tell: Tell,
): Promise<Placed> {
  await writeArchive(form as 'zip' | 'tar.gz', staged, packed.files, other, tell);
  const hash = hashOfFile(other);
  return whileHeldBack(() => {
    renameSync(other, path);
    syncFolder(around(path));
    return Promise.resolve({ bytes: lstatSync(path).size, unnoted: whyUnnoted(root, { ...packed, hash }) });
  });
}

/** What the system said about a target, as people are told of it. */
export function asRefusal(error: unknown, shown: string): unknown {
  return error instanceof Error && 'syscall' in error ? fail('refused', shown, reasonOf(error)) : error;
}

function whyUnnoted(root: DiskPath, packed: Packed): string | null {
  try {
    notePacked(root, packed);
    return null;
  } catch (error) {
    return (error as Error).message.split('\n')[0] ?? '';
  }
}
