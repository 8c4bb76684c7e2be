/** The point in a page where an element that loads something goes. */
import { startOfText } from '../read/source.ts';
import { familyOf, type Loader, type WireSettings, type Wiring } from './loaders.ts';
import { beforeEnd, indentUnit, leadAfter, leadOf } from './manner.ts';
import type { Range, Tags } from './tags.ts';

/** Where a new element goes: before or after another one, or at a bare place. */
export interface InsertionPoint {
  readonly at: number;
  readonly before: string;
  readonly after: string;
  /** True right behind an element: before all else that is put in there. */
  readonly isRightBehind?: boolean;
  /** The element that it goes beside, where that loads something. */
  readonly beside?: { readonly loader: Loader; readonly side: 'before' | 'after' };
}

/** True where a script must wait for the page: as the project says, or as its neighbours do. */
export function mustDefer(
  wiring: Wiring,
  loaders: readonly Loader[],
  settings: WireSettings,
  outline: Tags,
): boolean {
  const { order, scriptsGo } = settings;
  if (wiring.kind === 'module') return true;
  const chosen = besideChosen(loaders, settings);
  if (chosen !== null) return chosen.loader.isDeferred;
  const rank = order.rankOf(wiring.path);
  const scripts = inOrderOfLoading(loaders);
  const later = laterThan(wiring, scripts, settings);
  if (later.length > 0) return later.every((loader) => loader.isDeferred);
  // After a deferred library only deferred scripts find it.
  if (scripts.some((loader) => loader.isDeferred && loader.rank < rank)) return true;
  if (scriptsGo === 'deferred-head' || scriptsGo === 'module') return true;
  if (scriptsGo === 'end-of-body') return false;
  const own = scripts.filter(({ path: other }) => other !== null);
  if (own.length > 0) return own.every((loader) => loader.isDeferred);
  return outline.first('frameset') !== null;
}

export function insertionPointFor(
  wiring: Wiring,
  outline: Tags,
  loaders: readonly Loader[],
  settings: WireSettings,
  isDeferred: boolean,
): InsertionPoint {
  const { kind } = wiring;
  const { order } = settings;
  const chosen = besideChosen(loaders, settings);
  if (chosen !== null) return besideLoader(outline, chosen.loader, chosen.side);
  if (familyOf(kind) === 'script') return scriptPoint(wiring, outline, loaders, settings, isDeferred);
  const head = loaders.filter(({ region }) => region === 'head');
  const firstSheet = head.find(({ family }) => family === 'stylesheet');
  if (kind === 'stylesheet') {
    const rank = order.rankOf(wiring.path);
    const sheets = head.filter(({ family }) => family === 'stylesheet');
    const last = sheets.findLast((sheet) => sheet.rank <= rank);
    const next = sheets.find((sheet) => sheet.rank > rank);
    if (next !== undefined && (last === undefined || last.start > next.start))
      return besideLoader(outline, next, 'before');
    if (last !== undefined) return besideLoader(outline, last, 'after');
    return headPoint(outline, loaders);
  }
  const alike = head.findLast(({ family }) => family === kind);
  if (alike !== undefined) return besideLoader(outline, alike, 'after');
  return firstSheet !== undefined ? besideLoader(outline, firstSheet, 'before') : headPoint(outline, loaders);
}

/** What somebody chose to stand beside, where the page loads it. */
function besideChosen(
  loaders: readonly Loader[],
  { beside: chosen }: WireSettings,
): { readonly loader: Loader; readonly side: 'before' | 'after' } | null {
  const loader = chosen && loaders.find(({ path }) => path === chosen.path);
  return chosen && loader ? { loader, side: chosen.side } : null;
}

/** The scripts that come later: by the order of libraries, or since they use what the new one makes. */
function laterThan(
  { path }: Wiring,
  scripts: readonly Loader[],
  { order, scripts: uses }: WireSettings,
): Loader[] {
  const rank = order.rankOf(path);
  return scripts.filter((loader) => loader.rank > rank || (loader.rank === rank && uses.uses(loader, path)));
}

function scriptPoint(
  wiring: Wiring,
  outline: Tags,
  loaders: readonly Loader[],
  settings: WireSettings,
  isDeferred: boolean,
): InsertionPoint {
  const scripts = inOrderOfLoading(loaders);
  // What waits for the page runs after what does not, wherever it stands.
  const later = laterThan(wiring, scripts, settings);
  const next = later.find((loader) => loader.isDeferred === isDeferred) ?? later[0];
  if (next !== undefined) return besideLoader(outline, next, 'before');
  const last = scripts.at(-1);
  if (last !== undefined && last.isDeferred === isDeferred && (isDeferred || isAtEnd(outline, last)))
    return besideLoader(outline, last, 'after');
  if (isDeferred) {
    const waiting = scripts.findLast((loader) => loader.isDeferred);
    if (waiting !== undefined) return besideLoader(outline, waiting, 'after');
    const inHead = loaders.findLast(({ region, family }) => region === 'head' && family === 'stylesheet');
    return inHead !== undefined ? besideLoader(outline, inHead, 'after') : headPoint(outline, loaders);
  }
  return bodySpot(outline);
}

/** The scripts that run one after the other. */
function inOrderOfLoading(loaders: readonly Loader[]): Loader[] {
  return loaders.filter(({ family, isAsync }) => family === 'script' && !isAsync);
}

/** True where nothing that a visitor sees follows: only scripts, comments and closing tags. */
function isAtEnd({ page, elements }: Tags, { end }: Range): boolean {
  if (elements.some((element) => element.start >= end && element.name !== 'script')) return false;
  const rest = page.source.plain.slice(end).replace(/<!--[\s\S]*?-->|<script[\s\S]*?<\/script[^>]*>/gi, '');
  return /^(?:\s|<\/(?:body|html)\s*>)*$/i.test(rest);
}

function besideLoader(outline: Tags, loader: Loader, side: 'before' | 'after'): InsertionPoint {
  const { added } = loader;
  if (added === undefined) return { ...beside(outline, loader, side), beside: { loader, side } };
  const lead = side === 'before' ? { before: '', after: added.lead } : { before: added.leadAfter, after: '' };
  return { at: loader.start, ...lead, beside: { loader, side } };
}

function beside(outline: Tags, neighbour: Range, side: 'before' | 'after'): InsertionPoint {
  if (side === 'after')
    return { at: neighbour.end, before: leadAfter(outline, neighbour), after: '', isRightBehind: true };
  return { at: neighbour.start, before: '', after: leadOf(outline, neighbour) };
}

/** What stands in the head, or is going to. */
interface InHead extends Range {
  readonly isEarly: boolean;
  readonly loader: Loader | null;
}

const EARLY = new Set(['meta', 'title', 'base', 'link']);
const LATE = new Set(['script', 'style']);

function inHead({ elements }: Tags, loaders: readonly Loader[]): InHead[] {
  const there = elements.flatMap(({ name, region, start, end }): InHead | [] =>
    region === 'head' && (EARLY.has(name) || LATE.has(name))
      ? { start, end, isEarly: EARLY.has(name), loader: null }
      : [],
  );
  const added = loaders.flatMap((loader): InHead | [] => {
    const { start, end, family, region } = loader;
    return loader.added && region === 'head' ? { start, end, isEarly: family !== 'script', loader } : [];
  });
  if (added.length === 0) return there;
  // What is put in at a place stands before what starts there; sorting is stable.
  return [...added, ...there].sort((one, other) => one.start - other.start);
}

/** After what stands in the head already; scripts and inline styles stay behind. */
function headPoint(outline: Tags, loaders: readonly Loader[]): InsertionPoint {
  const { page, doctypeEnd } = outline;
  const all = inHead(outline, loaders);
  const at = all.findIndex(({ isEarly }) => !isEarly);
  const late = all[at];
  const early = all.slice(0, at < 0 ? undefined : at).findLast(({ isEarly }) => isEarly);
  const last = early ?? all.findLast(({ isEarly }) => isEarly);
  const besideOne = (one: InHead, side: 'before' | 'after') =>
    one.loader === null ? beside(outline, one, side) : besideLoader(outline, one.loader, side);
  if (last !== undefined) return besideOne(last, 'after');
  const head = outline.first('head');
  if (late !== undefined) return besideOne(late, 'before');
  if (head !== null) {
    const end = beforeEnd(outline, head);
    if (end !== null) return { at: end.at, before: end.lead, after: '' };
    return onNextLine(outline, head.startTag.end);
  }
  const html = outline.first('html');
  if (html !== null) return onNextLine(outline, html.startTag.end);
  if (doctypeEnd > 0) return onNextLine(outline, doctypeEnd);
  const start = startOfText(page.source.plain);
  return { at: start, before: '', after: page.newline };
}

/** On a line of its own where a line ends here; else right here. */
function onNextLine({ page }: Tags, at: number): InsertionPoint {
  const endsHere = /^[ \t]*\r?\n/.test(page.source.plain.slice(at, at + 100));
  return { at, before: endsHere ? page.newline : '', after: '' };
}

/** Just before the body ends. */
function bodySpot(outline: Tags): InsertionPoint {
  const { plain } = outline.page.source;
  const holder = [outline.first('body'), outline.first('html')].find(
    (element) => (element?.endTag ?? null) !== null,
  );
  if (holder) {
    const end = beforeEnd(outline, holder) as { at: number; lead: string };
    return { at: end.at, before: end.lead, after: '' };
  }
  const at = plain.replace(/\s+$/, '').length;
  const body = outline.elements.find(({ region }) => region === 'body');
  const indent =
    body === undefined
      ? ''
      : leadOf(outline, body)
          .replace(/^\r?\n/, '')
          .slice(0, indentUnit(outline).length);
  return { at, before: outline.page.newline + indent, after: '' };
}
