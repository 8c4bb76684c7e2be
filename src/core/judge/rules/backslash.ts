/** backslash: a path written with the separators of one operating system. */
import { walk } from '../../site/walk.ts';
import type { Rule } from '../rule.ts';

const BACKSLASH = /^[^?#]*\\/;

export const backslash: Rule = {
  name: 'backslash',
  grade: 'fragile',
  summary: 'backslashes between the steps of a path',
  suffers: 'Browsers put it right; other programs, and stylesheets, take the backslash for something else.',
  wrong: '<img src="images\\pier.svg">',
  right: '<img src="images/pier.svg">',
  concerns: { unplain: BACKSLASH },
  judge({ reference, target, found, site }) {
    if (target.in !== 'site' || found === null || !BACKSLASH.test(reference.written)) return null;
    return {
      message: 'addresses have slashes between their steps',
      target: target.path,
      walk: walk(site.inventory, target.folder, target.segments),
      candidates: [{ path: target.path, fragment: null, sure: true }],
    };
  },
};
