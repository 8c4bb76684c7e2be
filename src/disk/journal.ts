/** The one door through which a project is written to: all of a change or nothing, at whatever instant it ends. */

import { type Change } from '../core/change/files.ts';
import { CravelError, fail } from '../core/errors.ts';
import { commitInto } from './commit-into.ts';
import { type DiskPath } from './disk-path.ts';
import { existsSync } from './fs.ts';
import { type LockOptions, lock } from './lock.ts';
import { commitNew } from './new-project.ts';
import { type Recovered, recover } from './open-change.ts';
import { reasonOf } from './reason.ts';
import { Interrupted, whileHeldBack } from './signals.ts';
import { placingNote } from './state.ts';

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
