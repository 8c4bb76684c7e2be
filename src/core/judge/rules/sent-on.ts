/** sent-on: the host sends on to another address. */
import type { HostRule } from '../rule.ts';

export const sentOn: HostRule = {
  name: 'sent-on',
  grade: 'untidy',
  summary: 'the host sends on to another address',
  suffers:
    'Every visitor waits for two answers instead of one. Found only where the host is asked: cravel visit.',
  wrong: 'fares.html  where the host sends on to /fares',
  right: 'links to the address that the host gives it',
  cause: 'rule',
  judgeVisit({ asks, movedTo, status, failure }) {
    if (asks !== 'file' || movedTo === null || failure !== null || status >= 400) return null;
    return { message: `the host sends on to ${movedTo}` };
  },
};
