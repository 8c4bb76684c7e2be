/** Wires files into a page: the element that loads each, at the right spot and in the right order. */
import { relativePath } from '../mend/address.ts';
import { extensionOf, folderOf, nameOf } from '../site/inventory.ts';
import { familyOf, loadersOf, type WireSettings, type Wiring } from './loaders.ts';
import { type Attribute, mannerOf } from './manner.ts';
import type { Page } from './page.ts';
import { removal } from './removal.ts';
import { type Tags, tagsOf } from './tags.ts';
import { mustDefer, spotFor } from './wire-spots.ts';

const types: Readonly<Record<string, string>> = {
  svg: 'image/svg+xml',
  png: 'image/png',
  ico: 'image/x-icon',
  woff2: 'font/woff2',
  woff: 'font/woff',
  ttf: 'font/ttf',
  otf: 'font/otf',
};

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
  const outline = tagsOf(page);
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
  const outline = tagsOf(page);
  const family = familyOf(wiring.kind);
  const gone = loadersOf(outline, settings).filter(
    (loader) => loader.family === family && loader.path === wiring.path,
  );
  if (gone.length === 0) return null;
  return page.edited(gone.map((loader) => removal(outline, loader)));
}

function markupFor({ kind, path }: Wiring, base: string, outline: Tags, isDeferred: boolean): string {
  const address = relativePath(folderOf(base), path);
  const { element } = mannerOf(outline);
  const type = types[extensionOf(path)];
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
