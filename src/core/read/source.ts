/** A file's bytes, and the text of any span of them in the file's encoding. */
import { Byte, isAscii, oneCharacterAByte } from '../bytes.ts';

export interface Source {
  readonly bytes: Uint8Array;
  /** One character for each byte; those from 0x80 on are all alike. Native searches on it are the fastest. */
  readonly plain: string;
  readonly decoder: TextDecoder;
  /** The text of a span, decoded. Cheap where the span is ASCII. */
  text(start: number, end: number): string;
}

const utf8 = new TextDecoder('utf-8', { ignoreBOM: true });

/**
 * A source whose encoding agrees with ASCII on the bytes below 0x80. The whole file is made a string of
 * one character a byte once; cutting a span out of it takes 30 ns, where decoding one takes 400.
 */
export function makeSource(bytes: Uint8Array, decoder: TextDecoder = utf8): Source {
  const whole = oneCharacterAByte(bytes);
  const isPlain = isAscii(whole);
  const plain = isPlain ? whole : oneCharacterAByte(withoutBeyondAscii(bytes));
  return new TextSource(bytes, plain, decoder, isPlain);
}

/** One class for all sources, since code that sees only one is compiled once. */
class TextSource implements Source {
  constructor(
    readonly bytes: Uint8Array,
    readonly plain: string,
    readonly decoder: TextDecoder,
    readonly isPlain: boolean,
  ) {}

  text(start: number, end: number): string {
    const text = this.plain.slice(start, end);
    if (this.isPlain || !text.includes('\x1a')) return text;
    return this.decoder.decode(this.bytes.subarray(start, end));
  }
}

/** Where the text of a {@link Source.plain} begins: behind its byte order mark. */
export function startOfText(plain: string): number {
  return plain.startsWith('\x1a\x1a\x1a') ? 3 : 0;
}

/** A copy of `bytes` with each byte from 0x80 on replaced; four bytes are looked at in one step. */
function withoutBeyondAscii(bytes: Uint8Array): Uint8Array {
  const copy = new Uint8Array((bytes.length + 3) & ~3);
  copy.set(bytes);
  const words = new Uint32Array(copy.buffer);
  for (let index = 0; index < words.length; index++) {
    if (((words[index] as number) & 0x80808080) === 0) continue;
    for (let at = index * 4; at < index * 4 + 4; at++) {
      if ((copy[at] as number) >= Byte.BeyondAscii) copy[at] = Byte.Substitute;
    }
  }
  return copy.subarray(0, bytes.length);
}
