/** any-case: the host answers whatever the letter case is. */
import type { HostRule } from '../rule.ts';

export const anyCase: HostRule = {
  name: 'any-case',
  grade: 'untidy',
  summary: 'the host takes any letter case',
  suffers:
    'A link in the wrong letter case works here, and fails on the next host. Found only where the host is asked: cravel visit.',
  wrong: 'CSS/MAIN.CSS  is served as css/main.css',
  right: 'nothing to do, as long as the check tells of letter case',
  cause: 'rule',
  judgeVisit({ asks, status, difference, failure, isAnything }) {
    if (asks !== 'letter-case' || failure !== null || isAnything || status >= 300 || difference !== null)
      return null;
    return { message: 'the host answers in any letter case: mistakes in it do not show here' };
  },
};
