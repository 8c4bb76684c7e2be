/** Which pages load a file, by any chain: what stylesheets import, scripts name, and so on. */
import { groupBy, pushTo } from '../group-by.ts';
import { onceFor } from '../once-for.ts';
import { isPage } from '../read/read.ts';
import { isAskedFor } from '../site/asked-for.ts';
import { folderOf, type Inventory } from '../site/inventory.ts';
import type { Ledger, Uses } from './ledger.ts';
import type { Leads } from './site-facts.ts';

/** Pages that load the same of the files that are looked at. */
interface Group {
  readonly pages: readonly string[];
}

export class Reach {
  readonly #uses: Uses;
  #reached: ReadonlySet<string> | null = null;
  #groups: Loading | null = null;

  /** `leads`: more ways from file to file; `isWhole`: every page could be read. */
  constructor(
    readonly ledger: Ledger,
    readonly inventory: Inventory,
    readonly leads: readonly Leads[],
    readonly isWhole: boolean,
  ) {
    this.#uses = ledger.uses;
  }

  /** False where it is sure that no page loads the file, and that no host and no browser asks for it by itself. */
  isReached(file: string): boolean {
    // A page that no page leads to is one all the same: visitors come by a direct way.
    const isOpened = isPage(file) && this.ledger.get(file)?.isApart !== true;
    if (!this.isWhole || this.ledger.pages.size === 0 || isOpened || isAskedFor(file)) return true;
    this.#reached ??= this.#closure();
    return this.#reached.has(file);
  }

  /** How many pages there are among the files, and of those that load any of them where `loads` says so. */
  pagesOf(files: ReadonlySet<string>, loads: boolean): number {
    const { pages } = this.ledger;
    const own = [...files].filter((file) => pages.has(file));
    return !loads || own.length === files.size ? own.length : this.#loading.pagesOf(files);
  }

  /** The pages that load a file; none for what is not read. */
  pagesThatLoad(file: string): readonly string[] {
    return this.#loading.pagesThatLoad(file);
  }

  get #loading(): Loading {
    this.#groups ??= new Loading(this.ledger, (file, isLed) => this.#next(file, isLed), this.#uses);
    return this.#groups;
  }

  /** Every file but pages that a page leads to, directly or further on. */
  #closure(): ReadonlySet<string> {
    const { pages } = this.ledger;
    const { led, named } = this.#uses;
    const reached = new Set<string>();
    const add = (path: string) => {
      for (const file of this.#within(path)) reached.add(file);
    };
    for (const paths of [led, named]) for (const path of paths) add(path);
    for (const lead of this.leads) for (const [file, paths] of lead) if (pages.has(file)) paths.forEach(add);
    for (const file of reached) for (const next of this.#next(file)) reached.add(next);
    return reached;
  }

  /** The files that a file leads to, but for pages: those are there for themselves. `isLed`: by ways for visitors, too. */
  #next(file: string, isLed = true): readonly string[] {
    const share = this.ledger.shares.get(file);
    // What is not read leads nowhere.
    if (share === undefined) return [];
    const found: string[] = [];
    const led = this.leads.map((lead) => lead.get(file) ?? []);
    for (const paths of [isLed ? share.leadsTo : [], share.names, ...led])
      for (const path of paths) for (const inside of this.#within(path)) found.push(inside);
    return found;
  }

  /** A file, or what a folder holds of whose files a script puts the names together; no page is told. */
  #within(path: string): readonly string[] {
    if (!path.endsWith('/')) return this.ledger.pages.has(path) ? [] : [path];
    const { files, folders } = contentsOf(this.inventory);
    return [...(files.get(path) ?? []), ...(folders.get(path) ?? [])].flatMap((inside) =>
      this.#within(inside),
    );
  }
}

/** The pages that load each file, by groups of pages that load the same. */
class Loading {
  readonly #groupsOf = new Map<string, Group[]>();
  readonly #groupOf = new Map<string, Group>();

  constructor(
    readonly ledger: Ledger,
    next: (file: string, isLed: boolean) => readonly string[],
    { led }: Uses,
  ) {
    const { pages, shares } = ledger;
    // Only what is read may have findings: what else pages load is passed over.
    const others = new Set([...shares.keys()].filter((file) => !pages.has(file)));
    const isLed = [...others].some((file) => led.has(file));
    const startsOf = (page: string) => {
      const starts = next(page, isLed).filter((path) => others.has(path));
      return [...new Set(starts)].sort().join('\n');
    };
    const onwards = new Map(
      Array.from(others, (file) => [file, next(file, true).filter((one) => others.has(one))]),
    );
    for (const [key, all] of groupBy(pages.keys(), startsOf)) {
      const group = { pages: all };
      for (const page of all) this.#groupOf.set(page, group);
      const passed = new Set(key.split('\n'));
      for (const file of passed) {
        pushTo(this.#groupsOf, file, group);
        for (const one of onwards.get(file) ?? []) passed.add(one);
      }
    }
  }

  pagesOf(files: ReadonlySet<string>): number {
    const groups = new Set<Group>();
    for (const file of files) for (const group of this.#groupsOf.get(file) ?? []) groups.add(group);
    let amount = 0;
    for (const { pages } of groups) amount += pages.length;
    for (const file of files) {
      if (this.ledger.pages.has(file) && !groups.has(this.#groupOf.get(file) as Group)) amount++;
    }
    return amount;
  }

  pagesThatLoad(file: string): readonly string[] {
    return (this.#groupsOf.get(file) ?? []).flatMap(({ pages }) => pages);
  }
}

/** What each folder holds itself. */
const contentsOf = onceFor(({ files, folders }: Inventory) => ({
  files: groupBy(files, folderOf),
  folders: groupBy(
    [...folders].filter((path) => path !== ''),
    (path) => folderOf(path.slice(0, -1)),
  ),
}));
