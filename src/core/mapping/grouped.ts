/** Puts pages together by their folders where there are too many to be told apart in a picture. */

import type { MappedPage, SiteMap } from '../check/site-map.ts';
import { groupBy } from '../group-by.ts';
import type { Kind } from '../read/reading.ts';
import { folderOf } from '../site/inventory.ts';

/** Pages that have spots of their own at most; spots of a picture at most; steps of folders told apart at most. */
const MOST_ALONE = 110;
const MOST = 240;
const DEEPEST = 6;
/** Rings at most: what lies further out is put into the last. */
export const MOST_RINGS = 8;

/** What kinds of files are to the eye. */
export const sorts = ['page', 'style', 'script', 'image', 'font', 'other'] as const;
export type Sort = (typeof sorts)[number];

/** A page, or pages of one folder that are as many clicks away. */
export interface Spot {
  readonly id: string;
  /** Site path of a page, or of the folder that they lie in. */
  readonly path: string;
  readonly pages: readonly MappedPage[];
  /** Clicks from the entry page, 0 for that. */
  readonly ring: number;
  /** The spot that most of them are come to from; null for the entry. */
  readonly from: string | null;
  /** Bytes that come where one of them is opened: of several, on average. */
  readonly weight: number;
  readonly weights: Readonly<Record<Sort, number>>;
  /** Addresses that visitors do not get. */
  readonly broken: number;
}

export interface Grouped {
  /** The entry first, then ring by ring. */
  readonly spots: readonly Spot[];
  /** Pages that no way leads to. */
  readonly unreached: readonly MappedPage[];
}

export function grouped(map: SiteMap): Grouped {
  const reached = map.pages.filter(({ clicks }) => clicks !== null);
  const levels = levelsFor(reached);
  const startFor = (page: MappedPage) => startOf(page.file, levels?.[ringOf(page)] ?? 0);
  const idOf = (page: MappedPage) => {
    const ring = ringOf(page);
    return levels === null || ring === 0 ? page.file : `${ring} ${startFor(page)}`;
  };
  const inner = innerOf(reached);
  const spots = Array.from(groupBy(reached, idOf), ([id, all]): Spot => {
    const [first] = all as [MappedPage];
    const ring = ringOf(first);
    const weights = weightsOf(all, map.sizes);
    return {
      id,
      path: all.length === 1 ? first.file : startFor(first) || '/',
      pages: all,
      ring,
      from: ring === 0 ? null : parentOf(all, inner, idOf),
      weight: sorts.reduce((sum, sort) => sum + weights[sort], 0),
      weights,
      broken: all.reduce((sum, page) => sum + page.broken.length, 0),
    };
  });
  spots.sort((one, other) => one.ring - other.ring || (one.path < other.path ? -1 : 1));
  return { spots, unreached: map.pages.filter(({ clicks }) => clicks === null) };
}

function ringOf({ clicks }: MappedPage): number {
  return Math.min(clicks ?? 0, MOST_RINGS);
}

/** How many steps of folders are told apart in each ring; null where each page has a spot of its own. */
function levelsFor(pages: readonly MappedPage[]): readonly number[] | null {
  if (pages.length <= MOST_ALONE) return null;
  const rings = groupBy(pages, (page) => String(ringOf(page)));
  const levels = Array.from({ length: MOST_RINGS + 1 }, () => DEEPEST);
  const amountIn = (ring: number) =>
    new Set(rings.get(String(ring))?.map(({ file }) => startOf(file, levels[ring] as number))).size;
  const amounts = levels.map((_level, ring) => amountIn(ring));
  // The fullest ring gives way first.
  while (amounts.reduce((sum, amount) => sum + amount, 0) > MOST) {
    const fullest = amounts.indexOf(Math.max(...amounts));
    levels[fullest] = (levels[fullest] as number) - 1;
    amounts[fullest] = amountIn(fullest);
  }
  return levels;
}

/** The first steps of the folder that a file lies in. */
function startOf(file: string, level: number): string {
  return folderOf(file)
    .split('/')
    .slice(0, -1)
    .slice(0, level)
    .map((step) => `${step}/`)
    .join('');
}

/** For each page the one of a ring further in that it is come to from, so that lines never run back. */
function innerOf(reached: readonly MappedPage[]): ReadonlyMap<string, MappedPage> {
  const byFile = new Map(reached.map((page) => [page.file, page]));
  const inner = new Map<string, MappedPage>();
  for (const page of reached.toSorted((one, other) => (one.clicks ?? 0) - (other.clicks ?? 0))) {
    const from = byFile.get(page.from ?? '');
    const further = from === undefined || ringOf(from) < ringOf(page) ? from : inner.get(from.file);
    if (further !== undefined) inner.set(page.file, further);
  }
  return inner;
}

/** The spot that most of them are come to from. */
function parentOf(
  pages: readonly MappedPage[],
  inner: ReadonlyMap<string, MappedPage>,
  idOf: (page: MappedPage) => string,
): string {
  const votes = new Map<string, number>();
  for (const { file } of pages) {
    const from = inner.get(file);
    if (from !== undefined) votes.set(idOf(from), (votes.get(idOf(from)) ?? 0) + 1);
  }
  return [...votes].sort(([, one], [, other]) => other - one)[0]?.[0] as string;
}

const sortOfKind: Readonly<Record<Kind, Sort>> = {
  page: 'page',
  frame: 'page',
  stylesheet: 'style',
  script: 'script',
  module: 'script',
  image: 'image',
  icon: 'image',
  media: 'image',
  font: 'font',
  data: 'other',
  manifest: 'other',
  download: 'other',
  anchor: 'other',
};

export function sortOf(kind: Kind): Sort {
  return sortOfKind[kind];
}

function weightsOf(pages: readonly MappedPage[], sizes: SiteMap['sizes']): Record<Sort, number> {
  const weights: Record<Sort, number> = { page: 0, style: 0, script: 0, image: 0, font: 0, other: 0 };
  for (const { file, loads } of pages) {
    weights.page += sizes.get(file) ?? 0;
    for (const [path, kind] of loads) weights[sortOf(kind)] += sizes.get(path) ?? 0;
  }
  for (const sort of sorts) weights[sort] /= pages.length;
  return weights;
}
