/** The one door through which a project is written to: one run at a time, and all of a change or nothing. */
import {
  chmodSync,
  closeSync,
  copyFileSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  openSync,
  readdirSync,
  readFileSync,
  realpathSync,
  renameSync,
  rmdirSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { hostname } from 'node:os';
import { basename, dirname, join, relative, sep } from 'node:path';
import { areEqual, type Change, type FileChange } from '../core/change/files.ts';
import { CravelError, fail } from '../core/errors.ts';
import { folderOf } from '../core/site/inventory.ts';
import { reasonOf } from './reason.ts';
import { lstatOrNull, statOrNull } from './stat.ts';

/** Where a change is prepared, in the project's folder. It is there only while a command runs. */
const WORKSHOP = '.cravel';

/**
 * Runs `work` while no other run changes the project at `root`. Throws a `CravelError` where another one
 * does; a lock whose process is gone is taken over.
 */
export async function whileLocked<T>(root: string, work: () => Promise<T> | T): Promise<T> {
  const release = lock(root);
  try {
    return await work();
  } finally {
    release();
  }
}

function lock(root: string): () => void {
  const workshop = join(root, WORKSHOP);
  const file = join(workshop, 'lock');
  const mine = JSON.stringify({ process: process.pid, host: hostname(), since: new Date().toISOString() });
  try {
    for (let tries = 0; ; tries++) {
      try {
        mkdirSync(workshop, { recursive: true });
        const handle = openSync(file, 'wx');
        writeFileSync(handle, mine);
        closeSync(handle);
        break;
      } catch (error) {
        const { code } = error as NodeJS.ErrnoException;
        // The other run may be taking its workshop down just now.
        if (code === 'ENOENT' && tries < 3) continue;
        if (code !== 'EEXIST') throw error;
        const owner = readOwner(file);
        if (owner === null ? tries >= 3 : tries >= 3 || isAlive(owner)) {
          throw fail('locked', root, describeOwner(owner), file);
        }
        rmSync(file, { force: true });
      }
    }
  } catch (error) {
    if (error instanceof CravelError) throw error;
    throw fail('refused', root, reasonOf(error));
  }
  return () => {
    rmSync(file, { force: true });
    removeIfEmpty(workshop);
  };
}

interface Owner {
  readonly process: number;
  readonly host: string;
  readonly since: string;
}

function readOwner(file: string): Owner | null {
  try {
    const owner: unknown = JSON.parse(readFileSync(file, 'utf8'));
    return typeof (owner as Owner | null)?.process === 'number' ? (owner as Owner) : null;
  } catch {
    return null;
  }
}

function isAlive({ process: id, host }: Owner): boolean {
  if (host !== hostname()) return true;
  try {
    process.kill(id, 0);
    return true;
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === 'EPERM';
  }
}

function describeOwner(owner: Owner | null): string {
  return owner === null ? 'another run' : `process ${owner.process} on ${owner.host}, since ${owner.since}`;
}

/**
 * Carries out `change` in the project at `root`, which is made where it is missing: all of it or, with a
 * `CravelError`, nothing. Refused where a file is not what the change was made from, cannot be written, or
 * lies outside of the project behind a link.
 */
export function commit(root: string, change: Change): void {
  try {
    if (existsSync(root)) commitInto(root, change);
    else commitNew(root, change);
  } catch (error) {
    if (error instanceof CravelError) throw error;
    throw fail('refused', root, reasonOf(error));
  }
}

/** Builds a new project beside its place and moves it there as a whole. */
function commitNew(root: string, { files, folders }: Change): void {
  const parent = firstExisting(dirname(root));
  const staging = mkdtempSync(join(parent, `.${basename(root)}-`));
  try {
    // A temporary folder is closed to others; the one inside gets the usual permissions.
    const whole = join(staging, basename(root));
    mkdirSync(whole);
    for (const path of folders) mkdirSync(join(whole, path), { recursive: true });
    for (const { path, after } of files) {
      mkdirSync(join(whole, folderOf(path)), { recursive: true });
      writeFileSync(join(whole, path), after ?? '');
    }
    mkdirSync(dirname(root), { recursive: true });
    renameSync(whole, root);
  } finally {
    rmSync(staging, { recursive: true, force: true });
  }
}

/** One file's part of a change, prepared. */
interface Prepared {
  /** The file itself, links followed. */
  readonly target: string;
  /** The new content beside it; null where the file goes. */
  readonly staged: string | null;
  /** A copy of the old content; null where there was no file. */
  readonly saved: string | null;
}

function commitInto(root: string, { files, folders }: Change): void {
  const inside = realpathSync(root);
  const targets = files.map((file) => checkedTarget(root, inside, file));
  targets.forEach((target, index) => {
    const first = targets.indexOf(target);
    if (first < index)
      throw fail('one-file', (files[first] as FileChange).path, (files[index] as FileChange).path);
  });
  mkdirSync(join(root, WORKSHOP), { recursive: true });
  const staging = mkdtempSync(join(root, WORKSHOP, 'change-'));
  const undo: (() => void)[] = [];
  try {
    const prepared = files.map((file, index) => prepare(staging, targets[index] as string, file, index));
    for (const path of folders) makeFolder(join(root, path), undo);
    for (const one of prepared) putInPlace(one, undo);
  } catch (error) {
    for (const step of undo.reverse()) step();
    throw error;
  } finally {
    rmSync(staging, { recursive: true, force: true });
    removeIfEmpty(join(root, WORKSHOP));
  }
  for (const { path, after } of files) if (after === null) removeEmptyFolders(root, folderOf(path));
}

function checkedTarget(root: string, inside: string, { path, before }: FileChange): string {
  const target = join(root, path);
  if (before === null) {
    if (lstatOrNull(target) !== null) throw fail('changed-meanwhile', path);
    const parent = realpathSync(firstExisting(dirname(target)));
    if (!isWithin(inside, parent)) throw fail('outside', path);
    return target;
  }
  const real = realpathSync(target);
  if (!isWithin(inside, real)) throw fail('outside', path);
  // Replacing a file asks for the folder's permission only: a file that is marked read-only is meant to stay.
  if (((statOrNull(real)?.mode ?? 0) & 0o222) === 0) throw fail('read-only', path);
  if (!areEqual(readFileSync(real), before)) throw fail('changed-meanwhile', path);
  return real;
}

function prepare(staging: string, target: string, { before, after }: FileChange, index: number): Prepared {
  const staged = after === null ? null : join(staging, `new-${index}`);
  const saved = before === null ? null : join(staging, `old-${index}`);
  if (staged !== null) writeFileSync(staged, after as Uint8Array);
  if (saved !== null) {
    copyFileSync(target, saved);
    const mode = (statOrNull(target)?.mode ?? 0o644) & 0o7777;
    if (staged !== null) chmodSync(staged, mode);
    chmodSync(saved, mode);
  }
  return { target, staged, saved };
}

function putInPlace({ target, staged, saved }: Prepared, undo: (() => void)[]): void {
  makeFolder(dirname(target), undo);
  if (staged === null) rmSync(target);
  else renameSync(staged, target);
  undo.push(() => (saved === null ? rmSync(target) : renameSync(saved, target)));
}

function makeFolder(folder: string, undo: (() => void)[]): void {
  if (existsSync(folder)) return;
  makeFolder(dirname(folder), undo);
  mkdirSync(folder);
  undo.push(() => rmdirSync(folder));
}

function removeEmptyFolders(root: string, folder: string): void {
  for (let here = folder; here !== ''; here = folderOf(here.slice(0, -1))) {
    if (!removeIfEmpty(join(root, here))) return;
  }
}

function removeIfEmpty(folder: string): boolean {
  if (!existsSync(folder) || readdirSync(folder).length > 0) return false;
  rmdirSync(folder);
  return true;
}

function isWithin(folder: string, path: string): boolean {
  const way = relative(folder, path);
  return way === '' || (way !== '..' && !way.startsWith(`..${sep}`));
}

function firstExisting(folder: string): string {
  let here = folder;
  while (!existsSync(here)) here = dirname(here);
  return here;
}
