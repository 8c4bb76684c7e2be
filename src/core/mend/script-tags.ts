/** Edits of script tags: everything else in the page stays as it is, byte for byte. */
import { Byte, oneCharacterAByte } from '../bytes.ts';
import type { Edit } from '../change/edit.ts';
import { decoderFor } from '../read/encoding.ts';
import type { Span } from '../read/reading.ts';

/** From the start of the tag to the end of its end tag. */
interface Element {
  readonly start: number;
  readonly end: number;
  /** The end of its start tag, in front of its `>`. */
  readonly tagEnd: number;
}

/** The script element that has its address, or its code, at `span`; null where it is not written as usual. */
function elementAt(text: string, { offset, length }: Span): Element | null {
  const start = text.slice(0, offset).toLowerCase().lastIndexOf('<script');
  if (start < 0) return null;
  const isCode = text[offset - 1] === '>';
  const tagEnd = isCode ? offset - 1 : text.indexOf('>', offset + length);
  const close = /<\/script[^>]*>/gi;
  close.lastIndex = isCode ? offset + length : tagEnd;
  const found = close.exec(text);
  if (tagEnd < 0 || found === null) return null;
  return { start, end: found.index + found[0].length, tagEnd };
}

function startOfLine(text: string, offset: number): number {
  const before = text.slice(0, offset);
  return Math.max(before.lastIndexOf('\n'), before.lastIndexOf('\r')) + 1;
}

/** With the whole line where it stands on lines of its own. */
function withLine(text: string, { start, end }: Element): { start: number; end: number; indent: string } {
  const lineStart = startOfLine(text, start);
  const indent = text.slice(lineStart, start);
  const rest = /^[ \t]*(?:\r\n|\n|\r)/.exec(text.slice(end, end + 200))?.[0];
  if (/\S/.test(indent) || rest === undefined) return { start, end, indent: '' };
  return { start: lineStart, end: end + rest.length, indent };
}

/** Moves a script to right before another one; null where that cannot be done by moving. */
export function moveTag(bytes: Uint8Array, encoding: string, moved: Span, before: Span): Edit[] | null {
  const text = oneCharacterAByte(bytes);
  const [one, other] = [elementAt(text, moved), elementAt(text, before)];
  if (one === null || other === null || one.start < other.end) return null;
  const own = withLine(text, one);
  const target = withLine(text, other);
  const isByLines = own.end > one.end && target.end > other.end;
  const piece = isByLines ? own : { start: one.start, end: one.end };
  const written = decoderFor(encoding).decode(bytes.subarray(piece.start, piece.end));
  const at = isByLines ? target.start : other.start;
  return [
    { start: at, end: at, text: written },
    { start: piece.start, end: piece.end, text: '' },
  ];
}

/** Moves a script to the end of the body; null where that cannot be done by moving. */
export function moveTagToEnd(bytes: Uint8Array, encoding: string, moved: Span): Edit[] | null {
  const text = oneCharacterAByte(bytes);
  const one = elementAt(text, moved);
  const lower = text.toLowerCase();
  const ends = [lower.lastIndexOf('</body'), lower.lastIndexOf('</html'), text.length];
  const end = ends.find((at) => at >= 0) as number;
  if (one === null || one.end > end) return null;
  const own = withLine(text, one);
  const written = decoderFor(encoding).decode(bytes.subarray(own.start, own.end));
  const lineStart = startOfLine(text, end);
  const isByLines = own.end > one.end && !/\S/.test(text.slice(lineStart, end));
  const at = isByLines ? lineStart : end;
  return [
    { start: own.start, end: own.end, text: '' },
    { start: at, end: at, text: written },
  ];
}

/** Puts markup on a line of its own before a script. */
export function insertTag(bytes: Uint8Array, before: Span, markup: string): Edit | null {
  const text = oneCharacterAByte(bytes);
  const element = elementAt(text, before);
  if (element === null) return null;
  const { start, end, indent } = withLine(text, element);
  if (end === element.end) return { start: element.start, end: element.start, text: markup };
  const newline = /(?:\r\n|\n|\r)$/.exec(text.slice(element.end, end))?.[0] ?? '\n';
  return { start, end: start, text: `${indent}${markup}${newline}` };
}

/** Puts an attribute in the place of another one, or takes that away; null where it is not there. */
export function replaceAttribute(
  bytes: Uint8Array,
  tag: Span,
  name: string,
  replacement: string,
): Edit | null {
  const text = oneCharacterAByte(bytes);
  const element = elementAt(text, tag);
  if (element === null) return null;
  const { start, tagEnd } = element;
  const pattern = new RegExp(`(\\s+)${name}(?:\\s*=\\s*(?:"[^"]*"|'[^']*'|[^\\s>]+))?(?=[\\s>/])`, 'i');
  const found = pattern.exec(text.slice(start, tagEnd + 1));
  if (found === null) return null;
  const at = start + found.index;
  const [whole, space] = found;
  return { start: at, end: at + whole.length, text: replacement === '' ? '' : `${space}${replacement}` };
}

/** Puts an attribute behind the last one. */
export function addAttribute(bytes: Uint8Array, tag: Span, attribute: string): Edit | null {
  const element = elementAt(oneCharacterAByte(bytes), tag);
  if (element === null) return null;
  const { tagEnd } = element;
  const at = bytes[tagEnd - 1] === Byte.Slash ? tagEnd - 1 : tagEnd;
  return { start: at, end: at, text: ` ${attribute}` };
}

/** Says in its tag that a script is a module. */
export function makeModule(bytes: Uint8Array, tag: Span): Edit | null {
  const attribute = 'type="module"';
  return replaceAttribute(bytes, tag, 'type', attribute) ?? addAttribute(bytes, tag, attribute);
}

type Loaded = Span & { readonly goal: 'script' | 'module' };

/** True for a script that runs once the page is there where nobody says async: a module, or one with defer (HTML 4.12.1). */
export function waitsWithoutAsync(bytes: Uint8Array, tag: Loaded): boolean {
  return tag.goal === 'module' || replaceAttribute(bytes, tag, 'defer', '') !== null;
}

/** Has a script that nobody waits for run once the page is there. */
export function deferAsync(bytes: Uint8Array, tag: Loaded): Edit | null {
  return replaceAttribute(bytes, tag, 'async', waitsWithoutAsync(bytes, tag) ? '' : 'defer');
}

/** What {@link deferAsync} does, in words. */
export function deferAsyncTitle(called: string, bytes: Uint8Array, tag: Loaded): string {
  return waitsWithoutAsync(bytes, tag) ? `load ${called} without async` : `defer ${called} instead of async`;
}
