/** Reads a page: its references, its anchors and its base address. */
import { readCss } from './css.ts';
import { decodeAttribute, textOf } from './decode.ts';
import { ATTRIBUTE_WIDTH, type Content, content, scanHtml, type Tag, type TagSink } from './html/scan.ts';
import { srcsetSpans } from './html/srcset.ts';
import type { Kind, Reading, Reference } from './reading.ts';

type Attributes = (name: string) => string | null;
type KindOf = Kind | ((attribute: Attributes) => Kind | null);

/** Elements and the attributes of theirs that hold addresses; `srcset` ones hold several. */
const holders: Readonly<Record<string, Readonly<Record<string, KindOf>>>> = {
  a: { href: linkKind },
  audio: { src: 'media' },
  iframe: { src: 'frame' },
  img: { src: 'image', srcset: 'image' },
  link: { href: (attribute) => relationKind(attribute('rel')) },
  script: {
    src: (attribute) => (attribute('type')?.trim().toLowerCase() === 'module' ? 'module' : 'script'),
  },
  source: { src: 'media', srcset: 'image' },
  video: { src: 'media', poster: 'image' },
};

const contents: Readonly<Record<string, Content>> = {
  iframe: content.rawtext,
  noembed: content.rawtext,
  noframes: content.rawtext,
  plaintext: content.plaintext,
  script: content.scriptData,
  style: content.rawtext,
  textarea: content.rcdata,
  title: content.rcdata,
  xmp: content.rawtext,
};

/** Reads HTML as a browser with scripting switched off would tokenize it (HTML 13.2.5). */
export function readHtml(bytes: Uint8Array): Reading {
  const references: Reference[] = [];
  const anchors = new Set<string>();
  let base: string | null = null;
  let element = '';
  let foreign = 0;

  const sink: TagSink = {
    inForeignContent: () => foreign > 0,
    startTag(tag) {
      element = nameText(bytes, tag.nameStart, tag.nameEnd);
      const names = attributeNames(bytes, tag);
      const value: Attributes = (name) => {
        const index = names.indexOf(name);
        if (index < 0) return null;
        const slot = index * ATTRIBUTE_WIDTH;
        const start = tag.attributes[slot + 2] as number;
        return start < 0 ? '' : decodeAttribute(textOf(bytes, start, tag.attributes[slot + 3] as number));
      };
      const id = value('id');
      if (id) anchors.add(id);
      if (element === 'a') {
        const name = value('name');
        if (name) anchors.add(name);
      }
      if (element === 'base') base ??= value('href');
      const held = holders[element];
      if (held) {
        names.forEach((name, index) => {
          const kindOf = Object.hasOwn(held, name) ? held[name] : undefined;
          if (kindOf === undefined || names.indexOf(name) !== index) return;
          const kind = typeof kindOf === 'string' ? kindOf : kindOf(value);
          const start = tag.attributes[index * ATTRIBUTE_WIDTH + 2] as number;
          const end = tag.attributes[index * ATTRIBUTE_WIDTH + 3] as number;
          if (kind === null || start < 0) return;
          const holder = `${element} ${name}`;
          if (name === 'srcset') addSrcset(references, bytes, start, end, holder);
          else addReference(references, bytes, start, end, holder, kind);
        });
      }
      if (element === 'svg' || element === 'math') {
        if (!tag.selfClosing) foreign++;
        return content.data;
      }
      if (foreign > 0 && tag.selfClosing) return content.data;
      return Object.hasOwn(contents, element) ? (contents[element] as Content) : content.data;
    },
    endTag(tag) {
      if (foreign === 0) return;
      const name = nameText(bytes, tag.nameStart, tag.nameEnd);
      if (name === 'svg' || name === 'math') foreign--;
    },
    rawText(start, end) {
      if (element !== 'style') return;
      for (const reference of readCss(bytes.subarray(start, end)).references) {
        references.push({ ...reference, offset: reference.offset + start });
      }
    },
  };
  scanHtml(bytes, sink);
  return { references, anchors, base };
}

function attributeNames(bytes: Uint8Array, tag: Tag): string[] {
  const names: string[] = [];
  for (let index = 0; index < tag.attributeCount; index++) {
    const slot = index * ATTRIBUTE_WIDTH;
    names.push(nameText(bytes, tag.attributes[slot] as number, tag.attributes[slot + 1] as number));
  }
  return names;
}

function nameText(bytes: Uint8Array, start: number, end: number): string {
  return textOf(bytes, start, end).replace(/[A-Z]+/g, (letters) => letters.toLowerCase());
}

function addReference(
  references: Reference[],
  bytes: Uint8Array,
  start: number,
  end: number,
  holder: string,
  kind: Kind,
): void {
  // Addresses are valid surrounded by white space (HTML 2.4.1); the span leaves it out.
  while (start < end && (bytes[start] as number) <= 0x20) start++;
  while (end > start && (bytes[end - 1] as number) <= 0x20) end--;
  const written = decodeAttribute(textOf(bytes, start, end));
  references.push({ kind, holder, offset: start, length: end - start, written });
}

function addSrcset(
  references: Reference[],
  bytes: Uint8Array,
  start: number,
  end: number,
  holder: string,
): void {
  // The list's own punctuation is ASCII, so one character a byte keeps offsets exact.
  const list = Array.from(bytes.subarray(start, end), (byte) => String.fromCharCode(byte)).join('');
  for (const [from, to] of srcsetSpans(list)) {
    addReference(references, bytes, start + from, start + to, holder, 'image');
  }
}

function linkKind(attribute: Attributes): Kind {
  if (attribute('download') !== null) return 'download';
  return attribute('href')?.trimStart().startsWith('#') ? 'anchor' : 'page';
}

/** What a `link` loads or leads to, by its `rel` tokens (HTML 4.6.7); null where no resource is meant. */
function relationKind(rel: string | null): Kind | null {
  const tokens = (rel ?? '').toLowerCase().split(/[\t\n\f\r ]+/);
  if (tokens.includes('stylesheet')) return 'stylesheet';
  if (tokens.some((token) => token === 'icon' || token === 'apple-touch-icon' || token === 'mask-icon'))
    return 'icon';
  if (tokens.includes('manifest')) return 'manifest';
  if (tokens.includes('modulepreload')) return 'module';
  if (tokens.some((token) => token === 'preload' || token === 'prefetch')) return 'data';
  if (tokens.some((token) => token === 'preconnect' || token === 'dns-prefetch')) return null;
  return 'page';
}
