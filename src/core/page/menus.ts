/** Where the navigations of a page stand. */
import { oneCharacterAByte } from '../bytes.ts';
import type { Span } from '../read/reading.ts';

/**
 * The `nav` elements of a page in an encoding that agrees with ASCII, by their tags alone; of those in each other, the outer
 * ones as far as the first end.
 */
export function menusIn(bytes: Uint8Array): Span[] {
  const text = oneCharacterAByte(bytes);
  const spans: Span[] = [];
  for (let at = text.indexOf('<nav'); at >= 0; at = text.indexOf('<nav', at)) {
    const close = text.indexOf('</nav', at);
    const end = close < 0 ? text.length : close;
    spans.push({ offset: at, length: end - at });
    at = end;
  }
  return spans;
}
