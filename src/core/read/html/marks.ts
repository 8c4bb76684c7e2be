/** Which attributes the tag at hand has, and where: found by their numbers. */
import { attributes } from './names.ts';

export interface Marks {
  /** By attribute: where in its tag it stands. */
  readonly index: Int32Array;
  /** By attribute: the number of the last tag that had it; 0 where none did. */
  readonly seen: Int32Array;
}

const marks: Marks[] = [];

/**
 * The marks of a page that is read inside `nesting` others; as new, but not made anew for each page: an array of
 * integers takes as long to make as a small page to read.
 */
export function marksFor(nesting: number): Marks {
  const size = attributes.names.length + 1;
  const kept = marks[nesting] ?? { index: new Int32Array(size), seen: new Int32Array(size) };
  marks[nesting] = kept;
  kept.seen.fill(0);
  return kept;
}
