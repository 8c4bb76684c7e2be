/** The one door through which a project is written to: all of a change or nothing, at whatever instant it ends. */

import { basename } from 'node:path';
import { setImmediate } from 'node:timers/promises';
import { areEqual, type Change, type FileChange, type OwnMarks } from '../core/change/files.ts';
import { CravelError, fail } from '../core/errors.ts';
import { fold, folderOf } from '../core/site/inventory.ts';
import { around, below, type DiskPath, pathFrom } from './disk-path.ts';
import { makeFiles, type NewFile, syncFolder, syncFolders } from './durable.ts';
import {
  existsSync,
  linkSync,
  lstatSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  realpathSync,
  renameSync,
  rmSync,
  type Stats,
  unlinkSync,
} from './fs.ts';
import { type LockOptions, lock, WORKSHOP } from './lock.ts';
import {
  close,
  type Entry,
  MANIFEST,
  type Manifest,
  newName,
  OPEN,
  oldName,
  READY,
  type Recovered,
  recover,
  removeEmptyFolders,
  takeBack,
} from './open-change.ts';
import { keepOpenChange } from './past-changes.ts';
import { isMakerAlive, uniqueName } from './process.ts';
import { reasonOf } from './reason.ts';
import { type Asked, Interrupted, whileHeldBack } from './signals.ts';
import { exactNames, hashOf } from './standing.ts';
import { lstatOrNull, statOrNull } from './stat.ts';
import { placingNote } from './state.ts';
import { withinFolder } from './within-folder.ts';

export interface RunOptions extends LockOptions {
  /** What an earlier run left unfinished stays as it is. */
  readonly leavesUnfinished?: boolean;
  /** Told what became of a change that an earlier run did not finish. */
  readonly recovered?: (what: Recovered) => void;
}

/**
 * Runs `work` while no other run changes the project at `root`; a change that an earlier run left unfinished is taken
 * back first. Throws a `CravelError` where another run does not end.
 */
export async function whileLocked<T>(
  root: DiskPath,
  work: () => Promise<T> | T,
  options: RunOptions = {},
): Promise<T> {
  const release = await told(root, () => lock(root, options));
  try {
    const what = options.leavesUnfinished ? null : await told(root, () => recover(root));
    if (!options.leavesUnfinished && existsSync(placingNote(root)))
      (await import('./open-placing.ts')).finishPlacing(root);
    if (what !== null) options.recovered?.(what);
    return await work();
  } finally {
    release();
  }
}

/**
 * Carries out `change` in the project at `root`, which is made where it is missing: all of it or, with a
 * `CravelError`, nothing. Refused where a file is not what the change was made from, cannot be written, or
 * lies outside of the project behind a link. Whoever changes a project that is there holds its lock. `keep` is how many
 * bytes of past changes stay with this one, so that it can be taken back; 0 where it is not to be. Gives why it cannot be
 * kept; null where it is, or is not to be.
 */
export async function commit(root: DiskPath, change: Change, keep = 0): Promise<string | null> {
  return whileHeldBack((asked) =>
    told(root, () =>
      existsSync(root) ? commitInto(root, change, keep, asked) : commitNew(root, change, asked),
    ),
  );
}

async function told<T>(root: DiskPath, work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    if (error instanceof CravelError || error instanceof Interrupted) throw error;
    throw fail('refused', root, reasonOf(error));
  }
}

/** Builds a new project beside its place, with the folders around it that are missing, and moves it there as a whole. */
async function commitNew(root: DiskPath, { files, folders }: Change, asked: Asked): Promise<null> {
  let top = root;
  while (lstatOrNull(around(top)) === null) top = around(top);
  const parent = around(top);
  const prefix = `.${basename(top)}.cravel-`;
  for (const name of readdirSync(parent))
    if (name.startsWith(prefix) && !isMakerAlive(name.slice(prefix.length)))
      rmSync(below(parent, name), { recursive: true, force: true });
  const staging = below(parent, prefix + uniqueName());
  try {
    const whole = below(staging, pathFrom(top, root));
    const all = new Set([whole, ...folders.map((path) => below(whole, path))]);
    const made = files.map(({ path, after }): NewFile => {
      const file = below(whole, path);
      all.add(around(file));
      return { path: file, bytes: after ?? new Uint8Array() };
    });
    for (const folder of all) mkdirSync(folder, { recursive: true });
    await makeFiles(made, asked.endIfAsked);
    await syncFolders(all);
    if (lstatOrNull(top) !== null)
      throw fail(statOrNull(top) === null ? 'leads-nowhere' : 'changed-meanwhile', top);
    renameSync(staging, top);
    syncFolder(parent);
    return null;
  } finally {
    rmSync(staging, { recursive: true, force: true });
  }
}

/** Files put in place between two looks at what else happens. */
const AT_A_TIME = 50;
/** Files of one folder that are put in place at once. Where the folder cannot be held open, each is told of by name. */
const IN_A_GROUP = process.platform === 'linux' ? AT_A_TIME : 1;

/** One file of a change, and where it lies. */
interface Target {
  readonly file: FileChange;
  /** From the project's real folder, links followed, `/`-separated. */
  readonly path: string;
  /** What stands there; null where nothing does. */
  readonly stats: Stats | null;
}

async function commitInto(
  root: DiskPath,
  { title, files, folders, gone = [] }: Change,
  keep: number,
  asked: Asked,
): Promise<string | null> {
  const inside = realpathSync(root);
  const going = new Map(files.flatMap(({ path, after }) => (after === null ? [[fold(path), path]] : [])));
  const targets = files.map((file) => checkedTarget(root, inside, file, going));
  const known = new Map<string, FileChange>();
  for (const { path, file } of targets) {
    const other = known.get(path);
    if (other !== undefined) throw fail('one-file', other.path, file.path);
    known.set(path, file);
  }
  const workshop = below(root, WORKSHOP);
  const open = below(workshop, OPEN);
  const manifest: Manifest = {
    cravel: 1,
    title,
    begun: new Date().toISOString(),
    files: targets.map(
      ({ path, file: { before, after, from } }): Entry => ({
        path,
        before: before && hashOf(before),
        after: after && hashOf(after),
        ...(from === undefined ? {} : { from }),
      }),
    ),
    folders: missingFolders(inside, [...folders, ...targets.map(({ path }) => folderOf(path))]),
    ...(gone.length === 0 ? {} : { gone }),
  };
  try {
    mkdirSync(open, { recursive: true });
    await save(inside, open, targets, manifest, asked);
    await stage(open, targets, asked);
    await carryOut(inside, open, targets, manifest);
    const why = keep === 0 ? null : await keepOpenChange(root, keep);
    close(workshop, { soon: asked.isAsked });
    return why;
  } catch (error) {
    // Before the mark nothing was put in place. Where this fails too, the change stays open for the next run.
    const { unreached = [] } = existsSync(below(open, READY)) ? takeBack(inside, open, manifest) : {};
    const [first] = unreached;
    if (first !== undefined) throw fail('out-of-the-way', first[0], String(unreached.length));
    try {
      close(workshop, { soon: error instanceof Interrupted });
    } catch {
      // What another program has open stays: the next run finds that all is as before, and cleans up.
    }
    throw error;
  }
}

function checkedTarget(
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
function missingFolders(root: DiskPath, paths: Iterable<string>): string[] {
  const missing = new Set<string>();
  const isThere = exactNames(root);
  for (const path of paths)
    for (let folder = path; folder !== '' && !missing.has(folder); folder = folderOf(folder.slice(0, -1)))
      // One in another letter case may go, and come back if the change is taken back.
      if (!isThere(folder)) missing.add(folder);
  return [...missing].sort();
}

/** Keeps every old file under a second name, and says what is going to happen: what is needed to take it back. */
async function save(
  inside: DiskPath,
  open: DiskPath,
  targets: readonly Target[],
  manifest: Manifest,
  asked: Asked,
): Promise<void> {
  const copies: NewFile[] = [];
  for (const [index, { file, path, stats }] of targets.entries()) {
    if (index % AT_A_TIME === 0) await setImmediate();
    asked.endIfAsked();
    if (file.before === null) continue;
    const [from, to] = [below(inside, path), below(open, oldName(index))];
    try {
      linkSync(from, to);
    } catch {
      if (lstatOrNull(from)?.isFile() !== true) throw fail('changed-meanwhile', file.path);
      // Not every disk knows second names.
      copies.push({ path: to, bytes: readFileSync(from), like: stats });
    }
  }
  await makeFiles(copies, asked.endIfAsked);
  const beside = below(open, `${MANIFEST}.part`);
  await makeFiles([{ path: beside, bytes: new TextEncoder().encode(JSON.stringify(manifest)) }]);
  syncFolder(open);
  renameSync(beside, below(open, MANIFEST));
  syncFolder(open);
}

/** Writes every new file beside its place. Once the mark is there, the change can go either way. */
async function stage(open: DiskPath, targets: readonly Target[], asked: Asked): Promise<void> {
  const staged = targets.flatMap(({ file, stats }, index): NewFile | [] =>
    file.after === null
      ? []
      : { path: below(open, newName(index)), bytes: file.after, like: marksFor(file, stats) },
  );
  await makeFiles(staged, asked.endIfAsked);
  syncFolder(open);
  await makeFiles([{ path: below(open, READY), bytes: new Uint8Array() }]);
  syncFolder(open);
}

/** A file that is written anew keeps its mode and owner; when it was written is now. */
function marksFor({ like }: FileChange, stats: Stats | null): OwnMarks | null {
  if (like !== undefined || stats === null) return like ?? null;
  const { mode, uid, gid } = stats;
  return { mode, uid, gid };
}

/** What goes away makes room first; folders are made when something needs them. */
async function carryOut(
  inside: DiskPath,
  open: DiskPath,
  targets: readonly Target[],
  { folders, gone = [] }: Manifest,
): Promise<void> {
  const touched = new Set<DiskPath>();
  const make = (folder: string) => {
    if (folder === '' || statOrNull(below(inside, folder)) !== null) return;
    const above = folderOf(folder.slice(0, -1));
    make(above);
    if (realpathSync(below(inside, above)) !== below(inside, above.replace(/\/$/, '')))
      throw fail('outside', folder);
    mkdirSync(below(inside, folder));
    touched.add(around(below(inside, folder)));
  };
  const inOrder = [...targets.entries()].sort(
    ([, a], [, b]) => rank(a) - rank(b) || compare(folderOf(a.path), folderOf(b.path)),
  );
  for (const group of groupsOf(inOrder)) {
    await setImmediate();
    const [[, { path: first, file }]] = group as [(typeof group)[number]];
    make(folderOf(first));
    const parent = around(below(inside, first));
    withinFolder(parent, file.path, (folder) => {
      for (const [index, target] of group) {
        const exact = below(folder, basename(below(inside, target.path)));
        verify(exact, target);
        put(exact, target.file, below(open, newName(index)));
      }
    });
    touched.add(parent);
    if (file.after !== null) continue;
    removeEmptyFolders(inside, folderOf(first));
    // Where the folder went, too, the one around it tells.
    for (let folder = first; folder !== ''; ) {
      folder = folderOf(folder.slice(0, -1));
      touched.add(below(inside, folder));
    }
  }
  for (const folder of gone) removeEmptyFolders(inside, folder);
  for (const folder of folders) make(folder);
  await syncFolders(touched);
}

/** Files of one folder that go one way, a few at once: the folder is looked at once for them. */
function groupsOf(all: readonly (readonly [number, Target])[]): (readonly [number, Target])[][] {
  const groups: (readonly [number, Target])[][] = [];
  for (const one of all) {
    const group = groups.at(-1);
    const [, last] = group?.at(-1) ?? [];
    const isAlike =
      last !== undefined && rank(last) === rank(one[1]) && folderOf(last.path) === folderOf(one[1].path);
    if (group !== undefined && isAlike && group.length < IN_A_GROUP) group.push(one);
    else groups.push([one]);
  }
  return groups;
}

function compare(one: string, other: string): number {
  return one < other ? -1 : one > other ? 1 : 0;
}

function rank({ file: { before, after } }: Target): number {
  return after === null ? 0 : before === null ? 2 : 1;
}

/** The world may have changed since the files were read: right before each is replaced, it is looked at again. */
function verify(place: DiskPath, { file: { path: named, before } }: Target): void {
  const stats = lstatOrNull(place);
  if (before === null ? stats !== null : stats?.isFile() !== true) throw fail('changed-meanwhile', named);
  if (before !== null && !areEqual(readFileSync(place), before)) throw fail('changed-meanwhile', named);
}

function put(place: DiskPath, { path, before, after }: FileChange, staged: DiskPath): void {
  if (after === null) return unlinkSync(place);
  if (before !== null) return renameSync(staged, place);
  try {
    // Never over a file that has come meanwhile.
    linkSync(staged, place);
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'EEXIST') throw fail('changed-meanwhile', path);
    // Not every disk knows second names.
    renameSync(staged, place);
  }
}

function firstExisting(folder: DiskPath): DiskPath {
  let here = folder;
  while (!existsSync(here)) here = around(here);
  return here;
}
