/** `cravel undo`: takes back the last change, and the ones before it; brings one to its end that was broken off. */

import { fail } from '../core/errors.ts';
import { type DiskPath } from '../disk/disk-path.ts';
import { whileLocked } from '../disk/journal.ts';
import { unfinishedIn } from '../disk/open-change.ts';
import { changedSince, isTakenBack, pastChanges } from '../disk/past-changes.ts';
import { bytesForUndo } from '../disk/project.ts';
import { finishOpen, lastChange, undoLast } from '../disk/undo.ts';
import { changeAsDiff } from '../show/diff.ts';
import { visible } from '../show/escape.ts';
import { count, paintFor } from '../show/paint.ts';
import { undo as declaration } from './declarations.ts';
import { checkOptions } from './options.ts';
import type { Output } from './output.ts';
import { changeList, workPlace } from './project-change.ts';
import { inWords, runOptions, tellUnfinished, whenOf } from './unfinished.ts';

export async function undo(raw: object, output: Output): Promise<number> {
  const options = checkOptions(declaration, raw);
  const ways = [options.list && '--list', options.finish && '--finish', options.dryRun && '--dry-run'];
  const [way, other] = ways.filter((one) => one !== false);
  if (way !== undefined && other !== undefined) throw fail('two-ways', way, other);
  const { root } = workPlace(options.dir, output);
  if (options.list) return listChanges(root, output);
  if (options.dryRun) return showLast(root, output);
  const { note } = output;
  if (options.finish) {
    const work = async () => {
      const done = await finishOpen(root, await bytesForUndo(root));
      note(`Brought to its end: ${inWords(done)}.`);
      return 0;
    };
    return whileLocked(root, work, { ...runOptions(output, options), leavesUnfinished: true });
  }
  const told = runOptions(output, options);
  let wasOpen = false;
  const recovered: typeof told.recovered = (what) => {
    wasOpen = true;
    told.recovered?.(what);
  };
  const work = async () => {
    // One that was broken off is the last one.
    if (wasOpen) return 0;
    const { past, change } = await undoLast(root);
    output.out(changeList(change.files, output, paintFor(output.stdout, output.env)));
    note(`Taken back: ${inWords(past)}.`);
    const before = pastChanges(root)[0];
    if (before !== undefined) note(`The change before it: ${inWords(before)}.`);
    return 0;
  };
  return whileLocked(root, work, { ...told, recovered });
}

async function showLast(root: DiskPath, output: Output): Promise<number> {
  if (await tellUnfinished(root, output)) return 2;
  const { past, change } = lastChange(root);
  output.out(changeAsDiff(change, paintFor(output.stdout, output.env)));
  output.note(
    `Dry run: nothing was written. ${count(change.files.length, 'file')} would be as before: ${inWords(past)}.`,
  );
  return 0;
}

/** The last one first, each with what keeps it from being taken back. */
async function listChanges(root: DiskPath, { out, note, stdout, env }: Output): Promise<number> {
  const paint = paintFor(stdout, env);
  const open = await unfinishedIn(root);
  if (open !== null) out(`${paint.bold('unfinished')}  ${inWords(open)}\n`);
  const all = pastChanges(root).filter((past) => !isTakenBack(root, past));
  for (const past of all)
    out(`${paint.dim(whenOf(past))}  ${visible(past.title)}, ${count(past.files.length, 'file')}\n`);
  const [last] = all;
  if (last === undefined) {
    if (open === null) note('No change is kept that could be taken back.');
    return 0;
  }
  const changed = changedSince(root, last);
  const [first] = changed;
  if (first !== undefined && open === null)
    note(
      `The last one cannot be taken back as it stands: ${visible(first)}${changed.length > 1 ? ` and ${count(changed.length - 1, 'more file')}` : ''} changed since.`,
    );
  return 0;
}
