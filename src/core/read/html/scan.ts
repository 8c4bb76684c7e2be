/**
 * The HTML scanner: finds where tags, attributes, comments and raw text begin and end.
 *
 * It follows the tokenizer of the HTML Living Standard (13.2.5) on bytes of an ASCII-compatible
 * encoding, and reports spans through a {@link TagSink}; it decodes and allocates nothing. Everything
 * that the tokenizer tests for is ASCII, so the bytes of other characters pass through untouched.
 */

import { Byte, hasMark } from '../../bytes.ts';
import type { Source } from '../source.ts';

/**
 * What the tokenizer expects after a start tag; the tree construction stage decides (HTML 13.2.6).
 * `Stop` ends the scan, for a sink that has seen enough.
 */
export const enum ContentMode {
  Data,
  Rcdata,
  Rawtext,
  ScriptData,
  Plaintext,
  /** Text up to the element's end tag, that is scanned by itself: what a `noscript` holds (HTML 4.12.2). */
  Noscript,
  Stop,
}

/** How attributes lie in {@link Tag.attributes}: the integers for one of them, and what each is. */
export const enum Slot {
  NameStart,
  NameEnd,
  ValueStart,
  ValueEnd,
  Width,
}

/** The tag just scanned. One object is used again for every tag of a file: copy what must last. */
export interface Tag {
  /** Offset of the `<`. */
  start: number;
  nameStart: number;
  nameEnd: number;
  /** Offset just after the `>`. */
  end: number;
  selfClosing: boolean;
  /** A `<` stands within it. */
  holdsLess: boolean;
  attributeCount: number;
  /**
   * Per attribute: start and end of its name, start and end of its value without quotes; both -1
   * where it has no value. Later duplicates of a name are listed too; the first one counts.
   */
  attributes: Int32Array;
}

export interface TagSink {
  /** While true, runs of text are reported. */
  readonly wantsText: boolean;
  /** While false, simple end tags may be passed over. */
  readonly wantsEndTags: boolean;
  /** Character data between tags, comments and declarations. */
  text(start: number, end: number): void;
  /** A doctype, from its `<` to after its `>`. */
  doctype(start: number, end: number): void;
  /** A comment, its delimiters included. */
  comment?(start: number, end: number): void;
  /** A whole start tag; the answer tells how what follows is to be scanned. */
  startTag(tag: Tag): ContentMode;
  /** A whole end tag; false ends the scan. */
  endTag(tag: Tag): boolean;
  /** The raw content of the element whose start tag was answered with anything but `Data` and `Noscript`. */
  rawText(start: number, end: number): void;
  /** What a `noscript` holds; false where its tags are not to be told. */
  noscript?(start: number, end: number): boolean;
  /** A tag that the file ends in, by its `<`; nothing follows it. */
  unfinishedTag?(start: number): void;
  /** True where `<![CDATA[` opens a CDATA section: inside SVG or MathML (HTML 13.2.5.42). */
  inForeignContent(): boolean;
}

/** Tags of scans that have ended. Worth it: an array of integers takes as long to make as a small page to scan. */
const spare: Tag[] = [];
/** Longer lists of attributes are not kept. */
const MOST_KEPT = 4096;

function newTag(): Tag {
  return {
    start: 0,
    nameStart: 0,
    nameEnd: 0,
    end: 0,
    selfClosing: false,
    holdsLess: false,
    attributeCount: 0,
    attributes: new Int32Array(64 * Slot.Width),
  };
}

/** Scans a whole file. Never throws; an unfinished tag at the end of the file is no tag. */
export function scanHtml(source: Pick<Source, 'bytes' | 'plain'>, sink: TagSink): void {
  const tag = spare.pop() ?? newTag();
  // A byte order mark is no text of the page (Encoding 6, UTF-8 decode).
  scanWith(tag, source, sink, hasMark(source.bytes) ? 3 : 0);
  if (tag.attributes.length <= MOST_KEPT) spare.push(tag);
}

/** False where the sink ended the scan. */
function scanWith(
  tag: Tag,
  { bytes, plain }: Pick<Source, 'bytes' | 'plain'>,
  sink: TagSink,
  from: number,
  isWhole = true,
): boolean {
  const length = bytes.length;
  let at = from;
  let textStart = at;
  // The next one behind the last tag, where it was looked for already.
  let less = -1;
  while (at < length) {
    // 13.2.5.1 Data state
    if (bytes[at] !== Byte.Less) {
      at = less >= at ? less : plain.indexOf('<', at);
      if (at < 0) break;
    }
    const start = at;
    // 13.2.5.6 Tag open state
    const next = bytes[at + 1] as number;
    if (isAlpha(next)) {
      flush(sink, textStart, start);
      const end = scanTag(bytes, plain, at, at + 1, tag);
      if (end < 0) return endInTag(sink, start, isWhole);
      less = plain.indexOf('<', at + 1);
      tag.holdsLess = less >= 0 && less < end;
      textStart = at = end;
      const mode = sink.startTag(tag);
      if (mode !== ContentMode.Data) {
        if (mode === ContentMode.Stop) return false;
        const close = endOfContent(bytes, at, mode, tag);
        if (mode !== ContentMode.Noscript) {
          sink.rawText(at, close);
        } else if (sink.noscript?.(at, close) ?? true) {
          const content = { bytes: bytes.subarray(0, close), plain: plain.slice(0, close) };
          if (!scanWith(tag, content, sink, at, false)) return false;
        }
        textStart = at = close;
      }
    } else if (next === Byte.Slash) {
      // 13.2.5.7 End tag open state
      const third = bytes[at + 2] as number;
      if (at + 2 >= length) break;
      flush(sink, textStart, start);
      if (isAlpha(third)) {
        if (!sink.wantsEndTags) {
          // Most end tags are a name of letters and a `>`.
          let close = at + 3;
          while ((bytes[close] as number) > Byte.Greater) close++;
          if (bytes[close] === Byte.Greater) {
            textStart = at = close + 1;
            continue;
          }
        }
        const end = scanTag(bytes, plain, at, at + 2, tag);
        if (end < 0) return endInTag(sink, start, isWhole);
        less = plain.indexOf('<', at + 2);
        tag.holdsLess = less >= 0 && less < end;
        at = end;
        if (!sink.endTag(tag)) return false;
      } else {
        at = third === Byte.Greater ? at + 3 : endOfBogusComment(bytes, at + 2);
      }
      textStart = at;
    } else if (next === Byte.Bang) {
      flush(sink, textStart, start);
      at = endOfDeclaration(bytes, at, sink);
      textStart = at;
    } else if (next === Byte.Question) {
      flush(sink, textStart, start);
      textStart = at = endOfBogusComment(bytes, at + 1);
    } else {
      at++;
    }
  }
  flush(sink, textStart, length);
  return true;
}

/** A tag that has no end is none; the sink is told of one that the file ends in. */
function endInTag(sink: TagSink, start: number, isWhole: boolean): true {
  if (isWhole) sink.unfinishedTag?.(start);
  return true;
}

function flush(sink: TagSink, start: number, end: number): void {
  if (start < end && sink.wantsText) sink.text(start, end);
}

/** Offset of the end tag that ends an element's raw content, or of the end of the file. */
function endOfContent(bytes: Uint8Array, start: number, mode: ContentMode, tag: Tag): number {
  if (mode === ContentMode.Plaintext) return bytes.length;
  if (mode === ContentMode.ScriptData) return endOfScript(bytes, start);
  return endOfRawText(bytes, start, tag.nameStart, tag.nameEnd);
}

/** A tag from its name on (13.2.5.8); the offset after its `>`, or -1 when the file ends inside. */
function scanTag(bytes: Uint8Array, plain: string, start: number, nameStart: number, tag: Tag): number {
  const length = bytes.length;
  let attributes = tag.attributes;
  let count = 0;
  let at = nameStart;
  let byte = bytes[at] as number;
  // 13.2.5.8 Tag name state; letters come after all that ends a name
  while (
    byte > Byte.Greater ||
    (at < length && byte !== Byte.Greater && byte !== Byte.Slash && !isSpace(byte))
  ) {
    if (++at === length) return -1;
    byte = bytes[at] as number;
  }
  tag.start = start;
  tag.nameStart = nameStart;
  tag.nameEnd = at;
  tag.selfClosing = false;
  while (at < length) {
    // 13.2.5.32 Before attribute name state
    byte = bytes[at] as number;
    if (isSpace(byte)) {
      at++;
      continue;
    }
    if (byte === Byte.Slash) {
      // 13.2.5.40 Self-closing start tag state
      if (bytes[at + 1] === Byte.Greater) {
        tag.selfClosing = true;
        byte = Byte.Greater;
        at++;
      } else {
        at++;
        continue;
      }
    }
    if (byte === Byte.Greater) {
      tag.attributeCount = count;
      tag.end = at + 1;
      return at + 1;
    }
    // 13.2.5.33 Attribute name state, and 39 After attribute value (quoted) state, which begins one without a space, too;
    // a `=` may open a name but not stand inside it
    const attributeStart = at++;
    while (at < length) {
      byte = bytes[at] as number;
      if (byte <= Byte.Greater && endsAttributeName(byte)) break;
      at++;
    }
    const attributeEnd = at;
    // 13.2.5.34 After attribute name state
    while (at < length && isSpace(bytes[at] as number)) at++;
    let valueStart = -1;
    let valueEnd = -1;
    if (bytes[at] === Byte.Equals) {
      // 13.2.5.35 Before attribute value state
      at++;
      while (at < length && isSpace(bytes[at] as number)) at++;
      byte = bytes[at] as number;
      if (byte === Byte.Quote || byte === Byte.Apostrophe) {
        // 13.2.5.36 and 37 Attribute value states, quoted
        valueStart = ++at;
        at = plain.indexOf(byte === Byte.Quote ? '"' : "'", at);
        if (at < 0) return -1;
        valueEnd = at++;
      } else if (byte === Byte.Greater) {
        valueStart = valueEnd = at;
      } else {
        // 13.2.5.38 Attribute value (unquoted) state
        valueStart = at;
        while (at < length) {
          byte = bytes[at] as number;
          if (byte === Byte.Greater || isSpace(byte)) break;
          at++;
        }
        valueEnd = at;
      }
    }
    const slot = count * Slot.Width;
    if (slot === attributes.length) {
      attributes = new Int32Array(slot * 2);
      attributes.set(tag.attributes);
      tag.attributes = attributes;
    }
    attributes[slot] = attributeStart;
    attributes[slot + 1] = attributeEnd;
    attributes[slot + 2] = valueStart;
    attributes[slot + 3] = valueEnd;
    count++;
  }
  return -1;
}

/** Offset after a markup declaration: comment, doctype or CDATA section (13.2.5.42). */
function endOfDeclaration(bytes: Uint8Array, start: number, sink: TagSink): number {
  const at = start + 2;
  if (bytes[at] === Byte.Dash && bytes[at + 1] === Byte.Dash) {
    const end = endOfComment(bytes, at + 2);
    sink.comment?.(start, end);
    return end;
  }
  if (bytes[at] === Byte.OpenBracket && matches(bytes, at, '[CDATA[') && sink.inForeignContent()) {
    const close = indexOfRun(bytes, at + 7, ']]>');
    const end = close < 0 ? bytes.length : close;
    flush(sink, at + 7, end);
    return Math.min(end + 3, bytes.length);
  }
  // A doctype ends at its first `>` in every one of its states (13.2.5.53 to 68).
  const end = endOfBogusComment(bytes, at);
  if (matches(bytes, at, 'doctype')) sink.doctype(start, end);
  return end;
}

/** Offset after a comment whose text starts at `start` (13.2.5.43 to 52). */
function endOfComment(bytes: Uint8Array, start: number): number {
  if (bytes[start] === Byte.Greater) return start + 1;
  if (bytes[start] === Byte.Dash && bytes[start + 1] === Byte.Greater) return start + 2;
  for (let at = start; ; at++) {
    at = bytes.indexOf(Byte.Greater, at);
    if (at < 0) return bytes.length;
    const dashes = bytes[at - 1] === Byte.Bang ? at - 3 : at - 2;
    if (dashes >= start && bytes[dashes] === Byte.Dash && bytes[dashes + 1] === Byte.Dash) return at + 1;
  }
}

/** Offset after a bogus comment (13.2.5.41). */
function endOfBogusComment(bytes: Uint8Array, start: number): number {
  const close = bytes.indexOf(Byte.Greater, start);
  return close < 0 ? bytes.length : close + 1;
}

/** Offset of the appropriate end tag of an RCDATA or RAWTEXT element (13.2.5.9 to 14). */
function endOfRawText(bytes: Uint8Array, start: number, nameStart: number, nameEnd: number): number {
  for (let at = start; ; at++) {
    at = bytes.indexOf(Byte.Less, at);
    if (at < 0) return bytes.length;
    if (bytes[at + 1] === Byte.Slash && closesName(bytes, at + 2, nameStart, nameEnd)) return at;
  }
}

/** Offset of the end tag of a script element, its escaped states followed (13.2.5.15 to 31). */
function endOfScript(bytes: Uint8Array, start: number): number {
  const length = bytes.length;
  // "script data", its less-than, end tag and escape start states (13.2.5.4 and 15 to 19); "escaped" with its dash, less-than
  // and end tag states (20 to 25); "double escaped" with its start, dash, less-than and end states (26 to 31).
  let state: 'script data' | 'escaped' | 'double escaped' = 'script data';
  // Two of them stand for the states "dash dash".
  let dashes = 0;
  for (let at = start; at < length; at++) {
    const byte = bytes[at];
    if (byte === Byte.Dash) {
      dashes++;
    } else if (byte === Byte.Greater) {
      if (dashes >= 2) state = 'script data';
      dashes = 0;
    } else if (byte === Byte.Less) {
      dashes = 0;
      const slash = bytes[at + 1] === Byte.Slash;
      if (state !== 'double escaped' && slash && endsScriptName(bytes, at + 2)) return at;
      if (state === 'script data' && matches(bytes, at, '<!--')) {
        state = 'escaped';
        dashes = 2;
        at += 3;
      } else if (state === 'escaped' && !slash && endsScriptName(bytes, at + 1)) {
        state = 'double escaped';
        at += 'script'.length;
      } else if (state === 'double escaped' && slash && endsScriptName(bytes, at + 2)) {
        state = 'escaped';
        at += '/script'.length;
      }
    } else {
      dashes = 0;
    }
    if (state === 'script data') dashes = 0;
  }
  return length;
}

function endsAttributeName(byte: number): boolean {
  return byte === Byte.Equals || byte === Byte.Greater || byte === Byte.Slash || isSpace(byte);
}

function endsScriptName(bytes: Uint8Array, at: number): boolean {
  return matches(bytes, at, 'script') && endsName(bytes[at + 6]);
}

function closesName(bytes: Uint8Array, at: number, nameStart: number, nameEnd: number): boolean {
  for (let name = nameStart; name < nameEnd; name++, at++) {
    if (lower(bytes[at] as number) !== lower(bytes[name] as number)) return false;
  }
  return endsName(bytes[at]);
}

function endsName(byte: number | undefined): boolean {
  return byte !== undefined && (byte === Byte.Greater || byte === Byte.Slash || isSpace(byte));
}

/** True where the ASCII `text` stands at `at`; letters in lower case match both cases. */
function matches(bytes: Uint8Array, at: number, text: string): boolean {
  for (let index = 0; index < text.length; index++) {
    const wanted = text.charCodeAt(index);
    const byte = bytes[at + index];
    if (byte !== wanted && (byte === undefined || wanted < Byte.A || lower(byte) !== wanted)) return false;
  }
  return true;
}

function indexOfRun(bytes: Uint8Array, start: number, text: string): number {
  const first = text.charCodeAt(0);
  for (let at = bytes.indexOf(first, start); at >= 0; at = bytes.indexOf(first, at + 1)) {
    if (matches(bytes, at, text)) return at;
  }
  return -1;
}

function lower(byte: number): number {
  return byte >= Byte.CapitalA && byte <= Byte.CapitalZ ? byte | Byte.Small : byte;
}

function isAlpha(byte: number): boolean {
  const letter = byte | Byte.Small;
  return letter >= Byte.A && letter <= Byte.Z;
}

/** The white space of the tokenizer; carriage returns are newlines by then (13.2.3.5). */
function isSpace(byte: number): boolean {
  return (
    byte === Byte.Space ||
    byte === Byte.LineFeed ||
    byte === Byte.Tab ||
    byte === Byte.CarriageReturn ||
    byte === Byte.FormFeed
  );
}
