/** What of a real project moves: which files, with all that their folders hold, and where to. */

import type { OwnMarks } from '../core/change/files.ts';
import { fail } from '../core/errors.ts';
import { extensionOf, folderOf, nameOf } from '../core/site/inventory.ts';
import { nearestNames } from '../core/site/near-names.ts';
import { below, type DiskPath } from './disk-path.ts';
import { direntsIn } from './fs.ts';
import { WORKSHOP } from './lock.ts';
import type { Project } from './project.ts';
import { FileReader } from './reader.ts';
import { reasonOf } from './reason.ts';
import { lstatOrNull, marksAt, statOrNull } from './stat.ts';

/** A file or a folder of the site, whose path ends in `/`, and the path that it gets. */
export type Pair = readonly [from: string, to: string];

/** Permission bits, owner and time of a file of the project. */
export function marksOf(root: DiskPath, path: string): OwnMarks {
  return marksAt(below(root, path));
}

/** True for a folder of the site that is there. */
function isFolderThere({ root, prefix }: Project, path: string): boolean {
  return statOrNull(below(root, prefix + path.replace(/\/$/, '')))?.isDirectory() === true;
}

/**
 * Where each of `sources`, as somebody named them, goes: into `target` where that is a folder or there are several, else to
 * that name. Throws a `CravelError` where one is not there, and where one cannot go there.
 */
export function pairsFor(project: Project, sources: readonly string[], target: string): Pair[] {
  const to = sitePathFor(project, target);
  const isFolder = target.endsWith('/') || to === '' || isFolderThere(project, to);
  const isInto = isFolder || sources.length > 1;
  const folder = to === '' || to.endsWith('/') ? to : `${to}/`;
  const pairs = sources.map((source): Pair => {
    const from = sitePathFor(project, source);
    const isDir = isFolderThere(project, from) && from !== '';
    const own = isDir ? `${from.replace(/\/$/, '')}/` : from;
    if (from === '') throw fail('move-root', source);
    // A folder in another letter case may be the same one.
    const isRename = sources.length === 1 && !target.endsWith('/') && isSameButCase(project, own, to);
    const extension = isDir ? '' : extensionOf(own);
    if (!isInto && extension !== '' && extensionOf(to) === '') throw fail('move-unnamed', target, extension);
    const goes = isInto && !isRename ? folder + nameOf(own) : to.replace(/\/$/, '');
    return [own, isDir ? `${goes}/` : goes];
  });
  for (const pair of pairs) checkPair(project, pair);
  const taken = new Set<string>();
  for (const [, goes] of pairs) {
    if (taken.has(goes)) throw fail('move-twice', goes);
    taken.add(goes);
  }
  return pairs.filter(([from, goes]) => from !== goes);
}

function isSameButCase(project: Project, from: string, to: string): boolean {
  const [one, other] = [from.replace(/\/$/, ''), to.replace(/\/$/, '')];
  return one !== other && one.toLowerCase() === other.toLowerCase() && isFolderThere(project, to);
}

/** Throws where it leads out of the site. */
function sitePathFor({ sitePath }: Project, named: string): string {
  const path = sitePath(named).replace(/^\.\//, '');
  if (path === '..' || path.startsWith('../') || path.startsWith('/')) throw fail('outside-site', named);
  return path === '.' ? '' : path;
}

/** Throws where a file or folder is not there, cannot be moved, or cannot go where it is to. */
export function checkPair(project: Project, [from, to]: Pair): void {
  const { root, prefix, inventory } = project;
  const source = lstatOrNull(below(root, prefix + from.replace(/\/$/, '')));
  if (source === null) throw fail('no-file', from, nearestNames(from, [...inventory.files]));
  if (source.isSymbolicLink()) throw fail('move-link', from);
  if (to === from) return;
  if (from.endsWith('/') && to.startsWith(from)) throw fail('move-into-itself', from, to);
  const place = below(root, prefix + to.replace(/\/$/, ''));
  const there = lstatOrNull(place);
  const isItself = there !== null && there.ino === source.ino && there.dev === source.dev;
  if (there !== null && !isItself) throw fail('move-onto', to.replace(/\/$/, ''));
  for (let folder = folderOf(to.replace(/\/$/, '')); folder !== ''; folder = folderOf(folder.slice(0, -1))) {
    const stats = statOrNull(below(root, prefix + folder.slice(0, -1)));
    if (stats !== null && !stats.isDirectory()) throw fail('move-onto', folder.slice(0, -1));
  }
}

/** What a folder holds besides the files of the site, by paths from the project's folder: all of it comes along. */
export interface Beside {
  readonly files: readonly string[];
  /** Folders that hold nothing. */
  readonly folders: readonly string[];
}

/** Throws a `CravelError` where there is something in it that cannot be moved. */
export function besideIn({ root, prefix, inventory }: Project, folder: string): Beside {
  const files: string[] = [];
  const folders: string[] = [];
  const walk = (path: string) => {
    const entries = direntsIn(below(root, prefix + path.slice(0, -1)));
    if (entries.length === 0) folders.push(prefix + path);
    for (const entry of entries) {
      const own = path + entry.name;
      if (entry.isDirectory() && entry.name !== WORKSHOP) walk(`${own}/`);
      else if (!entry.isFile()) throw fail('move-link', own);
      else if (!inventory.files.has(own)) files.push(prefix + own);
    }
  };
  walk(folder);
  return { files, folders };
}

/** Reads files below a folder; the bytes are good until the next are asked for. Throws a `CravelError` where one cannot be. */
export function bytesBelow(root: DiskPath): (path: string) => Uint8Array {
  const reader = new FileReader();
  return (path) => {
    try {
      return reader.read(below(root, path));
    } catch (error) {
      throw fail('refused', path, reasonOf(error));
    }
  };
}
