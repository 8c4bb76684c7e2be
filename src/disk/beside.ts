/** Names beside a place for what is made there before it takes that place. */

import { basename } from 'node:path';
import { around, below, type DiskPath } from './disk-path.ts';
import { readdirSync, rmSync } from './fs.ts';
import { isMakerAlive, uniqueName } from './process.ts';

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
  return (
    place.replaceAll('\\', '/').startsWith(start.replaceAll('\\', '/')) && /-\d+-[0-9a-f]{12}$/.test(place)
  );
}

/** What runs that did not come to their end left beside a target. */
export function removeLeftovers(path: DiskPath): void {
  const prefix = prefixOf(path);
  for (const name of readdirSync(around(path)))
    if (name.startsWith(prefix) && !isMakerAlive(name.slice(prefix.length)))
      rmSync(below(around(path), name), { recursive: true, force: true });
}
