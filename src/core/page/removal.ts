/** Takes elements out of a page. */

import type { Edit } from '../change/edit.ts';
import { startOfText } from '../read/source.ts';
import { leadOf } from './manner.ts';
import { type Range, type Tags } from './tags.ts';

/** Takes an element out, with its line where it stands alone on it. */
export function removal(outline: Tags, range: Range): Edit {
  return removals(outline, [range])[0] as Edit;
}

/** Takes several elements out, each like {@link removal}: none of the edits meets another one. */
export function removals(outline: Tags, ranges: readonly Range[]): Edit[] {
  const { plain } = outline.page.source;
  /** Before it, all is white space or taken out. */
  let edge = startOfText(plain);
  return ranges
    .toSorted((one, other) => one.start - other.start)
    .map((range) => {
      const { start, end } = range;
      const lead = leadOf(outline, range);
      const isAlone = /^[ \t]*(?=\r?\n|$)/.test(plain.slice(end, end + 200));
      if (lead !== '' && isAlone && start - lead.length >= edge)
        return { start: start - lead.length, end, text: '' };
      // The first line of a file has no line break before it.
      if (plain.slice(edge, start).trim() !== '') return { start, end, text: '' };
      const after = /^[ \t]*\r?\n/.exec(plain.slice(end, end + 200))?.[0].length ?? 0;
      edge = end + after;
      return { start, end: edge, text: '' };
    });
}
