/** Pages whose rest is swallowed by an element that holds text alone and is never closed. */
import type { Tags } from './tags.ts';

/** Elements that hold no others, to their end tag or the end of the page (HTML 13.2.5.2 to 13.2.5.5). */
const HOLDS_TEXT = new Set([
  'title',
  'textarea',
  'script',
  'style',
  'xmp',
  'iframe',
  'noembed',
  'noframes',
  'plaintext',
]);

/** The name of the element that swallows the rest of the page; null where none does. */
export function swallowedBy({ elements }: Tags): string | null {
  return elements.find(({ name, endTag }) => endTag === null && HOLDS_TEXT.has(name))?.name ?? null;
}
