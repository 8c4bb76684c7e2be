/** A page as text whose every place is known in the file, and exact edits to it. */

import { Byte } from '../bytes.ts';
import { applyEdits, type Edit, encodeText } from '../change/edit.ts';
import { areEqual } from '../change/files.ts';
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
  isIdle(edit: Edit): boolean;
  /** The file with `edits` made; every other byte stays as it is. */
  edited(edits: readonly Edit[]): Uint8Array;
}

/** `known` is what a reading of the same bytes has said already. */
export function openPage(file: string, bytes: Uint8Array, known?: Reading): Page {
  const encoding = sniffEncoding(bytes, 'html');
  const { bytes: utf8, offsetOf } =
    encoding === 'utf-8' ? { bytes, offsetOf: (offset: number) => offset } : transcode(bytes, encoding);
  const source = makeSource(utf8);
  // Of other encodings the places are others than in the file.
  const reading = known !== undefined && encoding === 'utf-8' ? known : readHtmlSource(source, 'utf-8');
  const firstBreak = utf8.indexOf(Byte.LineFeed);
  return {
    file,
    source,
    reading,
    base: baseAddress(file, reading.base),
    newline: firstBreak > 0 && utf8[firstBreak - 1] === Byte.CarriageReturn ? '\r\n' : '\n',
    text: (start, end) => source.text(start, end),
    offsetInFile: offsetOf,
    isIdle: ({ start, end, text }) =>
      areEqual(encodeText(text, encoding, 'markup'), bytes.subarray(offsetOf(start), offsetOf(end))),
    edited: (edits) =>
      applyEdits(
        bytes,
        edits.map(({ start, end, text }) => ({ start: offsetOf(start), end: offsetOf(end), text })),
        encoding,
      ),
  };
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
