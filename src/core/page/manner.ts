/** The manner in which a page is written: quotes, indentation, letter case and closing of its tags. */

import { escapeMarkup } from './page.ts';
import { type Range, type Tagged, type Tags } from './tags.ts';

export interface Manner {
  /** A whole element that holds nothing, written in the manner of the page. */
  element(name: string, attributes: readonly Attribute[], hasEndTag: boolean): string;
}

/** Name and value; null for an attribute that is there or not. */
export type Attribute = readonly [name: string, value: string | null];

const MODELS = new Set(['link', 'script', 'meta', 'img']);

export function mannerOf({ page, elements }: Tags): Manner {
  const tags = elements
    .filter(({ name }) => MODELS.has(name))
    .map(({ startTag }) => page.text(startTag.start, startTag.end));
  const amount = (pattern: RegExp) => tags.reduce((sum, tag) => sum + (tag.match(pattern)?.length ?? 0), 0);
  const [double, single, bare] = [amount(/=\s*"/g), amount(/=\s*'/g), amount(/=\s*[^\s"'>]/g)];
  const quote = double >= Math.max(single, bare) ? '"' : single >= bare ? "'" : '';
  const voids = elements
    .filter(({ name }) => name === 'link' || name === 'meta')
    .map(({ startTag }) => page.text(startTag.start, startTag.end));
  const closed = voids.filter((tag) => tag.endsWith('/>'));
  const close =
    closed.length * 2 > voids.length ? ((closed[0] as string).endsWith(' />') ? ' />' : '/>') : '>';
  const shout = tags.length > 0 && tags.every((tag) => /^<[A-Z]+[\s>/]/.test(tag));
  const cased = (name: string) => (shout ? name.toUpperCase() : name);
  const isXhtml = close !== '>';
  return {
    element(name, attributes, hasEndTag) {
      const written = attributes.map(([key, value]) => {
        if (value === null) return isXhtml ? ` ${cased(key)}=${quoted(key, quote)}` : ` ${cased(key)}`;
        return ` ${cased(key)}=${quoted(value, quote)}`;
      });
      const tag = `<${cased(name)}${written.join('')}`;
      // After a value without quotes, a slash would belong to it (HTML 13.2.5.38).
      const end = close === '/>' && quote === '' ? ' />' : close;
      return hasEndTag ? `${tag}></${cased(name)}>` : tag + end;
    },
  };
}

function quoted(value: string, quote: string): string {
  if (quote === '' && /^[^\s"'=<>`/][^\s"'=<>`]*$/.test(value) && !value.endsWith('/')) return value;
  const mark = quote || '"';
  return mark + escapeMarkup(value) + mark;
}

/** White space that parts an element from what stands before it: its line break and indentation, if it has them. */
export function leadOf({ page }: Tags, { start }: Range): string {
  const { plain } = page.source;
  let at = start;
  while (at > 0 && (plain[at - 1] === ' ' || plain[at - 1] === '\t')) at--;
  if (plain[at - 1] !== '\n') return '';
  const newline = plain[at - 2] === '\r' ? at - 2 : at - 1;
  return plain.slice(newline, start);
}

/** What parts a new element from the one it follows: the lead of that one, or a line break after a first line. */
export function leadAfter(outline: Tags, neighbour: Range): string {
  const { page } = outline;
  const { plain } = page.source;
  const isFirst =
    /^[\x1a\s]*$/.test(plain.slice(Math.max(0, neighbour.start - 4), neighbour.start)) && neighbour.start < 4;
  const endsLine = /^[ \t]*\r?\n/.test(plain.slice(neighbour.end, neighbour.end + 100));
  return isFirst && endsLine ? page.newline : leadOf(outline, neighbour);
}

/** One step of indentation, from the first element that stands deeper than its parent. */
export function indentUnit(outline: Tags): string {
  for (const inner of outline.elements) {
    const lead = leadOf(outline, inner).replace(/^\r?\n/, '');
    if (lead !== '') return /^\t/.test(lead) ? '\t' : lead.length % 2 === 0 && lead.length > 4 ? '  ' : lead;
  }
  return outline.first('head', 'body') !== null ? '  ' : '';
}

/** The place just before a closing tag and its line break, and what parts a new last child from there. */
export function beforeEnd(outline: Tags, { endTag }: Tagged): { at: number; lead: string } | null {
  if (endTag === null) return null;
  const lead = leadOf(outline, endTag);
  return { at: endTag.start - lead.length, lead: lead === '' ? '' : lead + indentUnit(outline) };
}
