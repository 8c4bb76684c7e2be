/** `cravel check --watch`: reports again whenever a file changes. */

import { CravelError } from '../core/errors.ts';
import type { Finding } from '../core/report.ts';
import type { Checked, ProjectCheck } from '../disk/check.ts';
import { asWritten, pointedTo } from '../disk/disk-path.ts';
import { watchFolder } from '../disk/watch.ts';
import { visible } from '../show/escape.ts';
import { count, explained } from '../show/paint.ts';
import { onEnd } from './ending.ts';
import type { Output } from './output.ts';

/** Clears a terminal and what was scrolled away, and goes to its top. */
const CLEAR = '\x1b[2J\x1b[3J\x1b[H';

export interface Watching {
  readonly look: () => Promise<Checked>;
  /** Reports, and answers with an exit code. */
  readonly tell: (checked: Checked) => Promise<number>;
  /** Where `tell` writes to. */
  readonly out: string | undefined;
}

/** Looks, reports and waits for changes until somebody ends it. Answers with the last exit code of a report. */
export async function watch(
  project: ProjectCheck,
  { look, tell, out }: Watching,
  output: Output,
): Promise<number> {
  // The watcher comes first, so that nothing is missed.
  const watcher = await watchFolder(asWritten(project.folder), out === undefined ? [] : [pointedTo(out)]);
  let isOver = false;
  let forget = () => {};
  try {
    let before = await look();
    clear(output);
    let code = await tell(before);
    const shown = project.folder === '.' ? 'this folder' : visible(project.folder);
    if (watcher.polled === 'far')
      output.note(
        'The folder lies on another machine, which does not tell of changes: it is looked at every second.',
      );
    if (watcher.polled === 'asked')
      output.note('The folder is looked at every second, as CRAVEL_WATCH asks for.');
    // Once for all waits: what is caught while one ends would be lost. Asked again, the program ends at once.
    forget = onEnd(() => {
      forget();
      isOver = true;
      void watcher.end();
    });
    output.note(`\nWatching ${shown}; Ctrl-C ends.`);
    project.prepare();
    for (let changed = await watcher.next(); changed !== null; changed = await watcher.next()) {
      try {
        const checked = await project.lookAgain(changed);
        // A look under way when somebody ends the watching writes nothing.
        if (isOver) break;
        const changes = difference(before, checked);
        before = checked;
        // Files that have no part in the report come and go unsaid, unless an error is to be taken off the screen.
        if (project.read === 0 && changes === null && code !== 2) continue;
        clear(output);
        code = await tell(checked);
        output.note(
          `\n${timeNow()}  ${count(project.read, 'file')} read again, ${changes ?? 'nothing changed'}; Ctrl-C ends.`,
        );
      } catch (error) {
        // A folder that is gone cannot be watched any longer.
        if (!(error instanceof CravelError) || error.code === 'no-folder') throw error;
        code = 2;
        output.note(`${timeNow()}  ${explained(error)}`);
      }
    }
    return code;
  } finally {
    forget();
    await watcher.end();
  }
}

function clear({ stdout, out }: Output): void {
  if (stdout.isTTY) out(CLEAR);
}

function timeNow(): string {
  return new Date().toTimeString().slice(0, 8);
}

/** `2 findings gone, 1 finding more`; null where there is no difference. */
function difference(before: Checked, after: Checked): string | null {
  const old = keysOf(before);
  const now = keysOf(after);
  const gone = [...old].filter((key) => !now.has(key)).length;
  const fresh = [...now].filter((key) => !old.has(key)).length;
  if (gone === 0 && fresh === 0) return null;
  return [
    gone > 0 ? `${count(gone, 'finding')} gone` : '',
    fresh > 0 ? `${count(fresh, 'finding')} more` : '',
  ]
    .filter((text) => text !== '')
    .join(', ');
}

/** Findings by what they are about, wherever in its file that has moved to; the second alike has a number. */
function keysOf({ site }: Checked): ReadonlySet<string> {
  const amounts = new Map<string, number>();
  return new Set(site.findings.map((finding) => keyOf(finding, amounts)));
}

function keyOf({ rule, file, holder, written, target }: Finding, amounts: Map<string, number>): string {
  const key = JSON.stringify([rule, file, holder, written, target]);
  const amount = (amounts.get(key) ?? 0) + 1;
  amounts.set(key, amount);
  return `${key} ${amount}`;
}
