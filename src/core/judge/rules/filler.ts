/** filler: a starter's text that was never filled in. */
import type { SiteRule } from '../rule.ts';

/** Most that a message shows of a text. */
const SHOWN = 60;

export const filler: SiteRule = {
  name: 'filler',
  grade: 'untidy',
  summary: "a starter's text that was never filled in",
  suffers:
    'Visitors read words that say nothing of the site. Told once the first of those texts has been replaced: a project that was only just laid out is left in peace.',
  wrong: '<p>The one thing that a visitor should remember.</p>',
  right: '<p>Six crossings a day, all year.</p>',
  cause: 'rule',
  looksAt: ['pages', 'samples'],
  judgeSite({ pages, samples }) {
    const left = new Set([...pages.values()].flatMap((page) => page.samples.map(({ text }) => text)));
    if (left.size === 0 || left.size === samples.length) return [];
    return [...pages.values()].flatMap(({ file, samples: [first, ...others] }) => {
      if (first === undefined) return [];
      const { offset, length } = first;
      const written = samples[first.text] ?? '';
      const more =
        others.length === 0
          ? ''
          : `, and so ${others.length === 1 ? 'is 1 more text' : `are ${others.length} more texts`} of this page`;
      const shown = written.length > SHOWN ? `${written.slice(0, SHOWN)}…` : written;
      const message = `“${shown}” is still the starter's${more}`;
      return [{ file, offset, length, holder: null, written: '', message }];
    });
  },
};
