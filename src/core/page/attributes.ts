/** One attribute of an element: what it leads to, and edits to it; the rest of its tag stays as it is. */

import type { Edit } from '../change/edit.ts';
import { resolve } from '../resolve/resolve.ts';
import { escapeMarkup, type Page } from './page.ts';
import { type Tagged } from './tags.ts';

/** The attribute by which an element says what it loads. */
export function addressAttribute({ name }: Tagged): 'href' | 'src' {
  return name === 'link' ? 'href' : 'src';
}

/** The site path of what an element loads; null where it loads nothing of the site. */
export function loadedPath({ base }: Page, element: Tagged): string | null {
  const address = element.attribute(addressAttribute(element));
  const target = address === null ? null : resolve(address, base);
  return target?.in === 'site' ? target.path : null;
}

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
