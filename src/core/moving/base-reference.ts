/** The address of a page's `base` element, as a reference (HTML 4.2.3). */

import { openPage } from '../page/page.ts';
import { tagsOf } from '../page/tags.ts';
import { holderOf } from '../read/holder.ts';
import type { Reference } from '../read/reading.ts';

/** Null where the page has none that is written as usual. */
export function baseReference(file: string, bytes: Uint8Array): Reference | null {
  const page = openPage(file, bytes);
  const { elements } = tagsOf(page, true);
  const element = elements.find((one) => one.name === 'base' && one.attribute('href') !== null);
  const range = element?.rangeOf('href') ?? null;
  if (range === null) return null;
  const [, lead = '', written = ''] =
    /^([^=]*=\s*["']?)([^"'>]*)/s.exec(page.text(range.start, range.end)) ?? [];
  const lengthOf = (text: string) => new TextEncoder().encode(text).length;
  const start = range.start + lengthOf(lead);
  const offset = page.offsetInFile(start);
  const length = page.offsetInFile(start + lengthOf(written)) - offset;
  const holder = holderOf('markup', 'base', 'href');
  return { kind: 'page', holder, offset, length, written, from: 'file', standing: null };
}
