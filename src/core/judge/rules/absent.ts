/** absent: the file that a reference names does not exist. */
import { type Candidate, nearSpellings, sameNameElsewhere } from '../../mend/candidates.ts';
import { isAbsent } from '../../resolve/locate.ts';
import type { Subject } from '../../resolve/subject.ts';
import { explainStop, walk } from '../../site/walk.ts';
import type { Rule } from '../rule.ts';

export const absent: Rule = {
  name: 'absent',
  grade: 'broken',
  summary: 'no such file',
  suffers:
    'The visitor does not get the file: the picture is missing, the page stands without styles, the link ends at an error page.',
  wrong: '<img src="pier.svg">  while the file is images/pier.svg',
  right: '<img src="images/pier.svg">',
  concerns: { absent: true },
  judge(subject) {
    const { target, site } = subject;
    if (target.in !== 'site' || !isAbsent(site.inventory, target.path)) return null;
    const steps = walk(site.inventory, target.folder, target.segments);
    const stop = explainStop(site.inventory, target.folder, steps);
    return {
      message: stop ?? 'there is no such file',
      target: target.path,
      walk: steps,
      candidates: candidatesFor(subject),
    };
  },
};

/** The same name elsewhere, else a name that is nearly the same. */
function candidatesFor(subject: Subject): Candidate[] {
  const elsewhere = sameNameElsewhere(subject);
  return elsewhere.length > 0 ? elsewhere : nearSpellings(subject);
}
