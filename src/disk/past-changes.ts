/**
 * Changes that came to their end, kept so that they can be taken back: in the folder that each system has for the state
 * of programs, by project, never in the project itself, which gets published.
 */

import type { FileChange } from '../core/change/files.ts';
import { fail } from '../core/errors.ts';
import { around, below, type DiskPath } from './disk-path.ts';
import { makeFiles, syncFolder } from './durable.ts';
import {
  existsSync,
  lstatSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmdirSync,
  rmSync,
  unlinkSync,
} from './fs.ts';
import { removeIfEmpty, WORKSHOP } from './lock.ts';
import { readManifest } from './manifest.ts';
import { close, MANIFEST, type Manifest, OPEN, oldName } from './open-change.ts';
import { isMakerAlive, uniqueName } from './process.ts';
import { reasonOf } from './reason.ts';
import { hashAt, hashesAt } from './standing.ts';
import { lstatOrNull, marksAt, statOrNull } from './stat.ts';
import { stateOf } from './state.ts';

const PART = 'part-';
const PLACES = 8;

/** A change that was carried out, with the place where it is kept. */
export interface PastChange extends Manifest {
  readonly place: DiskPath;
}

/** Where the past changes of the project at `root` lie. */
function folderFor(root: DiskPath): DiskPath {
  return below(stateOf(root), 'changes');
}

/**
 * Keeps the open change of a project, all of which was carried out: from one instant to the next it is no longer open.
 * `most` is how many bytes of older ones stay with it. Null, or why it cannot be kept; it stays open then.
 */
export async function keepOpenChange(root: DiskPath, most: number): Promise<string | null> {
  const open = below(root, `${WORKSHOP}/${OPEN}`);
  try {
    const folder = folderFor(root);
    mkdirSync(folder, { recursive: true });
    clean(folder);
    const last = Number(namesIn(folder).at(-1) ?? 0);
    const place = below(folder, String(last + 1).padStart(PLACES, '0'));
    // They stand in their places by now; a second name of a file there would keep it from being replaced.
    for (const name of readdirSync(open)) if (/^new-\d+$/.test(name)) unlinkSync(below(open, name));
    await moveFolder(open, place, folder);
    removeIfEmpty(below(root, WORKSHOP));
    prune(folder, most);
    return null;
  } catch (error) {
    if (lstatOrNull(open) === null) return null;
    return reasonOf(error);
  }
}

async function moveFolder(open: DiskPath, place: DiskPath, folder: DiskPath): Promise<void> {
  try {
    renameSync(open, place);
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'EXDEV') throw error;
    // On another disk: a copy, then the change is closed.
    const part = below(folder, PART + uniqueName());
    try {
      mkdirSync(part);
      await copyInto(open, part);
      renameSync(part, place);
    } catch (failure) {
      rmSync(part, { recursive: true, force: true });
      throw failure;
    }
    syncFolder(folder);
    close(around(open));
    return;
  }
  syncFolder(folder);
  syncFolder(around(open));
}

async function copyInto(open: DiskPath, part: DiskPath): Promise<void> {
  const copies = readdirSync(open).map((name) => ({
    path: below(part, name),
    bytes: readFileSync(below(open, name)),
    like: lstatSync(below(open, name)),
  }));
  await makeFiles(copies);
  syncFolder(part);
}

/** Takes away what runs left that did not come to their end. */
function clean(folder: DiskPath): void {
  for (const name of readdirSync(folder)) {
    const isLeft = name.startsWith(PART)
      ? !isMakerAlive(name.slice(PART.length))
      : !existsSync(below(folder, `${name}/${MANIFEST}`));
    if (isLeft) rmSync(below(folder, name), { recursive: true, force: true });
  }
}

function namesIn(folder: DiskPath): string[] {
  return readdirSync(folder)
    .filter((name) => /^\d+$/.test(name) && existsSync(below(folder, `${name}/${MANIFEST}`)))
    .sort();
}

/** The oldest go where all take more than `most` bytes; the last one stays. */
function prune(folder: DiskPath, most: number): void {
  let size = 0;
  for (const [age, name] of namesIn(folder).toReversed().entries()) {
    const place = below(folder, name);
    for (const file of readdirSync(place)) size += lstatSync(below(place, file)).size;
    if (age > 0 && size > most) forget(place);
  }
}

/** A past change goes; without its manifest it is none. */
export function forget(place: DiskPath): void {
  rmSync(below(place, MANIFEST), { force: true });
  rmSync(place, { recursive: true, force: true });
  removeIfEmpty(around(place));
}

/** The past changes of a project, the last one first. Throws a `CravelError` where what is there is not of Cravel's making. */
export function pastChanges(root: DiskPath): PastChange[] {
  const folder = folderFor(root);
  if (statOrNull(folder)?.isDirectory() !== true) return [];
  return namesIn(folder)
    .toReversed()
    .map((name) => {
      const place = below(folder, name);
      return { ...readManifest(below(place, MANIFEST)), place };
    });
}

/** True where everything is as it was before a past change: it was taken back already. */
export function isTakenBack(root: DiskPath, { files }: PastChange): boolean {
  const standing = hashesAt(root, files);
  return files.every(({ path, before }) => standing(path) === before);
}

/** The files that are no longer as a past change left them. */
export function changedSince(root: DiskPath, { files }: PastChange): string[] {
  const standing = hashesAt(root, files);
  return files.flatMap(({ path, after }) => (standing(path) === after ? [] : path));
}

/** What takes a past change back. Throws a `CravelError` where what it replaced is no longer what it was. */
export function reverseOf(root: DiskPath, { files, place }: PastChange): FileChange[] {
  const goneTo = new Map(
    files.flatMap(({ path, from }) => (from === undefined ? [] : [[from, path] as const])),
  );
  return files.map(({ path, before, after }, index): FileChange => {
    const old = below(place, oldName(index));
    if (before !== null && hashAt(old) !== before) throw fail('bad-change', below(place, MANIFEST));
    const now = after === null ? null : readFileSync(below(root, path));
    if (before === null) return { path, before: now, after: null };
    const back = now === null ? goneTo.get(path) : undefined;
    const from = back === undefined ? {} : { from: back };
    return { path, before: now, after: readFileSync(old), like: marksAt(old), ...from };
  });
}

/** Takes away folders that a change had made, as far as nothing is in them. */
export function removeMadeFolders(root: DiskPath, { folders }: Pick<Manifest, 'folders'>): void {
  for (const folder of folders.toReversed()) {
    try {
      rmdirSync(below(root, folder));
    } catch {
      // It is gone, or something is in it.
    }
  }
}
