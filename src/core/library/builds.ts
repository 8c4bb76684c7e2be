/** Of several builds of one thing, picks the one that pages load while one works, and the minified one. */
import { folderOf, nameOf } from '../site/inventory.ts';
import { type Build, buildOf } from './names.ts';

export interface Chosen {
  readonly readable: string;
  readonly minified: string | null;
  readonly build: Build;
  /** The builds that it was chosen from, itself among them. */
  readonly among: readonly string[];
}

/** What a choice between builds goes by, but for their names. */
export interface BuildFacts {
  /** A build that was named; null where none was. */
  readonly named: string | null;
  /** True where `fuller` brings what `path` looks for and does not find. */
  isFuller(fuller: string, path: string): boolean;
  /** True for a build that is written for machines, whatever it is called. */
  isDense(path: string): boolean;
}

/** Formats that a page can load, the plainest first. */
const formatRank: Readonly<Record<string, number>> = {
  umd: 1,
  iife: 1,
  global: 1,
  browser: 2,
  esm: 5,
  es: 5,
  module: 5,
};
const variantRank: Readonly<Record<string, number>> = {
  bundle: 1,
  bundled: 1,
  pkgd: 1,
  all: 1,
  full: 1,
  modern: 2,
  legacy: 3,
  slim: 4,
  lite: 4,
  rtl: 5,
};

interface Entry {
  readonly path: string;
  readonly build: Build;
  readonly rank: number;
}

/** Of each thing one build, with its minified one. */
export function chooseBuilds(candidates: readonly string[], facts: BuildFacts): Chosen[] {
  const groups = new Map<string, Entry[]>();
  for (const path of candidates) {
    const build = buildOf(nameOf(path));
    const format = build.format === null ? 0 : formatRank[build.format];
    if (format === undefined) continue;
    const variant = build.variant === null ? 0 : (variantRank[build.variant] ?? 9);
    const key = thingOf(path);
    const inMin = /(?:^|\/)min\/$/i.test(folderOf(path));
    const entry = {
      path,
      build: { ...build, isMinified: build.isMinified || inMin },
      rank: format * 10 + variant,
    };
    groups.set(key, [...(groups.get(key) ?? []), entry]);
  }
  return [...groups.values()].map((group) => chooseOne(group, facts));
}

/** What a build is a build of: builds of one thing have this alike. */
export function thingOf(path: string): string {
  const { stem, extension } = buildOf(nameOf(path));
  const folder = folderOf(path).replace(/(?:^|(?<=\/))(?:min|umd|iife|browser)\/$/i, '');
  return `${folder}${stem}.${extension}`.toLowerCase();
}

function chooseOne(group: readonly Entry[], { named, isFuller, isDense }: BuildFacts): Chosen {
  const rankOf = ({ path, rank }: Entry) => (path === named ? -1 : rank);
  const sorted = group.toSorted((a, b) => rankOf(a) - rankOf(b) || a.path.length - b.path.length);
  const first = sorted[0] as Entry;
  const best = sorted.find(({ path }) => isFuller(path, first.path)) ?? first;
  const isReadable = ({ build }: Entry) => !build.isMinified;
  // Builds of one kind differ in how they are written alone.
  const alike = sorted.filter(
    ({ build }) => build.format === best.build.format && build.variant === best.build.variant,
  );
  const kin = alike.some(isReadable) ? alike : sorted;
  const readable = kin.filter(isReadable);
  const dense = readable.length > 1 ? readable.find(({ path }) => isDense(path)) : undefined;
  const main = readable.find((one) => one !== dense) ?? best;
  const small =
    dense ??
    kin.find((one) => !isReadable(one) && one.rank === main.rank) ??
    (isReadable(best) ? undefined : best);
  return {
    readable: main.path,
    build: main.build,
    minified: small !== undefined && small !== main ? small.path : null,
    among: group.map(({ path }) => path),
  };
}
