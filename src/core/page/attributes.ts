/** Edits to one attribute of an element; the rest of its tag stays as it is. */

import type { Edit } from '../change/edit.ts';
import { escapeMarkup, type Page } from './page.ts';
import { type Tagged } from './tags.ts';

/** Gives an attribute another value, in the quotes that it has; none where the attribute is missing. */
export function valueEdit(page: Page, element: Tagged, name: string, value: string): Edit[] {
  const range = element.rangeOf(name);
  if (range === null) return [];
  const written = page.text(range.start, range.end);
  const quote = written.endsWith("'") ? "'" : '"';
  const key = /^[^\s=]*/.exec(written)?.[0] ?? name;
  return [{ ...range, text: `${key}=${quote}${escapeMarkup(value)}${quote}` }];
}

/** Takes an attribute out, with the white space before it; none where it is missing. */
export function attributeRemoval(page: Page, element: Tagged, name: string): Edit[] {
  const range = element.rangeOf(name);
  if (range === null) return [];
  let { start } = range;
  while (/[\t\n\f\r ]/.test(page.source.plain[start - 1] ?? '')) start--;
  return [{ start, end: range.end, text: '' }];
}
