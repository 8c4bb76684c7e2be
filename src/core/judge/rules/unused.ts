/** unused: a file that nothing refers to. */

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

/** True where a script names a folder that the file is in: it may put the file's name together. */
function isInNamedFolder(path: string, used: ReadonlySet<string>): boolean {
  for (let folder = folderOf(path); folder !== ''; folder = folderOf(folder.slice(0, -1)))
    if (used.has(folder)) return true;
  return false;
}

export const unused: SiteRule = {
  name: 'unused',
  grade: 'untidy',
  summary: 'nothing refers to it',
  suffers: 'It is published, and nobody ever gets it.',
  wrong: 'images/old-pier.svg that no page shows',
  right: 'without the file, or with a page that shows it',
  cause: 'rule',
  judgeSite({ site, pages, used }) {
    const { libraries } = site.places;
    const inUse = usedLibraries(libraries, used);
    return [...site.inventory.files]
      .filter(
        (path) =>
          !used.has(path) &&
          !isInNamedFolder(path, used) &&
          !pages.has(path) &&
          !ASKED_FOR.test(path) &&
          !inUse.has(libraryOf(path, libraries)),
      )
      .map((path) => wholeFile(path, 'no file of the site refers to it'));
  },
};
