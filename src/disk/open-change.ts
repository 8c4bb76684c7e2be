/** The change that is open in a project: what it is about to do, and how it is taken back. */
import { createHash } from 'node:crypto';
import {
  existsSync,
  lstatSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  realpathSync,
  renameSync,
  rmdirSync,
  rmSync,
  unlinkSync,
} from 'node:fs';
import { basename, dirname, join } from 'node:path';
import { fail } from '../core/errors.ts';
import { folderOf } from '../core/site/inventory.ts';
import { syncFolder } from './durable.ts';
import { isHeld, removeIfEmpty, WORKSHOP } from './lock.ts';
import { uniqueName } from './process.ts';
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
}

export interface Manifest {
  readonly cravel: 1;
  readonly title: string;
  readonly begun: string;
  readonly files: readonly Entry[];
  /** Folders that the change makes, outermost first; each ends in `/`. */
  readonly folders: readonly string[];
}

export function hashOf(bytes: Uint8Array): string {
  return createHash('sha256').update(bytes).digest('hex');
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
export async function unfinishedIn(root: string): Promise<Standing | null> {
  if (!hasOpenChange(root) || isHeld(root)) return null;
  const { readManifest } = await import('./manifest.ts');
  return readManifest(join(root, WORKSHOP, OPEN, MANIFEST));
}

/** True where files may be half old, half new: a change is being carried out, or was and did not come to its end. */
export function hasOpenChange(root: string): boolean {
  return existsSync(join(root, WORKSHOP, OPEN, READY));
}

/**
 * Takes back what an earlier run left unfinished, and cleans up after it; null where there was nothing. The caller
 * holds the project's lock. Throws a `CravelError` where what is there is not of Cravel's making.
 */
export async function recover(root: string): Promise<Recovered | null> {
  const workshop = join(root, WORKSHOP);
  for (const name of readdirSync(workshop))
    if (name.startsWith('closed-')) rmSync(join(workshop, name), { recursive: true, force: true });
  const open = join(workshop, OPEN);
  if (lstatOrNull(open) === null) return null;
  // Before the manifest is there nothing was touched.
  if (!existsSync(join(open, MANIFEST))) {
    close(workshop);
    return null;
  }
  const { readManifest } = await import('./manifest.ts');
  const manifest = readManifest(join(open, MANIFEST));
  const { unreached, setAside, ...rest } = takeBack(realpathSync(root), open, manifest);
  // The way there does not come back: what they were before is kept beside.
  const lost = unreached.map(([path, old]) => [path, asideOf(open, old, path)] as const);
  close(workshop);
  return { ...rest, setAside: [...setAside, ...lost] };
}

/** What became of a change that was taken back. */
interface TakenBack extends Recovered {
  /** Files that were changed and could not be reached, since the way there leads elsewhere; and what they were before. */
  readonly unreached: readonly (readonly [path: string, old: string])[];
}

/**
 * Makes every file what it was before the change. Whenever this ends half-way, it can be done again. What somebody
 * else changed meanwhile is left alone.
 */
export function takeBack(
  inside: string,
  open: string,
  { title, begun, files, folders }: Manifest,
): TakenBack {
  const touched = new Set<string>();
  const setAside: (readonly [string, string])[] = [];
  const unreached: (readonly [string, string])[] = [];
  let restored = 0;
  for (const { path, before, after } of files) {
    const place = join(inside, path);
    if (before !== null || leadsAway(inside, path) || after === null || hashAt(place) !== after) continue;
    withinFolder(dirname(place), path, (folder) => unlinkSync(join(folder, basename(place))));
    touched.add(dirname(place));
    restored++;
  }
  for (const folder of folders.toReversed()) {
    const place = join(inside, folder);
    if (!leadsAway(inside, folder.slice(0, -1)) && removeIfEmpty(place)) touched.add(dirname(place));
  }
  for (const [index, { path, before, after }] of files.entries()) {
    const place = join(inside, path);
    const [old, fresh] = [join(open, oldName(index)), join(open, newName(index))];
    if (before === null) continue;
    if (leadsAway(inside, path)) {
      if ((after === null || !existsSync(fresh)) && hashAt(old) === before) unreached.push([path, old]);
      continue;
    }
    const now = hashAt(place);
    // A new file that still lies beside its place was not put there.
    if (now === before || (after !== null && existsSync(fresh)) || hashAt(old) !== before) continue;
    if (now === after || now === null) {
      mkdirSync(dirname(place), { recursive: true });
      withinFolder(dirname(place), path, (folder) => renameSync(old, join(folder, basename(place))));
      touched.add(dirname(place));
      restored++;
    } else {
      setAside.push([path, asideOf(open, old, path)]);
    }
  }
  for (const folder of touched) if (existsSync(folder)) syncFolder(folder);
  return { title, begun, restored, setAside, unreached };
}

/** Sets the old file of a path aside; gives where it lies then, from the project's folder. */
function asideOf(open: string, old: string, path: string): string {
  const beside = join(dirname(open), SET_ASIDE, path);
  mkdirSync(dirname(beside), { recursive: true });
  renameSync(old, beside);
  return `${WORKSHOP}/${SET_ASIDE}/${path}`;
}

/** True where a folder on the way has become a link, which may lead anywhere. */
function leadsAway(inside: string, path: string): boolean {
  let folder = dirname(join(inside, path));
  while (lstatOrNull(folder) === null) folder = dirname(folder);
  return realpathSync.native(folder) !== folder;
}

/** Null where there is no file. */
function hashAt(path: string): string | null {
  return lstatOrNull(path)?.isFile() === true ? hashOf(readFileSync(path)) : null;
}

/** Milliseconds for cleaning up where somebody waits for the end; the next run does what is left of it. */
const SOON = 300;

/**
 * From one instant to the next the change is no longer open; what it needed goes, `soon` only as far as that takes no
 * time to speak of.
 */
export function close(workshop: string, { soon = false }: { readonly soon?: boolean } = {}): void {
  const open = join(workshop, OPEN);
  if (lstatOrNull(open) === null) return;
  if (!lstatSync(open).isDirectory()) throw fail('workshop-taken', dirname(workshop));
  const closed = join(workshop, `closed-${uniqueName()}`);
  renameSync(open, closed);
  syncFolder(workshop);
  const end = performance.now() + SOON;
  for (const name of readdirSync(closed)) {
    if (soon && performance.now() > end) return;
    rmSync(join(closed, name), { recursive: true, force: true });
  }
  rmdirSync(closed);
  removeIfEmpty(workshop);
}

export function removeEmptyFolders(root: string, folder: string): void {
  for (let here = folder; here !== ''; here = folderOf(here.slice(0, -1)))
    if (!removeIfEmpty(join(root, here))) return;
}
