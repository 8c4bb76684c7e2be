/** this-machine: an address that only this machine, or this network, can reach. */
import { hostCandidates } from '../../mend/candidates.ts';
import type { Rule } from '../rule.ts';

const HOST =
  /^\s*(?:[a-z][a-z0-9+.-]*:)?[/\\]{2}(?:[^/\\?#]*@)?(localhost|127(?:\.\d+){3}|0\.0\.0\.0|10(?:\.\d+){3}|192\.168(?:\.\d+){2}|172\.(?:1[6-9]|2\d|3[01])(?:\.\d+){2}|\[(?:::1?|f[cd][^\]]*|fe80[^\]]*)\])(?=[:/\\?#]|$)/i;

export const thisMachine: Rule = {
  name: 'this-machine',
  grade: 'fragile',
  summary: 'only this machine or network can reach it',
  suffers: 'It works while one works on the site, and for no visitor.',
  wrong: '<script src="http://localhost:3000/js/tides.js"></script>',
  right: '<script src="js/tides.js"></script>',
  cause: 'rule',
  concerns: { elsewhere: HOST },
  judge(subject) {
    const { reference, target } = subject;
    const host = target.in === 'elsewhere' ? HOST.exec(reference.written)?.[1] : undefined;
    if (host === undefined) return null;
    return {
      message: `no visitor can reach ${host}`,
      target: null,
      walk: [],
      candidates: hostCandidates(subject),
    };
  },
};
