/** answers-anything: the host says that it has whatever is asked for. */
import type { HostRule } from '../rule.ts';
import { isServed } from '../visit.ts';

export const answersAnything: HostRule = {
  name: 'answers-anything',
  grade: 'fragile',
  summary: 'a name that cannot exist is answered with 200',
  suffers:
    'Whoever follows a dead link is not told so, search engines list pages that there are not, and a missing script looks as if it came. Found only where the host is asked: cravel visit.',
  wrong: 'a page that says not found, with status 200',
  right: 'the same page with status 404',
  cause: 'rule',
  judgeVisit(visit) {
    const { asks, status, file } = visit;
    if (asks !== 'invented' || !isServed(visit)) return null;
    return { message: `the host answers ${status} for ${file}, which there cannot be` };
  },
};
