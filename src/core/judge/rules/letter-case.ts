/** letter-case: the file exists, but its path is written with other capitals or another Unicode form. */
import { caseVariants } from '../../mend/candidates.ts';
import { isAbsent } from '../../resolve/locate.ts';
import { explainStop, walk } from '../../site/walk.ts';
import { IN_SCRIPTS } from '../in-scripts.ts';
import type { Rule } from '../rule.ts';

export const letterCase: Rule = {
  name: 'letter-case',
  grade: 'broken',
  summary: 'only the letter case differs',
  suffers:
    'It works on many machines at home, and fails on the server, which tells capitals from small letters.',
  wrong: '<img src="images/Pier.svg">  while the file is images/pier.svg',
  right: '<img src="images/pier.svg">',
  cause: 'step',
  milder: [IN_SCRIPTS],
  concerns: { absent: true },
  judge(subject) {
    const { target, site } = subject;
    if (target.in !== 'site' || !isAbsent(site.inventory, target.path)) return null;
    const candidates = caseVariants(subject, target.path);
    if (candidates.length === 0) return null;
    const steps = walk(site.inventory, target.folder, target.segments);
    return {
      message: explainStop(site.inventory, target.folder, steps) ?? 'the letter case differs',
      target: target.path,
      walk: steps,
      candidates,
    };
  },
};
