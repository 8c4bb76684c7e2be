/** Which files a change to a site touches. */
import { addTo } from '../group-by.ts';
import { isRead } from '../read/read.ts';
import { isSameSet } from '../same.ts';
import type { Inventory } from '../site/inventory.ts';
import type { Share } from './share.ts';

export interface SiteChange {
  /** Files that came or went: what is resolved by their names is to be resolved anew. */
  readonly moved: ReadonlySet<string>;
  /** Files to take again, and files that are gone. */
  readonly touched: ReadonlySet<string>;
  readonly gone: readonly string[];
}

interface Written {
  /** Files whose content is another one. */
  readonly changed: ReadonlySet<string>;
  /** Of which files something is no longer true that was answered before. */
  othersOf(files: ReadonlySet<string>): ReadonlySet<string>;
}

/** Who depends on what: by the paths that shares load, and those that they lead to or name. */
export class Dependents {
  readonly #loading = new Map<string, Set<string>>();
  readonly #naming = new Map<string, Set<string>>();
  /** Files with something to be said that any new name may settle. */
  readonly #restless = new Set<string>();
  readonly #marking = new Set<string>();

  constructor(shares: Iterable<Share>) {
    for (const share of shares) this.add(share);
  }

  add(share: Share): void {
    const { file } = share;
    for (const [index, path] of dependenciesOf(share, this.#loading, this.#naming)) addTo(index, path, file);
    if (share.suspected.length > 0 || share.suspects.length > 0 || share.hasOpenHints)
      this.#restless.add(file);
    if (share.marksParts) this.#marking.add(file);
  }

  remove(share: Share): void {
    const { file } = share;
    for (const [index, path] of dependenciesOf(share, this.#loading, this.#naming))
      (index.get(path) as Set<string>).delete(file);
    this.#restless.delete(file);
    this.#marking.delete(file);
  }

  /** What became of a site; `entry` is the page with the masters of parts. */
  changeOf(before: Inventory, after: Inventory, { changed, othersOf }: Written, entry: string): SiteChange {
    const gone = [...before.files].filter((path) => !after.files.has(path));
    const come = [...after.files].filter((path) => !before.files.has(path));
    const moved = new Set([...gone, ...come, ...movedBeside(before, after)]);
    const altered = new Set([...changed, ...moved]);
    const touched = new Set(altered);
    const touch = (files: Iterable<string> = []) => {
      for (const file of files) touched.add(file);
    };
    if (moved.size > 0) touch(this.#restless);
    for (const path of moved) touch(this.#naming.get(path));
    for (const path of [...moved, ...othersOf(altered)]) touch(this.#loading.get(path));
    if (altered.has(entry)) touch(this.#marking);
    // Nobody noted who leads into a folder that could not be looked into.
    if (!isSameSet(before.closed, after.closed)) touch(after.files);
    const there = [...touched].filter((path) => after.files.has(path) && isRead(path));
    return { moved, touched: new Set(there), gone };
  }
}

/** What stands beside the files and is another now: hidden files, and links. */
function movedBeside(before: Inventory, after: Inventory): string[] {
  const borders = [...before.borders, ...after.borders].filter(
    (path) => !before.borders.has(path) || !after.borders.has(path),
  );
  const others = (['hidden', 'deadLinks', 'aliases'] as const).flatMap((kind) => {
    const paths = new Set([...before[kind].keys(), ...after[kind].keys()]);
    return [...paths].filter((path) => before[kind].get(path) !== after[kind].get(path));
  });
  // What led to another file by way of a link was noted as leading to that one.
  return [...borders, ...others.flatMap((path) => [path, before.aliases.get(path) ?? []].flat())];
}

function* dependenciesOf<T>(
  { loads, leadsTo, names }: Share,
  loading: T,
  naming: T,
): Iterable<readonly [index: T, path: string]> {
  for (const path of loads.keys()) yield [loading, path];
  for (const path of leadsTo) yield [naming, path];
  for (const path of names) yield [naming, path];
}
