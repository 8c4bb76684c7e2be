/** odd-one-out: a page that lacks what nearly every page loads, or a link that all others have. */

import { wireHere } from '../next.ts';
import type { Remark, SiteFacts, SiteRule } from '../rule.ts';
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
  summary: 'nearly every page loads it, or its navigation leads there, this one does not',
  suffers: 'The page looks or behaves unlike all others, or its navigation has a link less.',
  wrong: 'one page of twenty without css/main.css',
  right: '<link rel="stylesheet" href="css/main.css">  on every page',
  next: wireHere,
  looksAt: ['pages', 'loads', 'ways'],
  judgeSite(facts) {
    return facts.pages.size < FEWEST ? [] : [...oddLoads(facts), ...oddWays(facts)];
  },
};

type Odd = Remark & { readonly file: string };

function oddLoads({ pages, loadedAs, waysFrom }: SiteFacts): Odd[] {
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
}

/** What the navigation of one page alone lacks, of what those of all others lead to: copies of it, and one left behind. */
function oddWays({ pages, waysFrom }: SiteFacts): Odd[] {
  const holding = [...pages.values()].filter(({ navigation }) => navigation.size > 0);
  if (holding.length < FEWEST) return [];
  const amounts = new Map<string, number>();
  for (const { file, navigation } of holding)
    for (const path of navigation) if (path !== file) amounts.set(path, (amounts.get(path) ?? 0) + 1);
  const files = new Set(holding.map(({ file }) => file));
  // A page's own entry is the one that it may lack.
  const others = (path: string) => holding.length - (files.has(path) ? 1 : 0);
  const common = [...amounts].filter(([path, amount]) => amount >= others(path) - 1);
  return holding.flatMap(({ file, navigation, leadsTo, marksParts }) => {
    // What a part has is compared with its master; what is named wrong was told so.
    if (marksParts) return [];
    const lacking: string[] = [];
    for (const [path] of common) {
      if (path === file || navigation.has(path) || isMeant(waysFrom(file), leadsTo, path)) continue;
      // Of more than one, it is another navigation.
      if (lacking.push(path) > 1) return [];
    }
    const [only] = lacking;
    if (only === undefined || common.length === 1) return [];
    const message = `every other page's navigation leads to ${only}, and the one of this page does not`;
    return [wholeFile(file, message, only)];
  });
}

/** True for a way that a broken reference was meant to lead, and none does lead. */
function isMeant(ways: readonly string[], leadsTo: readonly string[], path: string): boolean {
  return ways.length > leadsTo.length && ways.includes(path) && !leadsTo.includes(path);
}
