/** lacks-entry: a site without an entry page. */

import { isPageName } from '../../site/formats.ts';
import type { SiteRule } from '../rule.ts';
import { wholeFile } from '../whole-file.ts';

export const lacksEntry: SiteRule = {
  name: 'lacks-entry',
  grade: 'untidy',
  summary: 'no entry page',
  suffers: 'Who asks for the site gets an error, or a list of files.',
  wrong: 'home.html and no index.html',
  right: 'index.html',
  looksAt: ['names', 'pages'],
  judgeSite({ site, pages }) {
    if (pages.size === 0 || site.inventory.files.has(site.entry)) return [];
    const home = [...pages.keys()].find(
      (path) => isPageName(path) && /^(?:home|default|main|start|index)\.[a-z]+$/i.test(path),
    );
    const file = home ?? ([...pages.keys()][0] as string);
    return [
      wholeFile(
        file,
        home === undefined
          ? `the site has no ${site.entry}`
          : `the site has no ${site.entry}; is ${home} meant to be it?`,
        null,
      ),
    ];
  },
};
