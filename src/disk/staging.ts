/** Writes the copy of a site beside the place where it is to lie. */

import { createHash } from 'node:crypto';
import { basename } from 'node:path';
import type { CopiedFiles } from '../core/packing/copied-files.ts';
import { around, below, type DiskPath } from './disk-path.ts';
import { syncFolders } from './durable.ts';
import {
  closeSync,
  fchmodSync,
  fsyncSync,
  mkdirSync,
  openSync,
  readdirSync,
  readSync,
  rmSync,
} from './fs.ts';
import { removeIfEmpty } from './lock.ts';
import type { PackTarget } from './pack-target.ts';
import type { PackedFile } from './packed.ts';
import { isMakerAlive, uniqueName } from './process.ts';
import { lstatOrNull } from './stat.ts';
import { writeAll } from './write-all.ts';

/** Permission bits of every file that is packed. */
const MODE = 0o644;

type Tell = (done: number, total: number) => Promise<void> | void;

/**
 * Writes a copy to a new folder: of files that were changed their new bytes, of the others those below `site`. Where `tell`
 * throws, folders that were made around it are gone again.
 */
export async function stageCopy(
  { path }: PackTarget,
  folder: DiskPath,
  site: DiskPath,
  files: CopiedFiles,
  tell: Tell,
): Promise<PackedFile[]> {
  const made = makeFolders(around(path));
  removeLeftovers(path);
  try {
    mkdirSync(folder);
    const folders = new Set([folder]);
    const paths = files.paths();
    const staged: PackedFile[] = [];
    for (const file of paths) {
      const place = below(folder, file);
      if (!folders.has(around(place))) {
        mkdirSync(around(place), { recursive: true });
        folders.add(around(place));
      }
      staged.push({ path: file, ...copyTo(place, contentFor(files.contentOf(file), site)) });
      await tell(staged.length, paths.length);
    }
    await syncFolders(folders);
    return staged;
  } catch (error) {
    rmSync(folder, { recursive: true, force: true });
    for (const empty of made.toReversed()) removeIfEmpty(empty);
    throw error;
  }
}

function contentFor(content: string | Uint8Array, site: DiskPath): Uint8Array | DiskPath {
  return typeof content === 'string' ? below(site, content) : content;
}

/** Makes the folders on the way that are missing; gives them, the outermost first. */
function makeFolders(folder: DiskPath): DiskPath[] {
  const missing: DiskPath[] = [];
  for (let here = folder; lstatOrNull(here) === null; here = around(here)) missing.unshift(here);
  mkdirSync(folder, { recursive: true });
  return missing;
}

/** A name beside a target that nothing else has. */
export function besideTarget(path: DiskPath): DiskPath {
  return below(around(path), `.${basename(path)}.cravel-${uniqueName()}`);
}

/** True for what some run had beside a target. */
export function isBesideTarget(path: DiskPath, place: string): boolean {
  const start = `${around(path)}/.${basename(path)}.cravel-`;
  return (
    place.replaceAll('\\', '/').startsWith(start.replaceAll('\\', '/')) && /-\d+-[0-9a-f]{12}$/.test(place)
  );
}

/** What runs that did not come to their end left beside a target. */
function removeLeftovers(path: DiskPath): void {
  const prefix = `.${basename(path)}.cravel-`;
  for (const name of readdirSync(around(path)))
    if (name.startsWith(prefix) && !isMakerAlive(name.slice(prefix.length)))
      rmSync(below(around(path), name), { recursive: true, force: true });
}

const PIECE = 1 << 20;

/** Writes bytes, or what a file holds, to a new file; one that is large is never in memory as a whole. */
function copyTo(
  place: DiskPath,
  source: Uint8Array | DiskPath,
): { readonly bytes: number; readonly hash: string } {
  const hash = createHash('sha256');
  const to = openSync(place, 'wx');
  let bytes = 0;
  const take = (piece: Uint8Array) => {
    hash.update(piece);
    writeAll(to, piece);
    bytes += piece.length;
  };
  try {
    if (typeof source === 'string') for (const piece of piecesOf(source)) take(piece);
    else take(source);
    fchmodSync(to, MODE);
    fsyncSync(to);
  } finally {
    closeSync(to);
  }
  return { bytes, hash: hash.digest('hex') };
}

function* piecesOf(place: DiskPath): Iterable<Uint8Array> {
  const from = openSync(place, 'r');
  const buffer = Buffer.allocUnsafe(PIECE);
  try {
    for (let length = -1; length !== 0; ) {
      length = readSync(from, buffer, 0, PIECE, null);
      if (length > 0) yield buffer.subarray(0, length);
    }
  } finally {
    closeSync(from);
  }
}

export function hashOfFile(place: DiskPath): string {
  const hash = createHash('sha256');
  for (const piece of piecesOf(place)) hash.update(piece);
  return hash.digest('hex');
}
