/** Attribute values and titles as a browser has them. */
import { decodeHTMLAttribute } from 'entities/decode';

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
