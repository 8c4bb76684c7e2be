/** The elements of a page that load something, and how they stand to each other in order. */
import { namesOfScript } from '../order/made-names.ts';
import { HOSTED, isOnAnotherHost, type LoadOrder, OWN } from '../order/order.ts';
import type { ScriptUses } from '../order/script-uses.ts';
import { isLoadedAhead, relationKind, scriptType } from '../read/html/relations.ts';
import type { Kind } from '../read/reading.ts';
import { resolve } from '../resolve/resolve.ts';
import { mediaType } from '../site/formats.ts';
import { extensionOf, nameOf } from '../site/inventory.ts';
import type { ScriptPlace } from '../site/places.ts';
import { addressAttribute } from './attributes.ts';
import type { Range, Tagged, Tags } from './tags.ts';
import type { WireKind } from './wire-kinds.ts';

export interface Wiring {
  readonly kind: WireKind;
  /** Site path of the file, or an address on another host. */
  readonly path: string;
  /** What a browser holds a file of another host to (Subresource Integrity 3.5); undefined where nobody said. */
  readonly integrity?: string | undefined;
}

export interface WireSettings {
  readonly order: LoadOrder;
  /** Undefined where the project does not say: as the page does. */
  readonly scriptsGo: ScriptPlace | undefined;
  /** Names that the libraries make: inline code that uses one comes after its library. */
  readonly provided: readonly string[];
  /** What scripts make and use, by their texts. */
  readonly scripts: ScriptUses;
  /** Where new elements go, by somebody's choice: before or after what loads this file. */
  readonly beside?: { readonly path: string; readonly side: 'before' | 'after' } | undefined;
  /** True for the readable and the minified build of one thing: a page loads one of them. */
  areBuilds(path: string, other: string): boolean;
  /** Whether a build that is loaded gives way to the one that is wired. */
  readonly swaps: boolean;
}

/** The kind that a file's name tells; null where it tells none. */
export function kindOfFile(path: string): WireKind | null {
  const name = nameOf(path).toLowerCase();
  if (name === 'manifest.json') return 'manifest';
  if (/^(?:fav)?icon\b.*\.(?:svg|png)$/.test(name) || /^apple-touch-icon.*\.png$/.test(name)) return 'icon';
  const type = mediaType(path);
  if (type.startsWith('font/')) return 'font';
  if (type === 'text/javascript') return extensionOf(path) === 'mjs' ? 'module' : 'script';
  return kinds.get(type) ?? null;
}

/** A script that only a module can be is wired as one. */
export function scriptKind(text: string): 'script' | 'module' {
  return namesOfScript(text).runsAs === 'module' ? 'module' : 'script';
}

const kinds: ReadonlyMap<string, WireKind> = new Map(
  Object.entries<WireKind>({
    'text/css': 'stylesheet',
    'image/x-icon': 'icon',
    'application/manifest+json': 'manifest',
  }),
);

/** An element that loads something, or code that may need what is loaded. */
export interface Loader extends Range {
  readonly region: Tagged['region'];
  readonly family: 'stylesheet' | 'script' | 'icon' | 'manifest' | 'font' | 'other';
  /** Site path of what it loads; null for inline code and for what other hosts hold. */
  readonly path: string | null;
  /** The address on another host that it loads, as written. */
  readonly hosted: string | null;
  /** Null for an element that is not in the page yet. */
  readonly element: Tagged | null;
  /** The text of inline code. */
  readonly code: string | null;
  readonly rank: number;
  readonly isDeferred: boolean;
  /** Runs whenever it arrives, in no order. */
  readonly isAsync: boolean;
  /** Of an element that is not in the page yet: its place among what is put in at one spot. */
  readonly added?: Added;
}

/** An element that is put into a page, and what is going to part it from what stands before. */
export interface Added {
  readonly markup: string;
  readonly lead: string;
  /** The same where it will be the first line of its file. */
  readonly leadAfter: string;
}

/** Of links, by what they load. */
const families: ReadonlyMap<Kind | null, Loader['family']> = new Map<Kind | null, Loader['family']>([
  ['stylesheet', 'stylesheet'],
  ['icon', 'icon'],
  ['manifest', 'manifest'],
  ['font', 'font'],
]);

export function familyOf(kind: WireKind): Loader['family'] {
  return kind === 'module' ? 'script' : kind;
}

export function loadersOf(outline: Tags, settings: WireSettings): Loader[] {
  // What tree construction passes over is in no region.
  const placed = outline.elements.filter(({ region }) => region !== 'none');
  return placed.flatMap((element) => loaderOf(outline, element, settings) ?? []);
}

function loaderOf({ page }: Tags, element: Tagged, { order, provided }: WireSettings): Loader | null {
  const { name, start, end, region } = element;
  const address = element.attribute(addressAttribute(element))?.trim() ?? null;
  const hosted = address !== null && isOnAnotherHost(address) ? address : null;
  const place = { start, end, region, element, hosted };
  const pathOf = (address: string | null) => {
    const target = address === null ? null : resolve(address, page.base);
    return target?.in === 'site' ? target.path : null;
  };
  if (name === 'link') {
    const path = pathOf(address);
    const kind = relationKind(element.attribute('rel'), element.attribute('as'));
    const isAhead = isLoadedAhead(element.attribute('rel'));
    const family = isAhead && kind !== 'font' ? 'other' : (families.get(kind) ?? 'other');
    const rank = path === null ? HOSTED : order.rankOf(path);
    return { ...place, family, path, code: null, rank, isDeferred: false, isAsync: false };
  }
  if (name !== 'script') return null;
  const type = scriptType(element.attribute('type'));
  const isModule = type === 'module';
  if (type !== 'script' && !isModule) return null;
  const src = element.attribute('src');
  const path = pathOf(src);
  const isAsync = src !== null && element.attribute('async') !== null;
  const code = src === null ? element.text() : null;
  // A word in the head that prepares the page needs no library; code that names one does.
  if (code !== null && region === 'head' && !provided.some((word) => code.includes(word))) return null;
  // What another host holds is a library.
  const rank = path !== null ? order.rankOf(path) : src === null ? OWN : HOSTED;
  const isDeferred = isModule || (src !== null && element.attribute('defer') !== null);
  return { ...place, family: 'script', path, code, rank, isDeferred, isAsync };
}

/** What tells loaders of one family apart. */
export function keyOf({ family, path, hosted }: Pick<Loader, 'family' | 'path' | 'hosted'>): string {
  return `${family} ${path ?? hosted}`;
}

/** Where what is wired lies: in the site, or on another host. */
export function placeIn(path: string): Pick<Loader, 'path' | 'hosted'> {
  return isOnAnotherHost(path) ? { path: null, hosted: path } : { path, hosted: null };
}
