/** twin-names: two paths that differ by letter case or Unicode form only. */
import { groupBy } from '../../group-by.ts';
import { fold } from '../../site/inventory.ts';
import type { SiteRule } from '../rule.ts';
import { wholeFile } from '../whole-file.ts';

export const twinNames: SiteRule = {
  name: 'twin-names',
  grade: 'fragile',
  summary: 'two names that many disks take for one',
  suffers: 'On disks that do not tell capitals from small letters one of the two overwrites the other.',
  wrong: 'images/Pier.svg beside images/pier.svg',
  right: 'one of them, or two different names',
  cause: 'rule',
  looksAt: ['names'],
  judgeSite({ site }) {
    return [...groupBy(site.inventory.files.keys(), fold).values()]
      .filter((group) => group.length > 1)
      .map((group) => group.sort())
      .flatMap((group) =>
        group.slice(1).map((path) => wholeFile(path, `many disks take it for ${group[0]}`)),
      );
  },
};
