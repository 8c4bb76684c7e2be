/** Takes elements out of a page. */

import type { Edit } from '../change/edit.ts';
import { leadOf } from './manner.ts';
import { type Range, type Tags } from './tags.ts';

/** Takes an element out, with its line where it stands alone on it. */
export function removal(outline: Tags, range: Range): Edit {
  const { plain } = outline.page.source;
  const { start, end } = range;
  const lead = leadOf(outline, range);
  const rest = /^[ \t]*(?=\r?\n|$)/.exec(plain.slice(end, end + 200));
  if (lead !== '' && rest !== null) return { start: start - lead.length, end, text: '' };
  // The first line of a file has no line break before it.
  if (plain.slice(0, start).trim() === '' || plain.slice(0, start) === '\x1a\x1a\x1a') {
    const after = /^[ \t]*\r?\n/.exec(plain.slice(end, end + 200));
    return { start, end: end + (after?.[0].length ?? 0), text: '' };
  }
  return { start, end, text: '' };
}
