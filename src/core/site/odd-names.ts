/** Names that are easily written wrong, and the safe ones that they could have. */

import { folderOf, type Inventory, nameOf } from './inventory.ts';
import { isKeptByWindows, plainFileName } from './names.ts';
import type { Places } from './places.ts';

/** Names that other programs ask for as they are. */
const FIXED =
  /^(?:\.well-known|\.htaccess|\.nojekyll|_headers|_redirects|CNAME|LICEN[CS]E[^/]*|README[^/]*|COPYING[^/]*|NOTICE[^/]*)$/;

export function isFixedName(name: string): boolean {
  return FIXED.test(name);
}

export function isOddName(name: string): boolean {
  return !isFixedName(name) && (isKeptByWindows(name) || plainFileName(name) !== name);
}

/** What others named keeps its name. */
export function isNamedByOthers(path: string, { libraries }: Places): boolean {
  return libraries !== undefined && path.startsWith(`${libraries}/`);
}

/** A safe name that nothing else of the folder has, or was told to get; numbered where it must be. */
export function freeName(folder: string, name: string, taken: Set<string>): string {
  const plain = plainFileName(name);
  const isFree = (one: string) => !taken.has(folder + one);
  const numbered = (number: number) => plain.replace(/(?=\.[a-z0-9]+$|$)/, `-${number}`);
  let free = plain;
  for (let number = 2; !isFree(free) && number < 1000; number++) free = numbered(number);
  taken.add(folder + free);
  return free;
}

/** Files and folders (these end in `/`) with odd names, each with the path that it could have. */
export function safePaths(
  { files, folders }: Inventory,
  places: Places,
): (readonly [from: string, to: string])[] {
  const taken = new Set([...files, ...Array.from(folders, (path) => path.replace(/\/$/, ''))]);
  const safe = new Map<string, string>([['', '']]);
  const pairs: (readonly [string, string])[] = [];
  const placeIn = (path: string): string => safe.get(folderOf(path.replace(/\/$/, ''))) as string;
  for (const path of [...folders].sort()) {
    if (path === '') continue;
    const name = nameOf(path);
    const isOdd = isOddName(name) && !isNamedByOthers(path, places);
    const to = `${placeIn(path)}${isOdd ? freeName(placeIn(path), name, taken) : name}/`;
    safe.set(path, to);
    if (isOdd) pairs.push([path, to]);
  }
  for (const path of files) {
    const name = nameOf(path);
    if (!isOddName(name) || isNamedByOthers(path, places)) continue;
    const folder = placeIn(path);
    pairs.push([path, folder + freeName(folder, name, taken)]);
  }
  return pairs;
}
