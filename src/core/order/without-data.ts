/** Takes large data out of scripts before they are parsed: a search index of 5 MB makes one name, and needs none. */
import { Byte } from '../bytes.ts';

/** Smaller literals are parsed as fast as they are looked at. */
const LEAST = 2000;

/** The text with large literals of data emptied; everything else keeps its place. */
export function withoutData(text: string): string {
  if (text.length < LEAST) return text;
  const pieces: string[] = [];
  let kept = 0;
  for (let at = nextBracket(text, 0); at < text.length; ) {
    const { end, isData } = dataAt(text, at);
    if (isData && end - at >= LEAST) {
      // A list that had something in it has so still.
      const rest = text.charCodeAt(at) === Byte.OpenBracket ? '0' : ' ';
      pieces.push(text.slice(kept, at + 1), rest, ' '.repeat(end - at - 3));
      kept = end - 1;
    }
    at = nextBracket(text, end);
  }
  return kept === 0 ? text : pieces.join('') + text.slice(kept);
}

function nextBracket(text: string, from: number): number {
  for (let at = from; at < text.length; at++) {
    const code = text.charCodeAt(at);
    if (code === Byte.OpenBracket || code === Byte.OpenBrace) return at;
  }
  return text.length;
}

/** Whether the brackets that open at `start` hold data alone; `end` is behind them, or where they turn out not to. */
function dataAt(text: string, start: number): { readonly end: number; readonly isData: boolean } {
  let depth = 0;
  for (let at = start; at < text.length; ) {
    const code = text.charCodeAt(at);
    if (code === Byte.OpenBracket || code === Byte.OpenBrace) depth++;
    else if (code === Byte.CloseBracket || code === Byte.CloseBrace) {
      if (--depth === 0) return { end: at + 1, isData: true };
    } else if (code === Byte.Quote || code === Byte.Apostrophe) {
      const behind = endOfString(text, at, code);
      if (behind < 0) return { end: at + 1, isData: false };
      at = behind;
      continue;
    } else if (!isOfData(code)) {
      const word = wordAt(text, at);
      if (word === 0) return { end: Math.max(at, start + 1), isData: false };
      at += word;
      continue;
    }
    at++;
  }
  return { end: text.length, isData: false };
}

/** Behind the string that starts there; below 0 where it is none. */
function endOfString(text: string, start: number, quote: number): number {
  for (let at = start + 1; at < text.length; at++) {
    const code = text.charCodeAt(at);
    if (code === quote) return at + 1;
    if (code === Byte.Backslash) at++;
    else if (code === Byte.LineFeed || code === Byte.CarriageReturn) return -1;
  }
  return -1;
}

/** White space, numbers, commas, colons. */
function isOfData(code: number): boolean {
  return (
    (code >= Byte.Zero && code <= Byte.Nine) ||
    code === Byte.Comma ||
    code === Byte.Colon ||
    code === Byte.Space ||
    code === Byte.Dot ||
    code === Byte.Dash ||
    code === Byte.LineFeed ||
    code === Byte.CarriageReturn ||
    code === Byte.Tab
  );
}

const WORD = /(?:true|false|null)\b(?!\s*[:(])|[\w$]+(?=\s*:)/y;

/** The length of a word that is a value or a key; 0 for everything else. */
function wordAt(text: string, at: number): number {
  WORD.lastIndex = at;
  return WORD.exec(text)?.[0].length ?? 0;
}
