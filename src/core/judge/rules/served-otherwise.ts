/** served-otherwise: the host gives something else than what was packed. */

import { withCommas } from '../../with-commas.ts';
import type { HostRule } from '../rule.ts';
import type { Difference } from '../visit.ts';

function inWords(difference: Difference): string {
  switch (difference.is) {
    case 'encoding':
      return `the same text in another encoding, ${difference.encoding}`;
    case 'line-ends':
      return 'its line ends are others: upload it as binary';
    case 'mark':
      return 'a byte order mark was put in front of it, or taken away';
    case 'white-space':
      return 'the host rewrites it: white space and comments are others';
    case 'added':
      return `the host puts ${withCommas(difference.amount)} characters into it, which begin with ${difference.start}`;
    case 'cut':
      return `no more than ${withCommas(difference.bytes)} of its ${withCommas(difference.of)} bytes come`;
    case 'page':
      return 'a page comes in its place';
    case 'other':
      return `it differs: ${withCommas(difference.bytes)} bytes come, ${withCommas(difference.of)} were packed`;
  }
}

export const servedOtherwise: HostRule = {
  name: 'served-otherwise',
  grade: 'broken',
  summary: 'not what was packed',
  suffers:
    'The visitor gets something else than what was checked: an older file, half of one, or one with code that nobody here wrote. Found only where the host is asked: cravel visit.',
  wrong: 'index.html  with a script that the host put in',
  right: 'byte for byte what was packed',
  cause: 'rule',
  milder: [
    { grade: 'fragile', when: 'the text is the same, or nothing but what the host adds to it differs' },
  ],
  judgeVisit({ asks, difference }) {
    if (asks !== 'file' || difference === null) return null;
    const grade =
      difference.is === 'cut' || difference.is === 'page' || difference.is === 'other' ? 'broken' : 'fragile';
    return { message: inWords(difference), grade };
  },
};
