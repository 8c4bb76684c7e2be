/** odd-one-out: a page that lacks what nearly every page loads. */

import type { SiteRule } from '../rule.ts';
import { wholeFile } from '../whole-file.ts';

/** Of fewer pages nothing can be said. */
const FEWEST = 4;
const SHARE = 0.9;
const KINDS: ReadonlySet<string> = new Set(['stylesheet', 'script', 'module', 'icon']);
/** Of fewer pages one alone may be the odd one, and only by how it looks: what runs on it is its own. */
const MANY = 10;
const KINDS_OF_FEW: ReadonlySet<string> = new Set(['stylesheet']);

export const oddOneOut: SiteRule = {
  name: 'odd-one-out',
  grade: 'untidy',
  summary: 'nearly every page loads it, this one does not',
  suffers: 'The page looks or behaves unlike all others.',
  wrong: 'one page of twenty without css/main.css',
  right: '<link rel="stylesheet" href="css/main.css">  on every page',
  looksAt: ['pages', 'loads', 'ways'],
  judgeSite({ pages, loadedAs, waysFrom }) {
    if (pages.size < FEWEST) return [];
    const amounts = new Map<string, number>();
    for (const { loads } of pages.values())
      for (const path of loads.keys()) amounts.set(path, (amounts.get(path) ?? 0) + 1);
    const [kinds, least] = pages.size < MANY ? [KINDS_OF_FEW, pages.size - 1] : [KINDS, pages.size * SHARE];
    const common = [...amounts].filter(
      ([path, amount]) => kinds.has(loadedAs.get(path) ?? '') && amount < pages.size && amount >= least,
    );
    return common.flatMap(([path, amount]) =>
      [...pages.values()]
        // One that names it wrong was told so.
        .filter(({ file, loads }) => !loads.has(path) && !waysFrom(file).includes(path))
        .map(({ file }) =>
          wholeFile(file, `${amount} of ${pages.size} pages load ${path}, and this one does not`, path),
        ),
    );
  },
};
