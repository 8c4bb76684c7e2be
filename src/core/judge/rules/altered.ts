/** altered: what an integrity value promises is not what is there. */
import type { AnswerRule, Rule } from '../rule.ts';

export const altered: Rule & AnswerRule = {
  name: 'altered',
  grade: 'broken',
  summary: 'it is not what its integrity value promises',
  suffers: 'The browser refuses the file: the script does not run, the stylesheet does not apply.',
  wrong: '<script src="js/tides.js" integrity="sha384-…">  after js/tides.js was changed',
  right: '<script src="js/tides.js" integrity="sha384-…">  with the hash of the file as it is',
  concerns: {
    loading: ({ standing }, found, site) => {
      const integrity = standing?.attributes?.integrity;
      return integrity !== undefined && !site.holds(found, integrity);
    },
  },
  judgeAnswer({ standing }, { failure, mismatches }) {
    if (failure !== null || !mismatches.has(standing?.attributes?.integrity ?? '')) return null;
    return { message: 'the host serves something with another hash' };
  },
  judge({ reference, target, found, site }) {
    const integrity = reference.standing?.attributes?.integrity;
    if (integrity === undefined || found === null || target.in !== 'site' || site.holds(found, integrity))
      return null;
    const message = `${found} has another hash: its integrity value is of another version of the file`;
    return { message, target: found, walk: [], candidates: [] };
  },
};
