/** Carries out a change in a project that is there: what is needed to take it back is noted before anything is put in place. */

import { setImmediate } from 'node:timers/promises';
import type { Change, FileChange, OwnMarks } from '../core/change/files.ts';
import { fail } from '../core/errors.ts';
import { fold, folderOf } from '../core/site/inventory.ts';
import { carryOut } from './carry-out.ts';
import { checkedTarget, missingFolders, type Target } from './change-target.ts';
import { below, type DiskPath } from './disk-path.ts';
import { makeFiles, type NewFile, syncFolder } from './durable.ts';
import { existsSync, linkSync, mkdirSync, readFileSync, realpathSync, renameSync, type Stats } from './fs.ts';
import { WORKSHOP } from './lock.ts';
import {
  close,
  type Entry,
  MANIFEST,
  type Manifest,
  newName,
  OPEN,
  oldName,
  READY,
  takeBack,
} from './open-change.ts';
import { keepOpenChange } from './past-changes.ts';
import { type Asked, Interrupted } from './signals.ts';
import { hashOf } from './standing.ts';
import { lstatOrNull } from './stat.ts';

/** Files kept between two looks at what else happens. */
const AT_A_TIME = 50;
export async function commitInto(
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
