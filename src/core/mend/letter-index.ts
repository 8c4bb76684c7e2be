/** Words that are two letters off another one at most, by what is left where letters are taken out of both. */

import { firstNotBelow } from '../rising.ts';

/** From longer words one letter is taken, not two: there would be too many ways. */
const LONGEST_FOR_TWO = 40;
const BASE = 31;
/** Numbers of words are kept beside the hashes, in one number each. */
const NUMBERS = 2 ** 21;

/** Proposes the numbers of words that are near: all within two letters, and a few by chance. */
export function letterIndex(
  words: readonly (readonly [number: number, word: string])[],
): (word: string) => number[] {
  const keys: number[] = [];
  for (const [place, [, word]] of words.entries())
    for (const hash of hashesOf(word)) keys.push(hash * NUMBERS + place);
  const sorted = Float64Array.from(keys).sort();
  return (word) => {
    const found = new Set<number>();
    for (const hash of hashesOf(word)) {
      for (let at = firstNotBelow(sorted, hash * NUMBERS); at < sorted.length; at++) {
        const key = sorted[at] as number;
        if (key >= (hash + 1) * NUMBERS) break;
        found.add(key % NUMBERS);
      }
    }
    return [...found].map((place) => (words[place] as readonly [number, string])[0]);
  };
}

/** Hashes of a word, of what is left of it without any one letter, and without any two. */
function hashesOf(word: string): Set<number> {
  const { length } = word;
  // Of the letters before each place, and the powers that move them along.
  const before = new Int32Array(length + 1);
  const powers = new Int32Array(length + 1).fill(1);
  for (let at = 0; at < length; at++) {
    before[at + 1] = Math.imul(before[at] as number, BASE) + word.charCodeAt(at);
    powers[at + 1] = Math.imul(powers[at] as number, BASE);
  }
  /** Of what stands before, followed by the letters from `start` to `end`. */
  const followed = (hash: number, start: number, end: number) => {
    const power = powers[end - start] as number;
    const part = ((before[end] as number) - Math.imul(before[start] as number, power)) | 0;
    return (Math.imul(hash, power) + part) | 0;
  };
  const hashes = new Set([(before[length] as number) >>> 0]);
  for (let one = 0; one < length; one++) {
    hashes.add(followed(before[one] as number, one + 1, length) >>> 0);
    if (length > LONGEST_FOR_TWO) continue;
    for (let two = one + 1; two < length; two++) {
      const middle = followed(before[one] as number, one + 1, two);
      hashes.add(followed(middle, two + 1, length) >>> 0);
    }
  }
  return hashes;
}
