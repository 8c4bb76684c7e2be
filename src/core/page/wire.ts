/** Wires files into a page: the element that loads each, at the right spot and in the right order. */
import type { LoadOrder } from '../library/order.ts';
import { OWN } from '../library/order.ts';
import { relativePath } from '../mend/address.ts';
import { resolve } from '../resolve/resolve.ts';
import type { ScriptPlace } from '../settings/settings.ts';
import { extensionOf, folderOf, nameOf } from '../site/inventory.ts';
import { type Attribute, beforeEnd, indentUnit, leadOf, mannerOf } from './manner.ts';
import { type Outline, type Outlined, outlineOf } from './outline.ts';
import type { Page, PageEdit } from './page.ts';

/** What a page can be wired to. */
export const wireKinds = ['stylesheet', 'script', 'module', 'icon', 'manifest', 'font'] as const;
export type WireKind = (typeof wireKinds)[number];

export interface Wiring {
  readonly kind: WireKind;
  /** Site path of the file. */
  readonly path: string;
}

export interface WireSettings {
  readonly order: LoadOrder;
  /** Undefined where the project does not say: as the page does. */
  readonly scriptsGo: ScriptPlace | undefined;
  /** Names that the libraries make: inline code that uses one comes after its library. */
  readonly provided: readonly string[];
  /** The other build of a library's file, if it has one. */
  otherBuild(path: string): string | null;
}

/** The kind that a file's name tells; null where it tells none. */
export function kindOfFile(path: string): WireKind | null {
  const name = nameOf(path).toLowerCase();
  if (name === 'manifest.json') return 'manifest';
  if (/^(?:fav)?icon\b.*\.(?:svg|png)$/.test(name) || /^apple-touch-icon.*\.png$/.test(name)) return 'icon';
  return kinds[extensionOf(path)] ?? null;
}

const kinds: Readonly<Record<string, WireKind>> = {
  css: 'stylesheet',
  js: 'script',
  mjs: 'module',
  ico: 'icon',
  webmanifest: 'manifest',
  woff2: 'font',
  woff: 'font',
  ttf: 'font',
  otf: 'font',
};

const types: Readonly<Record<string, string>> = {
  svg: 'image/svg+xml',
  png: 'image/png',
  ico: 'image/x-icon',
  woff2: 'font/woff2',
  woff: 'font/woff',
  ttf: 'font/ttf',
  otf: 'font/otf',
};

/** An element that loads something, or code that may need what is loaded. */
interface Loader extends Outlined {
  readonly family: 'stylesheet' | 'script' | 'icon' | 'manifest' | 'font' | 'other';
  /** Site path of what it loads; null for inline code and for what other hosts hold. */
  readonly path: string | null;
  readonly rank: number;
  readonly isDeferred: boolean;
}

/** Where a new element goes: before or after another one, or at a bare place. */
interface Spot {
  readonly at: number;
  readonly before: string;
  readonly after: string;
}

/** Why a page cannot be wired. */
export class NotWired {
  constructor(readonly why: string) {}
}

/**
 * The page with the wiring made; null where it is there already. A page whose addresses start outside of the
 * site, or that has a manifest already, is left alone.
 */
export function wire(page: Page, wiring: Wiring, settings: WireSettings): Uint8Array | NotWired | null {
  if (page.base === null) return new NotWired('its base address lies on another host');
  const outline = outlineOf(page);
  const loaders = loadersOf(outline, settings);
  const family = familyOf(wiring.kind);
  const present = loaders.filter((loader) => loader.family === family);
  const other = settings.otherBuild(wiring.path);
  if (present.some(({ path }) => path === wiring.path || (path !== null && path === other))) return null;
  if (family === 'manifest' && present.length > 0) {
    return new NotWired('it has a manifest already; a page can have one only');
  }
  const isDeferred = family === 'script' && mustDefer(wiring, loaders, settings, outline);
  const spot = spotFor(wiring, outline, loaders, settings, isDeferred);
  const markup = markupFor(wiring, page.base, outline, isDeferred);
  return page.edited([{ start: spot.at, end: spot.at, text: spot.before + markup + spot.after }]);
}

/** The page without the elements that load the file; null where there are none. */
export function unwire(page: Page, wiring: Wiring, settings: WireSettings): Uint8Array | null {
  const outline = outlineOf(page);
  const family = familyOf(wiring.kind);
  const gone = loadersOf(outline, settings).filter(
    (loader) => loader.family === family && loader.path === wiring.path,
  );
  if (gone.length === 0) return null;
  return page.edited(gone.map((loader) => removal(outline, loader)));
}

/** Takes an element out, with its line where it stands alone on it. */
export function removal(outline: Outline, range: { readonly start: number; readonly end: number }): PageEdit {
  const { plain } = outline.page.source;
  const { start, end } = range;
  const lead = leadOf(outline, range);
  const rest = /^[ \t]*(?=\r?\n|$)/.exec(plain.slice(end, end + 200));
  if (lead !== '' && rest !== null) return { start: start - lead.length, end, text: '' };
  // The first line of a file has no line break before it.
  if (plain.slice(0, start).trim() === '' || plain.slice(0, start) === '\x1a\x1a\x1a') {
    const after = /^[ \t]*\r?\n/.exec(plain.slice(end, end + 200));
    return { start, end: end + (after?.[0].length ?? 0), text: '' };
  }
  return { start, end, text: '' };
}

function familyOf(kind: WireKind): Loader['family'] {
  return kind === 'module' ? 'script' : kind;
}

function loadersOf(outline: Outline, settings: WireSettings): Loader[] {
  return outline.elements.flatMap((element) => loaderOf(outline, element, settings) ?? []);
}

function loaderOf({ page }: Outline, element: Outlined, { order, provided }: WireSettings): Loader | null {
  const { name } = element;
  const pathOf = (address: string | null) => {
    const target = address === null ? null : resolve(address, page.base);
    return target?.in === 'site' ? target.path : null;
  };
  const words = (attribute: string) => (element.attribute(attribute) ?? '').toLowerCase().split(/[\t\n\f\r ]+/);
  if (name === 'link') {
    const path = pathOf(element.attribute('href'));
    const rel = words('rel');
    const family: Loader['family'] = rel.includes('stylesheet')
      ? 'stylesheet'
      : rel.includes('icon') || rel.includes('apple-touch-icon')
        ? 'icon'
        : rel.includes('manifest')
          ? 'manifest'
          : rel.includes('preload') && element.attribute('as')?.toLowerCase() === 'font'
            ? 'font'
            : 'other';
    const rank = path === null ? -1 : order.rankOf(path);
    return { ...element, family, path, rank, isDeferred: false };
  }
  if (name !== 'script') return null;
  const type = (element.attribute('type') ?? '').trim().toLowerCase();
  const isModule = type === 'module';
  if (type !== '' && !isModule && !/(?:java|ecma|live|j)script/.test(type)) return null;
  const src = element.attribute('src');
  const path = pathOf(src);
  if (src !== null && element.attribute('async') !== null && !isModule) return null;
  if (src === null) {
    // A word in the head that prepares the page needs no library; code that names one does.
    const code = element.text();
    if (element.region === 'head' && !provided.some((word) => code.includes(word))) return null;
  }
  // What another host holds is a library.
  const rank = path !== null ? order.rankOf(path) : src === null ? OWN : -1;
  const isDeferred = isModule || (src !== null && element.attribute('defer') !== null);
  return { ...element, family: 'script', path, rank, isDeferred };
}

function mustDefer(
  { kind, path }: Wiring,
  loaders: readonly Loader[],
  { order, scriptsGo }: WireSettings,
  outline: Outline,
): boolean {
  if (kind === 'module') return true;
  const rank = order.rankOf(path);
  const scripts = loaders.filter(({ family }) => family === 'script');
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

function spotFor(
  wiring: Wiring,
  outline: Outline,
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
    if (next !== undefined && (last === undefined || last.start > next.start)) return beside(outline, next, 'before');
    if (last !== undefined) return beside(outline, last, 'after');
    return headSpot(outline);
  }
  const alike = head.findLast(({ family }) => family === kind);
  if (alike !== undefined) return beside(outline, alike, 'after');
  return firstSheet !== undefined ? beside(outline, firstSheet, 'before') : headSpot(outline);
}

function scriptSpot(
  { path }: Wiring,
  outline: Outline,
  loaders: readonly Loader[],
  order: LoadOrder,
  isDeferred: boolean,
): Spot {
  const rank = order.rankOf(path);
  const scripts = loaders.filter(({ family }) => family === 'script');
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

/** True where nothing that a visitor sees follows: only scripts, comments and closing tags. */
function isAtEnd({ page, elements }: Outline, { end }: Outlined): boolean {
  if (elements.some((element) => element.start >= end && element.name !== 'script')) return false;
  const rest = page.source.plain.slice(end).replace(/<!--[^]*?-->|<script[^]*?<\/script[^>]*>/gi, '');
  return /^(?:\s|<\/(?:body|html)\s*>)*$/i.test(rest);
}

function beside(outline: Outline, neighbour: Outlined, side: 'before' | 'after'): Spot {
  const lead = leadOf(outline, neighbour);
  if (side === 'after') return { at: neighbour.end, before: lead, after: '' };
  return { at: neighbour.start, before: '', after: lead };
}

/** After what stands in the head already; scripts and inline styles stay behind. */
function headSpot(outline: Outline): Spot {
  const { page, doctypeEnd } = outline;
  const isEarly = ({ name, region }: Outlined) =>
    region === 'head' && (name === 'meta' || name === 'title' || name === 'base' || name === 'link');
  const late = outline.elements.find(({ name, region }) => region === 'head' && (name === 'script' || name === 'style'));
  const early = outline.elements.filter(isEarly);
  const last = early.findLast(({ start }) => late === undefined || start < late.start) ?? early.at(-1);
  if (last !== undefined) return beside(outline, last, 'after');
  const head = outline.first('head');
  if (late !== undefined) return beside(outline, late, 'before');
  if (head !== null) {
    const end = beforeEnd(outline, head);
    if (end !== null) return { at: end.at, before: end.lead, after: '' };
    return { at: head.startTag.end, before: page.newline, after: '' };
  }
  const html = outline.first('html');
  if (html !== null) return { at: html.startTag.end, before: page.newline, after: '' };
  const start = doctypeEnd > 0 ? doctypeEnd : page.source.plain.startsWith('\x1a\x1a\x1a') ? 3 : 0;
  return doctypeEnd > 0 ? { at: start, before: page.newline, after: '' } : { at: start, before: '', after: page.newline };
}

/** Just before the body ends. */
function bodySpot(outline: Outline): Spot {
  const { plain } = outline.page.source;
  const holder = [outline.first('body'), outline.first('html')].find((element) => (element?.endTag ?? null) !== null);
  if (holder) {
    const end = beforeEnd(outline, holder) as { at: number; lead: string };
    return { at: end.at, before: end.lead, after: '' };
  }
  const at = plain.replace(/\s+$/, '').length;
  const body = outline.elements.find(({ region }) => region === 'body');
  const indent = body === undefined ? '' : leadOf(outline, body).replace(/^\r?\n/, '').slice(0, indentUnit(outline).length);
  return { at, before: outline.page.newline + indent, after: '' };
}

function markupFor({ kind, path }: Wiring, base: string, outline: Outline, isDeferred: boolean): string {
  const address = relativePath(folderOf(base), path);
  const { element } = mannerOf(outline);
  const type = types[extensionOf(path)];
  const typed: readonly Attribute[] = type === undefined ? [] : [['type', type]];
  switch (kind) {
    case 'stylesheet':
      return element('link', [['rel', 'stylesheet'], ['href', address]], false);
    case 'script':
      return element('script', [['src', address], ...(isDeferred ? [['defer', null] as const] : [])], true);
    case 'module':
      return element('script', [['type', 'module'], ['src', address]], true);
    case 'icon': {
      const rel = /^apple-touch-icon/i.test(nameOf(path)) ? 'apple-touch-icon' : 'icon';
      return element('link', [['rel', rel], ['href', address], ...typed], false);
    }
    case 'manifest':
      return element('link', [['rel', 'manifest'], ['href', address]], false);
    default:
      // Fonts are fetched without credentials, preloaded ones too (CSS Fonts 4, 4.9.2).
      return element('link', [['rel', 'preload'], ['href', address], ['as', 'font'], ...typed, ['crossorigin', null]], false);
  }
}
