/** What pages and search engines are told of the address that a site is published at. */
import type { Files } from '../change/files.ts';
import { encodePath } from '../mend/address.ts';
import { valueEdit } from '../page/attributes.ts';
import { atHeadEnd } from '../page/head.ts';
import { mannerOf } from '../page/manner.ts';
import { escapeMarkup, openPage } from '../page/page.ts';
import { pagesOf } from '../page/pages.ts';
import { type Tagged, tagsOf } from '../page/tags.ts';
import { linkTypes, metadataKind } from '../read/html/relations.ts';
import { locate } from '../resolve/locate.ts';
import { type Published, resolveIn } from '../resolve/published.ts';
import { isErrorPage } from '../site/asked-for.ts';
import { INDEX } from '../site/formats.ts';
import { folderOf, type Inventory, makeInventory, nameOf } from '../site/inventory.ts';

/** Addresses in one sitemap at most (sitemaps.org protocol, 0.9). */
const MOST = 50_000;

export interface Told {
  /** Pages that say now where they are published. */
  readonly canonical: number;
  /** Addresses of pictures for others that have their host now. */
  readonly pictures: number;
  /** Files that were made. */
  readonly made: readonly string[];
}

/** The address of a page as visitors come to it. */
function addressOfPage(path: string, { origin, folder }: Published): string {
  return addressOf(nameOf(path) === INDEX ? folderOf(path) : path, { origin, folder });
}

/** Writes what is missing of it. */
export function tellAddresses(files: Files, published: Published): Told {
  const inventory = makeInventory(files.paths());
  const found: string[] = [];
  let [canonical, pictures] = [0, 0];
  for (const path of pagesOf(files)) {
    const told = tellIn(path, files.read(path), inventory, published);
    if (told === null) continue;
    if (told.bytes !== null) files.write(path, told.bytes);
    canonical += told.isNew ? 1 : 0;
    pictures += told.pictures;
    if (!told.isHidden) found.push(path);
  }
  return { canonical, pictures, made: makeForEngines(files, found, published) };
}

interface PageTold {
  /** Null where the page stays as it is. */
  readonly bytes: Uint8Array | null;
  readonly isNew: boolean;
  readonly pictures: number;
  /** Search engines are not to list it, or to list another address for it. */
  readonly isHidden: boolean;
}

/** Null for a piece of pages, which has no address of its own, and for a source of them. */
function tellIn(
  path: string,
  bytes: Uint8Array,
  inventory: Inventory,
  published: Published,
): PageTold | null {
  const page = openPage(path, bytes);
  if (page.reading.page?.form !== 'page') return null;
  const tags = tagsOf(page, true);
  const metas = tags.elements.filter(({ name }) => name === 'meta');
  const isUnlisted = isErrorPage(path) || metas.some(isForbidding);
  const known = tags.elements.find(
    (one) => one.name === 'link' && linkTypes(one.attribute('rel')).has('canonical'),
  );
  const own = addressOfPage(path, published);
  const isNew = known === undefined && !isUnlisted;
  const attributes = [
    ['rel', 'canonical'],
    ['href', own],
  ] as const;
  const edits = metas.flatMap((meta) => {
    const address = pictureOf(meta, page.base, inventory, published);
    return address === null ? [] : valueEdit(page, meta, 'content', address);
  });
  const pictures = edits.length;
  if (isNew) edits.push(atHeadEnd(tags, mannerOf(tags).element('link', attributes, false)));
  const href = known?.attribute('href') ?? null;
  const target = href === null ? null : resolveIn(href, page.base, published);
  const isElsewhere = target !== null && (target.in !== 'site' || locate(inventory, target.path) !== path);
  return {
    bytes: edits.length === 0 ? null : page.edited(edits),
    isNew,
    pictures,
    isHidden: isUnlisted || isElsewhere,
  };
}

/** Robots meta, as search engines read it. */
function isForbidding(meta: Tagged): boolean {
  return (
    meta.attribute('name')?.toLowerCase() === 'robots' &&
    /\b(?:noindex|none)\b/i.test(meta.attribute('content') ?? '')
  );
}

/** The whole address of a picture that other sites are to show of the page; null where it has one, or leads nowhere. */
function pictureOf(
  meta: Tagged,
  base: string | null,
  inventory: Inventory,
  published: Published,
): string | null {
  const content = meta.attribute('content')?.trim() ?? '';
  const kind = metadataKind(meta.attribute('property') ?? meta.attribute('name'));
  if ((kind !== 'image' && kind !== 'media') || content === '' || /^[a-z][a-z0-9+.-]*:/i.test(content))
    return null;
  const target = resolveIn(content, base, published);
  if (target.in !== 'site' || locate(inventory, target.path) === null) return null;
  const tail = /[?#].*/s.exec(content)?.[0] ?? '';
  return addressOf(target.path, published) + tail;
}

function addressOf(path: string, { origin, folder }: Published): string {
  return origin + folder + encodePath(path);
}

/** A list of the pages and a word for who reads it, where the site has none of its own. */
function makeForEngines(files: Files, pages: readonly string[], published: Published): string[] {
  const made: string[] = [];
  const make = (path: string, text: string) => {
    files.write(path, new TextEncoder().encode(text));
    made.push(path);
  };
  const hasList = files.paths().some((path) => /^sitemap[^/]*\.(?:xml|txt)$/i.test(path));
  if (!hasList) {
    const addresses = pages.map((path) => addressOfPage(path, published)).sort();
    const lists: string[][] = [];
    for (let at = 0; at < addresses.length; at += MOST) lists.push(addresses.slice(at, at + MOST));
    const [only = [], second] = lists;
    if (second === undefined) make('sitemap.xml', listOf('urlset', 'url', only));
    else {
      const names = lists.map((_list, index) => `sitemap-${index + 1}.xml`);
      for (const [index, list] of lists.entries())
        make(names[index] as string, listOf('urlset', 'url', list));
      const all = names.map((name) => addressOf(name, published));
      make('sitemap.xml', listOf('sitemapindex', 'sitemap', all));
    }
  }
  // Robots ask at the root of a host alone (RFC 9309, 2.3).
  if (published.folder === '/' && !files.has('robots.txt')) {
    const list = files.has('sitemap.xml') ? `Sitemap: ${addressOf('sitemap.xml', published)}\n` : '';
    make('robots.txt', `User-agent: *\nAllow: /\n${list}`);
  }
  return made;
}

function listOf(list: string, entry: string, addresses: readonly string[]): string {
  const entries = addresses.map((one) => `  <${entry}><loc>${escapeMarkup(one)}</loc></${entry}>\n`);
  return `<?xml version="1.0" encoding="UTF-8"?>\n<${list} xmlns="http://www.sitemaps.org/schemas/sitemap/0.9">\n${entries.join('')}</${list}>\n`;
}
