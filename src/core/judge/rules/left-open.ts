/** left-open: the host serves what is for nobody. */
import type { HostRule } from '../rule.ts';
import { isServed } from '../visit.ts';

export const leftOpen: HostRule = {
  name: 'left-open',
  grade: 'broken',
  summary: 'served, and not to be',
  suffers:
    'Anybody can read what was never meant to be published: sources, settings, the history of the site, passwords. Found only where the host is asked: cravel visit.',
  wrong: 'https://gullhaven.example/.git/HEAD  where that is served',
  right: 'a host that has what was packed, and nothing else',
  cause: 'rule',
  judgeVisit(visit) {
    const { asks, isAnything } = visit;
    if (asks !== 'private' || isAnything || !isServed(visit)) return null;
    return { message: 'everybody can read it: take it off the host' };
  },
};
