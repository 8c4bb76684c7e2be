/** Names of elements and attributes as small numbers, found from their bytes without making a string. */
import { Byte } from '../../bytes.ts';

/** The number of a name, counted from 1; 0 for a name that is not in the table. */
export interface NameTable<Name extends string> {
  readonly names: readonly Name[];
  readonly id: Readonly<Record<Name, number>>;
  /** The number of the name at `[start, end)`, ASCII letters in either case. */
  find(bytes: Uint8Array, start: number, end: number): number;
}

const BUCKETS = 1024;

/** A table of lower-case ASCII names. Worth it: 6 ns a look-up, where making the string takes 90. */
function makeNameTable<Name extends string>(names: readonly Name[]): NameTable<Name> {
  const codes = ['', ...names].map((name) => Uint8Array.from(name, (letter) => letter.charCodeAt(0)));
  const first = new Int16Array(BUCKETS);
  const next = new Int16Array(codes.length);
  const id = {} as Record<Name, number>;
  for (const [index, name] of names.entries()) {
    const code = codes[index + 1] as Uint8Array;
    const bucket = bucketOf(code, 0, code.length);
    id[name] = index + 1;
    next[index + 1] = first[bucket] as number;
    first[bucket] = index + 1;
  }
  const find = (bytes: Uint8Array, start: number, end: number): number => {
    const length = end - start;
    let entry = first[bucketOf(bytes, start, end)] as number;
    while (entry !== 0) {
      const code = codes[entry] as Uint8Array;
      if (code.length === length) {
        let at = 0;
        while (at < length && isSameLetter(bytes[start + at] as number, code[at] as number)) at++;
        if (at === length) return entry;
      }
      entry = next[entry] as number;
    }
    return 0;
  };
  return { names, id, find };
}

function bucketOf(bytes: Uint8Array, start: number, end: number): number {
  const length = end - start;
  const head = (bytes[start] as number) | Byte.Small;
  const middle = (bytes[start + (length >> 1)] as number) | Byte.Small;
  const tail = (bytes[end - 1] as number) | Byte.Small;
  return (length * 97 + head * 31 + middle * 7 + tail) & (BUCKETS - 1);
}

function isSameLetter(byte: number, code: number): boolean {
  return byte === code || (code >= Byte.A && code <= Byte.Z && (byte | Byte.Small) === code);
}

/** Every element that the tree construction stage or a reader treats in a way of its own. */
// biome-ignore format: one name after another
export const elements = makeNameTable([
  'a', 'address', 'animate', 'annotation-xml', 'applet', 'area', 'article', 'aside', 'audio', 'b', 'base',
  'basefont', 'bgsound', 'big', 'blockquote', 'body', 'br', 'button', 'caption', 'center', 'code', 'col',
  'colgroup', 'dd', 'del', 'desc', 'details', 'dialog', 'dir', 'div', 'dl', 'dt', 'em', 'embed', 'feimage',
  'fieldset', 'figcaption', 'figure', 'filter', 'font', 'footer', 'foreignobject', 'form', 'frame', 'frameset',
  'h1', 'h2', 'h3', 'h4', 'h5', 'h6', 'head', 'header', 'hgroup', 'hr', 'html', 'i', 'iframe', 'image', 'img',
  'input', 'ins', 'keygen', 'li', 'link', 'listing', 'main', 'malignmark', 'marquee', 'math', 'menu', 'meta',
  'mglyph', 'mi', 'mn', 'mo', 'ms', 'mtext', 'nav', 'nobr', 'noembed', 'noframes', 'noscript', 'object', 'ol',
  'optgroup', 'option', 'p', 'param', 'plaintext', 'pre', 'q', 'rb', 'rp', 'rt', 'rtc', 'ruby', 's', 'script',
  'search', 'section', 'select', 'small', 'source', 'span', 'strike', 'strong', 'style', 'sub', 'summary', 'sup',
  'svg', 'table', 'tbody', 'td', 'template', 'textarea', 'tfoot', 'th', 'thead', 'title', 'tr', 'track', 'tt', 'u',
  'ul', 'use', 'var', 'video', 'wbr', 'xmp',
] as const);

/** A table that holds 1 for each of the elements named. */
export function elementFlags(...named: readonly (typeof elements.names)[number][]): Uint8Array {
  const flags = new Uint8Array(elements.names.length + 1);
  for (const name of named) flags[elements.id[name]] = 1;
  return flags;
}

/** Attributes that a reader or the tree construction stage looks at. */
// biome-ignore format: one name after another
const readAttributes = [
  'action', 'as', 'async', 'background', 'charset', 'cite', 'clip-path', 'color', 'content', 'crossorigin', 'cursor',
  'data', 'defer', 'disabled', 'download', 'encoding', 'face', 'fill', 'filter', 'formaction', 'href', 'http-equiv', 'id',
  'imagesizes', 'imagesrcset', 'integrity', 'itemprop', 'lang', 'loading', 'marker-end', 'marker-mid', 'marker-start',
  'mask', 'media', 'name', 'nomodule', 'ping', 'poster', 'property', 'rel', 'rev', 'sandbox', 'size', 'sizes', 'src', 'srcdoc', 'srcset',
  'stroke', 'style', 'type', 'xlink:href',
] as const;

/** Frequent attributes that hold nothing of interest; being known, they are not taken for misspelt ones. */
// biome-ignore format: one name after another
const plainAttributes = [
  'align', 'alt', 'aria-hidden', 'aria-label', 'border', 'cellpadding', 'cellspacing', 'class', 'colspan', 'dir',
  'height', 'hreflang', 'label', 'role', 'rowspan', 'summary', 'tabindex', 'target', 'title', 'valign', 'value',
  'width',
] as const;

export const attributes = makeNameTable([...readAttributes, ...plainAttributes]);

/** Numbers of attributes up to this one are those that are read. */
export const LAST_READ_ATTRIBUTE = readAttributes.length;
