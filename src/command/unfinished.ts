/** What commands say of other runs: one that is at work, and one that did not come to its end. */

import { withCommas } from '../core/with-commas.ts';
import { type DiskPath } from '../disk/disk-path.ts';
import type { RunOptions } from '../disk/journal.ts';
import { type Standing, unfinishedIn } from '../disk/open-change.ts';
import { visible } from '../show/escape.ts';
import type { Output } from './output.ts';

/** Notes on other runs: one that is waited for, and one whose change was taken back. */
export function runOptions(
  { note }: Output,
  { takeOver = false }: { readonly takeOver?: boolean },
): RunOptions {
  return {
    takesOver: takeOver,
    waiting: (owner) => note(`Waiting for another run of cravel (${owner}).`),
    recovered: ({ restored, setAside, ...standing }) => {
      const files = restored === 1 ? '1 file is' : `${withCommas(restored)} files are`;
      const what =
        restored === 0 ? 'it had not begun to change anything' : `it was taken back, and ${files} as before`;
      note(`An earlier change had not come to its end (${inWords(standing)}): ${what}.`);
      for (const [path, beside] of setAside)
        note(
          `${visible(path)} was changed since, and stays so; what it was before is in ${visible(beside)}.`,
        );
    },
  };
}

/** For commands that only read: tells of a change that stands unfinished. True where there is one. */
export async function tellUnfinished(root: DiskPath, { note }: Output): Promise<boolean> {
  const standing = await unfinishedIn(root);
  if (standing === null) return false;
  note(
    `A change stands unfinished here (${inWords(standing)}): some files may be new, some old. The next command that changes the project takes it back first.`,
  );
  return true;
}

/** `wire css/print.css, begun 2026-11-27 14:02` */
export function inWords(change: Standing): string {
  return visible(`${change.title}, begun ${whenOf(change)}`);
}

/** `2026-11-27 14:02` */
export function whenOf({ begun }: Standing): string {
  return begun.slice(0, 16).replace('T', ' ');
}
