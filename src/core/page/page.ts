/** A page as text whose every place is known in the file, and exact edits to it. */
import { areEqual } from '../change/files.ts';
import { splice } from '../change/splice.ts';
import { sniffEncoding, transcode } from '../read/encoding.ts';
import { readHtmlSource } from '../read/html.ts';
import type { Reading } from '../read/reading.ts';
import { makeSource, type Source } from '../read/source.ts';
import { baseAddress } from '../resolve/resolve.ts';

/** A page's file. Offsets are those of its text as UTF-8, which for most pages is the file itself. */
export interface Page {
  /** Site path. */
  readonly file: string;
  readonly source: Source;
  readonly reading: Reading;
  /** What its references resolve against; null where that lies outside of the site. */
  readonly base: string | null;
  /** How its lines end. */
  readonly newline: '\n' | '\r\n';
  text(start: number, end: number): string;
  /** The byte of the file that an offset stands for. */
  offsetInFile(offset: number): number;
  /** True where an edit would leave every byte as it is. */
  isIdle(edit: PageEdit): boolean;
  /** The file with `edits` made; every other byte stays as it is. */
  edited(edits: readonly PageEdit[]): Uint8Array;
}

/** The text between two offsets is replaced. Edits must not overlap; insertions at one place keep their order. */
export interface PageEdit {
  readonly start: number;
  readonly end: number;
  readonly text: string;
}

/** `known` is what a reading of the same bytes has said already. */
export function openPage(file: string, bytes: Uint8Array, known?: Reading): Page {
  const encoding = sniffEncoding(bytes, 'html');
  const { utf8, offsetOf } =
    encoding === 'utf-8'
      ? { utf8: bytes, offsetOf: (offset: number) => offset }
      : toUtf8(transcode(bytes, encoding));
  const source = makeSource(utf8);
  // Of other encodings the places are others than in the file.
  const reading = known !== undefined && encoding === 'utf-8' ? known : readHtmlSource(source, 'utf-8');
  const firstBreak = utf8.indexOf(0x0a);
  return {
    file,
    source,
    reading,
    base: baseAddress(file, reading.base),
    newline: firstBreak > 0 && utf8[firstBreak - 1] === 0x0d ? '\r\n' : '\n',
    text: (start, end) => source.text(start, end),
    offsetInFile: offsetOf,
    isIdle: ({ start, end, text }) =>
      areEqual(encodeMarkup(text, encoding), bytes.subarray(offsetOf(start), offsetOf(end))),
    edited: (edits) =>
      splice(
        bytes,
        edits.map(({ start, end, text }) => ({
          start: offsetOf(start),
          end: offsetOf(end),
          bytes: encodeMarkup(text, encoding),
        })),
      ),
  };
}

function toUtf8({ bytes, offsetOf }: ReturnType<typeof transcode>) {
  return { utf8: bytes, offsetOf };
}

/**
 * Markup in a page's own encoding. Of the older ones only ASCII is sure to be the same everywhere: what lies
 * beyond is written as character references (HTML 13.1.4).
 */
function encodeMarkup(text: string, encoding: string): Uint8Array {
  if (encoding === 'utf-8') return new TextEncoder().encode(text);
  if (encoding.startsWith('utf-16')) {
    const view = new DataView(new ArrayBuffer(text.length * 2));
    for (let at = 0; at < text.length; at++)
      view.setUint16(at * 2, text.charCodeAt(at), encoding === 'utf-16le');
    return new Uint8Array(view.buffer);
  }
  return new TextEncoder().encode(
    text.replace(/[^\0-\x7f]/gu, (character) => `&#${character.codePointAt(0)};`),
  );
}

/** A text as it can stand in an element or in a quoted attribute. */
export function escapeMarkup(text: string): string {
  return text.replace(/[&<>"']/g, (character) => `&${escapes[character] ?? ''};`);
}

const escapes: Readonly<Record<string, string>> = {
  '&': 'amp',
  '<': 'lt',
  '>': 'gt',
  '"': 'quot',
  "'": '#39',
};
