/** unused: a file that nothing refers to. */

import type { SiteRule } from '../rule.ts';
import { wholeFile } from '../whole-file.ts';

/** Files that browsers, hosts and search engines ask for by themselves. */
const ASKED_FOR =
  /^(?:favicon\.ico|apple-touch-icon[^/]*\.png|robots\.txt|humans\.txt|sitemap[^/]*\.(?:xml|txt)|feed\.xml|atom\.xml|rss\.xml|ads\.txt|browserconfig\.xml|site\.webmanifest|manifest\.json|\.htaccess|\.nojekyll|_headers|_redirects|CNAME|\.well-known\/.*)$|(?:^|\/)(?:LICEN[CS]E|COPYING|NOTICE|README)[^/]*$|\.map$/i;

/** Other builds, licences and the like of a library that is used. */
function isBesideUsed(path: string, libraries: string | undefined, used: ReadonlySet<string>): boolean {
  if (libraries === undefined || !path.startsWith(`${libraries}/`)) return false;
  const folder = path.slice(0, path.indexOf('/', libraries.length + 1) + 1);
  return folder !== '' && [...used].some((other) => other.startsWith(folder));
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
    return [...site.inventory.files.keys()]
      .filter(
        (path) =>
          !used.has(path) &&
          !pages.has(path) &&
          !ASKED_FOR.test(path) &&
          !isBesideUsed(path, site.places.libraries, used),
      )
      .map((path) => wholeFile(path, 'no file of the site refers to it'));
  },
};
