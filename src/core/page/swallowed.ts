/** Pages whose rest is swallowed by an element that holds text alone and is never closed. */
import { contentOf } from '../read/html/construction.ts';
import { elements as elementNames } from '../read/html/names.ts';
import { ContentMode } from '../read/html/scan.ts';
import type { Tags } from './tags.ts';

/** Elements that hold no others where scripts run, to their end tag or the end of the page (HTML 13.2.5.2 to 13.2.5.5). */
const HOLDS_TEXT: ReadonlySet<string> = new Set(
  elementNames.names.filter((_name, index) => contentOf[index + 1] !== ContentMode.Data),
);

/** The name of the element that swallows the rest of the page; null where none does. */
export function swallowedBy({ elements }: Tags): string | null {
  // What stands in a noscript is held by that.
  const open = elements.find(
    ({ name, endTag, region }) => endTag === null && region !== 'none' && HOLDS_TEXT.has(name),
  );
  return open?.name ?? null;
}
