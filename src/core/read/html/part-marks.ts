/** Tells the comments that mark a part (`<!-- Part: navigation -->`) by their first bytes. */
import { Byte } from '../../bytes.ts';

/** Up to the colon of a mark there are some words and white space. */
const LONGEST_OPENING = 200;

/** True where a comment may be one: its first colon stands right after a `t`, as in `part:`. */
export function marksPart(bytes: Uint8Array, start: number, end: number): boolean {
  const last = Math.min(end, start + LONGEST_OPENING);
  let at = start;
  while (at < last && bytes[at] !== Byte.Colon) at++;
  return at < last && ((bytes[at - 1] as number) | Byte.Small) === Byte.T;
}
