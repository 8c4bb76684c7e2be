/** Exact edits to a file's text, whatever its encoding. */

/** The bytes from `start` to `end` become `text`. */
export interface Edit {
  readonly start: number;
  readonly end: number;
  readonly text: string;
}

/** An edit to one of several files. */
export interface FileEdit extends Edit {
  readonly file: string;
}

/** What an edit stands in: it says how a character is written that the encoding may lack. */
export type Syntax = 'markup' | 'css' | 'script';

/**
 * A copy of `bytes` with every edit made; all other bytes stay as they are. Edits must not overlap; insertions at one
 * place keep their order. `encoding` is a name of the Encoding standard.
 */
export function applyEdits(
  bytes: Uint8Array,
  edits: readonly Edit[],
  encoding = 'utf-8',
  syntax: Syntax = 'markup',
): Uint8Array {
  const pieces: Uint8Array[] = [];
  let from = 0;
  // Sorting is stable.
  for (const { start, end, text } of edits.toSorted((a, b) => a.start - b.start)) {
    if (start < from) throw new RangeError('edits overlap');
    pieces.push(bytes.subarray(from, start), encodeText(text, encoding, syntax));
    from = end;
  }
  pieces.push(bytes.subarray(from));
  const result = new Uint8Array(pieces.reduce((sum, { length }) => sum + length, 0));
  let at = 0;
  for (const piece of pieces) {
    result.set(piece, at);
    at += piece.length;
  }
  return result;
}

/** A text in a file's own encoding. Of the older ones only ASCII is sure to be the same everywhere. */
export function encodeText(text: string, encoding: string, syntax: Syntax): Uint8Array {
  if (encoding.startsWith('utf-16')) {
    const view = new DataView(new ArrayBuffer(text.length * 2));
    for (let at = 0; at < text.length; at++)
      view.setUint16(at * 2, text.charCodeAt(at), encoding === 'utf-16le');
    return new Uint8Array(view.buffer);
  }
  const safe = encoding === 'utf-8' ? text : text.replace(/[^\0-\x7f]/gu, escapes[syntax]);
  return new TextEncoder().encode(safe);
}

const escapes: Readonly<Record<Syntax, (character: string) => string>> = {
  /** A character reference (HTML 13.1.4). */
  markup: (character) => `&#${character.codePointAt(0)};`,
  /** An escape, ended by a space (CSS Syntax 3, 2.1). */
  css: (character) => `\\${character.codePointAt(0)?.toString(16)} `,
  /** One for each code unit, as JSON has it, too (ECMA-262 12.9.4; RFC 8259, 7). */
  script: (character) =>
    Array.from({ length: character.length }, (_none, at) => character.charCodeAt(at))
      .map((unit) => `\\u${unit.toString(16).padStart(4, '0')}`)
      .join(''),
};
