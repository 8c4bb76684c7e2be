/** Parts: marked regions that repeat on every page; the entry page holds the master copy. */

import type { Edit } from '../change/edit.ts';
import { fail } from '../errors.ts';
import { type Names, rebase, type Standpoint } from '../mend/rebase.ts';
import { isLink } from '../read/holder.ts';
import { positionsIn } from '../read/lines.ts';
import type { Reference } from '../read/reading.ts';
import { resolve } from '../resolve/resolve.ts';
import { INDEX } from '../site/formats.ts';
import type { Page } from './page.ts';

/** A marked region of a page; offsets as in {@link Page}. */
export interface Part {
  readonly name: string;
  /** Where its first comment starts and its last one ends. */
  readonly start: number;
  readonly end: number;
  /** What stands between the comments. */
  readonly innerStart: number;
  readonly innerEnd: number;
}

const MARK = /<!--[\t\n\f\r ]*(end of part|part):[\t\n\f\r ]*([^\s>-][^\s>]*?)[\t\n\f\r ]*-->/gi;
const NAME = /^[a-z0-9]+(?:-[a-z0-9]+)*$/;

/** The comments that mark a part, for its first and its last line. */
export const openingMark = (name: string) => `<!-- Part: ${name} -->`;
export const closingMark = (name: string) => `<!-- End of part: ${name} -->`;

export function isPartName(name: string): boolean {
  return NAME.test(name);
}

/** A mark that does not pair up. */
export interface BadMark {
  readonly name: string;
  readonly offset: number;
  readonly length: number;
  readonly what: string;
  readonly mend: string;
}

/** The parts of a page, in order. Throws a `CravelError` where marks do not pair up. */
export function partsOf(page: Page): Part[] {
  const { parts, bad } = readMarks(page);
  if (bad === null) return parts;
  const { line, column } = positionsIn(page.source.bytes)(bad.offset);
  throw fail('bad-part', `${page.file} ${line}:${column}`, bad.what, bad.mend);
}

/** The parts of a page up to the first mark that does not pair up. */
export function readMarks({ source }: Page): { readonly parts: Part[]; readonly bad: BadMark | null } {
  const parts: Part[] = [];
  const names = new Set<string>();
  let open: { name: string; start: number; innerStart: number } | null = null;
  for (const match of source.plain.matchAll(MARK)) {
    const [mark, word = '', written = ''] = match;
    const name = written.toLowerCase();
    const offset = match.index;
    const end = offset + mark.length;
    const bad = (what: string, mend: string) => ({
      parts,
      bad: { name, offset, length: mark.length, what, mend },
    });
    if (word.toLowerCase() !== 'part') {
      if (open === null || open.name !== name) {
        return bad(
          `the part ${name} ends here, and does not begin before`,
          `Mark where it begins: ${openingMark(name)}`,
        );
      }
      parts.push({ ...open, innerEnd: offset, end });
      open = null;
      continue;
    }
    if (open !== null) {
      const what: string = `the part ${name} begins inside the part ${open.name}`;
      return bad(what, `End it first: ${closingMark(open.name)}`);
    }
    if (!isPartName(name))
      return bad(`${name} is no name for a part`, 'Use small letters, digits and dashes.');
    if (names.has(name)) {
      return bad(`the part ${name} is there twice`, 'Give one of them another name.');
    }
    names.add(name);
    open = { name, start: offset, innerStart: end };
  }
  if (open === null) return { parts, bad: null };
  const { name, start, innerStart } = open;
  const bad = {
    name,
    offset: start,
    length: innerStart - start,
    what: `the part ${name} has no end`,
    mend: `Mark where it ends: ${closingMark(name)}`,
  };
  return { parts, bad };
}

/** A part of the entry page, ready to be copied. */
export interface Master {
  readonly name: string;
  /** Where it stands on the entry page. */
  readonly part: Part;
  /** Its content for another page. */
  contentFor(page: Pick<Page, 'file' | 'base' | 'newline'>, anchors: Names): string;
}

/** The mark that says which link leads to the page it stands on (WAI-ARIA 1.2, aria-current). */
export const CURRENT =
  /[\t\n\f\r ]+aria-current[\t\n\f\r ]*=[\t\n\f\r ]*(?:"page"|'page'|page(?=[\t\n\f\r />]))/gi;
const NAV = /<nav[\t\n\f\r />][\s\S]*?<\/nav[\t\n\f\r ]*>/gi;

/** The masters of an entry page that is being checked; none where its marks do not pair up. */
export function mastersIn(entry: Page): ReadonlyMap<string, Master> {
  return readMarks(entry).bad === null ? mastersOf(entry) : new Map();
}

/** The masters on the entry page by their names, in order. */
export function mastersOf(entry: Page): Map<string, Master> {
  const references = entry.reading.references.toSorted((a, b) => a.offset - b.offset);
  let next = 0;
  const masters = new Map<string, Master>();
  for (const part of partsOf(entry)) {
    while (next < references.length && (references[next] as Reference).offset < part.innerStart) next++;
    const first = next;
    while (next < references.length && endOf(references[next] as Reference) <= part.innerEnd) next++;
    masters.set(part.name, masterOf(entry, part, references.slice(first, next)));
  }
  return masters;
}

function endOf({ offset, length }: Reference): number {
  return offset + length;
}

/** `references` are those of the part. */
function masterOf(entry: Page, part: Part, references: readonly Reference[]): Master {
  const { innerStart, innerEnd, name } = part;
  const { plain } = entry.source;
  const inner = plain.slice(innerStart, innerEnd);
  const marks: Edit[] = [...inner.matchAll(CURRENT)].map(({ 0: text, index }) => ({
    start: innerStart + index,
    end: innerStart + index + text.length,
    text: '',
  }));
  const links = linksToMark(inner, innerStart, references, marks.length > 0);
  const ownAnchors = new Set(anchorsWithin(inner));
  const from: Standpoint = { base: entry.base, anchors: entry.reading.anchors };
  return {
    name,
    part,
    contentFor({ file, base, newline }, anchors) {
      const to = {
        base,
        anchors: { has: (anchor: string) => ownAnchors.has(anchor) || anchors.has(anchor) },
      };
      const edits = [...marks];
      for (const reference of file === entry.file ? [] : references) {
        const text = rebase(reference, from, to);
        const { offset, length } = reference;
        if (text !== null) edits.push({ start: offset, end: offset + length, text });
      }
      for (const link of links) {
        if (!leadsTo(link, entry.base, file)) continue;
        const after = link.offset + link.length;
        const at = /["']/.test(plain[after] ?? '') ? after + 1 : after;
        edits.push({ start: at, end: at, text: ' aria-current="page"' });
      }
      const text = withEdits(entry, innerStart, innerEnd, edits);
      return text.replace(/\r?\n/g, newline);
    },
  };
}

/** Links that carry the mark where they lead to the page itself: those of a navigation, else all that may. */
function linksToMark(
  inner: string,
  innerStart: number,
  references: readonly Reference[],
  hasMarks: boolean,
): Reference[] {
  const links = references.filter(({ holder }) => isLink(holder));
  const navs = [...inner.matchAll(NAV)].map(({ 0: text, index }) => ({
    start: innerStart + index,
    length: text.length,
  }));
  if (navs.length === 0) return hasMarks ? links : [];
  return links.filter(({ offset }) =>
    navs.some(({ start, length }) => offset > start && offset < start + length),
  );
}

/** True for a link to the page `file` as a whole. */
export function leadsTo({ written }: Reference, base: string | null, file: string): boolean {
  const target = resolve(written, base);
  if (target.in !== 'site' || target.fragment !== null || /^\s*(?:[?#]|$)/.test(written)) return false;
  const isFolder = target.path === '' || target.path.endsWith('/');
  return file === (isFolder ? `${target.path}${INDEX}` : target.path);
}

function anchorsWithin(inner: string): string[] {
  return [
    ...inner.matchAll(/[\t\n\f\r ]id[\t\n\f\r ]*=[\t\n\f\r ]*(?:"([^"]*)"|'([^']*)'|([^\s>"']+))/gi),
  ].map(([, double, single, bare]) => double ?? single ?? bare ?? '');
}

/** The text from `start` to `end` with edits made. */
function withEdits({ text }: Page, start: number, end: number, edits: readonly Edit[]): string {
  let result = '';
  let from = start;
  // At one place, what replaces nothing comes first: a mark that is set before one that is taken away.
  for (const edit of edits.toSorted((a, b) => a.start - b.start || a.end - b.end)) {
    result += text(from, edit.start) + edit.text;
    from = edit.end;
  }
  return result + text(from, end);
}

/** The edits that bring a page's marked parts into step with their masters. */
export function partEdits(page: Page, masters: ReadonlyMap<string, Master>): Edit[] {
  const edits: Edit[] = [];
  for (const { name, innerStart, innerEnd } of partsOf(page)) {
    const master = masters.get(name);
    if (master === undefined) continue;
    const text = master.contentFor(page, page.reading.anchors);
    if (text !== page.text(innerStart, innerEnd)) edits.push({ start: innerStart, end: innerEnd, text });
  }
  return edits;
}
