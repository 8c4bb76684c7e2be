/** The change that is open in a project: what it is about to do, and how it is taken back. */

import { basename } from 'node:path';
import { fail } from '../core/errors.ts';
import { folderOf } from '../core/site/inventory.ts';
import { around, below, type DiskPath } from './disk-path.ts';
import { syncFolder } from './durable.ts';
import {
  existsSync,
  lstatSync,
  mkdirSync,
  readdirSync,
  realpathSync,
  renameSync,
  rmdirSync,
  rmSync,
  unlinkSync,
} from './fs.ts';
import { isHeld, removeIfEmpty, WORKSHOP } from './lock.ts';
import { uniqueName } from './process.ts';
import { hashAt, hashesAt } from './standing.ts';
import { lstatOrNull } from './stat.ts';
import { withinFolder } from './within-folder.ts';

/** In the workshop: the folder of the open change, and in it what is going to happen and the mark that it can. */
export const OPEN = 'change';
export const MANIFEST = 'manifest.json';
export const READY = 'ready';
const SET_ASIDE = 'set-aside';

export const newName = (index: number) => `new-${index}`;
export const oldName = (index: number) => `old-${index}`;

/** One file of a change: the SHA-256 of its bytes before and after, in hexadecimal; null where there is no file. */
export interface Entry {
  /** From the project's folder, links followed, `/`-separated. */
  readonly path: string;
  readonly before: string | null;
  readonly after: string | null;
  /** Where a file that comes lay before, from the project's folder. */
  readonly from?: string;
}

export interface Manifest {
  readonly cravel: 1;
  readonly title: string;
  readonly begun: string;
  readonly files: readonly Entry[];
  /** Folders that the change makes, outermost first; each ends in `/`. */
  readonly folders: readonly string[];
  /** Folders that hold nothing and go; each ends in `/`. */
  readonly gone?: readonly string[];
}

/** What an earlier run had begun. */
export interface Standing {
  readonly title: string;
  readonly begun: string;
}

/** What became of a change that an earlier run did not finish. */
export interface Recovered extends Standing {
  /** Files that are as they were before again. */
  readonly restored: number;
  /** Files that somebody changed since; they stay as they are, and what they were before lies beside. */
  readonly setAside: readonly (readonly [path: string, beside: string])[];
}

/** The change that an earlier run left unfinished in the project at `root`; null where there is none. */
export async function unfinishedIn(root: DiskPath): Promise<Standing | null> {
  if (!hasOpenChange(root) || isHeld(root)) return null;
  const { readManifest } = await import('./manifest.ts');
  return readManifest(below(root, `${WORKSHOP}/${OPEN}/${MANIFEST}`));
}

/** True where files may be half old, half new: a change is being carried out, or was and did not come to its end. */
export function hasOpenChange(root: DiskPath): boolean {
  return existsSync(below(root, `${WORKSHOP}/${OPEN}/${READY}`));
}

/**
 * Takes back what an earlier run left unfinished, and cleans up after it; null where there was nothing. The caller
 * holds the project's lock. Throws a `CravelError` where what is there is not of Cravel's making.
 */
export async function recover(root: DiskPath): Promise<Recovered | null> {
  const workshop = below(root, WORKSHOP);
  clean(workshop);
  const open = below(workshop, OPEN);
  if (lstatOrNull(open) === null) return null;
  // Before the manifest is there nothing was touched.
  if (!existsSync(below(open, MANIFEST))) {
    close(workshop);
    return null;
  }
  const { readManifest } = await import('./manifest.ts');
  const manifest = readManifest(below(open, MANIFEST));
  const { unreached, setAside, ...rest } = takeBack(realpathSync(root), open, manifest);
  // The way there does not come back: what they were before is kept beside.
  const lost = unreached.map(([path, old]) => [path, asideOf(open, old, path)] as const);
  close(workshop);
  return { ...rest, setAside: [...setAside, ...lost] };
}

/** Takes away what is left of changes that were closed. */
function clean(workshop: DiskPath): void {
  for (const name of readdirSync(workshop))
    if (name.startsWith('closed-')) rmSync(below(workshop, name), { recursive: true, force: true });
}

/**
 * Puts in place what an earlier run left undone of its change, from its manifest; it stays open. Whenever this ends
 * half-way, it can be done again. The caller holds the project's lock. Null where no change stands. Throws a
 * `CravelError`, with nothing touched, where the change had not begun, or where somebody changed one of its files since.
 */
export async function finish(root: DiskPath): Promise<Standing | null> {
  const open = below(root, `${WORKSHOP}/${OPEN}`);
  if (!existsSync(below(open, MANIFEST))) return null;
  const { readManifest } = await import('./manifest.ts');
  const { title, begun, files, folders, gone = [] } = readManifest(below(open, MANIFEST));
  if (!existsSync(below(open, READY))) throw fail('not-begun', title);
  const inside = realpathSync(root);
  const standing = hashesAt(inside, files);
  const waiting = [...files.entries()].filter(([, { path, after }]) => standing(path) !== after);
  for (const [index, { path, before, after }] of waiting) {
    const isWhole = after === null || hashAt(below(open, newName(index))) === after;
    if (leadsAway(inside, path) || standing(path) !== before || !isWhole)
      throw fail('changed-since', path, '1');
  }
  const touched = new Set<DiskPath>();
  // What goes away makes room first.
  const inOrder = waiting.toSorted(([, a], [, b]) => Number(b.after === null) - Number(a.after === null));
  for (const [index, { path, after }] of inOrder) {
    const place = below(inside, path);
    mkdirSync(around(place), { recursive: true });
    withinFolder(around(place), path, (folder) => {
      const exact = below(folder, basename(place));
      if (after === null) unlinkSync(exact);
      else renameSync(below(open, newName(index)), exact);
    });
    touched.add(around(place));
  }
  for (const { path, after } of files) if (after === null) removeEmptyFolders(inside, folderOf(path));
  for (const folder of gone) removeEmptyFolders(inside, folder);
  for (const folder of folders) mkdirSync(below(inside, folder), { recursive: true });
  for (const folder of touched) if (existsSync(folder)) syncFolder(folder);
  return { title, begun };
}

/** What became of a change that was taken back. */
interface TakenBack extends Recovered {
  /** Files that were changed and could not be reached, since the way there leads elsewhere; and what they were before. */
  readonly unreached: readonly (readonly [path: string, old: DiskPath])[];
}

/**
 * Makes every file what it was before the change. Whenever this ends half-way, it can be done again. What somebody
 * else changed meanwhile is left alone.
 */
export function takeBack(
  inside: DiskPath,
  open: DiskPath,
  { title, begun, files, folders, gone = [] }: Manifest,
): TakenBack {
  const touched = new Set<DiskPath>();
  const setAside: (readonly [string, string])[] = [];
  const unreached: (readonly [string, DiskPath])[] = [];
  let restored = 0;
  for (const { path, before, after } of files) {
    const place = below(inside, path);
    if (before !== null || leadsAway(inside, path) || after === null || hashAt(place) !== after) continue;
    withinFolder(around(place), path, (folder) => unlinkSync(below(folder, basename(place))));
    touched.add(around(place));
    restored++;
  }
  for (const folder of folders.toReversed()) {
    const place = below(inside, folder);
    if (!leadsAway(inside, folder.slice(0, -1)) && removeIfEmpty(place)) touched.add(around(place));
  }
  for (const [index, { path, before, after }] of files.entries()) {
    const place = below(inside, path);
    const [old, fresh] = [below(open, oldName(index)), below(open, newName(index))];
    if (before === null) continue;
    if (leadsAway(inside, path)) {
      if ((after === null || !existsSync(fresh)) && hashAt(old) === before) unreached.push([path, old]);
      continue;
    }
    const now = hashAt(place);
    // A new file that still lies beside its place was not put there.
    if (now === before || (after !== null && existsSync(fresh)) || hashAt(old) !== before) continue;
    if (now === after || now === null) {
      mkdirSync(around(place), { recursive: true });
      withinFolder(around(place), path, (folder) => renameSync(old, below(folder, basename(place))));
      touched.add(around(place));
      restored++;
    } else {
      setAside.push([path, asideOf(open, old, path)]);
    }
  }
  for (const folder of gone)
    if (!leadsAway(inside, folder.slice(0, -1))) mkdirSync(below(inside, folder), { recursive: true });
  for (const folder of touched) if (existsSync(folder)) syncFolder(folder);
  return { title, begun, restored, setAside, unreached };
}

/** Sets the old file of a path aside; gives where it lies then, from the project's folder. */
function asideOf(open: DiskPath, old: DiskPath, path: string): string {
  const beside = below(around(open), `${SET_ASIDE}/${path}`);
  mkdirSync(around(beside), { recursive: true });
  renameSync(old, beside);
  return `${WORKSHOP}/${SET_ASIDE}/${path}`;
}

/** True where a folder on the way has become a link, which may lead anywhere. */
function leadsAway(inside: DiskPath, path: string): boolean {
  let folder = around(below(inside, path));
  while (lstatOrNull(folder) === null) folder = around(folder);
  return realpathSync(folder) !== folder;
}

/** Milliseconds for cleaning up where somebody waits for the end; the next run does what is left of it. */
const SOON = 300;

/**
 * From one instant to the next the change is no longer open; what it needed goes, `soon` only as far as that takes no
 * time to speak of.
 */
export function close(workshop: DiskPath, { soon = false }: { readonly soon?: boolean } = {}): void {
  const open = below(workshop, OPEN);
  if (lstatOrNull(open) === null) return;
  if (!lstatSync(open).isDirectory()) throw fail('workshop-taken', around(workshop));
  const closed = below(workshop, `closed-${uniqueName()}`);
  renameSync(open, closed);
  syncFolder(workshop);
  try {
    const end = performance.now() + SOON;
    for (const name of readdirSync(closed)) {
      if (soon && performance.now() > end) return;
      rmSync(below(closed, name), { recursive: true, force: true });
    }
    rmdirSync(closed);
    removeIfEmpty(workshop);
  } catch {
    // It is closed all the same: the next run cleans up what another program still has open.
  }
}

/** A folder goes where it holds nothing, then the one around it, and so on. */
export function removeEmptyFolders(root: DiskPath, folder: string): void {
  for (let here = folder; here !== ''; here = folderOf(here.slice(0, -1))) {
    const place = below(root, here);
    if (!removeIfEmpty(place) && lstatOrNull(place) !== null) return;
  }
}
