/** Colours for a terminal, and text made safe to show on one. */

import isUnicodeSupported from 'is-unicode-supported';
import pico from 'picocolors';
import type { CravelError } from '../core/errors.ts';
import type { Grade } from '../core/report.ts';
import { withCommas } from '../core/with-commas.ts';
import { visible } from './escape.ts';

export type Paint = ReturnType<typeof pico.createColors> & { readonly marks: Marks };

/** What stands between words that belong together. */
interface Marks {
  /** Between two steps of a walk. */
  readonly step: string;
  readonly dot: string;
  /** In the place of what is left out. */
  readonly more: string;
  readonly line: string;
}

const marks: Marks = { step: '▸', dot: '·', more: '…', line: '─' };
/** For terminals that have no such characters. */
const plainMarks: Marks = { step: '>', dot: '-', more: '...', line: '-' };

/**
 * Colours where `stream` is a terminal and NO_COLOR is not set. Plain marks where it is one without others, and where
 * CRAVEL_MARKS says `plain`.
 */
export function paintFor(stream: { readonly isTTY?: boolean }, env: NodeJS.ProcessEnv): Paint {
  const wanted = stream.isTTY === true && !env.NO_COLOR && env.TERM !== 'dumb';
  const isPlain = env.CRAVEL_MARKS === 'plain' || (stream.isTTY === true && !isUnicodeSupported());
  return { ...pico.createColors(wanted), marks: isPlain ? plainMarks : marks };
}

/** An error in lines: what is wrong, and what to do about it. */
export function explained({ sentences, mend }: CravelError): string {
  return [...sentences, mend].map(visible).join('\n');
}

/** A text of at most `width` characters, its middle left out where it is longer. */
export function shorten(text: string, width: number, { marks: { more } }: Paint): string {
  if (text.length <= width) return text;
  const room = width - more.length;
  const head = Math.ceil(room / 2);
  return text.slice(0, head) + more + text.slice(text.length - (room - head));
}

/** A count with its noun: `1 page`, `1,024 pages`. */
export function count(amount: number, noun: string, plural = `${noun}s`): string {
  return `${withCommas(amount)} ${amount === 1 ? noun : plural}`;
}

/** Lines of at most `width` characters, broken at spaces. */
export function wrap(text: string, width: number): string[] {
  return text.match(new RegExp(`.{1,${width}}(?:\\s|$)|\\S+`, 'gu'))?.map((line) => line.trimEnd()) ?? [];
}

/** Worse grades in stronger colours. */
export function paintGrade(grade: Grade, paint: Paint): string {
  if (grade === 'broken') return paint.red(grade);
  return grade === 'untidy' ? paint.magenta(grade) : paint.yellow(grade);
}

/** The first of some names, and how many there are more. */
export function shortList(names: readonly string[], most: number): string {
  const rest = names.length - most;
  return names.slice(0, most).map(visible).join(', ') + (rest > 0 ? ` and ${rest} more` : '');
}
