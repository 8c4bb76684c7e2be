/** Colours for a terminal, and text made safe to show on one. */
import pico from 'picocolors';
import type { CravelError } from '../core/errors.ts';
import type { Grade } from '../core/judge/rule.ts';
import { visible } from './escape.ts';

export type Paint = ReturnType<typeof pico.createColors>;

/** Colours where `stream` is a terminal and NO_COLOR is not set. */
export function paintFor(stream: { readonly isTTY?: boolean }, env: NodeJS.ProcessEnv): Paint {
  const wanted = stream.isTTY === true && !env.NO_COLOR && env.TERM !== 'dumb';
  return pico.createColors(wanted);
}

/** An error in lines: what is wrong, and what to do about it. */
export function explained({ sentences, mend }: CravelError): string {
  return [...sentences, mend].map(visible).join('\n');
}

/** A text of at most `width` characters, its middle left out where it is longer. */
export function shorten(text: string, width: number): string {
  if (text.length <= width) return text;
  const head = Math.ceil((width - 1) / 2);
  return `${text.slice(0, head)}…${text.slice(text.length - (width - 1 - head))}`;
}

/** A count with its noun: `1 page`, `1,024 pages`. */
export function count(amount: number, noun: string, plural = `${noun}s`): string {
  return `${amount.toLocaleString('en')} ${amount === 1 ? noun : plural}`;
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
