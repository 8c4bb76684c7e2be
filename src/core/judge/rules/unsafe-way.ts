/** unsafe-way: the host serves the site without encryption, too. */
import type { HostRule } from '../rule.ts';
import { isServed } from '../visit.ts';

export const unsafeWay: HostRule = {
  name: 'unsafe-way',
  grade: 'fragile',
  summary: 'served without encryption, too',
  suffers:
    'Whoever types the address without https stays on a way that anybody between can read and change. Found only where the host is asked: cravel visit.',
  wrong: 'http://gullhaven.example/  where that is served',
  right: 'http://gullhaven.example/  sent on to https',
  cause: 'rule',
  judgeVisit(visit) {
    const { asks, movedTo, address } = visit;
    if (asks !== 'plain-http' || !isServed(visit)) return null;
    return movedTo?.startsWith('https:')
      ? null
      : { message: `${address} is served without being sent on to https` };
  },
};
