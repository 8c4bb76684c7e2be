/** Ranges of a text, asked over and over whether something touches them. */
import { lastNotAfter } from '../rising.ts';
import type { Range } from './tags.ts';

export interface Ranges {
  /** True where a place lies in one of them. */
  hold(place: number): boolean;
  /** True where a range shares more than a border with one of them. */
  touch(range: Range): boolean;
}

export function rangesOf(all: Iterable<Range>): Ranges {
  const merged: { start: number; end: number }[] = [];
  for (const { start, end } of [...all].sort((a, b) => a.start - b.start)) {
    const last = merged.at(-1);
    if (last !== undefined && start <= last.end) last.end = Math.max(last.end, end);
    else merged.push({ start, end });
  }
  const starts = merged.map(({ start }) => start);
  const at = (place: number) => merged[lastNotAfter(starts, place)];
  return {
    hold(place) {
      const range = at(place);
      return range !== undefined && place >= range.start && place < range.end;
    },
    touch({ start, end }) {
      const range = at(end - 1);
      return range !== undefined && start < range.end && end > range.start;
    },
  };
}
