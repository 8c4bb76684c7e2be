/**
 * Markup that was left open, and so swallows what follows: told by what it holds, since a browser reads on without a word
 * (HTML 13.2.5). All that works as it stands is left alone, also where it looks odd.
 */
import { closesAgain } from '../comments.ts';
import { Slot, type Tag } from './scan.ts';

/** What was left open, and what a browser takes for a part of it. Offsets are bytes of the source. */
export interface Opening {
  readonly what: 'element' | 'self-closed' | 'comment' | 'quote' | 'tag';
  /** The element that it is or stands in; empty for a comment. */
  readonly name: string;
  /** What is shown of it. */
  readonly start: number;
  readonly end: number;
  /** What it takes with it. */
  readonly from: number;
  readonly to: number;
  /** What closes it at the one place that makes sense; null where there is none, or several. */
  readonly mend: { readonly start: number; readonly end: number; readonly text: string } | null;
}

const STRUCTURE = /<\/head\s*>|<body[\s>]/i;
/** What stands in a head or a body, and in no title that goes over several lines. */
const HEAD_CONTENT = /<(?:meta|link|script|style|base|a|img|div|p|nav|header|main)\b/i;
const OPENING_TAG = /<[a-z][^<>]*>/i;
/** A line of a script that begins with a tag. */
const TAG_LINE =
  /^[ \t]*<\/?(?:script|style|link|meta|body|head|html|div|p|a|img|nav|header|main|footer|section|h[1-6]|ul|form)\b[^<\n]*>?/im;
const CSS_TEXT = /\/\*[\s\S]*?(?:\*\/|$)|"(?:[^"\\\n]|\\[\s\S])*"|'(?:[^'\\\n]|\\[\s\S])*'/g;

/** Attributes whose values hold no markup. */
const PLAIN_VALUED: ReadonlySet<string> = new Set([
  'href',
  'src',
  'class',
  'id',
  'rel',
  'type',
  'name',
  'srcset',
  'width',
  'height',
  'lang',
  'target',
  'action',
  'method',
  'for',
  'media',
  'charset',
  'sizes',
  'role',
  'loading',
  'http-equiv',
  'property',
]);

interface RawText {
  readonly element: string;
  /** Where its tag starts and ends. */
  readonly tagStart: number;
  readonly tagEnd: number;
  readonly isSelfClosed: boolean;
  /** Of scripts: whether they have a source, are code that a browser runs, and are code that parses. */
  readonly hasSource: boolean;
  readonly isCode: boolean;
  parses(): boolean;
}

/** An element whose content is text to its end tag, where it was probably never closed. `plain` is the whole file. */
export function openElement(plain: string, text: RawText, start: number, end: number): Opening | null {
  const { element } = text;
  const content = plain.slice(start, end);
  const isAtEnd = end === plain.length;
  if (!isAtEnd && !content.includes('<')) return null;
  const closes = closingPlace(plain, text, content, start, end, isAtEnd);
  if (closes === null) return null;
  const { isSelfClosed, tagStart, tagEnd } = text;
  const tag = `</${element}>`;
  const mend = isSelfClosed
    ? { start: plain.lastIndexOf('/', tagEnd - 1), end: tagEnd, text: `>${tag}` }
    : closes.isPlain
      ? { start: closes.at, end: closes.at, text: tag }
      : null;
  return {
    what: isSelfClosed ? 'self-closed' : 'element',
    name: element,
    start: tagStart,
    end: tagEnd,
    from: closes.at,
    to: end,
    mend,
  };
}

interface Closing {
  readonly at: number;
  /** That is the one place that makes sense. */
  readonly isPlain: boolean;
}

function closingPlace(
  plain: string,
  { element, hasSource, isCode, isSelfClosed, parses }: RawText,
  content: string,
  start: number,
  end: number,
  isAtEnd: boolean,
): Closing | null {
  const lineEnd = (from: number) => {
    const line = /^[^\n<]*/.exec(content.slice(from))?.[0] ?? '';
    return start + from + line.trimEnd().length;
  };
  switch (element) {
    case 'title':
      return isAtEnd || STRUCTURE.test(content) || (content.includes('\n') && HEAD_CONTENT.test(content))
        ? { at: lineEnd(/\S/.exec(content)?.index ?? 0), isPlain: true }
        : null;
    case 'style': {
      const css = content.replace(CSS_TEXT, (all) => ' '.repeat(all.length));
      const tag = OPENING_TAG.exec(css);
      return tag === null ? null : { at: endBefore(plain, start, start + tag.index), isPlain: true };
    }
    case 'script': {
      if (hasSource || isSelfClosed) {
        if (!isAtEnd && !OPENING_TAG.test(content)) return null;
        return { at: start, isPlain: /^\s*(?:<|$)/.test(content) };
      }
      const line = TAG_LINE.exec(content);
      if (isAtEnd) {
        const at =
          line === null ? start + content.trimEnd().length : endBefore(plain, start, start + line.index);
        return { at, isPlain: true };
      }
      if (line === null || !isCode || parses()) return null;
      return { at: endBefore(plain, start, start + line.index), isPlain: true };
    }
    case 'noscript': {
      if (!isLeftOpen(element, content, isAtEnd)) return null;
      // What it was to hold is known where that has a line of its own.
      const line = /^[ \t]*\S[^\n]*/.exec(content)?.[0].trimEnd() ?? '';
      const isOwn = !isSelfClosed && line !== '' && line.length < content.length && !/<\/?body\b/i.test(line);
      return { at: isOwn ? start + line.length : start, isPlain: isOwn };
    }
    default: {
      // Others may show markup.
      if (!isLeftOpen(element, content, isAtEnd)) return null;
      return end > start ? { at: start, isPlain: /^\s*(?:\n|<)/.test(content) || isAtEnd } : null;
    }
  }
}

/** What holds its own start tag, or the end of the page with more than end tags, was left open. */
function isLeftOpen(element: string, content: string, isAtEnd: boolean): boolean {
  if (isAtEnd) return /\S/.test(content.replace(/<\/[a-z]+\s*>/gi, ''));
  return content.toLowerCase().includes(`<${element}`);
}

/** The end of what stands before a place, white space left out. */
function endBefore(plain: string, least: number, place: number): number {
  let at = place;
  while (at > least && /\s/.test(plain[at - 1] as string)) at--;
  return at;
}

/** A comment that was probably never closed. */
export function openComment(plain: string, start: number, end: number): Opening | null {
  const isOpen =
    end === plain.length && !/--!?>$|^<!--?-?>$/.test(plain.slice(Math.max(start, end - 5), end));
  const text = plain.slice(start + 4, isOpen ? end : end - 3);
  const first = /^[^\n]*/.exec(text)?.[0] ?? '';
  // A comment of one line whose end was forgotten; of several, nobody can tell where it was to end.
  const isOneLine =
    /\S/.test(first) && !first.includes('<') && /^\s*\n\s*<[a-z]/i.test(text.slice(first.length));
  const at = start + 4 + first.trimEnd().length;
  const opening: Opening = {
    what: 'comment',
    name: '',
    start,
    end: start + 4,
    from: isOneLine ? at : start + 4,
    to: end,
    mend: isOneLine ? { start: at, end: at, text: ' -->' } : null,
  };
  if (isOpen) return OPENING_TAG.test(text) ? opening : null;
  const nested = text.indexOf('<!--');
  if (nested < 0 || text.startsWith('[') || !OPENING_TAG.test(text.slice(0, nested))) return null;
  return closesAgain(plain, end, '<!--', '-->') ? null : opening;
}

/** A tag that holds another one: its `>`, or a quote of an attribute, was left out. */
export function openTag(plain: string, tag: Tag): Opening | null {
  const name = plain.slice(tag.nameStart, tag.nameEnd);
  const inName = name.indexOf('<');
  // The slash of an end tag ends a name, too.
  if (inName > 0 && /^<[a-z/]/i.test(plain.slice(tag.nameStart + inName, tag.nameEnd + 1)))
    return tagWithin(name.slice(0, inName), tag, tag.nameStart + inName, plain);
  for (let index = 0, slot = 0; index < tag.attributeCount; index++, slot += Slot.Width) {
    const start = tag.attributes[slot + Slot.NameStart] as number;
    const attribute = plain.slice(start, tag.attributes[slot + Slot.NameEnd] as number);
    if (/^<(?:[a-z]|\/[a-z])/i.test(attribute)) return tagWithin(name, tag, start, plain);
    const from = tag.attributes[slot + Slot.ValueStart] as number;
    const to = tag.attributes[slot + Slot.ValueEnd] as number;
    if (from < 0) continue;
    const quote = plain[from - 1] ?? '';
    const value = plain.slice(from, to);
    if (quote !== '"' && quote !== "'") {
      const less = value.search(/<(?:[a-z]|\/[a-z])/i);
      if (less > 0) return tagWithin(name, tag, from + less, plain);
      continue;
    }
    const cut = value.indexOf('>');
    if (cut < 0 || !/<[a-z/!]/i.test(value.slice(cut))) continue;
    const isPlain = PLAIN_VALUED.has(attribute.toLowerCase()) && !value.includes('data:');
    if (!isPlain && !/=\s*$/.test(value)) continue;
    return {
      what: 'quote',
      name,
      start: tag.start,
      end: from + cut,
      from: from + cut + 1,
      to: tag.end,
      mend: closing(plain, from + cut, quote),
    };
  }
  return null;
}

/** A quote before the `>` of a tag, and before the slash that belongs to it. */
function closing(plain: string, at: number, quote: string): Opening['mend'] {
  const start = plain[at - 1] === '/' && plain[at - 2] === ' ' ? at - 2 : at;
  return { start, end: start, text: quote };
}

function tagWithin(name: string, tag: Tag, at: number, plain: string): Opening {
  const end = endBefore(plain, tag.start, at);
  return {
    what: 'tag',
    name,
    start: tag.start,
    end,
    from: at,
    to: tag.end,
    mend: { start: end, end, text: '>' },
  };
}

/** A tag that the file ends in: a quote of it, or its `>`, was left out. Null where a visitor misses nothing by that. */
export function unfinishedTag(plain: string, start: number): Opening | null {
  const name = /^<\/?([a-z][^\s/>]*)/i.exec(plain.slice(start, start + 64))?.[1] ?? '';
  const quotes = /=\s*(["'])/g;
  quotes.lastIndex = start;
  for (let match = quotes.exec(plain); match !== null; match = quotes.exec(plain)) {
    const from = match.index + match[0].length;
    const close = plain.indexOf(match[1] as string, from);
    if (close >= 0) {
      quotes.lastIndex = close + 1;
      continue;
    }
    const cut = plain.indexOf('>', from);
    const end = cut < 0 ? plain.length : cut;
    const mend = cut < 0 ? null : closing(plain, cut, match[1] as string);
    return { what: 'quote', name, start, end, from: Math.min(end + 1, plain.length), to: plain.length, mend };
  }
  const end = plain.trimEnd().length;
  if (plain[start + 1] === '/' || !plain.slice(start, end).includes('=')) return null;
  return { what: 'tag', name, start, end, from: end, to: plain.length, mend: { start: end, end, text: '>' } };
}
