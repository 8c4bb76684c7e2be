/** A site as a whole: its pages by clicks from the entry, what each loads, and what nobody comes to. */
import { groupBy, pushTo } from '../group-by.ts';
import { sameTitle } from '../judge/rules/same-title.ts';
import { unused } from '../judge/rules/unused.ts';
import type { Kind } from '../read/reading.ts';
import type { SiteReport } from '../report.ts';
import type { Ledger } from './ledger.ts';
import type { Share } from './share.ts';

export interface MappedPage {
  readonly file: string;
  readonly title: string | null;
  /** Clicks from the entry page; null where no way leads there. */
  readonly clicks: number | null;
  /** The page that it is first come to from; null for the entry, and where no way leads there. */
  readonly from: string | null;
  /** Other pages that it leads to, in order. */
  readonly leadsTo: readonly string[];
  /** What it loads, by any chain, each with the first kind. */
  readonly loads: ReadonlyMap<string, Kind>;
  /** Addresses of it that visitors do not get, as they are written. */
  readonly broken: readonly string[];
}

export interface SiteMap {
  readonly entry: string;
  /** In order. */
  readonly pages: readonly MappedPage[];
  /** Bytes of each file that is there. */
  readonly sizes: ReadonlyMap<string, number>;
  /** Files that nothing refers to. */
  readonly unused: readonly string[];
  /** Pages that are called the same, in groups. */
  readonly twins: readonly (readonly string[])[];
}

export function siteMapOf(
  ledger: Ledger,
  entry: string,
  { findings }: Pick<SiteReport, 'findings'>,
  sizeOf: (path: string) => number,
): SiteMap {
  const { pages, shares } = ledger;
  const ways = new Map(
    Array.from(pages, ([file, { leadsTo }]) => [
      file,
      [...new Set(leadsTo)].filter((path) => pages.has(path)),
    ]),
  );
  const { clicks, from } = comeTo(entry, ways);
  const broken = new Map<string, string[]>();
  for (const { grade, file, kind, written } of findings)
    if (grade === 'broken' && kind !== null) pushTo(broken, file, written);
  const loading = new Loading(shares);
  const sizes = new Map<string, number>();
  const noteSize = (path: string) => {
    if (!sizes.has(path)) sizes.set(path, sizeOf(path));
  };
  const mapped = Array.from(pages, ([file, { title }]): MappedPage => {
    const loads = loading.of(file);
    noteSize(file);
    for (const path of loads.keys()) noteSize(path);
    const inLoaded = [...loads.keys()].flatMap((path) => broken.get(path) ?? []);
    return {
      file,
      title: title?.text ?? null,
      clicks: clicks.get(file) ?? null,
      from: from.get(file) ?? null,
      leadsTo: ways.get(file) as string[],
      loads,
      broken: [...new Set([...(broken.get(file) ?? []), ...inLoaded])],
    };
  });
  const alone = findings.flatMap(({ rule, file }) => (rule === unused.name ? file : []));
  for (const path of alone) noteSize(path);
  return { entry, pages: mapped, sizes, unused: alone, twins: twinsIn(mapped, findings) };
}

/** How many clicks it takes to come to each page, and from where. */
function comeTo(
  entry: string,
  ways: ReadonlyMap<string, readonly string[]>,
): { readonly clicks: ReadonlyMap<string, number>; readonly from: ReadonlyMap<string, string> } {
  const clicks = new Map<string, number>();
  const from = new Map<string, string>();
  clicks.set(entry, 0);
  // A map goes on with what is put into it on the way.
  for (const [page, amount] of clicks)
    for (const next of ways.get(page) ?? []) {
      if (clicks.has(next)) continue;
      clicks.set(next, amount + 1);
      from.set(next, page);
    }
  return { clicks, from };
}

/** What files load by any chain; what a stylesheet or a script loads is worked out once. */
class Loading {
  readonly #known = new Map<string, ReadonlyMap<string, Kind>>();

  constructor(readonly shares: Ledger['shares']) {}

  of(page: string): ReadonlyMap<string, Kind> {
    const all = new Map<string, Kind>();
    const { loads } = this.shares.get(page) as Share;
    for (const [path, kind] of loads) {
      if (!all.has(path)) all.set(path, kind);
      for (const [further, own] of this.#beyond(path)) if (!all.has(further)) all.set(further, own);
    }
    all.delete(page);
    return all;
  }

  #beyond(file: string): ReadonlyMap<string, Kind> {
    const before = this.#known.get(file);
    if (before !== undefined) return before;
    const all = new Map<string, Kind>();
    const waiting = [file];
    const seen = new Set(waiting);
    for (const path of waiting)
      for (const [next, kind] of this.shares.get(path)?.loads ?? []) {
        if (!all.has(next)) all.set(next, kind);
        if (!seen.has(next)) waiting.push(next);
        seen.add(next);
      }
    this.#known.set(file, all);
    return all;
  }
}

function twinsIn(pages: readonly MappedPage[], findings: SiteReport['findings']): string[][] {
  const told = new Set(findings.flatMap(({ rule, file }) => (rule === sameTitle.name ? file : [])));
  const titles = new Set(pages.filter(({ file }) => told.has(file)).map(({ title }) => title));
  const twins = pages.filter(({ title }) => titles.has(title));
  return Array.from(groupBy(twins, ({ title }) => title as string).values(), (group) =>
    group.map(({ file }) => file),
  );
}
