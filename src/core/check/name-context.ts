/** What is to be known of a missing name: who makes it, where, and what was probably meant. */

import { oneCharacterAByte } from '../bytes.ts';
import type { MissingName } from '../judge/rule.ts';
import { onceFor } from '../once-for.ts';
import { givenNames, serverNames } from '../order/given-names.ts';
import { namesOf } from '../order/page-run.ts';
import type { Missing, PageRun } from '../order/page-script.ts';
import { type Holder, holderOf } from '../read/holder.ts';
import type { Span } from '../read/reading.ts';
import { spotOfCode } from '../read/spot-of-code.ts';
import type { Finding } from '../report.ts';
import { nameOf } from '../site/inventory.ts';
import { runnerOf } from './frames.ts';
import { nearestName } from './near-name.ts';
import type { HandlerNeed } from './page-code.ts';
import { type Entry, factsIn, type RunList } from './run-list.ts';
import { calledIn, type Lack, openNames, type RunningPage, type Sources } from './running-page.ts';
import { inPattern, type ScriptFiles } from './script-files.ts';
import type { Share } from './share.ts';

/** Where in a page the first element stands that is there by that name (HTML 7.2.2.3); null where there is none. */
export function elementPlace(
  share: Share,
  name: string,
  bytesOf: (path: string) => Uint8Array,
): number | null {
  if (!share.anchors?.has(name)) return namedIn(share, 'page', bytesOf).get(name) ?? null;
  const escaped = inPattern(name);
  const text = oneCharacterAByte(bytesOf(share.file));
  const found = text.search(new RegExp(`\\bid\\s*=\\s*(["']?)${escaped}(?:\\1)(?=[\\s>/]|$|["'])`, 'i'));
  if (found >= 0) return found;
  // The name of an anchor is no name of the page's elements; an id may be written with character references.
  return new RegExp(`<a\\b[^>]{0,2000}\\sname\\s*=\\s*["']?${escaped}`, 'i').test(text) ? null : 0;
}

/** Elements that the page itself has by their `name`, and those that a form has (HTML 7.2.2.3, 4.10.3). */
const named = { page: 'embed|form|iframe|img|object', form: 'button|fieldset|input|output|select|textarea' };
const places = { page: new WeakMap<Share, Places>(), form: new WeakMap<Share, Places>() };
type Places = ReadonlyMap<string, number>;

/** Elements that are there by their `name`, each with its place; looked for where some name is missing. */
export function namedIn(
  share: Share,
  holder: keyof typeof named,
  bytesOf: (path: string) => Uint8Array,
): Places {
  let known = places[holder].get(share);
  if (known === undefined) {
    const pattern = new RegExp(
      `<(?:${named[holder]})\\b[^>]{0,2000}?\\sname\\s*=\\s*(?:"([^">]{1,200})"|'([^'>]{1,200})'|([^\\s"'>]{1,200}))`,
      'gi',
    );
    const found = Array.from(
      oneCharacterAByte(bytesOf(share.file)).matchAll(pattern),
      (match): [string, number] => [match[1] ?? match[2] ?? match[3] ?? '', match.index],
    );
    // Of several the first counts.
    known = new Map(found.reverse());
    places[holder].set(share, known);
  }
  return known;
}

/** Hosts' files that make a name by which nobody would know them. */
const knownAs: Readonly<Record<string, RegExp>> = {
  $: /jquery|zepto|cash/i,
  _: /lodash|underscore/i,
  L: /leaflet/i,
};

/** What a page leaves out it can be given; a worker, or a document in it, brings in its own. */
function leftOutOf({ runner, leftOut }: MissingName): string | null {
  return runner === 'page' ? (leftOut[0] ?? null) : null;
}

export class NameContext {
  readonly #makers: ReadonlyMap<string, readonly string[]>;
  readonly #sought = new Set<string>();

  constructor(
    failing: readonly RunningPage[],
    readonly running: readonly RunningPage[],
    readonly files: ScriptFiles,
    readonly sources: Sources,
  ) {
    const names = failing.flatMap(({ share, run }) => [
      ...run.missing.map(({ step }) => step.name),
      ...openNames(share, run),
    ]);
    const wanted = [...new Set(names)].slice(0, MOST_SOUGHT);
    this.#makers = files.makersOf(new Set(wanted), sources.bytesOf);
  }

  /** Where so many are missing, nothing is misspelt. */
  #isSought(name: string): boolean {
    this.#sought.add(name);
    return this.#sought.size <= MOST_SOUGHT;
  }

  called(page: RunningPage, entry: Entry): string {
    return calledIn(page, entry, this.sources);
  }

  plainly(page: RunningPage, entry: Entry | null, name: string): MissingName {
    return {
      name,
      user: entry === null ? page.share.file : this.called(page, entry),
      runner: runnerOf(page.share),
      isOwn: false,
      isHandler: false,
      isAfterLoad: false,
      isRace: false,
      later: null,
      stopped: null,
      inModule: null,
      absent: null,
      hosted: null,
      leftOut: [],
      near: null,
      isOfServers: false,
      notExported: null,
      declaredBy: null,
      statedBy: null,
    };
  }

  missingOf(page: RunningPage, found: Missing): Pick<Lack, 'missing' | 'target'> {
    const { entries } = page.list;
    const { name } = found.step;
    const entryAt = (index: number | undefined) => (index === undefined ? null : (entries[index] as Entry));
    const later = entryAt(this.makersOf(page, found)[0]);
    const stopped = entryAt(found.stopped.find((index) => index !== found.script));
    const isOwn = found.step.does !== 'needs' || found.stopped.includes(found.at);
    const places = placesIn(page.run);
    const place = places.get(found.script) as number;
    const { hosted: all } = sortsOf(page.list);
    const hosted = all
      .filter((index) => (places.get(index) as number) > place)
      .map((index) => entries[index] as Entry);
    const around = this.#around(page, name, later === null && !isOwn && stopped === null);
    const { declaredBy } = found;
    const before = declaredBy === 'browser' ? null : entryAt(declaredBy);
    const declarer = declaredBy === 'browser' ? 'every browser' : before && this.called(page, before);
    const missing: MissingName = {
      ...this.plainly(page, entries[found.at] as Entry, name),
      ...around,
      isOwn,
      isRace: found.isRace,
      isAfterLoad: found.isAfterLoad,
      later: later === null ? null : this.called(page, later),
      stopped: stopped === null ? around.stopped : this.called(page, stopped),
      hosted: isOwn ? null : hostedFor(name, hosted),
      declaredBy: declarer,
    };
    return { missing, target: later?.file ?? leftOutOf(missing) };
  }

  handlerNeed(page: RunningPage, { name }: HandlerNeed): Pick<Lack, 'missing' | 'target'> {
    const missing = { ...this.plainly(page, null, name), ...this.#around(page, name, true), isHandler: true };
    return { missing, target: leftOutOf(missing) };
  }

  /** What nobody makes on the page: who could, and what was meant. */
  #around(
    { list, run }: RunningPage,
    name: string,
    isWanted: boolean,
  ): Pick<MissingName, 'leftOut' | 'near' | 'inModule' | 'absent' | 'stopped' | 'isOfServers'> {
    const { files, inside, unparsed: refused, absent: gone } = sortsOf(list);
    const inModule = inside.get(name);
    const isOfServers = serverNames.has(name);
    const unparsed = isWanted ? refused.find((entry) => this.#mentions(entry, name)) : undefined;
    const absent = likeliest(name, gone);
    if (!isWanted)
      return { leftOut: [], near: null, inModule: null, absent: null, stopped: null, isOfServers };
    const leftOut = (this.#makers.get(name) ?? []).filter((path) => !files.has(path));
    const own = namesAround({ list, run });
    return {
      leftOut,
      near:
        leftOut.length > 0 || inModule || !this.#isSought(name)
          ? null
          : (nearestName(name, own) ??
            nearestName(name, givenNames) ??
            nearestName(name, namesOfSite(this.running))),
      inModule: inModule === undefined ? null : (inModule.file ?? 'the script of the page'),
      absent: absent?.address ?? null,
      stopped: unparsed?.file ?? null,
      isOfServers,
    };
  }

  #mentions({ file }: Entry, name: string): boolean {
    return file !== null && oneCharacterAByte(this.sources.bytesOf(file)).includes(name);
  }

  /** Those that make it and run later, or that it depends on when they come; as they run. */
  makersOf({ list: { entries }, run }: RunningPage, { script, later, isRace }: Missing): readonly number[] {
    const places = placesIn(run);
    const placeOf = (index: number) => places.get(index) as number;
    const runsOf = (index: number) => (entries[index] as Entry).runs;
    const isByMaker = isRace && runsOf(script) !== 'async';
    const makers = isByMaker ? later.filter((index) => runsOf(index) === 'async') : later;
    return makers.toSorted((one, other) => placeOf(one) - placeOf(other));
  }

  /** The order as it is, and as it should be: of what needs the name, and what makes it. */
  orderOf({ page, user, makers, missing }: Lack): Finding['order'] {
    const { entries } = page.list;
    if (user === null || missing.later === null) return null;
    const { order } = page.run;
    const from = order.indexOf(user);
    const to = order.findIndex((index) => makers.includes(index));
    const maker = order[to] as number;
    const called = (index: number) => this.called(page, entries[index] as Entry);
    const between = order.slice(from + 1, to);
    const shown = between.length > MOST_BETWEEN ? [] : between;
    if (to < from) return null;
    return {
      is: [user, ...shown, maker].map(called),
      should: [maker, user, ...shown].map(called),
    };
  }

  /** Where a handler's name stands; its whole value where character references are in the way. */
  handlerSpot(share: Share, need: HandlerNeed): { readonly span: Span; readonly holder: Holder } {
    const bytes = this.sources.bytesOf(share.file);
    const { offset, length, element, attribute } = need;
    const raw = oneCharacterAByte(bytes.subarray(offset, offset + length));
    const span = raw.includes('&') ? { offset, length } : spotOfCode(bytes, share.encoding, need, need);
    return { span, holder: holderOf('markup', element, attribute) };
  }
}

/** Pages that run the same are asked about many names. */
const sortsOf = onceFor(({ entries }: RunList) => {
  const inside = new Map<string, Entry>();
  for (const entry of entries)
    for (const name of factsIn(entry)?.inside ?? []) if (!inside.has(name)) inside.set(name, entry);
  const missing = entries.filter(({ facts }) => facts === 'missing');
  const isHosted = ({ facts, address }: Entry) => facts === 'unknown' && address !== null;
  return {
    files: new Set(entries.map(({ file }) => file)),
    /** What modules have for themselves. */
    inside,
    unparsed: missing.filter(({ file }) => file !== null).slice(0, MOST_REFUSED),
    absent: missing.filter(({ file, address }) => file === null && address !== null),
    /** Numbers of scripts of other hosts. */
    hosted: [...entries.keys()].filter((index) => isHosted(entries[index] as Entry)),
  };
});
/** Scripts that do not parse and are searched for a name. */
const MOST_REFUSED = 20;
const placesIn = onceFor(({ order }: PageRun) => new Map(order.map((script, place) => [script, place])));
const namesInList = onceFor(
  ({ entries }: RunList) => new Set(entries.flatMap((entry) => [...namesOf(factsIn(entry) ?? nothing)])),
);

/** The names of a page: those that its scripts make, and those that they would. */
function* namesAround({ list, run }: Pick<RunningPage, 'list' | 'run'>): Iterable<string> {
  yield* run.names;
  for (const name of namesInList(list)) if (!run.names.has(name)) yield name;
}

/** Names that the scripts of other pages make. */
const namesOfSite = onceFor((running: readonly RunningPage[]) => {
  const lists = new Set(running.map(({ list }) => list));
  return new Set([...lists].flatMap((list) => [...namesInList(list)]));
});

const MOST_BETWEEN = 6;
/** Names whose makers are looked for in files that no page loads: each is a search through all of them. */
const MOST_SOUGHT = 200;
const nothing = { atLoad: [], anytime: new Set<string>() } as never;

/** The script of another host that a name is known by; else the only one. */
function hostedFor(name: string, hosted: readonly Entry[]): string | null {
  const found = likeliest(name, hosted);
  const isAlone = hosted.length === 1 || (found !== undefined && isCalledAlike(name, found));
  return isAlone ? (found?.address ?? null) : null;
}

/** The script that is called as the name is; else the first. */
function likeliest(name: string, entries: readonly Entry[]): Entry | undefined {
  return entries.find((entry) => isCalledAlike(name, entry)) ?? entries[0];
}

function isCalledAlike(name: string, { address }: Entry): boolean {
  const file = nameOf((address ?? '').replace(/[?#].*/s, ''));
  return knownAs[name]?.test(file) ?? file.toLowerCase().includes(name.toLowerCase());
}
