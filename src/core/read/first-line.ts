/** What is shown of a place in a file. */
import type { Source } from './source.ts';

/** Characters at most. */
const MOST = 80;

/** The first line of a span, as far as people need to see it. */
export function firstLine(source: Source, start: number, end: number): string {
  return (/^[^\r\n]*/.exec(source.text(start, Math.min(end, start + MOST)))?.[0] ?? '').trim();
}
