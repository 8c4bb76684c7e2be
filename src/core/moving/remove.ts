/** Takes files out of a site, with the references that cannot stand without them. */

import { oneCharacterAByte } from '../bytes.ts';
import { applyEdits, type Edit } from '../change/edit.ts';
import type { Files } from '../change/files.ts';
import { elementAt } from '../page/head.ts';
import { type Outlined, outlineOf } from '../page/outline.ts';
import { openPage } from '../page/page.ts';
import { removals } from '../page/removal.ts';
import type { Range } from '../page/tags.ts';
import { positionsIn } from '../read/lines.ts';
import { isPage, isRead, readFile } from '../read/read.ts';
import type { Reference } from '../read/reading.ts';
import { encodingOf, syntaxOf } from '../read/written-as.ts';
import { locate } from '../resolve/locate.ts';
import { type Published, resolveIn } from '../resolve/published.ts';
import { baseAddress } from '../resolve/resolve.ts';
import type { Inventory } from '../site/inventory.ts';

export interface ToRemove {
  readonly files: Files;
  readonly inventory: Inventory;
  readonly published: Published | null;
  /** Site paths of the files that go. */
  readonly gone: ReadonlySet<string>;
  bytesOf(path: string): Uint8Array;
}

/** A spot that shows what goes: taking that out would change what a visitor reads. */
export interface Shown {
  readonly file: string;
  readonly line: number;
  readonly written: string;
  readonly target: string;
}

export interface Removal {
  /** How many references go along, and from how many files. */
  readonly references: number;
  readonly files: number;
  readonly shown: readonly Shown[];
}

/** Works out what goes along; nothing is written where something is still shown, unless `isForced`. */
export function removeFiles(toRemove: ToRemove, isForced: boolean): Removal {
  const { files, inventory, gone, bytesOf } = toRemove;
  const shown: Shown[] = [];
  const written = new Map<string, Uint8Array>();
  let amount = 0;
  for (const path of inventory.files) {
    if (!isRead(path) || gone.has(path) || inventory.aliases.has(path)) continue;
    const bytes = bytesOf(path);
    const leading = referencesIn(toRemove, path, bytes);
    if (leading.length === 0) continue;
    const own = new Uint8Array(bytes);
    const { edits, left } = isPage(path) ? fromPage(path, own, leading) : fromOther(path, own, leading);
    const positionOf = positionsIn(own, encodingOf(path, own));
    for (const { reference, target } of left)
      shown.push({ file: path, line: positionOf(reference.offset).line, written: reference.written, target });
    amount += leading.length - left.length;
    if (edits !== null) written.set(path, edits);
  }
  if (shown.length === 0 || isForced) {
    for (const [path, bytes] of written) files.write(path, bytes);
    for (const path of gone) files.remove(path);
  }
  return { references: amount, files: written.size, shown };
}

interface Leading {
  readonly reference: Reference;
  readonly target: string;
}

interface Taken {
  /** The file without them; null where nothing is taken out. */
  readonly edits: Uint8Array | null;
  readonly left: readonly Leading[];
}

function referencesIn({ inventory, published, gone }: ToRemove, path: string, bytes: Uint8Array): Leading[] {
  const reading = readFile(path, bytes);
  if (reading === null) return [];
  const base = baseAddress(path, reading.base);
  return reading.references.flatMap((reference): Leading[] => {
    const target = resolveIn(reference.written.trim(), base, published);
    const found = target.in === 'site' ? locate(inventory, target.path) : null;
    return found !== null && gone.has(found) ? [{ reference, target: found }] : [];
  });
}

/** Elements that load what goes, and links of navigations to it; what else the page says stays. */
function fromPage(path: string, bytes: Uint8Array, leading: readonly Leading[]): Taken {
  const page = openPage(path, bytes);
  const outline = outlineOf(page);
  const { elements } = outline;
  const menus = elements.filter(({ name }) => name === 'nav' || name === 'menu');
  const ranges: Range[] = [];
  const left: Leading[] = [];
  for (const one of leading) {
    const { offset } = one.reference;
    const element = elementAt(outline, offset);
    if (element === null) left.push(one);
    else if (element.name === 'link' || element.name === 'script') ranges.push(element);
    else if (element.name === 'a' && menus.some((menu) => isWithin(element, menu)))
      ranges.push(itemOf(element, elements));
    else left.push(one);
  }
  const once = ranges.filter(
    (range, index) =>
      !ranges.some(
        (other, at) => at !== index && isWithin(range, other) && (at < index || !isSame(range, other)),
      ),
  );
  return { edits: once.length === 0 ? null : page.edited(removals(outline, once)), left };
}

function isWithin(inner: Range, outer: Range): boolean {
  return inner.start >= outer.start && inner.end <= outer.end;
}

function isSame(one: Range, other: Range): boolean {
  return one.start === other.start && one.end === other.end;
}

/** A link, with the list item that it stands in alone. */
function itemOf(link: Outlined, elements: readonly Outlined[]): Range {
  const parent = link.element.parent;
  const item = elements.find(({ element, name }) => element === parent && name === 'li');
  if (item === undefined) return link;
  const others = item.element.children.filter(
    (child) => child !== link.element && !(child.type === 'text' && child.data.trim() === ''),
  );
  return others.length === 0 ? item : link;
}

/** What stands around a reference and cannot do without it: where it begins, and all of it. */
const statements = {
  css: { start: '@import', whole: /@import\b(?:[^;{}"'()]|"[^"]*"|'[^']*'|\([^)]*\))*;[ \t]*(?:\r?\n)?/iy },
  xml: { start: '<url>', whole: /<url>(?:(?!<\/url>)[\s\S])*<\/url>[ \t]*(?:\r?\n)?[ \t]*/iy },
} as const;

/** Imports of a stylesheet, and entries of a site map. */
function fromOther(path: string, bytes: Uint8Array, leading: readonly Leading[]): Taken {
  const plain = oneCharacterAByte(bytes);
  const edits: Edit[] = [];
  const left: Leading[] = [];
  for (const one of leading) {
    const { offset, holder } = one.reference;
    const sort = holder.syntax === 'css' ? 'css' : /(?:^|\/)sitemap\.xml$/.test(path) ? 'xml' : null;
    const range = sort === null ? null : statementAround(plain, offset, sort);
    if (range === null) left.push(one);
    else edits.push({ ...range, text: '' });
  }
  if (edits.length === 0) return { edits: null, left };
  return { edits: applyEdits(bytes, edits, encodingOf(path, bytes), syntaxOf(path)), left };
}

function statementAround(plain: string, offset: number, sort: keyof typeof statements): Range | null {
  const { start: word, whole } = statements[sort];
  const start = plain.lastIndexOf(word, offset);
  whole.lastIndex = Math.max(start, 0);
  const [found] = (start >= 0 && whole.exec(plain)) || [];
  if (found === undefined || start + found.length <= offset) return null;
  return { start, end: start + found.length };
}
