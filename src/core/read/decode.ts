/** Decodes spans of a file: bytes to text, character references to characters. */
import { decodeHTMLAttribute } from 'entities/decode';

const utf8 = new TextDecoder('utf-8', { ignoreBOM: true });

/** The text of a span, decoded as UTF-8; bytes that are not UTF-8 become U+FFFD. */
export function textOf(bytes: Uint8Array, start: number, end: number): string {
  for (let at = start; at < end; at++) {
    if ((bytes[at] as number) >= 0x80) return utf8.decode(bytes.subarray(start, end));
  }
  let text = '';
  for (let from = start; from < end; from += 8192) {
    text += String.fromCharCode.apply(
      null,
      bytes.subarray(from, Math.min(end, from + 8192)) as unknown as number[],
    );
  }
  return text;
}

/** An attribute's value as a browser has it: newlines normalised, character references decoded. */
export function decodeAttribute(raw: string): string {
  const text = normalise(raw);
  return text.includes('&') ? decodeHTMLAttribute(text) : text;
}

/** HTML 13.2.3.5, and the U+FFFD that stands in for NUL (13.2.5.36). */
function normalise(raw: string): string {
  const text = raw.includes('\r') ? raw.replace(/\r\n?/g, '\n') : raw;
  return text.includes('\0') ? text.replaceAll('\0', '\uFFFD') : text;
}
