/** Puts elements into the head of a page, takes them there, and gives elements attributes. */

import type { Edit } from '../change/edit.ts';
import { startOfText } from '../read/source.ts';
import { beforeEnd, leadOf, mannerOf } from './manner.ts';
import { removal } from './removal.ts';
import type { Range, Tagged, Tags } from './tags.ts';

/** Puts markup in front of all else in the head, on a line of its own where the others have one. */
export function atHeadStart(outline: Tags, markup: string): Edit {
  const { page } = outline;
  const first = outline.elements.find(({ region, name }) => region === 'head' && name !== 'head');
  const head = outline.first('head');
  const before = head?.startTag.end ?? outline.first('html')?.startTag.end ?? outline.doctypeEnd;
  // What comes first may be far down, behind a comment.
  const lead = first === undefined ? '' : leadOf(outline, first);
  if (before > 0) return { start: before, end: before, text: `${lead}${markup}` };
  const start = startOfText(page.source.plain);
  return { start, end: start, text: `${markup}${page.newline}` };
}

/** Puts markup behind all else in the head. */
export function atHeadEnd(outline: Tags, markup: string): Edit {
  const head = outline.first('head');
  const end = head === null ? null : beforeEnd(outline, head);
  if (end !== null) return { start: end.at, end: end.at, text: `${end.lead}${markup}` };
  const last = outline.elements.findLast(({ region, name }) => region === 'head' && name !== 'head');
  return last === undefined ? atHeadStart(outline, markup) : behind(outline, last, markup);
}

/** Puts markup right behind an element, as that stands. */
export function behind(outline: Tags, neighbour: Range, markup: string): Edit {
  return { start: neighbour.end, end: neighbour.end, text: `${leadOf(outline, neighbour)}${markup}` };
}

/** A `meta` element with a name, written in the manner of the page. */
export function namedMeta(outline: Tags, name: string, content: string): string {
  const attributes = [
    ['name', name],
    ['content', content],
  ] as const;
  return mannerOf(outline).element('meta', attributes, false);
}

/** Takes an element out of its place, and gives what it is written as. */
export function takenOut(outline: Tags, element: Range): { readonly edit: Edit; readonly markup: string } {
  return { edit: removal(outline, element), markup: outline.page.text(element.start, element.end) };
}

/** Gives an element an attribute that it lacks. */
export function addAttributeTo({ page }: Tags, { startTag }: Tagged, attribute: string): Edit {
  const { plain } = page.source;
  let at = startTag.end - 1;
  if (plain[at - 1] === '/') at--;
  const space = /\s/.test(plain[at - 1] ?? '');
  return { start: at, end: at, text: space ? attribute : ` ${attribute}` };
}

/** The element in whose start tag, or at which, a byte of the file stands. */
export function elementAt<T extends Tagged>(
  { page, elements }: Pick<Tags, 'page'> & { readonly elements: readonly T[] },
  offset: number,
): T | null {
  const found = elements.findLast(({ startTag }) => page.offsetInFile(startTag.start) <= offset);
  if (found === undefined) return null;
  return page.offsetInFile(found.startTag.end) > offset ? found : null;
}
