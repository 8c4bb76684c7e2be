/** Where something stands in a file that stands in a piece of its code. */
import { agreesWithAscii, decoderFor } from './encoding.ts';
import { byteOffsets } from './offsets.ts';
import type { Span } from './reading.ts';
import { makeSource } from './source.ts';

/** `start` and `end` are UTF-16 positions in the code, which stands at `within`, or is the whole of the file. */
export function spotOfCode(
  bytes: Uint8Array,
  encoding: string,
  within: Span | null,
  { start, end }: { readonly start: number; readonly end: number },
): Span {
  const { offset: first, length } = within ?? { offset: 0, length: bytes.length };
  if (!agreesWithAscii(encoding)) return { offset: first + start * 2, length: (end - start) * 2 };
  const source = makeSource(bytes.subarray(first, first + length), decoderFor(encoding));
  const offsetOf = byteOffsets(source, source.text(0, length));
  const offset = offsetOf(start);
  return { offset: first + offset, length: offsetOf(end) - offset };
}

/** The text of a script; a byte order mark is a part of it, as white space (ECMA-262 12.2). */
export function textOfScript(bytes: Uint8Array, encoding: string): string {
  if (!agreesWithAscii(encoding)) return new TextDecoder(encoding, { ignoreBOM: true }).decode(bytes);
  return makeSource(bytes, decoderFor(encoding)).text(0, bytes.length);
}
