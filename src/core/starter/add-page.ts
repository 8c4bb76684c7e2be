/** Adds a page to a site, from a starter's pattern or like a page that is there. */

import type { Files } from '../change/files.ts';
import { fail } from '../errors.ts';
import { onceFor } from '../once-for.ts';
import { makeLike } from '../page/make.ts';
import { inOneLine, type PageWords } from '../page/naming.ts';
import { openPage } from '../page/page.ts';
import { isPage } from '../read/read.ts';
import { fold } from '../site/inventory.ts';
import { nearestNames } from '../site/near-names.ts';
import type { Placing } from './placing.ts';
import { fillTemplate } from './template.ts';

/** What further pages are made from. */
export type Pattern =
  | {
      readonly from: 'template';
      readonly shown: string;
      readonly bytes: Uint8Array;
      readonly values: Readonly<Record<string, string>>;
      readonly placing: Placing;
    }
  /** `bytes`: of one that is no part of the site. */
  | { readonly from: 'page'; readonly path: string; readonly bytes?: Uint8Array | null };

/** The files of a site by their names without letter case; pages that are added come to them. */
const namesIn = onceFor((site: Files) => new Map(site.paths().map((path) => [fold(path), path])));

/** Writes the page at site path `file`. `prefix` is the site's folder in the project. Throws a `CravelError`. */
export function addPage(site: Files, prefix: string, pattern: Pattern, file: string, words: PageWords): void {
  // A page whose name differs in letter case alone is the same one on many disks.
  const names = namesIn(site);
  const twin = site.has(file) ? file : names.get(fold(file));
  if (twin !== undefined) throw fail('page-there', twin);
  names.set(fold(file), file);
  if (pattern.from === 'page') {
    const { path } = pattern;
    const model = pattern.bytes ?? (site.has(path) ? site.read(path) : null);
    if (model === null || !isPage(path))
      throw fail('no-page', path, nearestNames(path, site.paths().filter(isPage)));
    const bytes = makeLike(openPage(path, model), file, words);
    if (bytes === null) throw fail('far-base', path);
    site.write(file, bytes);
    return;
  }
  const { values, shown, bytes, placing } = pattern;
  const context = {
    shown,
    target: prefix + file,
    placing,
    values: { ...values, site: values.title ?? '', ...words },
    has: (path: string) => path.startsWith(prefix) && site.has(path.slice(prefix.length)),
  };
  site.write(file, fillTemplate(bytes, context));
}

/** What the site says of itself on its entry page. */
export function siteWords(site: Files, entry: string): { title: string; description: string } {
  if (!site.has(entry)) return { title: '', description: '' };
  const { page } = openPage(entry, site.read(entry)).reading;
  return {
    title: inOneLine(page?.title?.text ?? ''),
    description: inOneLine(page?.description ?? ''),
  };
}
