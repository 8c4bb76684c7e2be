/** Who refers to files: from where, as what, and which pages load them by way of others. */
import { pushTo } from '../group-by.ts';
import { holderOf } from '../read/holder.ts';
import { type Extent, extentOf, positionsIn } from '../read/lines.ts';
import { readFile } from '../read/read.ts';
import type { Kind, Reading, Span } from '../read/reading.ts';
import { byPlace, type Finding } from '../report.ts';
import type { Resolver } from '../resolve/resolver.ts';
import { isBare, mapSpecifier } from '../resolve/specifier.ts';
import { folderOf } from '../site/inventory.ts';
import type { Ledger } from './ledger.ts';
import type { Share } from './share.ts';
import type { Leads } from './site-facts.ts';

/** One spot that refers to one of the files. */
interface Referrer extends Extent, Span {
  readonly file: string;
  readonly holder: Finding['holder'];
  readonly written: string;
  /** Null for a string in a script that only looks like a path. */
  readonly kind: Kind | null;
  readonly target: string;
}

/** A page that loads one of the files by way of others: those, in the order in which they lead there. */
interface WayOfOthers {
  readonly page: string;
  readonly by: readonly string[];
}

export interface Who {
  readonly referrers: readonly Referrer[];
  readonly pages: readonly WayOfOthers[];
}

/** What is asked of a site that was read. */
export interface Asked {
  readonly ledger: Ledger;
  readonly resolver: Resolver;
  /** Files that pages get by addresses in scripts, by page. */
  readonly used: Leads;
  readonly entry: string;
  bytesOf(path: string): Uint8Array;
}

/** What stands in a folder among the files refers to the others by itself: it is not told. */
export function whoRefersTo(files: ReadonlySet<string>, folder: string | null, asked: Asked): Who {
  const isOutside = (file: string) => folder === null || !file.startsWith(folder);
  const shares = [...asked.ledger.shares.values()].filter(({ file }) => isOutside(file));
  // What a script asks for starts from the pages that run it.
  const starts = [...asked.used].flatMap(([page, paths]) =>
    paths.some((path) => files.has(path)) ? page : [],
  );
  const maps = shares.filter(({ imports }) => imports !== null);
  const referrers = shares
    .filter((share) => mayRefer(share, files))
    .flatMap((share) => spotsIn(share, files, { ...asked, starts, maps }))
    .sort(byPlace);
  return { referrers, pages: waysOfOthers(files, isOutside, referrers, asked) };
}

function mayRefer(
  { leadsTo, names, loads, runAddresses, imports }: Share,
  files: ReadonlySet<string>,
): boolean {
  if (runAddresses.length > 0 || imports !== null) return true;
  const isNamed = (path: string) => files.has(path) || path.endsWith('/');
  return leadsTo.some(isNamed) || names.some(isNamed) || [...loads.keys()].some(isNamed);
}

/** Where addresses may start from, besides the file that has them. */
interface Starts extends Asked {
  readonly starts: readonly string[];
  /** Pages with import maps. */
  readonly maps: readonly Share[];
}

function spotsIn(share: Share, files: ReadonlySet<string>, asked: Starts): Referrer[] {
  const { file, encoding } = share;
  const bytes = asked.bytesOf(file);
  const reading = readFile(file, bytes);
  if (reading === null) return [];
  const positionOf = positionsIn(bytes, encoding);
  const seen = new Set<number>();
  return spotsOf(reading).flatMap(({ written, offset, length, holder, kind }) => {
    const target = targetOf(written, share, asked, files);
    if (target === null || seen.has(offset)) return [];
    seen.add(offset);
    return [
      { file, offset, length, holder, kind, written, target, ...extentOf(positionOf, { offset, length }) },
    ];
  });
}

const STRING = holderOf('script', '', 'string');

/** What was swallowed has no place that is of use. */
function spotsOf({ references, hints }: Reading) {
  return [...references, ...hints.map((hint) => ({ ...hint, holder: STRING, kind: null }))];
}

/** Which of the files an address names: from its own file, from the page that runs its script, or from the entry page. */
function targetOf(
  written: string,
  { file, base, record }: Share,
  { maps, resolver, starts, entry }: Starts,
  files: ReadonlySet<string>,
): string | null {
  const address = written.replace(/#.*/s, '');
  const bases = record === null ? [base, entry, ...starts] : [base];
  const ways = bases.map((from) => [from, address] as const);
  for (const [from, way] of isBare(address) ? [...ways, ...mapped(address, maps)] : ways) {
    const found = resolver.leadsFrom(from, false).of(way).found?.path;
    if (found !== undefined && files.has(found) && found !== file) return found;
  }
  return null;
}

/** What the import maps of pages make of a specifier, each from its page. */
function mapped(
  specifier: string,
  maps: readonly Share[],
): (readonly [base: string | null, address: string])[] {
  return maps.flatMap(({ base, imports, file }) => {
    const way = mapSpecifier(specifier, imports, base, file);
    return way.by === 'nothing' ? [] : [[base, way.address] as const];
  });
}

/** Pages that load a file which leads to one of the files, by the shortest way. */
function waysOfOthers(
  files: ReadonlySet<string>,
  isOutside: (file: string) => boolean,
  referrers: readonly Referrer[],
  { ledger, used }: Asked,
): WayOfOthers[] {
  const namedBy = new Map<string, string[]>();
  for (const { file, names } of ledger.shares.values()) for (const path of names) pushTo(namedBy, path, file);
  for (const [page, paths] of used) for (const path of paths) pushTo(namedBy, path, page);
  const ways = new Map<string, readonly string[]>();
  const waiting = [...files].map((file): [string, readonly string[]] => [file, []]);
  const seen = new Set(files);
  for (const [path, by] of waiting)
    for (const other of [...(namedBy.get(path) ?? []), ...(namedBy.get(folderOf(path)) ?? [])]) {
      if (seen.has(other)) continue;
      seen.add(other);
      if (!ledger.pages.has(other)) waiting.push([other, [other, ...by]]);
      else {
        // What a script asks for from the page that runs it, the page has no spot of its own for.
        const isOwn = by.length > 0 || referrers.some(({ file }) => file === other);
        const script = isOwn ? [] : referrers.flatMap(({ file, target }) => (target === path ? file : []));
        const whole = by.length > 0 ? by : script.slice(0, 1);
        if (whole.length > 0 && isOutside(other)) ways.set(other, whole);
      }
    }
  return Array.from(ways, ([page, by]) => ({ page, by })).sort((one, other) =>
    one.page < other.page ? -1 : 1,
  );
}
