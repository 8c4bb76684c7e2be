/** behind-login: the host wants to know who asks. */
import type { HostRule } from '../rule.ts';

export const behindLogin: HostRule = {
  name: 'behind-login',
  grade: 'broken',
  summary: 'the host asks to log in',
  suffers:
    'The visitor is asked for a name and a password in the place of the page. Found only where the host is asked: cravel visit.',
  wrong: 'index.html  where the host answers 401, or with a page to log in',
  right: 'a site that is open to everybody',
  cause: 'rule',
  judgeVisit({ asks, asksToLogIn, movedTo, status }) {
    if (asks !== 'file' || !asksToLogIn) return null;
    if (movedTo !== null) return { message: `the host sends on to ${movedTo}, to log in there` };
    return { message: status >= 400 ? `the host answers ${status}` : 'what comes is a page to log in' };
  },
};
