/** Edits that make something of a stylesheet take effect; places are bytes of the file, which `plain` has one character for each. */
import type { Edit } from '../change/edit.ts';

/** What may stand before an `@import` (CSS Cascade 5, 2), and what parts it. */
const BEFORE_IMPORTS =
  /(?:\s+|\/\*[\s\S]*?\*\/|@(?:charset|import|layer)\b(?:[^;{}"'()]|"[^"]*"|'[^']*'|\([^)]*\))*;)*/iy;
const STATEMENT = /@import\b(?:[^;{}"'()]|"[^"]*"|'[^']*'|\([^)]*\))*;/iy;

/** Moves an `@import` to where it counts; null where it is not written as usual. */
export function moveImport(plain: string, offset: number, isPage: boolean): readonly Edit[] | null {
  STATEMENT.lastIndex = offset;
  const [statement] = STATEMENT.exec(plain) ?? [];
  const first = startOfStyles(plain, offset, isPage);
  // What is not ASCII would have to be written in the file's own encoding.
  if (statement === undefined || first === null || /[^\t\n\r -~]/.test(statement)) return null;
  BEFORE_IMPORTS.lastIndex = first;
  const [before = ''] = BEFORE_IMPORTS.exec(plain) ?? [];
  const kept = before.replace(/\s+$/, '').length;
  const at = first + kept;
  const newline = plain.includes('\r\n') ? '\r\n' : '\n';
  const indent = isPage ? (/[ \t]*$/.exec(before)?.[0] ?? '') : '';
  const put = kept === 0 && !isPage ? `${statement}${newline}` : `${newline}${indent}${statement}`;
  const lead = /(?:\r?\n)?[ \t]*$/.exec(plain.slice(Math.max(0, offset - 200), offset))?.[0].length ?? 0;
  return [
    { start: at, end: at, text: put },
    { start: offset - lead, end: offset + statement.length, text: '' },
  ];
}

/** Puts the address of an `@import` in quotes. */
export function quoteImport(plain: string, offset: number): readonly Edit[] | null {
  const pattern = /@import\s+([\w./%~-]+\.css)(?=[\s;])/iy;
  pattern.lastIndex = offset;
  const [whole, address] = pattern.exec(plain) ?? [];
  if (whole === undefined || address === undefined) return null;
  const end = offset + whole.length;
  return [{ start: end - address.length, end, text: `"${address}"` }];
}

/** Curly quotes in UTF-8. */
const CURLY = /\xe2\x80[\x98-\x9f]/g;

/** Straight quotes in the place of the curly ones of a line, all of one sort. */
export function straightQuotes(plain: string, offset: number): readonly Edit[] {
  const from = plain.lastIndexOf('\n', offset) + 1;
  const next = plain.indexOf('\n', offset);
  const line = plain.slice(from, next < 0 ? undefined : next);
  return Array.from(line.matchAll(CURLY), ({ index }) => {
    const text = (plain.charCodeAt(from + index + 2) & 7) < 4 ? "'" : '"';
    return { start: from + index, end: from + index + 3, text };
  });
}

/** Where the stylesheet begins that a place is in; null where that cannot be told. */
function startOfStyles(plain: string, offset: number, isPage: boolean): number | null {
  if (!isPage) return plain.startsWith('\xef\xbb\xbf') || plain.startsWith('\x1a\x1a\x1a') ? 3 : 0;
  const tag = plain.slice(0, offset).toLowerCase().lastIndexOf('<style');
  const end = tag < 0 ? -1 : plain.indexOf('>', tag);
  return end < 0 || end > offset ? null : end + 1;
}
