/** The shares of a site, and what they come to together: kept up as files come, change and go. */
import type { Facet, PageRecord } from '../judge/rule.ts';
import type { Kind } from '../read/reading.ts';
import { isSameList, isSameMap, isSameSet } from '../same.ts';
import type { Share } from './share.ts';

/** How a file refers to others: a page that leads to them, a page that names them otherwise, another file. */
type Use = 'led' | 'named' | 'byOthers';
export type Uses = Readonly<Record<Use, ReadonlySet<string>>>;

function mapUses<T>(make: (use: Use) => T): Readonly<Record<Use, T>> {
  return { led: make('led'), named: make('named'), byOthers: make('byOthers') };
}

function usesOf({ record, leadsTo, names }: Share): readonly (readonly [Use, readonly string[]])[] {
  const [led, named] = record === null ? (['byOthers', 'byOthers'] as const) : (['led', 'named'] as const);
  return [
    [led, leadsTo],
    [named, names],
  ];
}

export class Ledger {
  readonly #shares = new Map<string, Share>();
  /** Those with something to be said of, by themselves or once the site is known. */
  readonly #speaking = new Map<string, Share>();
  /** Those of which only the pages that run them tell all: what addresses come to, what workers do. */
  readonly #awaiting = new Set<string>();
  /** Those whose own code asks for data. */
  readonly #asking = new Map<string, readonly string[]>();
  readonly #pages = new Map<string, PageRecord>();
  #pagesInOrder: ReadonlyMap<string, PageRecord> | null = null;
  /** How many files refer to each path; counted when the site first changes. */
  #users: Readonly<Record<Use, Map<string, number>>> | null = null;
  #uses: Uses | null = null;
  #loadedAs: ReadonlyMap<string, Kind> | null = null;
  /** How often each facet of the site has changed. */
  readonly #changes: Record<Facet, number> = {
    names: 0,
    pages: 0,
    titles: 0,
    descriptions: 0,
    samples: 0,
    ways: 0,
    loads: 0,
    uses: 0,
  };
  /** How often something changed that tells what modules are. */
  modules = 0;
  /** How often something changed that tells which file leads where, by any kind of reference. */
  links = 0;
  references = 0;
  external = 0;

  get(file: string): Share | undefined {
    return this.#shares.get(file);
  }

  get shares(): ReadonlyMap<string, Share> {
    return this.#shares;
  }

  get speaking(): Iterable<Share> {
    return this.#speaking.values();
  }

  /** Files that code asks for, by the file that has it. */
  get data(): Iterable<readonly string[]> {
    return this.#asking.values();
  }

  get isAwaitingRuns(): boolean {
    return this.#awaiting.size > 0;
  }

  /** A number that is another one whenever one of the facets has changed. */
  versionOf(facets: readonly Facet[]): number {
    return facets.reduce((sum, facet) => sum + this.#changes[facet], 0);
  }

  note(facet: Facet): void {
    this.#changes[facet]++;
  }

  /** Every page by its path, in order. */
  get pages(): ReadonlyMap<string, PageRecord> {
    this.#pagesInOrder ??= new Map([...this.#pages].sort(([one], [other]) => (one < other ? -1 : 1)));
    return this.#pagesInOrder;
  }

  /** Every path that a file refers to, by what refers to it and how. */
  get uses(): Uses {
    const users = this.#users;
    this.#uses ??= users === null ? this.#gathered() : mapUses((use) => new Set(users[use].keys()));
    return this.#uses;
  }

  #gathered(): Uses {
    const uses = mapUses(() => new Set<string>());
    for (const share of this.#shares.values())
      for (const [use, paths] of usesOf(share)) for (const path of paths) uses[use].add(path);
    return uses;
  }

  /** For each file that is loaded: as what, by the first in order that loads it. */
  get loadedAs(): ReadonlyMap<string, Kind> {
    if (this.#loadedAs === null) {
      const loadedAs = new Map<string, Kind>();
      const shares = [...this.#shares.values()].filter(({ loads }) => loads.size > 0);
      for (const { loads } of shares.sort((one, other) => (one.file < other.file ? -1 : 1)))
        for (const [path, kind] of loads) if (!loadedAs.has(path)) loadedAs.set(path, kind);
      this.#loadedAs = loadedAs;
    }
    return this.#loadedAs;
  }

  set(share: Share): void {
    const { file } = share;
    const before = this.#shares.get(file);
    this.#shares.set(file, share);
    this.#keep(file, share);
    this.#count(share, 1);
    if (before !== undefined) this.#count(before, -1);
    this.#compare(before, share);
  }

  delete(file: string): void {
    const before = this.#shares.get(file);
    if (before === undefined) return;
    this.#shares.delete(file);
    this.#speaking.delete(file);
    this.#awaiting.delete(file);
    this.#asking.delete(file);
    this.#count(before, -1);
    this.#compare(before, undefined);
  }

  #keep(file: string, share: Share): void {
    const { findings, suspected, suspects, runAddresses, workers, data } = share;
    if (findings.length + suspected.length + suspects.length > 0) this.#speaking.set(file, share);
    else this.#speaking.delete(file);
    if (runAddresses.length + workers.length > 0) this.#awaiting.add(file);
    else this.#awaiting.delete(file);
    if (data.length > 0) this.#asking.set(file, data);
    else this.#asking.delete(file);
  }

  /** Counts who refers to what, to keep that up from now on. */
  prepare(): void {
    if (this.#users !== null) return;
    this.#users = mapUses(() => new Map());
    for (const share of this.#shares.values()) this.#countUsers(share, this.#users, 1);
  }

  #count(share: Share, by: 1 | -1): void {
    this.references += by * share.references;
    this.external += by * share.external;
    this.#uses = null;
    if (this.#users === null) this.note('uses');
    else this.#countUsers(share, this.#users, by);
  }

  #countUsers(share: Share, users: Readonly<Record<Use, Map<string, number>>>, by: 1 | -1): void {
    for (const [use, paths] of usesOf(share)) {
      const counts = users[use];
      for (const path of paths) {
        const amount = (counts.get(path) ?? 0) + by;
        if (amount === 0) counts.delete(path);
        else counts.set(path, amount);
        if (amount === 0 || (amount === 1 && by === 1)) this.note('uses');
      }
    }
  }

  /** Notes what another share of a file changes for the site. */
  #compare(before: Share | undefined, after: Share | undefined): void {
    if (before === undefined && after !== undefined) {
      if (after.record !== null) this.#pages.set(after.file, after.record);
      this.#pagesInOrder = null;
      this.#loadedAs = null;
      for (const facet of ['pages', 'titles', 'descriptions', 'samples', 'ways', 'loads'] as const)
        this.note(facet);
      this.modules++;
      this.links++;
      return;
    }
    const [old, now] = [before?.record ?? null, after?.record ?? null];
    const file = (after ?? before)?.file as string;
    if (now === null) this.#pages.delete(file);
    else this.#pages.set(file, now);
    if (old !== now) this.#pagesInOrder = null;
    if ((old === null) !== (now === null)) this.note('pages');
    if (JSON.stringify(old?.title) !== JSON.stringify(now?.title)) this.note('titles');
    if (old?.description !== now?.description) this.note('descriptions');
    if (JSON.stringify(old?.samples) !== JSON.stringify(now?.samples)) this.note('samples');
    const isAlikeLeading = isSameList(before?.leadsTo ?? [], after?.leadsTo ?? []);
    if (!isAlikeLeading || !isSameSet(old?.navigation ?? noPaths, now?.navigation ?? noPaths))
      this.note('ways');
    const isAlikeLoading = isSameMap(before?.loads ?? none, after?.loads ?? none);
    if (!isAlikeLeading || !isAlikeLoading || !isSameList(before?.names ?? [], after?.names ?? []))
      this.links++;
    if (!isAlikeLoading) {
      this.note('loads');
      this.#loadedAs = null;
    }
    const sayings = [before, after].map(
      (share) => share && JSON.stringify([share.base, mapOf(share), share.workers, share.prefixes]),
    );
    if (
      !isAlikeLoading ||
      sayings[0] !== sayings[1] ||
      before?.runAddresses.length ||
      after?.runAddresses.length
    )
      this.modules++;
  }
}

const none: ReadonlyMap<string, Kind> = new Map();
const noPaths: ReadonlySet<string> = new Set();

function mapOf({ imports }: Share): unknown {
  return imports && [[...imports.imports], Array.from(imports.scopes, ([scope, map]) => [scope, [...map]])];
}
