/** unreached: a page that no page leads to. */

import { isErrorPage } from '../../site/asked-for.ts';
import type { SiteRule } from '../rule.ts';
import { wholeFile } from '../whole-file.ts';

export const unreached: SiteRule = {
  name: 'unreached',
  grade: 'untidy',
  summary: 'no page leads to it',
  suffers: 'Visitors who start at the entry page never find it.',
  wrong: 'a page that is in no navigation',
  right: 'a link to it from a page that visitors find',
  cause: 'rule',
  looksAt: ['names', 'pages', 'ways'],
  judgeSite({ site, pages, waysFrom, isWhole }) {
    if (!pages.has(site.entry) || !isWhole) return [];
    const reached = new Set([site.entry]);
    const waiting = [site.entry];
    for (let path = waiting.pop(); path !== undefined; path = waiting.pop()) {
      for (const next of waysFrom(path)) {
        if (reached.has(next)) continue;
        reached.add(next);
        waiting.push(next);
      }
    }
    return [...pages.keys()]
      .filter((path) => !reached.has(path) && !isErrorPage(path))
      .map((path) => wholeFile(path, `no way leads here from ${site.entry}`));
  },
};
