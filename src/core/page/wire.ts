/** Wires files into a page: the element that loads each, at the right spot and in the right order. */

import type { Edit } from '../change/edit.ts';
import { type InsertionPoint, insertionPointFor, mustDefer } from './insertion-points.ts';
import {
  type Added,
  familyOf,
  keyOf,
  type Loader,
  loadersOf,
  placeIn,
  type WireSettings,
  type Wiring,
} from './loaders.ts';
import { mannerOf } from './manner.ts';
import { markupFor } from './markup.ts';
import { openPage, type Page } from './page.ts';
import { removals } from './removal.ts';
import { isOtherBuild, Renewal } from './renewal.ts';
import { swallowedBy } from './swallowed.ts';
import { type Tags, tagsOf } from './tags.ts';
import { type WireKind } from './wire-kinds.ts';

/** Why a page cannot be wired. */
export class NotWired {
  constructor(readonly why: string) {}
}

/**
 * The page with the wiring made; null where it is there already. A page whose addresses start outside of the
 * site, or that has a manifest already, is left alone.
 */
export function wire(page: Page, wiring: Wiring, settings: WireSettings): Uint8Array | NotWired | null {
  const { bytes, left } = wireAll(page, [wiring], settings);
  return left[0] ?? bytes;
}

export interface Wired {
  /** Files that stood behind what uses them, and were moved before it. */
  readonly moved: readonly string[];
  /** Files that took the place of their other build. */
  readonly swapped: readonly string[];
  /** The page with all that was wired; null where nothing was. */
  readonly bytes: Uint8Array | null;
  /** Why some could not be. */
  readonly left: readonly NotWired[];
}

/**
 * Makes several wirings; the page is read once. The files of a family are wired one after the other, those that
 * others need first, else in the order given.
 */
export function wireAll(page: Page, wirings: readonly Wiring[], settings: WireSettings): Wired {
  const { base } = page;
  const nothing = { bytes: null, moved: [], swapped: [] } as const;
  const unwired = (why: string): Wired => ({ ...nothing, left: [new NotWired(why)] });
  if (base === null) return unwired('its base address lies on another host');
  const outline = tagsOf(page);
  const manner = mannerOf(outline);
  let loaders: readonly Loader[] = loadersOf(outline, settings);
  const { beside } = settings;
  if (beside !== undefined && !loaders.some(({ path }) => path === beside.path))
    return unwired(`it does not load ${beside.path}`);
  const misplaced = wirings.filter((wiring) => isMisplaced(wiring, loaders, settings));
  if (misplaced.length > 0) return moved(page, misplaced, wirings, settings);
  const renewal = new Renewal(page, base);
  for (const wiring of wirings) loaders = renewal.renew(wiring, loaders, settings);
  const present = new Set(loaders.map(keyOf));
  let hasManifest = loaders.some(({ family }) => family === 'manifest');
  const left: NotWired[] = [];
  const insertions = new Insertions(page);
  const isNew = ({ kind, path }: Wiring) => {
    const family = familyOf(kind);
    if (present.has(keyOf({ family, ...placeIn(path) }))) return false;
    if (loaders.some((one) => one.family === family && isOtherBuild(one, path, settings))) return false;
    if (family === 'manifest' && hasManifest) {
      left.push(new NotWired('it has a manifest already; a page can have one only'));
      return false;
    }
    hasManifest ||= family === 'manifest';
    present.add(keyOf({ family, ...placeIn(path) }));
    return true;
  };
  for (const { kind, rank, run } of runsOf(wirings, settings)) {
    const fresh = run.filter(isNew);
    const [first] = fresh;
    if (first === undefined) continue;
    const family = familyOf(kind);
    const isDeferred = family === 'script' && mustDefer(first, loaders, settings, outline);
    const point = insertionPointFor(first, outline, loaders, settings, isDeferred);
    const markups = fresh.map((wiring) => markupFor(wiring, base, manner, isDeferred));
    const added = insertions.add(point, markups);
    const place = placeOf(point, loaders);
    const made = fresh.map(({ path }, at): Loader => {
      const region = family === 'script' && !isDeferred ? 'body' : 'head';
      const span = { start: point.at, end: point.at, region } as const;
      return {
        ...span,
        ...placeIn(path),
        element: null,
        family,
        code: null,
        rank,
        isDeferred,
        isAsync: false,
        added: added[at] as Added,
      };
    });
    loaders = [...loaders.slice(0, place), ...made, ...loaders.slice(place)];
  }
  const edits = [...renewal.edits, ...insertions.edits];
  const { swapped } = renewal;
  if (edits.length === 0) return { ...nothing, left };
  const open = swallowedBy(outline);
  const bytes = open === null ? page.edited(edits) : null;
  if (bytes !== null && (isClosed(outline) || holdsAll(openPage(page.file, bytes), loaders, settings)))
    return { bytes, left, moved: [], swapped };
  const what = open === null ? 'a comment or a tag that' : `<${open}>, which`;
  left.push(new NotWired(`it ends inside of ${what} is never closed`));
  return { ...nothing, left };
}

/** True for a script that the page has, and runs before it something that uses what it makes. */
function isMisplaced(
  { kind, path }: Wiring,
  loaders: readonly Loader[],
  { scripts, order, beside }: WireSettings,
): boolean {
  if (kind !== 'script' || beside !== undefined) return false;
  const running = loaders.filter(({ family, isAsync }) => family === 'script' && !isAsync);
  const own = running.find((loader) => loader.path === path);
  if (own === undefined) return false;
  const runsBefore = (one: Loader) =>
    one.isDeferred === own.isDeferred ? running.indexOf(one) < running.indexOf(own) : own.isDeferred;
  const uses = (one: Loader) => scripts.uses(one, path) || (one.path !== null && order.needs(one.path, path));
  return running.some((one) => runsBefore(one) && uses(one));
}

/** Takes out what stands too late, and wires it again; the page stays as it is where that cannot be done. */
function moved(
  page: Page,
  misplaced: readonly Wiring[],
  wirings: readonly Wiring[],
  settings: WireSettings,
): Wired {
  const without = unwire(page, misplaced, settings) as Uint8Array;
  const { bytes, left, swapped } = wireAll(openPage(page.file, without), wirings, settings);
  if (bytes === null) return { bytes, left, moved: [], swapped: [] };
  return { bytes, left, moved: misplaced.map(({ path }) => path), swapped };
}

/** True where nothing can have swallowed the end of the page. */
function isClosed(outline: Tags): boolean {
  return ['body', 'frameset', 'html'].some((name) => (outline.first(name)?.endTag ?? null) !== null);
}

/** True where the page loads all that was put in. */
function holdsAll(page: Page, loaders: readonly Loader[], settings: WireSettings): boolean {
  const there = new Set(loadersOf(tagsOf(page), settings).map(keyOf));
  return loaders.every((loader) => loader.added === undefined || there.has(keyOf(loader)));
}

/** Wirings of one kind and rank: each goes right behind the one before it. */
interface Run {
  readonly kind: WireKind;
  readonly rank: number;
  readonly run: Wiring[];
}

function runsOf(wirings: readonly Wiring[], { order, scripts }: WireSettings): Run[] {
  const families = [...new Set(wirings.map(({ kind }) => familyOf(kind)))];
  const ranked = wirings.map((wiring) => ({
    wiring,
    rank: order.rankOf(wiring.path),
    family: families.indexOf(familyOf(wiring.kind)),
  }));
  ranked.sort((one, other) => one.family - other.family || one.rank - other.rank);
  const runs: Run[] = [];
  for (const { wiring, rank } of ranked) {
    const last = runs.at(-1);
    if (last?.kind === wiring.kind && last.rank === rank) last.run.push(wiring);
    else runs.push({ kind: wiring.kind, rank, run: [wiring] });
  }
  // Each finds what it needs of the others.
  return runs.map((one) => (one.kind === 'script' ? { ...one, run: inOrder(one.run, scripts) } : one));
}

function inOrder(run: readonly Wiring[], scripts: WireSettings['scripts']): Wiring[] {
  const byPath = new Map(run.map((wiring) => [wiring.path, wiring]));
  return scripts.inOrder([...byPath.keys()]).map((path) => byPath.get(path) as Wiring);
}

/** The index among the loaders of what is put in at a point. */
function placeOf({ at, beside, isRightBehind }: InsertionPoint, loaders: readonly Loader[]): number {
  const index = beside === undefined ? -1 : loaders.indexOf(beside.loader);
  if (index >= 0) return index + (beside?.side === 'after' ? 1 : 0);
  const place = loaders.findIndex(
    ({ start, added }) => start > at || (start === at && (isRightBehind === true || added === undefined)),
  );
  return place < 0 ? loaders.length : place;
}

/** What is put into a page, by the places where it goes. */
class Insertions {
  readonly #pieces = new Map<number, (string | Added)[]>();
  constructor(readonly page: Page) {}

  /** Puts elements in, one right behind the other. */
  add({ at, before, after, beside, isRightBehind }: InsertionPoint, markups: readonly string[]): Added[] {
    const { page } = this;
    const lead = after !== '' && before === '' ? after : /^\r?\n/.test(before) ? before : '';
    const isFirst = at < 4 && before === '' && after === page.newline;
    const leadAfter = isFirst ? page.newline : lead;
    const added = markups.map((markup, index) => ({
      markup,
      lead: isFirst && index === 0 ? '' : leadAfter,
      leadAfter,
    }));
    const row = added.flatMap((one, index) => (index === 0 ? [before, one] : [leadAfter, one]));
    row.push(after);
    const pieces = this.#pieces.get(at) ?? [];
    const neighbour = beside?.loader.added;
    const behind = neighbour === undefined ? -1 : pieces.indexOf(neighbour);
    const place =
      behind >= 0 ? behind + (beside?.side === 'before' ? 0 : 1) : isRightBehind ? 0 : pieces.length;
    this.#pieces.set(at, [...pieces.slice(0, place), ...row, ...pieces.slice(place)]);
    return added;
  }

  get edits(): Edit[] {
    return Array.from(this.#pieces, ([at, pieces]) => ({
      start: at,
      end: at,
      text: pieces.map((piece) => (typeof piece === 'string' ? piece : piece.markup)).join(''),
    }));
  }
}

/** The page without the elements that load any of the files; null where there are none. */
export function unwire(page: Page, wirings: readonly Wiring[], settings: WireSettings): Uint8Array | null {
  const outline = tagsOf(page);
  const wanted = new Set(
    wirings.map(({ kind, path }) => keyOf({ family: familyOf(kind), ...placeIn(path) })),
  );
  const gone = loadersOf(outline, settings).filter((loader) => wanted.has(keyOf(loader)));
  if (gone.length === 0) return null;
  return page.edited(removals(outline, gone));
}
