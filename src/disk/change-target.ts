/** Where a file of a change lies in a project, and whether it may be changed there. */

import type { FileChange } from '../core/change/files.ts';
import { fail } from '../core/errors.ts';
import { fold, folderOf } from '../core/site/inventory.ts';
import { around, below, type DiskPath, pathFrom } from './disk-path.ts';
import { existsSync, lstatSync, realpathSync, type Stats } from './fs.ts';
import { exactNames } from './standing.ts';
import { lstatOrNull, statOrNull } from './stat.ts';

/** One file of a change, and where it lies. */
export interface Target {
  readonly file: FileChange;
  /** From the project's real folder, links followed, `/`-separated. */
  readonly path: string;
  /** What stands there; null where nothing does. */
  readonly stats: Stats | null;
}

export function checkedTarget(
  root: DiskPath,
  inside: DiskPath,
  file: FileChange,
  going: ReadonlyMap<string, string>,
): Target {
  const { path, before } = file;
  const target = below(root, path);
  const within = (real: DiskPath) => {
    const way = pathFrom(inside, real);
    if (way === '..' || way.startsWith('../')) throw fail('outside', path);
    return way;
  };
  if (before === null) {
    if (stands(target) && !isOneThatGoes(root, path, going))
      throw fail(statOrNull(target) === null ? 'leads-nowhere' : 'changed-meanwhile', path);
    const there = firstExisting(around(target));
    const parent = within(realpathSync(there));
    const rest = pathFrom(there, target);
    return { file, path: parent === '' ? rest : `${parent}/${rest}`, stats: null };
  }
  const real = realpathSync(target);
  const stats = lstatSync(real);
  const inProject = within(real);
  // Replacing a file asks for the folder's permission only: a file that is marked read-only is meant to stay.
  if ((stats.mode & 0o222) === 0) throw fail('read-only', path);
  // Replaced under one of its names, it would be another file under the others.
  if (stats.nlink > 1) throw fail('several-names', path);
  return { file, path: inProject, stats };
}

/** True where a disk that takes names in any letter case has a file there that the change takes away. */
function isOneThatGoes(root: DiskPath, path: string, going: ReadonlyMap<string, string>): boolean {
  const other = going.get(fold(path));
  if (other === undefined) return false;
  const { ino, dev } = lstatSync(below(root, path));
  const stats = lstatOrNull(below(root, other));
  return stats?.ino === ino && stats.dev === dev;
}

/** Throws the system's error where nothing ever can: a name is too long. */
function stands(path: DiskPath): boolean {
  try {
    lstatSync(path);
    return true;
  } catch (error) {
    const { code } = error as NodeJS.ErrnoException;
    if (code === 'ENOENT' || code === 'ENOTDIR') return false;
    throw error;
  }
}

/** The folders of `paths`, outermost first, that are not there yet; each ends in `/`. */
export function missingFolders(root: DiskPath, paths: Iterable<string>): string[] {
  const missing = new Set<string>();
  const isThere = exactNames(root);
  for (const path of paths)
    for (let folder = path; folder !== '' && !missing.has(folder); folder = folderOf(folder.slice(0, -1)))
      // One in another letter case may go, and come back if the change is taken back.
      if (!isThere(folder)) missing.add(folder);
  return [...missing].sort();
}

function firstExisting(folder: DiskPath): DiskPath {
  let here = folder;
  while (!existsSync(here)) here = around(here);
  return here;
}
