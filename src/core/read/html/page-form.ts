/** What an HTML file is, by its text: a page, a piece of one, or a source that a generator makes a page of. */
import type { PageFacts } from '../reading.ts';
import type { Source } from '../source.ts';

/** What tells a source stands this far up. */
const PEEK = 16_384;

/** The byte order mark, as {@link Source.plain} has what is not ASCII. */
const MARK = '\u001a\u001a\u001a';

/** `isNamed` where it has a doctype or a title. */
export function formOfPage({ plain }: Source, isNamed: boolean): PageFacts['form'] {
  if (isSource(plain)) return 'source';
  return isNamed || /<(?:html|head|body|title)[\s/>]/i.test(plain) ? 'page' : 'piece';
}

/** A block of settings from the first byte, or template tags where no page has text of its own. */
function isSource(plain: string): boolean {
  const text = plain.startsWith(MARK) ? plain.slice(MARK.length) : plain;
  if (/^(?:---|\+\+\+)[ \t]*\r?\n/.test(text) && hasSettings(text)) return true;
  const peek = text.slice(0, PEEK);
  // What says that it is XML is no tag of a template.
  const start = peek.startsWith('<?xml') ? peek.indexOf('?>') + 2 : 0;
  if (!peek.includes('%}') && !peek.includes('%>') && !peek.includes('?>', start)) return false;
  return TAG_FIRST.test(peek) || TAG_IN_HEAD.test(headOf(peek)) || TAG_IN_ATTRIBUTE.test(withoutCode(peek));
}

const TAG = String.raw`(?:\{%-?\s*[\w#/]|<%[-=\s\w#@]|<\?(?:php\b|=))`;
/** Before the doctype, or before anything else. */
const TAG_FIRST = new RegExp(String.raw`^\s*(?:<!--(?:(?!-->)[\s\S])*-->\s*)*${TAG}`, 'i');
/** Between elements; what stands in `title` is text. */
const TAG_IN_HEAD = new RegExp(`(?:^|>)[^<>]*${TAG}`, 'i');
/** Of attributes that hold no words for people. */
const TAG_IN_ATTRIBUTE = new RegExp(
  String.raw`<[a-z](?:[^<>"']|"[^"<]*"|'[^'<]*')*\s(?:href|src|srcset|action|poster|class|id|style|for|name|rel|lang|type|method)\s*=\s*(?:"[^"<]*|'[^'<]*|[^\s"'<>]*)${TAG}`,
  'i',
);

/** The head, but for what its elements hold. */
function headOf(text: string): string {
  const start = text.search(/<head[\s>]/i);
  if (start < 0) return '';
  const rest = text.slice(start);
  const end = rest.search(/<\/head\s*>|<body[\s>]/i);
  return withoutCode(end < 0 ? rest : rest.slice(0, end)).replace(/<title[\s>][\s\S]*?<\/title\s*>/gi, '');
}

/** Without comments, and without what scripts and the like hold. */
function withoutCode(text: string): string {
  return text
    .replace(/<!--[\s\S]*?-->/g, '')
    .replace(/(<(script|style|textarea|template|noscript)(?=[\s>])[^>]*>)[\s\S]*?<\/\2\s*>/gi, '$1');
}

const MOST_LINES = 500;
const LINE =
  /^(?:[ \t]*(?:#.*)?|-[ \t].*|\[.*\]|[ \t]+\S.*|["']?[\w\u001a .-]+["']?[ \t]*[:=].*|[\]}],?[ \t]*)$/;

/** True where the lines up to the next mark say names and values. */
function hasSettings(text: string): boolean {
  const lines = text.split(/\r?\n/, MOST_LINES);
  const mark = lines[0]?.trimEnd();
  const end = lines.findIndex((line, index) => index > 0 && line.trimEnd() === mark);
  return end > 0 && lines.slice(1, end).every((line) => LINE.test(line));
}
