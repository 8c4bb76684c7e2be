/** Which HTML files are no pages: pieces that are put into pages, and sources for a generator. */
import { isIndexName } from '../site/formats.ts';
import { folderOf } from '../site/inventory.ts';
import type { Share } from './share.ts';

/** So many pieces in one folder are there to be put into pages. */
const FEWEST_TOGETHER = 5;

/** The entry, index pages and whatever something leads to are pages, but for sources. */
export function apartFrom(shares: ReadonlyMap<string, Share>, entry: string): ReadonlySet<string> {
  const apart = new Set<string>();
  const pieces: string[] = [];
  let isPageThere = false;
  for (const { file, form } of shares.values()) {
    if (form === 'source') apart.add(file);
    else if (form === 'piece' && file !== entry && !isIndexName(file)) pieces.push(file);
    else if (form !== null) isPageThere = true;
  }
  // Where there is no page, nothing is put into one.
  if (pieces.length === 0 || !isPageThere) return apart;
  const led = new Set<string>();
  const named = new Set<string>();
  for (const { file, form, leadsTo, names } of shares.values()) {
    for (const path of leadsTo) if (path !== file) led.add(path);
    if (form !== 'piece') for (const path of names) named.add(path);
  }
  const left = pieces.filter((path) => !led.has(path));
  const amounts = new Map<string, number>();
  for (const path of left) amounts.set(folderOf(path), (amounts.get(folderOf(path)) ?? 0) + 1);
  for (const path of left)
    if (named.has(path) || (amounts.get(folderOf(path)) as number) >= FEWEST_TOGETHER) apart.add(path);
  return apart;
}
