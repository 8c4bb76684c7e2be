/** wrong-place: a file outside of the folder that its role has. */

import type { Kind } from '../../read/reading.ts';
import type { Role } from '../../site/places.ts';
import type { SiteRule } from '../rule.ts';
import { wholeFile } from '../whole-file.ts';

const ROLES: Readonly<Partial<Record<Kind, Role>>> = { stylesheet: 'styles', font: 'fonts' };

export const wrongPlace: SiteRule = {
  name: 'wrong-place',
  grade: 'misplaced',
  summary: 'not in the folder for its kind',
  suffers: 'Nothing, yet; who looks for the file does not find it where the others are.',
  wrong: 'css/main.css and, beside index.html, print.css',
  right: 'css/print.css',
  next: {
    shown: 'cravel move <file> <folder>/',
    after({ file, message }) {
      const [, place] = / live in (.*) here$/.exec(message) ?? [];
      return place === undefined || /[^\w./-]/.test(file + place) ? null : `cravel move ${file} ${place}`;
    },
  },
  looksAt: ['names', 'loads'],
  judgeSite({ site, loadedAs }) {
    return [...loadedAs].flatMap(([path, kind]) => {
      const role = ROLES[kind];
      const place = role === undefined ? undefined : site.places[role];
      if (place === undefined || role === undefined) return [];
      const homes = [place, site.places.libraries, site.places.images].filter(
        (folder) => folder !== undefined,
      );
      if (homes.some((folder) => folder === '.' || path.startsWith(`${folder}/`))) return [];
      return [wholeFile(path, `${role} live in ${place}/ here`)];
    });
  },
};
