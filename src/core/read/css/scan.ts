/**
 * The CSS scanner: finds the tokens that can hold an address, by CSS Syntax Level 3, section 4.3.
 *
 * It works on bytes of an ASCII-compatible encoding and reports spans; all that is neither a string,
 * an address, a name nor a bracket passes by unreported.
 */
import { Byte } from '../../bytes.ts';

export interface CssSink {
  /** A quoted string, without its quotes (4.3.5). A string cut off by a newline is not reported. */
  string(start: number, end: number): void;
  /** An unquoted `url(…)`: the address between the parentheses, white space trimmed (4.3.6). */
  url(start: number, end: number): void;
  /** A name followed by `(`; `url(` with a quoted address comes this way too. */
  open(nameStart: number, nameEnd: number): void;
  /** A closing parenthesis. */
  close(): void;
  /** An at-keyword; the span leaves out the `@`. */
  atKeyword(nameStart: number, nameEnd: number): void;
  /** `;`, `{` or `}`: where a statement, a block or a declaration ends. */
  boundary(byte: number, at: number): void;
  /** A comment, its delimiters included where it has both (4.3.2). */
  comment(start: number, end: number): void;
  /** A string that a newline cuts off, from its quote on (4.3.5, bad-string token). */
  brokenString(start: number, end: number): void;
  /** What is no part of any grammar of CSS: `<` before a name, and curly quotes. */
  stranger(at: number): void;
}

/** Scans a stylesheet or a declaration list. Never throws. */
export function scanCss(bytes: Uint8Array, sink: CssSink): void {
  const length = bytes.length;
  let at = 0;
  while (at < length) {
    const byte = bytes[at] as number;
    if (byte === Byte.Slash && bytes[at + 1] === Byte.Star) {
      const start = at;
      at = endOfComment(bytes, at + 2);
      sink.comment(start, at);
    } else if (
      byte === Byte.Less &&
      bytes[at + 1] === Byte.Bang &&
      bytes[at + 2] === Byte.Dash &&
      bytes[at + 3] === Byte.Dash
    ) {
      // A CDO token (4.3.1): its dashes open no name.
      at += 4;
    } else if (byte === Byte.Quote || byte === Byte.Apostrophe) {
      at = scanString(bytes, at, sink);
    } else if (startsName(bytes, at)) {
      if (byte === 0xe2 && isCurlyQuote(bytes, at)) sink.stranger(at);
      at = scanIdentLike(bytes, at, sink);
    } else if (byte === Byte.At) {
      const end = startsName(bytes, at + 1) ? endOfName(bytes, at + 1) : at + 1;
      if (end > at + 1) sink.atKeyword(at + 1, end);
      at = end;
    } else if (byte === Byte.Hash) {
      at = endOfName(bytes, at + 1);
    } else if (isDigit(byte)) {
      // A number and its unit are one token (4.3.3), so that `1url(` opens no address.
      while (at < length && isDigit(bytes[at])) at++;
      if (bytes[at] === Byte.Dot && isDigit(bytes[at + 1])) at++;
      while (at < length && isDigit(bytes[at])) at++;
      if (startsName(bytes, at)) at = endOfName(bytes, at);
    } else {
      if (byte === Byte.CloseParenthesis) sink.close();
      else if (byte === Byte.OpenParenthesis) sink.open(at, at);
      else if (byte === Byte.Semicolon || byte === Byte.OpenBrace || byte === Byte.CloseBrace)
        sink.boundary(byte, at);
      else if (byte === Byte.Less && (startsName(bytes, at + 1) || bytes[at + 1] === Byte.Slash))
        sink.stranger(at);
      at++;
    }
  }
}

/** The text of a name, string or address with its escapes decoded (4.3.7). */
export function decodeEscapes(text: string): string {
  if (!text.includes('\\')) return text;
  return text.replace(
    /\\(?:(\r\n|[\n\r\f])|([0-9a-fA-F]{1,6})(?:\r\n|[ \t\n\r\f])?|(.?))/gsu,
    (_whole, newline: string | undefined, hex: string | undefined, other: string) => {
      if (newline !== undefined) return '';
      // At the end of the file a backslash stands for U+FFFD.
      if (hex === undefined) return other || '\uFFFD';
      const code = Number.parseInt(hex, 16);
      const usable = code > 0 && code <= 0x10ffff && !(code >= 0xd800 && code <= 0xdfff);
      return usable ? String.fromCodePoint(code) : '\uFFFD';
    },
  );
}

function endOfComment(bytes: Uint8Array, start: number): number {
  for (let at = bytes.indexOf(Byte.Star, start); at >= 0; at = bytes.indexOf(Byte.Star, at + 1)) {
    if (bytes[at + 1] === Byte.Slash) return at + 2;
  }
  return bytes.length;
}

/** 4.3.5 Consume a string token; the offset after it. */
function scanString(bytes: Uint8Array, start: number, sink: CssSink): number {
  const quote = bytes[start];
  let at = start + 1;
  while (at < bytes.length) {
    const byte = bytes[at];
    if (byte === quote) break;
    if (byte === Byte.Backslash) {
      if (at + 1 === bytes.length) break;
      if (isNewline(bytes[at + 1]))
        at += bytes[at + 1] === Byte.CarriageReturn && bytes[at + 2] === Byte.LineFeed ? 3 : 2;
      else at = endOfEscape(bytes, at + 1);
      continue;
    }
    if (isNewline(byte)) {
      sink.brokenString(start, at);
      return at;
    }
    at++;
  }
  sink.string(start + 1, Math.min(at, bytes.length));
  return at + 1;
}

/** 4.3.4 Consume an ident-like token; the offset after it. */
function scanIdentLike(bytes: Uint8Array, start: number, sink: CssSink): number {
  const end = endOfName(bytes, start);
  if (bytes[end] !== Byte.OpenParenthesis) return end;
  if (isUrlName(bytes, start, end)) {
    let at = end + 1;
    while (isSpace(bytes[at])) at++;
    if (bytes[at] !== Byte.Quote && bytes[at] !== Byte.Apostrophe) return scanUrl(bytes, at, sink);
  }
  sink.open(start, end);
  return end + 1;
}

/** 4.3.6 Consume a url token, from its first byte that is not white space. */
function scanUrl(bytes: Uint8Array, start: number, sink: CssSink): number {
  let at = start;
  while (at < bytes.length) {
    const byte = bytes[at] as number;
    if (byte === Byte.CloseParenthesis) {
      sink.url(start, at);
      return at + 1;
    }
    if (isSpace(byte)) {
      const end = at;
      while (isSpace(bytes[at])) at++;
      if (at < bytes.length && bytes[at] !== Byte.CloseParenthesis) return endOfBadUrl(bytes, at);
      sink.url(start, end);
      return at + 1;
    }
    if (
      byte === Byte.Quote ||
      byte === Byte.Apostrophe ||
      byte === Byte.OpenParenthesis ||
      isNonPrintable(byte)
    )
      return endOfBadUrl(bytes, at);
    if (byte === Byte.Backslash) {
      if (isNewline(bytes[at + 1])) return endOfBadUrl(bytes, at);
      at = Math.min(endOfEscape(bytes, at + 1), bytes.length);
      continue;
    }
    at++;
  }
  sink.url(start, bytes.length);
  return bytes.length;
}

/** 4.3.14 Consume the remnants of a bad url. */
function endOfBadUrl(bytes: Uint8Array, start: number): number {
  for (let at = start; at < bytes.length; at++) {
    if (bytes[at] === Byte.CloseParenthesis) return at + 1;
    if (bytes[at] === Byte.Backslash && !isNewline(bytes[at + 1])) at++;
  }
  return bytes.length;
}

/** 4.3.9 Would three code points start an ident sequence? */
function startsName(bytes: Uint8Array, at: number): boolean {
  const byte = bytes[at];
  if (byte === Byte.Dash) {
    const next = bytes[at + 1];
    return isNameStart(next) || next === Byte.Dash || startsEscape(bytes, at + 1);
  }
  return isNameStart(byte) || startsEscape(bytes, at);
}

/** 4.3.11 Consume an ident sequence; the offset after it. */
function endOfName(bytes: Uint8Array, start: number): number {
  let at = start;
  for (;;) {
    if (isNameStart(bytes[at]) || isDigit(bytes[at]) || bytes[at] === Byte.Dash) at++;
    else if (startsEscape(bytes, at)) at = Math.min(endOfEscape(bytes, at + 1), bytes.length);
    else return at;
  }
}

/** 4.3.7 Consume an escaped code point, from after the backslash. */
function endOfEscape(bytes: Uint8Array, start: number): number {
  let at = start;
  while (at < start + 6 && isHex(bytes[at])) at++;
  if (at === start) return at + 1;
  if (bytes[at] === Byte.CarriageReturn && bytes[at + 1] === Byte.LineFeed) return at + 2;
  return isSpace(bytes[at]) ? at + 1 : at;
}

/** 4.3.8 Are two code points a valid escape? At the end of the file a backslash stands for U+FFFD. */
function startsEscape(bytes: Uint8Array, at: number): boolean {
  return bytes[at] === Byte.Backslash && !isNewline(bytes[at + 1]);
}

/** U+2018, U+2019, U+201C or U+201D in UTF-8. */
function isCurlyQuote(bytes: Uint8Array, at: number): boolean {
  const last = bytes[at + 2];
  return bytes[at + 1] === 0x80 && (last === 0x98 || last === 0x99 || last === 0x9c || last === 0x9d);
}

function isUrlName(bytes: Uint8Array, start: number, end: number): boolean {
  if (end - start === 3) {
    return (
      ((bytes[start] as number) | Byte.Small) === Byte.U &&
      ((bytes[start + 1] as number) | Byte.Small) === Byte.R &&
      ((bytes[start + 2] as number) | Byte.Small) === Byte.L
    );
  }
  // Three characters of at most an eight-byte escape each.
  if (end - start > 24) return false;
  const name = String.fromCharCode(...bytes.subarray(start, end));
  return name.includes('\\') && decodeEscapes(name).toLowerCase() === 'url';
}

function isNameStart(byte: number | undefined): boolean {
  if (byte === undefined) return false;
  const letter = byte | Byte.Small;
  return (
    (letter >= Byte.A && letter <= Byte.Z) ||
    byte >= Byte.BeyondAscii ||
    byte === Byte.Underscore ||
    byte === 0
  );
}

function isDigit(byte: number | undefined): boolean {
  return byte !== undefined && byte >= Byte.Zero && byte <= Byte.Nine;
}

function isHex(byte: number | undefined): boolean {
  if (byte === undefined) return false;
  const letter = byte | Byte.Small;
  return isDigit(byte) || (letter >= Byte.A && letter <= Byte.F);
}

function isNewline(byte: number | undefined): boolean {
  return byte === Byte.LineFeed || byte === Byte.CarriageReturn || byte === Byte.FormFeed;
}

function isSpace(byte: number | undefined): boolean {
  return byte === Byte.Space || byte === Byte.Tab || isNewline(byte);
}

function isNonPrintable(byte: number): boolean {
  return (
    (byte > 0 && byte <= 0x08) ||
    byte === Byte.VerticalTab ||
    (byte >= 0x0e && byte <= 0x1f) ||
    byte === Byte.Delete
  );
}
