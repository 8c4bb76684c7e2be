/** Finds the strings of scripts that are data: everything else in them is plain enough to be passed over. */
import { Byte } from '../../bytes.ts';
import { ASKING_WORDS } from './addresses.ts';

/** A string literal: `start` and `end` are the UTF-16 positions of its quotes, the second one included. */
export interface PlainString {
  readonly start: number;
  readonly end: number;
  /** A backslash stands in it, and a dot. */
  readonly isEscaped: boolean;
  readonly isDotted: boolean;
}

/**
 * The strings of `text` that hold a dot, in order; null where it holds something that only a parser tells apart: templates, regular
 * expressions and divisions, or a word that may make an address of what follows it.
 */
export function plainStrings(text: string): PlainString[] | null {
  const strings: PlainString[] = [];
  const { length } = text;
  for (let at = 0; at < length; ) {
    const code = text.charCodeAt(at);
    if (code === Byte.Quote || code === Byte.Apostrophe) {
      const string = stringAt(text, at, code);
      if (string === null) return null;
      if (string.isDotted) strings.push(string);
      at = string.end;
    } else if (code === Byte.Slash) {
      const end = endOfComment(text, at);
      if (end < 0) return null;
      at = end;
    } else if (isLetter(code)) {
      const start = at++;
      while (at < length && isInWord(text.charCodeAt(at))) at++;
      if (at - start >= 3 && ASKING_WORDS.has(text.slice(start, at)) && !isKey(text, at)) return null;
    } else if (code === Byte.Backtick || code === Byte.Backslash || code === Byte.Hash) {
      return null;
    } else if (code === Byte.Less && text.charCodeAt(at + 1) === Byte.Bang) {
      return null;
    } else if (code === Byte.Greater && text.startsWith('--', at - 2)) {
      return null;
    } else at++;
  }
  return strings;
}

function stringAt(text: string, start: number, quote: number): PlainString | null {
  let isEscaped = false;
  let isDotted = false;
  for (let at = start + 1; at < text.length; at++) {
    const code = text.charCodeAt(at);
    if (code === quote) return { start, end: at + 1, isEscaped, isDotted };
    if (code === Byte.Dot) isDotted = true;
    else if (code === Byte.Backslash) {
      isEscaped = true;
      if (text.charCodeAt(++at) === Byte.Dot) isDotted = true;
    } else if (code === Byte.LineFeed || code === Byte.CarriageReturn) return null;
  }
  return null;
}

/** After the comment that starts at `at`; negative for what is none. */
function endOfComment(text: string, at: number): number {
  const next = text.charCodeAt(at + 1);
  if (next === Byte.Star) {
    const close = text.indexOf('*/', at + 2);
    return close < 0 ? -1 : close + 2;
  }
  if (next !== Byte.Slash) return -1;
  const rest = /[\n\r\u2028\u2029]/g;
  rest.lastIndex = at;
  return rest.exec(text)?.index ?? text.length;
}

/** True where a colon follows: the word is the name of a property. */
function isKey(text: string, at: number): boolean {
  let code = text.charCodeAt(at);
  while (code === Byte.Space || code === Byte.Tab || code === Byte.LineFeed || code === Byte.CarriageReturn)
    code = text.charCodeAt(++at);
  return code === Byte.Colon;
}

function isLetter(code: number): boolean {
  const letter = code | Byte.Small;
  return (
    (letter >= Byte.A && letter <= Byte.Z) ||
    code === Byte.Underscore ||
    code === Byte.Dollar ||
    code >= Byte.BeyondAscii
  );
}

function isInWord(code: number): boolean {
  return isLetter(code) || (code >= Byte.Zero && code <= Byte.Nine);
}
