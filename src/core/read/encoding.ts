/** Which character encoding a file is in, and how files whose bytes do not agree with ASCII are read. */
import { Byte, hasMark, oneCharacterAByte } from '../bytes.ts';
import { ContentMode, Slot, scanHtml, type Tag } from './html/scan.ts';
import { makeSource, type Source } from './source.ts';

export type Format = 'html' | 'css' | 'xml' | 'other';

/** Bytes in which a declaration is looked for (HTML 13.2.3.2, CSS Syntax 3.2). */
const PRESCAN = 1024;

/** The encoding's name by the Encoding standard: from a byte order mark, a declaration, else UTF-8. */
export function sniffEncoding(bytes: Uint8Array, format: Format): string {
  if (hasMark(bytes)) return 'utf-8';
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return 'utf-16be';
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return 'utf-16le';
  const start = bytes.subarray(0, PRESCAN);
  if (format === 'html') return isPlainlyUtf8(start) ? 'utf-8' : (prescan(start) ?? 'utf-8');
  const text = oneCharacterAByte(start);
  if (format === 'css') return declared(/^@charset "([^"]*)";/.exec(text)?.[1]) ?? 'utf-8';
  if (format === 'xml')
    return declared(/^<\?xml[^>]*?\sencoding\s*=\s*["']([^"']*)["']/.exec(text)?.[1]) ?? 'utf-8';
  return 'utf-8';
}

/** Encodings in which a byte below 0x80 may be a part of another character, or mean another one. */
const NOT_ASCII = /^(?:utf-16(?:le|be)|iso-2022-jp|shift_jis|gbk|gb18030|big5)$/;

export function agreesWithAscii(encoding: string): boolean {
  return !NOT_ASCII.test(encoding);
}

export function decoderFor(encoding: string): TextDecoder {
  return new TextDecoder(encoding, { ignoreBOM: true });
}

/** A declared encoding, as it is to be used: what declares UTF-16 in ASCII is not UTF-16 (HTML 13.2.3.2). */
function declared(label: string | undefined): string | null {
  if (label === undefined) return null;
  try {
    const { encoding } = new TextDecoder(label.trim());
    return encoding.startsWith('utf-16')
      ? 'utf-8'
      : encoding === 'x-user-defined'
        ? 'windows-1252'
        : encoding;
  } catch {
    return null;
  }
}

/** True where nothing but UTF-8 is declared in any way: spares most pages the prescan. */
function isPlainlyUtf8(bytes: Uint8Array): boolean {
  const labels = utf8.decode(bytes).matchAll(/charset[\t\n\f\r ]*=[\t\n\f\r "']*([^\t\n\f\r "'>;/]*)/gi);
  for (const [, label = ''] of labels) if (!/^utf-?8$/i.test(label)) return false;
  return true;
}

const utf8 = new TextDecoder();

/** Prescan a byte stream to determine its encoding (HTML 13.2.3.2). */
function prescan(bytes: Uint8Array): string | null {
  const source = makeSource(bytes);
  let found: string | null = null;
  scanHtml(source, {
    wantsText: false,
    wantsEndTags: true,
    text() {},
    doctype() {},
    rawText() {},
    endTag: () => true,
    inForeignContent: () => false,
    startTag(tag) {
      if (source.text(tag.nameStart, tag.nameEnd).toLowerCase() !== 'meta') return ContentMode.Data;
      found = encodingOfMeta(attributesOf(source, tag));
      return found === null ? ContentMode.Data : ContentMode.Stop;
    },
  });
  return found;
}

function attributesOf(source: Source, { attributes, attributeCount }: Tag): Map<string, string> {
  const values = new Map<string, string>();
  for (let slot = 0; slot < attributeCount * Slot.Width; slot += Slot.Width) {
    const name = source
      .text(attributes[slot] as number, attributes[slot + Slot.NameEnd] as number)
      .toLowerCase();
    const start = attributes[slot + Slot.ValueStart] as number;
    if (!values.has(name))
      values.set(name, start < 0 ? '' : source.text(start, attributes[slot + Slot.ValueEnd] as number));
  }
  return values;
}

function encodingOfMeta(values: ReadonlyMap<string, string>): string | null {
  const label = values.get('charset');
  if (label !== undefined) return declared(label);
  if (values.get('http-equiv')?.toLowerCase() !== 'content-type') return null;
  return declared(charsetIn(values.get('content') ?? ''));
}

/** Extracting a character encoding from a meta element (HTML 2.4.4). */
export function charsetIn(content: string): string | undefined {
  const match =
    /charset[\t\n\f\r ]*=[\t\n\f\r ]*(?:"([^"]*)"|'([^']*)'|([^\t\n\f\r ;"'][^\t\n\f\r ;]*))/i.exec(content);
  return match?.[1] ?? match?.[2] ?? match?.[3];
}

/** A file made UTF-8, each byte of which can be traced back to the file. */
export interface Transcoded {
  readonly bytes: Uint8Array;
  /** The offset in the file of the character that byte `index` belongs to; its end for the length. */
  offsetOf(index: number): number;
  /** The decoded text, and the offset in the file of each of its UTF-16 code units. */
  readonly text: string;
  readonly unitOffsets: Uint32Array;
}

export function transcode(bytes: Uint8Array, encoding: string): Transcoded {
  const { text, unitOffsets } = encoding.startsWith('utf-16')
    ? decodeUtf16(bytes, encoding)
    : decodeSteps(bytes, encoding);
  const utf8 = new TextEncoder().encode(text);
  const offsets = new Uint32Array(utf8.length + 1);
  for (let unit = 0, at = 0; unit < text.length; unit++) {
    const code = text.charCodeAt(unit);
    const isPair = code >= 0xd800 && code <= 0xdbff && (text.charCodeAt(unit + 1) & 0xfc00) === 0xdc00;
    const size = code < Byte.BeyondAscii ? 1 : code < 0x800 ? 2 : isPair ? 4 : 3;
    for (let count = 0; count < size; count++) offsets[at++] = unitOffsets[unit] as number;
    if (isPair) unit++;
  }
  offsets[utf8.length] = bytes.length;
  return { bytes: utf8, offsetOf: (index) => offsets[index] ?? bytes.length, text, unitOffsets };
}

function decodeUtf16(bytes: Uint8Array, encoding: string) {
  const text = decoderFor(encoding).decode(bytes);
  return {
    text,
    unitOffsets: Uint32Array.from({ length: text.length + 1 }, (_none, unit) =>
      Math.min(unit * 2, bytes.length),
    ),
  };
}

/** Decodes step by step, since only the decoder knows where a character of an old encoding ends. */
function decodeSteps(bytes: Uint8Array, encoding: string) {
  const decoder = new TextDecoder(encoding, { ignoreBOM: true });
  const isPlain = encoding !== 'iso-2022-jp';
  const offsets: number[] = [];
  let text = '';
  let pending = 0;
  for (let at = 0; at < bytes.length; ) {
    // Runs of ASCII between characters need no steps.
    let end = at + 1;
    if (isPlain && pending === at && (bytes[at] as number) < Byte.BeyondAscii)
      while (end < bytes.length && (bytes[end] as number) < Byte.BeyondAscii) end++;
    const piece = decoder.decode(bytes.subarray(at, end), { stream: true });
    const isRun = piece.length === end - at && end - at > 1;
    for (let unit = 0; unit < piece.length; unit++) offsets.push(isRun ? at + unit : pending);
    text += piece;
    if (piece !== '') pending = end;
    at = end;
  }
  const rest = decoder.decode();
  for (let unit = 0; unit < rest.length; unit++) offsets.push(pending);
  offsets.push(bytes.length);
  return { text: text + rest, unitOffsets: Uint32Array.from(offsets) };
}
