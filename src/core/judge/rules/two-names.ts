/** two-names: the site is there under two names. */
import type { HostRule } from '../rule.ts';
import { isServed } from '../visit.ts';

export const twoNames: HostRule = {
  name: 'two-names',
  grade: 'untidy',
  summary: 'served under two names',
  suffers:
    'Search engines see two sites, browsers keep everything twice. Found only where the host is asked: cravel visit.',
  wrong: 'www.gullhaven.example  and gullhaven.example both serve it',
  right: 'one of them sends on to the other',
  cause: 'rule',
  judgeVisit(visit) {
    const { asks, movedTo, address, difference } = visit;
    if (asks !== 'other-name' || !isServed(visit) || movedTo !== null) return null;
    return difference === null
      ? { message: `${address} serves it, too, without sending on` }
      : { message: `${address} serves something else` };
  },
};
