/** Takes changes back, the last one first, and brings one to its end that was broken off. */

import type { Change } from '../core/change/files.ts';
import { fail } from '../core/errors.ts';
import { below, type DiskPath } from './disk-path.ts';
import { commit } from './journal.ts';
import { WORKSHOP } from './lock.ts';
import { close, finish, type Standing } from './open-change.ts';
import {
  changedSince,
  forget,
  isTakenBack,
  keepOpenChange,
  type PastChange,
  pastChanges,
  removeMadeFolders,
  reverseOf,
} from './past-changes.ts';

/** A change, and what takes it back. */
interface Undoing {
  readonly past: PastChange;
  readonly change: Change;
}

/**
 * The last change that is not taken back yet. Throws a `CravelError` where there is none, and where files that it changed
 * are others since.
 */
export function lastChange(root: DiskPath): Undoing {
  const past = pastChanges(root).find((one) => !isTakenBack(root, one));
  if (past === undefined) throw fail('nothing-to-undo', root);
  const [first, ...more] = changedSince(root, past);
  if (first !== undefined) throw fail('changed-since', first, String(more.length + 1));
  const change = { title: `undo: ${past.title}`, files: reverseOf(root, past), folders: past.gone ?? [] };
  return { past, change };
}

/** Takes back the last change: all of it or, with a `CravelError`, nothing. The caller holds the project's lock. */
export async function undoLast(root: DiskPath): Promise<Undoing> {
  const undoing = lastChange(root);
  const { past, change } = undoing;
  await commit(root, change);
  removeMadeFolders(root, past);
  // What stands before it was taken back already, if it stands at all.
  for (const one of pastChanges(root)) if (one.place >= past.place) forget(one.place);
  return undoing;
}

/**
 * Brings the change to its end that an earlier run began; from then on it can be taken back. The caller holds the
 * project's lock. Throws a `CravelError` where none stands, or where it cannot be.
 */
export async function finishOpen(root: DiskPath, keep: number): Promise<Standing> {
  const done = await finish(root);
  if (done === null) throw fail('nothing-to-finish', root);
  if (keep > 0) await keepOpenChange(root, keep);
  close(below(root, WORKSHOP));
  return done;
}
