/** Names beside a place for what is made there before it takes that place. */

import { basename } from 'node:path';
import { around, below, type DiskPath } from './disk-path.ts';
import { readdirSync, rmSync } from './fs.ts';
import { isMakerAlive, isUniqueName, uniqueName } from './process.ts';

function prefixOf(path: DiskPath): string {
  return `.${basename(path)}.cravel-`;
}

/** A name beside a target that nothing else has. */
export function besideTarget(path: DiskPath): DiskPath {
  return below(around(path), prefixOf(path) + uniqueName());
}

/** True for what some run had beside a target. */
export function isBesideTarget(path: DiskPath, place: string): boolean {
  const start = `${around(path)}/${prefixOf(path)}`;
  const isBeside = place.replaceAll('\\', '/').startsWith(start.replaceAll('\\', '/'));
  return isBeside && isUniqueName(place.slice(start.length));
}

/** What runs that did not come to their end left beside a target. */
export function removeLeftovers(path: DiskPath): void {
  removeDead(around(path), prefixOf(path));
}

/** Takes away what runs that did not come to their end made in a folder under names that begin so. */
export function removeDead(folder: DiskPath, prefix: string): void {
  for (const name of readdirSync(folder)) {
    const maker = name.startsWith(prefix) ? name.slice(prefix.length) : '';
    if (isUniqueName(maker) && !isMakerAlive(maker))
      rmSync(below(folder, name), { recursive: true, force: true });
  }
}
