/** What a site's files have to do with each other, as far as moving needs it: who runs a script, and who names a page. */

import { addTo } from '../group-by.ts';
import { isWorker } from '../read/holder.ts';
import { leadsToPage } from '../read/loaded.ts';
import { isPage } from '../read/read.ts';
import type { Reference } from '../read/reading.ts';
import { locate } from '../resolve/locate.ts';
import { type Published, resolveIn } from '../resolve/published.ts';
import { folderOf, type Inventory, nameOf } from '../site/inventory.ts';

export class Links {
  readonly #runBy = new Map<string, Set<string>>();
  /** Files that ways lead to; and by name, what scripts and attributes name, with the files that do. */
  readonly #linked = new Set<string>();
  readonly #namedBy = new Map<string, Set<string>>();
  readonly #seenIn = new Map<string, Set<string>>();

  constructor(
    readonly inventory: Inventory,
    readonly published: Published | null,
  ) {}

  /** A reference of a file, whose addresses start from `base`. */
  note(file: string, { kind, written }: Reference, base: string | null): void {
    const address = written.replace(/[?#].*/s, '');
    if (!isPage(address)) return;
    // Whatever a way leads to is a page; what is asked for otherwise may be a piece.
    if (!leadsToPage({ kind })) return this.noteName(file, address);
    if (base === null || this.#isSeen(folderOf(base), address)) return;
    const target = resolveIn(address, base, this.published);
    if (target.in === 'site' && target.path !== file) this.#linked.add(target.path);
  }

  /** A file names something in a string. */
  noteName(file: string, address: string): void {
    addTo(this.#namedBy, nameOf(address), file);
  }

  /** A page, or a script, that runs another one. */
  noteRun(file: string, reference: Reference, base: string | null): void {
    const { kind, written } = reference;
    if (base === null || (kind !== 'script' && kind !== 'module' && !isWorker(reference))) return;
    const target = resolveIn(written.replace(/#.*/s, ''), base, this.published);
    const found = target.in === 'site' ? locate(this.inventory, target.path) : null;
    if (found !== null) addTo(this.#runBy, found, file);
  }

  /** False the first time that a folder's files have an address: pages of a folder repeat most of them. */
  #isSeen(folder: string, address: string): boolean {
    const seen = this.#seenIn.get(folder) ?? new Set();
    if (seen.size === 0) this.#seenIn.set(folder, seen);
    const before = seen.size;
    return seen.add(address).size === before;
  }

  /** The pages that addresses in a file start from: itself, those that run it, those that put it in where it is a piece. */
  startsOf(file: string, isInPiece: boolean): string[] {
    const putInBy = isInPiece && !this.#linked.has(file) ? [...(this.#namedBy.get(nameOf(file)) ?? [])] : [];
    const starting = putInBy.length > 0 ? putInBy : [file];
    return starting.flatMap((one) => (isPage(one) ? one : this.#pagesOf(one)));
  }

  /** The pages that run a script, by any chain. */
  #pagesOf(script: string): string[] {
    const seen = new Set([script]);
    for (const path of seen) for (const by of this.#runBy.get(path) ?? []) seen.add(by);
    return [...seen].filter((path) => path !== script && isPage(path));
  }
}
