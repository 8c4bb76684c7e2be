/** Wires files into a page: the element that loads each, at the right spot and in the right order. */
import { relativePath } from '../mend/address.ts';
import { extensionOf, folderOf, nameOf } from '../site/inventory.ts';
import { type Added, familyOf, type Loader, loadersOf, type WireSettings, type Wiring } from './loaders.ts';
import { type Attribute, mannerOf } from './manner.ts';
import type { Page, PageEdit } from './page.ts';
import { removal } from './removal.ts';
import { type Tags, tagsOf } from './tags.ts';
import { mustDefer, type Spot, spotFor } from './wire-spots.ts';

const types = new Map(
  Object.entries({
    svg: 'image/svg+xml',
    png: 'image/png',
    ico: 'image/x-icon',
    woff2: 'font/woff2',
    woff: 'font/woff',
    ttf: 'font/ttf',
    otf: 'font/otf',
  }),
);

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
  /** The page with all that was wired; null where nothing was. */
  readonly bytes: Uint8Array | null;
  /** Why some could not be. */
  readonly left: readonly NotWired[];
}

/** Makes several wirings, each as {@link wire} would after those before it; the page is read once. */
export function wireAll(page: Page, wirings: readonly Wiring[], settings: WireSettings): Wired {
  const { base } = page;
  if (base === null) return { bytes: null, left: [new NotWired('its base address lies on another host')] };
  const outline = tagsOf(page);
  const loaders = loadersOf(outline, settings);
  const left: NotWired[] = [];
  const insertions = new Insertions(page);
  for (const wiring of wirings) {
    const family = familyOf(wiring.kind);
    const present = loaders.filter((loader) => loader.family === family);
    const other = settings.otherBuild(wiring.path);
    if (present.some(({ path }) => path === wiring.path || (path !== null && path === other))) continue;
    if (family === 'manifest' && present.length > 0) {
      left.push(new NotWired('it has a manifest already; a page can have one only'));
      continue;
    }
    const isDeferred = family === 'script' && mustDefer(wiring, loaders, settings, outline);
    const spot = spotFor(wiring, outline, loaders, settings, isDeferred);
    const added = insertions.add(spot, markupFor(wiring, base, outline, isDeferred));
    const index = spot.beside === undefined ? -1 : loaders.indexOf(spot.beside.loader);
    const place =
      index >= 0
        ? index + (spot.beside?.side === 'after' ? 1 : 0)
        : loaders.findIndex(
            ({ start, added: one }) =>
              start > spot.at || (start === spot.at && (spot.isRightBehind === true || one === undefined)),
          );
    loaders.splice(place < 0 ? loaders.length : place, 0, {
      start: spot.at,
      end: spot.at,
      region: family === 'script' && !isDeferred ? 'body' : 'head',
      family,
      path: wiring.path,
      rank: settings.order.rankOf(wiring.path),
      isDeferred,
      isAsync: false,
      added,
    });
  }
  return { bytes: insertions.edits.length === 0 ? null : page.edited(insertions.edits), left };
}

/** What is put into a page, by the places where it goes. */
class Insertions {
  readonly #pieces = new Map<number, (string | Added)[]>();
  constructor(readonly page: Page) {}

  add({ at, before, after, beside, isRightBehind }: Spot, markup: string): Added {
    const { page } = this;
    const lead = after !== '' && before === '' ? after : /^\r?\n/.test(before) ? before : '';
    const isFirst = at < 4 && before === '' && after === page.newline;
    const added: Added = { markup, lead: isFirst ? '' : lead, leadAfter: isFirst ? page.newline : lead };
    const pieces = this.#pieces.get(at) ?? [];
    this.#pieces.set(at, pieces);
    const neighbour = beside?.loader.added;
    if (neighbour === undefined) {
      if (isRightBehind) pieces.unshift(before, added, after);
      else pieces.push(before, added, after);
      return added;
    }
    const place = pieces.indexOf(neighbour);
    if (beside?.side === 'before') pieces.splice(place, 0, before, added, after);
    else pieces.splice(place + 1, 0, before, added, after);
    return added;
  }

  get edits(): PageEdit[] {
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
  const keyOf = (family: Loader['family'], path: string | null) => `${family} ${path}`;
  const wanted = new Set(wirings.map(({ kind, path }) => keyOf(familyOf(kind), path)));
  const gone = loadersOf(outline, settings).filter(({ family, path }) => wanted.has(keyOf(family, path)));
  if (gone.length === 0) return null;
  return page.edited(gone.map((loader) => removal(outline, loader)));
}

function markupFor({ kind, path }: Wiring, base: string, outline: Tags, isDeferred: boolean): string {
  const address = relativePath(folderOf(base), path);
  const { element } = mannerOf(outline);
  const type = types.get(extensionOf(path));
  const typed: readonly Attribute[] = type === undefined ? [] : [['type', type]];
  switch (kind) {
    case 'stylesheet':
      return element(
        'link',
        [
          ['rel', 'stylesheet'],
          ['href', address],
        ],
        false,
      );
    case 'script':
      return element('script', [['src', address], ...(isDeferred ? [['defer', null] as const] : [])], true);
    case 'module':
      return element(
        'script',
        [
          ['type', 'module'],
          ['src', address],
        ],
        true,
      );
    case 'icon': {
      const rel = /^apple-touch-icon/i.test(nameOf(path)) ? 'apple-touch-icon' : 'icon';
      return element('link', [['rel', rel], ['href', address], ...typed], false);
    }
    case 'manifest':
      return element(
        'link',
        [
          ['rel', 'manifest'],
          ['href', address],
        ],
        false,
      );
    default:
      // Fonts are fetched without credentials, preloaded ones too (CSS Fonts 4, 4.9.2).
      return element(
        'link',
        [['rel', 'preload'], ['href', address], ['as', 'font'], ...typed, ['crossorigin', null]],
        false,
      );
  }
}
