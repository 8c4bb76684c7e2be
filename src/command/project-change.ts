/** What all commands that change a project share: the lock, the dry run, the commit, and the account of it. */

import { type Change, type FileChange, toldOf } from '../core/change/files.ts';
import { fail } from '../core/errors.ts';
import { SETTINGS_FILE } from '../core/settings/settings.ts';
import { type DiskPath, pointedTo, shownFromHere, withSlashes } from '../disk/disk-path.ts';
import { commit, whileLocked } from '../disk/journal.ts';
import { bytesForUndoBy, openProject, type Project, projectAround } from '../disk/project.ts';
import { statOrNull } from '../disk/stat.ts';
import { changeAsDiff } from '../show/diff.ts';
import { visible } from '../show/escape.ts';
import { count, type Paint, paintFor } from '../show/paint.ts';
import type { ChangeOptions } from './declarations.ts';
import type { Output } from './output.ts';
import { runOptions, tellUnfinished } from './unfinished.ts';

/** What a command did to the project's files, in words: notes, and what is said where nothing changed. */
export interface Account {
  readonly notes: readonly string[];
  readonly idle: string;
  /** Folders to make even where they stay empty. */
  readonly folders?: readonly string[];
  /** Folders that go where they are empty. */
  readonly gone?: readonly string[];
}

/** The call that a change comes from, as people know it: `move images pictures`. */
export function titleOf(...words: readonly (string | false)[]): string {
  return withSlashes(words.filter((word) => word !== false).join(' '));
}

/**
 * Opens the project, lets `work` change its files, and carries the change out, or shows it as a diff on a dry
 * run. Gives the exit code. `title` names the change for people.
 */
export async function changeProject(
  options: ChangeOptions,
  title: string,
  output: Output,
  work: (project: Project) => Promise<Account> | Account,
): Promise<number> {
  const { root, from } = workPlace(options.dir, output);
  const run = async () => {
    const project = await openProject(root, { from });
    const account = await work(project);
    const { folders = [], gone = [] } = account;
    const change: Change = { title, files: project.files.changes(), folders, gone };
    if (change.files.length + change.folders.length > 0 && !options.dryRun) {
      const why = await commit(root, change, bytesForUndoBy(project.settings));
      if (why !== null) output.note(`This change cannot be taken back with cravel undo: ${visible(why)}.`);
    }
    tell(change, account, options.dryRun, output);
    return 0;
  };
  if (!options.dryRun) return whileLocked(root, run, runOptions(output, options));
  const code = await run();
  return (await tellUnfinished(root, output)) ? 2 : code;
}

/** Where somebody works, and the project that this lies in, which is told where it is another folder. */
export function workPlace(
  dir: string | undefined,
  { note }: Output,
): { readonly root: DiskPath; readonly from: DiskPath } {
  const from = workFolder(dir);
  const root = projectAround(from);
  if (root !== from) note(`In the project ${visible(shownFromHere(root))}, which has a ${SETTINGS_FILE}.`);
  return { root, from };
}

/** The folder that `--dir` names. Throws a `CravelError` where it is none. */
export function workFolder(dir: string | undefined): DiskPath {
  const stats = statOrNull(pointedTo(dir ?? '.'));
  if (stats === null) throw fail('no-folder', visible(dir ?? '.'));
  if (!stats.isDirectory()) throw fail('not-a-folder', visible(dir ?? '.'));
  return pointedTo(dir ?? '.');
}

function tell(change: Change, { notes, idle }: Account, isDry: boolean, output: Output): void {
  const paint = paintFor(output.stdout, output.env);
  const { files } = change;
  if (files.length === 0) output.note(idle);
  else if (isDry) output.out(changeAsDiff(change, paint));
  else output.out(changeList(files, output, paint));
  if (files.length > 0 && isDry) {
    output.note(`Dry run: nothing was written. ${count(files.length, 'file')} would change:`);
  }
  for (const note of notes) output.note(note);
}

/** Lines of a list on a terminal at most; a file or a pipe gets all of them. */
const MOST_LINES = 30;

export function changeList(files: readonly FileChange[], { stdout }: Output, paint: Paint): string {
  const told = toldOf(files);
  const most = stdout.isTTY && told.length > MOST_LINES ? MOST_LINES - 1 : told.length;
  const lines = told.slice(0, most).map((file) => changeLine(file, paint));
  if (most < told.length)
    lines.push(paint.dim(`${paint.marks.more} and ${count(told.length - most, 'more file')}\n`));
  return lines.join('');
}

/** `changed  piers/north.html` */
function changeLine({ path, before, after, from }: FileChange, paint: Paint): string {
  if (from !== undefined)
    return `${paint.dim('moved   ')} ${visible(from)} ${paint.marks.step} ${visible(path)}\n`;
  const verb = before === null ? 'made' : after === null ? 'removed' : 'changed';
  return `${paint.dim(verb.padEnd(8))} ${visible(path)}\n`;
}
