/** host-dependent: an address that only some hosts answer: a folder without its slash, a page without its extension. */
import { leadsToPage } from '../../read/loaded.ts';
import { walk } from '../../site/walk.ts';
import type { Rule } from '../rule.ts';

const DOUBLED = /^[^?#]*[^:/?#]\/\//;

export const hostDependent: Rule = {
  name: 'host-dependent',
  grade: 'fragile',
  summary: 'only some hosts answer it',
  suffers: 'One host leads the visitor on, another says that there is no such page.',
  wrong: '<a href="piers">, <a href="timetable">  for piers/index.html and timetable.html',
  right: '<a href="piers/">, <a href="timetable.html">',
  concerns: {
    absent: true,
    found: ({ address, path, found }) =>
      (found !== path && !path.endsWith('/')) || (address.includes('//') && DOUBLED.test(address)),
  },
  judge({ reference, target, found, site }) {
    const { kind, written } = reference;
    if (target.in === 'site' && found !== null && DOUBLED.test(written)) {
      const candidates = [{ path: target.path, fragment: null, sure: true }];
      const steps = walk(site.inventory, target.folder, target.segments);
      return {
        message: 'not every host takes two slashes for one',
        target: target.path,
        walk: steps,
        candidates,
      };
    }
    if (target.in !== 'site' || !leadsToPage({ kind })) return null;
    const { path } = target;
    if (path === '' || path.endsWith('/') || site.inventory.files.has(path)) return null;
    const steps = walk(site.inventory, target.folder, target.segments);
    if (found !== null) {
      const candidates = [{ path: `${path}/`, fragment: null, sure: true }];
      return {
        message: 'a folder is addressed with a slash at the end',
        target: path,
        walk: steps,
        candidates,
      };
    }
    if (kind === 'frame' || !site.inventory.files.has(`${path}.html`)) return null;
    const candidates = [{ path: `${path}.html`, fragment: null, sure: true }];
    return { message: 'only some hosts add .html by themselves', target: path, walk: steps, candidates };
  },
};
