/** unsafe-way: the host serves the site without encryption, too. */
import type { HostRule } from '../rule.ts';

export const unsafeWay: HostRule = {
  name: 'unsafe-way',
  grade: 'fragile',
  summary: 'served without encryption, too',
  suffers:
    'Whoever types the address without https stays on a way that anybody between can read and change. Found only where the host is asked: cravel visit.',
  wrong: 'http://gullhaven.example/  where that is served',
  right: 'http://gullhaven.example/  sent on to https',
  cause: 'rule',
  judgeVisit({ asks, status, movedTo, address }) {
    if (asks !== 'plain-http' || status < 200 || status >= 300) return null;
    return movedTo?.startsWith('https:')
      ? null
      : { message: `${address} is served without being sent on to https` };
  },
};
