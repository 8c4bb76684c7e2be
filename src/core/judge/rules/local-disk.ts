/** local-disk: an address of somebody's own disk. */
import { diskCandidates } from '../../mend/candidates.ts';
import type { Rule } from '../rule.ts';

const DISK = /^\s*(?:file:|[a-z]:[\\/])/i;

export const localDisk: Rule = {
  name: 'local-disk',
  grade: 'broken',
  summary: "an address of one machine's disk",
  suffers: 'It works on the machine where it was written, and for nobody else.',
  wrong: '<img src="C:\\Users\\ida\\ferry\\images\\pier.svg">',
  right: '<img src="images/pier.svg">',
  cause: 'rule',
  concerns: { elsewhere: DISK },
  judge(subject) {
    if (!DISK.test(subject.reference.written)) return null;
    return {
      message: 'this leads to a disk, not to the site: visitors have no such file',
      target: null,
      walk: [],
      candidates: diskCandidates(subject),
    };
  },
};
