/** How the lines of a project's files end. */
import { Byte } from '../bytes.ts';
import { globMatcher } from './globs.ts';

export type LineEnd = '\n' | '\r\n';

const words: ReadonlyMap<string, LineEnd> = new Map([
  ['lf', '\n'],
  ['crlf', '\r\n'],
]);

/** What a project's settings for editors say of its pages (EditorConfig 0.17, `end_of_line`); null where they do not. */
export function lineEndForEditors(text: string): LineEnd | null {
  let said: LineEnd | null = null;
  let applies = false;
  for (const line of text.split(/\r?\n/)) {
    const [, section] = /^\s*\[(.+)\]\s*$/.exec(line) ?? [];
    if (section !== undefined) applies = isForPages(section);
    const [, value = ''] = /^\s*end_of_line\s*=\s*(\w+)/i.exec(line) ?? [];
    if (applies) said = words.get(value.toLowerCase()) ?? said;
  }
  return said;
}

/** What a project's settings for version control say of its pages (gitattributes(5), `eol`); null where they do not. */
export function lineEndForVersions(text: string): LineEnd | null {
  let said: LineEnd | null = null;
  for (const line of text.split(/\r?\n/)) {
    const [pattern = '', ...attributes] = line.trim().split(/\s+/);
    if (pattern === '' || pattern.startsWith('#') || !isForPages(pattern)) continue;
    for (const attribute of attributes) said = words.get(/^eol=(\w+)$/.exec(attribute)?.[1] ?? '') ?? said;
  }
  return said;
}

function isForPages(glob: string): boolean {
  try {
    return globMatcher([glob.includes('/') ? glob.replace(/^\//, '') : `**/${glob}`])('index.html');
  } catch {
    return false;
  }
}

/** What most of the files have. */
export function lineEndOfMost(files: Iterable<Uint8Array>): LineEnd {
  let surplus = 0;
  for (const bytes of files) {
    const at = bytes.indexOf(Byte.LineFeed);
    if (at >= 0) surplus += bytes[at - 1] === Byte.CarriageReturn ? 1 : -1;
  }
  return surplus > 0 ? '\r\n' : '\n';
}

/** A text in an encoding that has ASCII in it, its lines ended like this. What ends in both ways stays. */
export function withLineEnd(bytes: Uint8Array, end: LineEnd): Uint8Array {
  if (bytes.includes(0) || (end === '\n') !== bytes.includes(Byte.CarriageReturn)) return bytes;
  const out: number[] = [];
  for (const [at, byte] of bytes.entries()) {
    if (end === '\r\n' && byte === Byte.LineFeed) out.push(Byte.CarriageReturn);
    if (end === '\r\n' || byte !== Byte.CarriageReturn || bytes[at + 1] !== Byte.LineFeed) out.push(byte);
  }
  return Uint8Array.from(out);
}
