/** From positions in decoded text back to bytes of the file. */
import { Byte } from '../bytes.ts';
import { lastNotAfter } from '../rising.ts';
import type { Source } from './source.ts';

/** Units between two places that are known. */
const STRIDE = 1024;

/** Byte offsets of UTF-16 positions in `text`, which is the whole of `source` decoded. Fastest for rising positions. */
export function byteOffsets(source: Source, text: string): (position: number) => number {
  if (text.length === source.bytes.length) return (position) => position;
  const { bytes } = source;
  const isUtf8 = source.decoder.encoding === 'utf-8';
  // Places met on the way, so that a position before the last one is not looked for from the start.
  const positions = [0];
  const offsets = [0];
  let seenPosition = 0;
  let seenOffset = 0;
  return (position) => {
    if (position < seenPosition) {
      const known = lastNotAfter(positions, position);
      seenPosition = positions[known] as number;
      seenOffset = offsets[known] as number;
    }
    while (seenPosition < position && seenOffset < bytes.length) {
      if (seenPosition >= (positions.at(-1) as number) + STRIDE) {
        positions.push(seenPosition);
        offsets.push(seenOffset);
      }
      const code = text.charCodeAt(seenPosition);
      if (code < Byte.BeyondAscii) {
        seenPosition++;
        seenOffset++;
        continue;
      }
      const size = isUtf8 ? sizeOfUtf8(bytes, seenOffset) : 1;
      seenOffset += size;
      seenPosition += code >= 0xd800 && code <= 0xdbff ? 2 : 1;
    }
    return seenOffset;
  };
}

/** Bytes that decode to one character at `at`, by the maximal subpart practice of the Encoding standard (4.1). */
function sizeOfUtf8(bytes: Uint8Array, at: number): number {
  const lead = bytes[at] as number;
  const needed =
    lead >= 0xf0 && lead <= 0xf4 ? 3 : lead >= 0xe0 && lead < 0xf0 ? 2 : lead >= 0xc2 && lead < 0xe0 ? 1 : 0;
  for (let count = 1; count <= needed; count++) {
    const byte = bytes[at + count] ?? 0;
    const low = count > 1 ? 0x80 : lead === 0xe0 ? 0xa0 : lead === 0xf0 ? 0x90 : 0x80;
    const high = count > 1 ? 0xbf : lead === 0xed ? 0x9f : lead === 0xf4 ? 0x8f : 0xbf;
    if (byte < low || byte > high) return count;
  }
  return needed + 1;
}
