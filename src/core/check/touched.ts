/** Which files a change to a site touches. */
import { isRead } from '../read/read.ts';
import type { Inventory } from '../site/inventory.ts';
import type { Share } from './share.ts';

export interface Change {
  /** Files that came or went: what is resolved by their names is to be resolved anew. */
  readonly moved: ReadonlySet<string>;
  /** Files to take again, and files that are gone. */
  readonly touched: ReadonlySet<string>;
  readonly gone: readonly string[];
}

/** What became of a site; `changed` are files whose content is another one, `entry` the page with the masters of parts. */
export function changeOf(
  before: Inventory,
  after: Inventory,
  changed: ReadonlySet<string>,
  shares: Iterable<Share>,
  entry: string,
): Change {
  const gone = [...before.files].filter((path) => !after.files.has(path));
  const moved = new Set([...gone, ...[...after.files].filter((path) => !before.files.has(path))]);
  const altered = new Set([...changed, ...moved]);
  const touched = new Set(altered);
  for (const share of shares)
    if (isTouched(share, moved, altered) || (share.marksParts && altered.has(entry))) touched.add(share.file);
  const there = [...touched].filter((path) => after.files.has(path) && isRead(path));
  return { moved, touched: new Set(there), gone };
}

/** True where what a share says depends on files that came, went or changed. */
function isTouched(share: Share, moved: ReadonlySet<string>, altered: ReadonlySet<string>): boolean {
  if (moved.size > 0) {
    if (share.suspected.length > 0 || share.suspects.length > 0 || share.hasOpenHints) return true;
    if ([...share.leadsTo, ...share.names].some((path) => moved.has(path))) return true;
  }
  for (const path of share.loads.keys()) if (altered.has(path)) return true;
  return false;
}
