/** Of several builds of one thing, picks the one that pages load while one works, and the minified one. */
import { folderOf, nameOf } from '../site/inventory.ts';
import { type Build, buildOf } from './names.ts';

export interface Chosen {
  readonly readable: string;
  readonly minified: string | null;
  readonly build: Build;
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

/** Of each thing one build, with its minified one. */
export function chooseBuilds(candidates: readonly string[]): Chosen[] {
  const groups = new Map<string, { path: string; build: Build; rank: number }[]>();
  for (const path of candidates) {
    const build = buildOf(nameOf(path));
    const format = build.format === null ? 0 : formatRank[build.format];
    if (format === undefined) continue;
    const variant = build.variant === null ? 0 : (variantRank[build.variant] ?? 9);
    const folder = folderOf(path).replace(/(?:^|(?<=\/))(?:min|umd|iife|browser)\/$/i, '');
    const key = `${folder}${build.stem}.${build.extension}`.toLowerCase();
    const inMin = /(?:^|\/)min\/$/i.test(folderOf(path));
    const entry = {
      path,
      build: { ...build, isMinified: build.isMinified || inMin },
      rank: format * 10 + variant,
    };
    groups.set(key, [...(groups.get(key) ?? []), entry]);
  }
  return [...groups.values()].map((group) => {
    const sorted = group.toSorted((a, b) => a.rank - b.rank || a.path.length - b.path.length);
    const readable = sorted.find(({ build }) => !build.isMinified);
    const minified = sorted.find(
      ({ build, rank }) => build.isMinified && (readable === undefined || rank === readable.rank),
    );
    const main = (readable ?? minified) as (typeof group)[number];
    return { readable: main.path, build: main.build, minified: readable && minified ? minified.path : null };
  });
}
