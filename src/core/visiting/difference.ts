/** How what a host serves differs from what was packed, as far as that can be told. */
import { areEqual } from '../change/files.ts';
import type { Difference } from '../judge/visit.ts';
import { decoderFor } from '../read/encoding.ts';
import { encodingOf } from '../read/written-as.ts';
import { isPageName, isText } from '../site/formats.ts';

/** Characters of what was put in that are shown. */
const SHOWN = 60;
/** Encodings that hosts change texts to. */
const OTHERS = ['utf-8', 'windows-1252', 'utf-16le', 'utf-16be'];
const MARK = /^\uFEFF/;

/** Null where it is the same, byte for byte. */
export function differenceOf(file: string, packed: Uint8Array, served: Uint8Array): Difference | null {
  if (areEqual(packed, served)) return null;
  if (isText(file)) {
    const told = differenceOfText(file, packed, served);
    if (told !== null) return told;
  }
  const [bytes, of] = [served.length, packed.length];
  if (bytes < of && areEqual(packed.subarray(0, bytes), served)) return { is: 'cut', bytes, of };
  if (!isPageName(file) && looksLikePage(served)) return { is: 'page' };
  return { is: 'other', bytes, of };
}

function differenceOfText(file: string, packed: Uint8Array, served: Uint8Array): Difference | null {
  const encoding = encodingOf(file, packed);
  const own = decoderFor(encoding).decode(packed);
  const text = decoderFor(encoding).decode(served);
  if (withoutMark(text) === withoutMark(own)) return { is: 'mark' };
  for (const other of OTHERS) {
    // A declaration of the encoding may be another one, too.
    const decoded = withoutMark(decoderFor(other).decode(served));
    if (other !== encoding && withoutName(decoded) === withoutName(withoutMark(own)))
      return { is: 'encoding', encoding: other };
  }
  if (withLines(text) === withLines(own)) return { is: 'line-ends' };
  const added = addedTo(withLines(own), withLines(text));
  if (added !== null) return { is: 'added', amount: added.length, start: added.trim().slice(0, SHOWN) };
  return bare(text) === bare(own) ? { is: 'white-space' } : null;
}

function withoutMark(text: string): string {
  return text.replace(MARK, '');
}

function withoutName(text: string): string {
  return text.replace(/(charset\s*=\s*["']?)[\w-]+/gi, '$1');
}

function withLines(text: string): string {
  return text.replace(/\r\n?/g, '\n');
}

/** Without comments, and without white space that stands for none in markup and code. */
function bare(text: string): string {
  return text.replace(/<!--.*?-->|\/\*.*?\*\//gs, '').replace(/\s+/g, '');
}

/** What was put into a text at one place, or as elements that it did not have; null where something else happened. */
function addedTo(own: string, served: string): string | null {
  if (served.length <= own.length) return null;
  let start = 0;
  while (start < own.length && own[start] === served[start]) start++;
  let end = 0;
  while (end < own.length - start && own.at(-1 - end) === served.at(-1 - end)) end++;
  if (start + end === own.length) {
    const amount = served.length - own.length;
    // Where what was put in ends as what stands before it does, it may begin earlier just as well: as an element does.
    let at = start;
    while (at > 0 && served[at] !== '<' && served[at - 1] === served[at + amount - 1]) at--;
    if (served[at] !== '<') at = start;
    return served.slice(at, at + amount);
  }
  const added: string[] = [];
  const rest = served.replace(
    /<(script|style|noscript|iframe)\b.*?<\/\1\s*>|<(?:link|meta|img)\b[^>]*>/gis,
    (whole) => {
      if (own.includes(whole)) return whole;
      added.push(whole);
      return '';
    },
  );
  return added.length > 0 && bare(rest) === bare(own) ? added.join('') : null;
}

/** True for bytes that begin as a page does. */
export function looksLikePage(bytes: Uint8Array): boolean {
  const start = new TextDecoder('latin1').decode(bytes.subarray(0, 1000));
  return /^\s*(?:<!--.*?-->\s*)*<(?:!doctype html|html|head|body)\b/is.test(start);
}
