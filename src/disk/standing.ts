/**
 * What stands in the places of a change. Many disks take a name in any letter case for the same file; a change of nothing but
 * the letter case has to tell its two names apart all the same.
 */

import { createHash } from 'node:crypto';
import { fold, folderOf } from '../core/site/inventory.ts';
import { below, type DiskPath } from './disk-path.ts';
import { readdirSync, readFileSync } from './fs.ts';
import { lstatOrNull } from './stat.ts';

export function hashOf(bytes: Uint8Array): string {
  return createHash('sha256').update(bytes).digest('hex');
}

/** Of all pieces, one after the other. */
export function hashOfAll(pieces: readonly (string | Uint8Array)[]): string {
  const hash = createHash('sha256');
  for (const piece of pieces) hash.update(piece);
  return hash.digest('hex');
}

/** Null where there is no file. */
export function hashAt(path: DiskPath): string | null {
  return lstatOrNull(path)?.isFile() === true ? hashOf(readFileSync(path)) : null;
}

/**
 * The SHA-256 of files below `root`, null where there is none: of those that some disk takes for one, only the one has it
 * whose name is kept exactly so. What is looked at stays as it is meanwhile.
 */
export function hashesAt(
  root: DiskPath,
  files: readonly { readonly path: string }[],
): (path: string) => string | null {
  const amounts = new Map<string, number>();
  for (const { path } of files) amounts.set(fold(path), (amounts.get(fold(path)) ?? 0) + 1);
  const isThere = exactNames(root);
  return (path) => (amounts.get(fold(path)) !== 1 && !isThere(path) ? null : hashAt(below(root, path)));
}

/** Tells whether something stands below `root` whose path is kept exactly so; a folder's ends in `/`. */
export function exactNames(root: DiskPath): (path: string) => boolean {
  const known = new Map<string, ReadonlySet<string>>();
  const namesIn = (folder: string) => {
    const names = known.get(folder) ?? new Set(listed(below(root, folder)));
    known.set(folder, names);
    return names;
  };
  const isThere = (path: string): boolean => {
    if (path === '') return true;
    const own = path.replace(/\/$/, '');
    const folder = folderOf(own);
    return isThere(folder) && namesIn(folder).has(own.slice(folder.length));
  };
  return isThere;
}

function listed(folder: DiskPath): string[] {
  try {
    return readdirSync(folder);
  } catch {
    return [];
  }
}
