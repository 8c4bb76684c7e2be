/** odd-one-out: a page that lacks what nearly every page loads. */

import type { SiteRule } from '../rule.ts';
import { wholeFile } from '../whole-file.ts';

/** Of fewer pages nothing can be said. */
const FEWEST = 5;
const SHARE = 0.9;
const KINDS: ReadonlySet<string> = new Set(['stylesheet', 'script', 'module', 'icon']);

export const oddOneOut: SiteRule = {
  name: 'odd-one-out',
  grade: 'untidy',
  summary: 'nearly every page loads it, this one does not',
  suffers: 'The page looks or behaves unlike all others.',
  wrong: 'one page of twenty without css/main.css',
  right: '<link rel="stylesheet" href="css/main.css">  on every page',
  looksAt: ['pages', 'loads'],
  judgeSite({ pages, loadedAs }) {
    if (pages.size < FEWEST) return [];
    const amounts = new Map<string, number>();
    for (const { loads } of pages.values())
      for (const path of loads.keys()) amounts.set(path, (amounts.get(path) ?? 0) + 1);
    const common = [...amounts].filter(
      ([path, amount]) =>
        KINDS.has(loadedAs.get(path) ?? '') && amount < pages.size && amount >= pages.size * SHARE,
    );
    return common.flatMap(([path, amount]) =>
      [...pages.values()]
        .filter(({ loads }) => !loads.has(path))
        .map(({ file }) =>
          wholeFile(file, `${amount} of ${pages.size} pages load ${path}, and this one does not`, path),
        ),
    );
  },
};
