/** The spot in a page where an element that loads something goes. */
import type { LoadOrder } from '../library/order.ts';
import { familyOf, type Loader, type WireSettings, type Wiring } from './loaders.ts';
import { beforeEnd, indentUnit, leadAfter, leadOf } from './manner.ts';
import type { Range, Tagged, Tags } from './tags.ts';

/** Where a new element goes: before or after another one, or at a bare place. */
export interface Spot {
  readonly at: number;
  readonly before: string;
  readonly after: string;
}

/** True where a script must wait for the page: as the project says, or as its neighbours do. */
export function mustDefer(
  { kind, path }: Wiring,
  loaders: readonly Loader[],
  { order, scriptsGo }: WireSettings,
  outline: Tags,
): boolean {
  if (kind === 'module') return true;
  const rank = order.rankOf(path);
  const scripts = inOrderOfLoading(loaders);
  const next = scripts.find((loader) => loader.rank > rank);
  if (next !== undefined) return next.isDeferred;
  // After a deferred library only deferred scripts find it.
  if (scripts.some((loader) => loader.isDeferred && loader.rank < rank)) return true;
  if (scriptsGo === 'deferred-head' || scriptsGo === 'module') return true;
  if (scriptsGo === 'end-of-body') return false;
  const own = scripts.filter(({ path: other }) => other !== null);
  if (own.length > 0) return own.every((loader) => loader.isDeferred);
  return outline.first('frameset') !== null;
}

export function spotFor(
  wiring: Wiring,
  outline: Tags,
  loaders: readonly Loader[],
  { order }: WireSettings,
  isDeferred: boolean,
): Spot {
  const { kind } = wiring;
  if (familyOf(kind) === 'script') return scriptSpot(wiring, outline, loaders, order, isDeferred);
  const head = loaders.filter(({ region }) => region === 'head');
  const firstSheet = head.find(({ family }) => family === 'stylesheet');
  if (kind === 'stylesheet') {
    const rank = order.rankOf(wiring.path);
    const sheets = head.filter(({ family }) => family === 'stylesheet');
    const last = sheets.findLast((sheet) => sheet.rank <= rank);
    const next = sheets.find((sheet) => sheet.rank > rank);
    if (next !== undefined && (last === undefined || last.start > next.start))
      return beside(outline, next, 'before');
    if (last !== undefined) return beside(outline, last, 'after');
    return headSpot(outline);
  }
  const alike = head.findLast(({ family }) => family === kind);
  if (alike !== undefined) return beside(outline, alike, 'after');
  return firstSheet !== undefined ? beside(outline, firstSheet, 'before') : headSpot(outline);
}

function scriptSpot(
  { path }: Wiring,
  outline: Tags,
  loaders: readonly Loader[],
  order: LoadOrder,
  isDeferred: boolean,
): Spot {
  const rank = order.rankOf(path);
  const scripts = inOrderOfLoading(loaders);
  const next = scripts.find((loader) => loader.rank > rank);
  if (next !== undefined) return beside(outline, next, 'before');
  const last = scripts.at(-1);
  if (last !== undefined && last.isDeferred === isDeferred && (isDeferred || isAtEnd(outline, last)))
    return beside(outline, last, 'after');
  if (isDeferred) {
    const inHead = loaders.findLast(({ region, family }) => region === 'head' && family === 'stylesheet');
    return inHead !== undefined ? beside(outline, inHead, 'after') : headSpot(outline);
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

function beside(outline: Tags, neighbour: Range, side: 'before' | 'after'): Spot {
  if (side === 'after') return { at: neighbour.end, before: leadAfter(outline, neighbour), after: '' };
  return { at: neighbour.start, before: '', after: leadOf(outline, neighbour) };
}

/** After what stands in the head already; scripts and inline styles stay behind. */
function headSpot(outline: Tags): Spot {
  const { page, doctypeEnd } = outline;
  const isEarly = ({ name, region }: Tagged) =>
    region === 'head' && (name === 'meta' || name === 'title' || name === 'base' || name === 'link');
  const late = outline.elements.find(
    ({ name, region }) => region === 'head' && (name === 'script' || name === 'style'),
  );
  const early = outline.elements.filter(isEarly);
  const last = early.findLast(({ start }) => late === undefined || start < late.start) ?? early.at(-1);
  if (last !== undefined) return beside(outline, last, 'after');
  const head = outline.first('head');
  if (late !== undefined) return beside(outline, late, 'before');
  if (head !== null) {
    const end = beforeEnd(outline, head);
    if (end !== null) return { at: end.at, before: end.lead, after: '' };
    return onNextLine(outline, head.startTag.end);
  }
  const html = outline.first('html');
  if (html !== null) return onNextLine(outline, html.startTag.end);
  if (doctypeEnd > 0) return onNextLine(outline, doctypeEnd);
  const start = page.source.plain.startsWith('\x1a\x1a\x1a') ? 3 : 0;
  return { at: start, before: '', after: page.newline };
}

/** On a line of its own where a line ends here; else right here. */
function onNextLine({ page }: Tags, at: number): Spot {
  const endsHere = /^[ \t]*\r?\n/.test(page.source.plain.slice(at, at + 100));
  return { at, before: endsHere ? page.newline : '', after: '' };
}

/** Just before the body ends. */
function bodySpot(outline: Tags): Spot {
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
