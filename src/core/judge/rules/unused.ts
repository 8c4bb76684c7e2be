/** unused: a file that nothing refers to. */

import { isAskedFor, liesBeside } from '../../site/asked-for.ts';
import { type Folder, foldersOf, inherited } from '../../site/folders.ts';
import { folderOf, type Inventory } from '../../site/inventory.ts';
import type { SiteRule } from '../rule.ts';
import { wholeFile } from '../whole-file.ts';

/** The folders of libraries of which something is used: their other builds and licences lie beside it. */
function usedLibraries(libraries: string | undefined, used: ReadonlySet<string>): ReadonlySet<string> {
  return new Set([...used].map((path) => libraryOf(path, libraries)).filter((folder) => folder !== ''));
}

/** The folder of the library that a file belongs to; empty for other files. */
function libraryOf(path: string, libraries: string | undefined): string {
  if (libraries === undefined || !path.startsWith(`${libraries}/`)) return '';
  return path.slice(0, path.indexOf('/', libraries.length + 1) + 1);
}

/** Links that lead nowhere, and that nothing refers to. */
function deadLinksOf({ deadLinks }: Inventory, missed: ReadonlySet<string>): ReturnType<typeof wholeFile>[] {
  return [...deadLinks]
    .filter(([path]) => !missed.has(path))
    .map(([path, to]) =>
      wholeFile(path, `a link to ${to}, where nothing is; no file of the site refers to it`),
    );
}

export const unused: SiteRule = {
  name: 'unused',
  grade: 'untidy',
  summary: 'nothing refers to it',
  suffers: 'It is published, and nobody ever gets it.',
  wrong: 'images/old-pier.svg that no page shows',
  right: 'without the file, or with a page that shows it',
  cause: 'rule',
  looksAt: ['names', 'pages', 'uses'],
  judgeSite({ site, pages, used, missed, sources, isWhole }) {
    // What could not be read may refer to anything; a link to nothing is one all the same.
    if (!isWhole) return deadLinksOf(site.inventory, missed);
    const { libraries } = site.places;
    const inUse = usedLibraries(libraries, used);
    const apart = new Set(sources);
    const folders = foldersOf(site.inventory);
    // A script that names a folder may put the name of any file in it together.
    const isNamed = inherited(({ path }) => (path !== '' && used.has(path) ? true : null));
    return [...site.inventory.files]
      .filter(
        (path) =>
          !used.has(path) &&
          !site.inventory.aliases.has(path) &&
          isNamed(folders.get(folderOf(path)) as Folder) === null &&
          !pages.has(path) &&
          !apart.has(path) &&
          !isAskedFor(path) &&
          !liesBeside(path) &&
          !inUse.has(libraryOf(path, libraries)),
      )
      .map((path) => wholeFile(path, 'no file of the site refers to it'))
      .concat(deadLinksOf(site.inventory, missed));
  },
};
