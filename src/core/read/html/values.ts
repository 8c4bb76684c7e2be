/** Attribute values whose inner spans matter: bytes with character references decoded, each traceable to the file. */
import { decodeHTMLAttribute } from 'entities/decode';
import { Byte, oneCharacterAByte } from '../../bytes.ts';

/** Decoded bytes of an attribute value; `offsetOf` gives the file offset that a byte, or the end, stands at. */
export interface TracedValue {
  readonly bytes: Uint8Array;
  offsetOf(index: number): number;
}

const REFERENCE = /&(?:#[0-9]+;?|#[xX][0-9a-fA-F]+;?|[A-Za-z][A-Za-z0-9]*;?)/y;

/** The value at `[start, end)` of the file. Values without an ampersand are not copied. */
export function traceValue(bytes: Uint8Array, start: number, end: number): TracedValue {
  const raw = bytes.subarray(start, end);
  if (!raw.includes(Byte.Ampersand)) return { bytes: raw, offsetOf: (index) => start + index };
  const text = oneCharacterAByte(raw);
  const decoded: number[] = [];
  const offsets: number[] = [];
  for (let at = 0; at < text.length; ) {
    REFERENCE.lastIndex = at;
    const [reference = text[at] as string] = REFERENCE.exec(text) ?? [];
    const after = at + reference.length;
    // What follows decides whether a reference without a semicolon counts (HTML 13.2.5.73).
    const next = text.charCodeAt(after) === Byte.Equals ? '=' : '';
    const meaning = decodeHTMLAttribute(reference + next).slice(0, next === '' ? undefined : -1);
    if (meaning === reference) {
      for (let index = at; index < after; index++) {
        decoded.push(raw[index] as number);
        offsets.push(start + index);
      }
    } else {
      const tail = commonEnd(meaning, reference);
      for (const byte of new TextEncoder().encode(meaning.slice(0, meaning.length - tail))) {
        decoded.push(byte);
        offsets.push(start + at);
      }
      for (let index = after - tail; index < after; index++) {
        decoded.push(raw[index] as number);
        offsets.push(start + index);
      }
    }
    at = after;
  }
  offsets.push(end);
  return { bytes: Uint8Array.from(decoded), offsetOf: (index) => offsets[index] ?? end };
}

function commonEnd(one: string, other: string): number {
  let count = 0;
  while (count < one.length && one.at(-1 - count) === other.at(-1 - count)) count++;
  return count;
}
