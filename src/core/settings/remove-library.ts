/** Takes a library out of a project again: what loads it, its files, and its entry in the settings. */
import { fail } from '../errors.ts';
import { addTo } from '../group-by.ts';
import { placeFiles } from '../library/taken.ts';
import { loadedPath } from '../page/attributes.ts';
import { openPage, type Page } from '../page/page.ts';
import { removals } from '../page/removal.ts';
import { tagsOf } from '../page/tags.ts';
import { isPage, isRead, readFile } from '../read/read.ts';
import { resolve } from '../resolve/resolve.ts';
import { nearestNames } from '../site/near-names.ts';
import type { LibraryProject } from './place-library.ts';
import { SETTINGS_FILE } from './settings.ts';
import { withoutLibrary } from './write.ts';

export interface Removed {
  readonly folder: string;
  /** Pages that loaded something of it. */
  readonly pages: readonly string[];
  /** How many files went. */
  readonly files: number;
  /** What stays in its folder: edited, or somebody's own. */
  readonly stays: readonly string[];
  /** What stays since the site still shows it: the files that refer to each. */
  readonly shown: ReadonlyMap<string, ReadonlySet<string>>;
}

/** Throws a `CravelError` where there is no library of that name, or another one needs it. */
export function removeLibrary(
  { settings, site, files }: Omit<LibraryProject, 'places'>,
  name: string,
  digest: (bytes: Uint8Array) => string,
): Removed {
  const { libraries } = settings;
  const names = Object.keys(libraries);
  const known = Object.hasOwn(libraries, name) ? libraries[name] : undefined;
  if (known === undefined) throw fail('no-such-library', name, nearestNames(name, names) || names.join(', '));
  const needing = names.filter((other) => other !== name && libraries[other]?.needs.includes(name));
  if (needing.length > 0) throw fail('needed-library', name, needing.join(', '));
  const inside = `${known.folder}/`;
  const pages: string[] = [];
  const shown = new Map<string, Set<string>>();
  for (const path of site.paths()) {
    if (!isRead(path) || path.startsWith(inside)) continue;
    const bytes = site.read(path);
    let page = isPage(path) ? openPage(path, bytes) : null;
    const without = page === null ? null : withoutLoading(page, inside);
    if (without !== null) {
      site.write(path, without);
      pages.push(path);
      page = openPage(path, without);
    }
    const references = page === null ? readFile(path, bytes)?.references : page.reading.references;
    for (const { written } of references ?? []) {
      const target = resolve(written, page === null ? path : page.base);
      if (target.in === 'site' && target.path.startsWith(inside) && site.has(target.path))
        addTo(shown, target.path.slice(inside.length), path);
    }
  }
  // What is still shown counts as somebody's own: it is in no record any more.
  const mine = Object.entries(known.files).filter(([path]) => !shown.has(path));
  const amount = site.paths().length;
  const stays = placeFiles(
    site,
    { folder: known.folder, files: Object.fromEntries(mine) },
    new Map(),
    digest,
  );
  const text = files.has(SETTINGS_FILE) ? new TextDecoder().decode(files.read(SETTINGS_FILE)) : '';
  files.write(SETTINGS_FILE, new TextEncoder().encode(withoutLibrary(text, name)));
  delete libraries[name];
  return {
    folder: known.folder,
    pages,
    files: amount - site.paths().length,
    stays: stays.filter((path) => !shown.has(path)),
    shown,
  };
}

/** A page without the elements that load what lies in a folder; null where there are none. */
function withoutLoading(page: Page, inside: string): Uint8Array | null {
  const outline = tagsOf(page);
  const gone = outline.elements.filter(
    (element) =>
      (element.name === 'link' || element.name === 'script') &&
      (loadedPath(page, element)?.startsWith(inside) ?? false),
  );
  return gone.length === 0 ? null : page.edited(removals(outline, gone));
}
