/** Which HTML files are no pages: pieces that are put into pages, and sources for a generator. */
import { oneCharacterAByte } from '../bytes.ts';
import { pushTo } from '../group-by.ts';
import type { Resolver } from '../resolve/resolver.ts';
import { isIndexName } from '../site/formats.ts';
import { folderOf } from '../site/inventory.ts';
import type { Ledger } from './ledger.ts';
import type { RunFacts } from './runs.ts';
import type { Share } from './share.ts';

type BytesOf = (path: string) => Uint8Array;

/** So many pieces in one folder are there to be put into pages. */
const FEWEST_TOGETHER = 5;
/** Of larger sites no attributes are looked at. */
const MOST_PAGES = 2000;

export interface Apart {
  readonly files: ReadonlySet<string>;
  /** Pieces, by the page that names them in an attribute. */
  readonly putIn: ReadonlyMap<string, readonly string[]>;
}

export const NONE_APART: Apart = { files: new Set(), putIn: new Map() };

/** The entry, index pages and whatever something leads to are pages, but for sources. */
export function apartFrom(
  shares: ReadonlyMap<string, Share>,
  entry: string,
  resolver: Resolver,
  bytesOf: BytesOf,
): Apart {
  const files = new Set<string>();
  const pieces: string[] = [];
  const pages: Share[] = [];
  for (const share of shares.values()) {
    const { file, form } = share;
    if (form === 'source') files.add(file);
    else if (form === 'piece' && file !== entry && !isIndexName(file)) pieces.push(file);
    else if (form !== null) pages.push(share);
  }
  // Where there is no page, nothing is put into one.
  if (pieces.length === 0 || pages.length === 0) return { files, putIn: new Map() };
  const led = new Set<string>();
  const named = new Set<string>();
  for (const { file, form, leadsTo, names } of shares.values()) {
    for (const path of leadsTo) if (path !== file) led.add(path);
    if (form !== 'piece') for (const path of names) named.add(path);
  }
  const left = pieces.filter((path) => !led.has(path));
  const amounts = new Map<string, number>();
  for (const path of left) amounts.set(folderOf(path), (amounts.get(folderOf(path)) ?? 0) + 1);
  const putIn =
    left.length === 0 || pages.length > MOST_PAGES ? new Map() : putInBy(pages, left, resolver, bytesOf);
  for (const paths of putIn.values()) for (const path of paths) named.add(path);
  for (const path of left) {
    const isTogether = (amounts.get(folderOf(path)) as number) >= FEWEST_TOGETHER;
    // A script may name a folder, and put the names of what is in it together.
    const isInNamed = named.has(folderOf(path));
    if (named.has(path) || isInNamed || isTogether) files.add(path);
  }
  return { files, putIn };
}

/** Pieces that pages name in attributes which say so (`data-include`): a script reads them there. */
function putInBy(
  pages: readonly Share[],
  pieces: readonly string[],
  resolver: Resolver,
  bytesOf: BytesOf,
): Map<string, string[]> {
  const wanted = new Set(pieces);
  const putIn = new Map<string, string[]>();
  for (const page of pages)
    for (const written of includesOf(page, bytesOf)) {
      const { found } = resolver.leadsFrom(page.base, false).of(written);
      if (found !== null && wanted.has(found.path)) pushTo(putIn, page.file, found.path);
    }
  return putIn;
}

const INCLUDE = /\s[a-z][\w:-]*include[\w:-]*\s*=\s*["']?([^"'<>\s]+\.html?)(?=["'\s>])/gi;
const known = new WeakMap<Share, readonly string[]>();

function includesOf(page: Share, bytesOf: BytesOf): readonly string[] {
  let written = known.get(page);
  if (written === undefined) {
    const text = oneCharacterAByte(bytesOf(page.file));
    written = Array.from(text.matchAll(INCLUDE), (match) => match[1] ?? '');
    known.set(page, written);
  }
  return written;
}

/** The pieces among the files that a page gets by what scripts name. */
export function piecesPutInto(
  { file }: Share,
  used: RunFacts['used'],
  ledger: Pick<Ledger, 'get'>,
): readonly Share[] {
  return (used.get(file) ?? []).flatMap((path) => {
    const share = ledger.get(path);
    return share?.isApart ? share : [];
  });
}
