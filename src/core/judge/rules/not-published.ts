/** not-published: the host does not give what was packed. */
import type { HostRule } from '../rule.ts';

export const notPublished: HostRule = {
  name: 'not-published',
  grade: 'broken',
  summary: 'the host does not have it',
  suffers: 'The visitor gets an error page, or nothing. Found only where the host is asked: cravel visit.',
  wrong: 'css/main.css  was packed, and the host answers 404',
  right: 'all files that were packed, uploaded',
  cause: 'rule',
  judgeVisit({ asks, failure, status, asksToLogIn, isAnything }) {
    if (asks !== 'file' || asksToLogIn) return null;
    if (failure !== null) return { message: failure };
    if (status >= 400) return { message: `the host answers ${status}` };
    return isAnything ? { message: 'the host answers with the page that it has for any name' } : null;
  },
};
