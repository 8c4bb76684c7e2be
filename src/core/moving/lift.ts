/** Lifts code that stands in pages to files of its own, loaded at the same spot and in the same order. */

import { applyEdits, type Edit } from '../change/edit.ts';
import type { Files } from '../change/files.ts';
import { pushTo } from '../group-by.ts';
import { relativePath } from '../mend/address.ts';
import { type Attribute, mannerOf } from '../page/manner.ts';
import { escapeMarkup, openPage, type Page } from '../page/page.ts';
import { type Tagged, type Tags, tagsOf } from '../page/tags.ts';
import { readCss } from '../read/css.ts';
import { sniffEncoding } from '../read/encoding.ts';
import { isSpecifier } from '../read/holder.ts';
import { scriptType } from '../read/html/relations.ts';
import { positionsIn } from '../read/lines.ts';
import { readScriptSource } from '../read/script.ts';
import { makeSource } from '../read/source.ts';
import type { Published } from '../resolve/published.ts';
import { resolveIn } from '../resolve/published.ts';
import { folderOf, nameOf } from '../site/inventory.ts';
import type { Places } from '../site/places.ts';
import { addressEdit } from './address-edit.ts';
import { readdressed } from './readdress.ts';

export interface ToLift {
  readonly files: Files;
  readonly places: Places;
  readonly published: Published | null;
  /** The pages of the site, in order. */
  readonly pages: readonly string[];
  /** Whether a piece of code is to be lifted; what is the same on another page goes along. */
  isWanted(piece: Piece): boolean;
}

/** Code in a page. */
export interface Piece {
  readonly page: string;
  readonly kind: 'script' | 'style';
  /** The line that its element starts on, and the one that it ends on. */
  readonly firstLine: number;
  readonly lastLine: number;
  readonly bytes: number;
  /** How many pages of the site have the same. */
  readonly copies: number;
}

/** A file that was made, with the pages that load it. */
export interface Lifted {
  readonly path: string;
  readonly pages: readonly string[];
}

interface Found extends Omit<Piece, 'copies'> {
  readonly element: Tagged;
  readonly code: string;
  /** The base address of its page. */
  readonly base: string;
  /** The same for code that can be one file. */
  readonly key: string;
}

interface Taken {
  readonly page: Page;
  readonly tags: Tags;
  readonly found: readonly Found[];
}

export function liftCode({ files, places, published, pages, isWanted }: ToLift): Lifted[] {
  const taken = new Map<string, Found[]>();
  for (const path of pages) {
    const own = foundIn(path, files.read(path), published);
    for (const one of own?.found ?? []) pushTo(taken, one.key, one);
  }
  const made = new Map<string, { readonly path: string; readonly pages: string[] }>();
  for (const [key, all] of taken) {
    const copies = new Set(all.map(({ page }) => page)).size;
    if (!all.some((piece) => isWanted({ ...piece, copies }))) continue;
    const [first] = all as [Found];
    const path = freePath(first, copies, places, files);
    made.set(key, { path, pages: [...new Set(all.map(({ page }) => page))] });
    files.write(path, contentFor(first, path, published));
  }
  for (const path of new Set([...made.values()].flatMap((one) => one.pages))) {
    const own = foundIn(path, files.read(path), published);
    if (own === null) continue;
    const edits = own.found.flatMap((one) => {
      const to = made.get(one.key);
      return to === undefined ? [] : loadingEdits(own, one, to.path);
    });
    files.write(path, own.page.edited(edits));
  }
  return [...made.values()];
}

/** The code of a page that can be lifted; null where its base lies elsewhere, or its encoding is another one than UTF-8. */
function foundIn(path: string, bytes: Uint8Array, published: Published | null): Taken | null {
  if (sniffEncoding(bytes, 'html') !== 'utf-8') return null;
  const page = openPage(path, bytes);
  if (page.base === null) return null;
  const tags = tagsOf(page, true);
  const positionOf = positionsIn(bytes);
  const found = tags.elements.flatMap((element): Found[] => {
    const { name, startTag, endTag } = element;
    if (endTag === null || (name !== 'script' && name !== 'style')) return [];
    if (name === 'script' && (element.attribute('src') !== null || !isRun(element))) return [];
    const code = page.text(startTag.end, endTag.start);
    if (code.trim() === '') return [];
    const others =
      name === 'style' ? JSON.stringify(attributesOf(page, element)) : (element.attribute('type') ?? '');
    const piece = { kind: name, element, code, base: page.base as string } as const;
    // Wherever they stand, those that lead to the same are the same.
    const content = new TextDecoder().decode(contentFor(piece, AT_ROOT, published));
    return [
      {
        ...piece,
        page: path,
        bytes: endTag.start - startTag.end,
        firstLine: positionOf(startTag.start).line,
        lastLine: positionOf(endTag.start).line,
        key: JSON.stringify([name, others, content]),
      },
    ];
  });
  return { page, tags, found };
}

function isRun(element: Tagged): boolean {
  const type = scriptType(element.attribute('type'));
  return type === 'script' || type === 'module';
}

/** A file that lies there is what addresses count from where code is compared. */
const AT_ROOT = 'code';

/** Its attributes but for the type: what a link that takes its place has to say as well. */
function attributesOf(page: Page, element: Tagged): Attribute[] {
  const text = page.text(element.startTag.start, element.startTag.end);
  const names = [...text.matchAll(/\s([a-z][\w:-]*)(?=[\s=>/])/gi)].map(([, name = '']) =>
    name.toLowerCase(),
  );
  return [...new Set(names)].flatMap((name): Attribute[] => {
    const value = name === 'type' ? null : element.attribute(name);
    return value === null ? [] : [[name, value]];
  });
}

function readingOf(kind: Piece['kind'], code: string, element: Tagged) {
  const bytes = new TextEncoder().encode(code);
  if (kind === 'style') return { bytes, reading: readCss(bytes) };
  const isModule = scriptType(element.attribute('type')) === 'module';
  return { bytes, reading: readScriptSource(makeSource(bytes), 'utf-8', isModule) };
}

/** The code as it stands in a file: addresses that count from there written anew. */
function contentFor(
  { code, kind, element, base }: Pick<Found, 'code' | 'kind' | 'element' | 'base'>,
  path: string,
  published: Published | null,
): Uint8Array {
  const text = `${withoutIndent(code.replace(/^[ \t]*\r?\n/, '').trimEnd(), kind)}\n`;
  const { bytes, reading } = readingOf(kind, text, element);
  const edits = reading.references.flatMap((reference): Edit[] => {
    if (reference.from !== 'file') return [];
    const { written } = reference;
    const target = resolveIn(written, base, published);
    if (target.in !== 'site' || /^\s*(?:[?#]|$)/.test(written)) return [];
    const to = target.path;
    const address = readdressed({
      written: written.trim(),
      path: to,
      to,
      base: path,
      isSpecifier: isSpecifier(reference),
      published,
    });
    const edit = addressEdit(bytes, 'utf-8', reference, address);
    return edit === null ? [] : [edit];
  });
  return applyEdits(bytes, edits, 'utf-8', kind === 'style' ? 'css' : 'script');
}

/** Without the indentation that all lines have; what stands in a template of a script keeps its own. */
function withoutIndent(text: string, kind: Piece['kind']): string {
  if (kind === 'script' && text.includes('`')) return text;
  const lines = text.split('\n');
  const indents = lines.flatMap((line) => (line.trim() === '' ? [] : (/^[ \t]*/.exec(line)?.[0] ?? '')));
  const shared = indents.reduce((one, other) => {
    let at = 0;
    while (at < one.length && one[at] === other[at]) at++;
    return one.slice(0, at);
  }, indents[0] ?? '');
  return lines
    .map((line) => (line.startsWith(shared) ? line.slice(shared.length) : line.trimStart()))
    .join('\n');
}

/** A path that no file has, called as the page is; what several pages share is called so. */
function freePath({ page, kind }: Found, copies: number, places: Places, files: Files): string {
  const place = kind === 'style' ? places.styles : places.scripts;
  const folder = place === undefined || place === '.' ? '' : `${place.replace(/\/$/, '')}/`;
  const stem = copies > 1 ? 'shared' : nameOf(page).replace(/\.[^.]*$/, '');
  const extension = kind === 'style' ? 'css' : 'js';
  for (let number = 1; ; number++) {
    const path = `${folder}${stem}${number === 1 ? '' : `-${number}`}.${extension}`;
    if (!files.has(path)) return path;
  }
}

/** The element loads the file then. */
function loadingEdits({ page, tags }: Taken, { element, kind }: Found, path: string): Edit[] {
  const address = relativePath(folderOf(page.base as string), path);
  const { startTag, endTag, start, end } = element;
  if (kind === 'style') {
    const attributes: Attribute[] = [
      ['rel', 'stylesheet'],
      ['href', address],
      ...attributesOf(page, element),
    ];
    return [{ start, end, text: mannerOf(tags).element('link', attributes, false) }];
  }
  const at = startTag.start + '<script'.length;
  return [
    { start: at, end: at, text: ` src="${escapeMarkup(address)}"` },
    { start: startTag.end, end: (endTag as { readonly start: number }).start, text: '' },
  ];
}
