/** unused: a file that nothing refers to. */

import { type Folder, foldersOf, inherited } from '../../site/folders.ts';
import { folderOf } from '../../site/inventory.ts';
import type { SiteRule } from '../rule.ts';
import { wholeFile } from '../whole-file.ts';

/** Files that browsers, hosts and search engines ask for by themselves. */
const ASKED_FOR =
  /^(?:favicon\.ico|apple-touch-icon[^/]*\.png|robots\.txt|humans\.txt|sitemap[^/]*\.(?:xml|txt)|feed\.xml|atom\.xml|rss\.xml|ads\.txt|browserconfig\.xml|site\.webmanifest|manifest\.json|\.htaccess|\.nojekyll|_headers|_redirects|CNAME|\.well-known\/.*)$|(?:^|\/)(?:LICEN[CS]E|COPYING|NOTICE|README)[^/]*$|\.map$/i;

/** The folders of libraries of which something is used: their other builds and licences lie beside it. */
function usedLibraries(libraries: string | undefined, used: ReadonlySet<string>): ReadonlySet<string> {
  return new Set([...used].map((path) => libraryOf(path, libraries)).filter((folder) => folder !== ''));
}

/** The folder of the library that a file belongs to; empty for other files. */
function libraryOf(path: string, libraries: string | undefined): string {
  if (libraries === undefined || !path.startsWith(`${libraries}/`)) return '';
  return path.slice(0, path.indexOf('/', libraries.length + 1) + 1);
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
  judgeSite({ site, pages, used }) {
    const { libraries } = site.places;
    const inUse = usedLibraries(libraries, used);
    const folders = foldersOf(site.inventory);
    // A script that names a folder may put the name of any file in it together.
    const isNamed = inherited(({ path }) => (path !== '' && used.has(path) ? true : null));
    return [...site.inventory.files]
      .filter(
        (path) =>
          !used.has(path) &&
          isNamed(folders.get(folderOf(path)) as Folder) === null &&
          !pages.has(path) &&
          !ASKED_FOR.test(path) &&
          !inUse.has(libraryOf(path, libraries)),
      )
      .map((path) => wholeFile(path, 'no file of the site refers to it'));
  },
};
