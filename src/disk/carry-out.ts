/** Puts the files of a change in their places, once everything is there to take it back. */

import { basename } from 'node:path';
import { setImmediate } from 'node:timers/promises';
import { areEqual, type FileChange } from '../core/change/files.ts';
import { fail } from '../core/errors.ts';
import { folderOf } from '../core/site/inventory.ts';
import type { Target } from './change-target.ts';
import { around, below, type DiskPath } from './disk-path.ts';
import { syncFolders } from './durable.ts';
import { linkSync, mkdirSync, readFileSync, realpathSync, renameSync, unlinkSync } from './fs.ts';
import { type Manifest, newName, removeEmptyFolders } from './open-change.ts';
import { lstatOrNull, statOrNull } from './stat.ts';
import { withinFolder } from './within-folder.ts';

/** Files of one folder that are put in place at once. Where the folder cannot be held open, each is told of by name. */
const IN_A_GROUP = process.platform === 'linux' ? 50 : 1;

/** What goes away makes room first; folders are made when something needs them. */
export async function carryOut(
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
