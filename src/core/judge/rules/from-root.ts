/** from-root: a path that starts from the host's root, while it is not known that the site lies there. */
import { walk } from '../../site/walk.ts';
import type { Rule } from '../rule.ts';

const ROOTED = /^\s*\//;

export const fromRoot: Rule = {
  name: 'from-root',
  grade: 'fragile',
  summary: "starts from the host's root, which may not be the site's",
  suffers:
    'It works where the site is published at the root of a host, and fails in a sub-folder and from disk.',
  wrong: '<link rel="stylesheet" href="/css/main.css">',
  right: '<link rel="stylesheet" href="css/main.css">, or published-at in cravel.yaml',
  cause: 'rule',
  concerns: { unplain: ROOTED },
  judge({ reference, target, found, site }) {
    if (target.in !== 'site' || found === null || site.published !== null) return null;
    if (!ROOTED.test(reference.written)) return null;
    return {
      message:
        'this holds only where the site is published at the root of its host; say so with published-at in cravel.yaml',
      target: target.path,
      walk: walk(site.inventory, target.folder, target.segments),
      candidates: [{ path: target.path, fragment: null, sure: false, relative: true }],
    };
  },
};
