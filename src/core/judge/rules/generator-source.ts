/** generator-source: HTML files that a generator makes pages of, among the pages. */
import type { SiteRule } from '../rule.ts';
import { wholeFile } from '../whole-file.ts';

export const generatorSource: SiteRule = {
  name: 'generator-source',
  grade: 'broken',
  milder: [{ grade: 'untidy', when: 'where no page leads to it' }],
  summary: 'a source for a generator, not a page',
  suffers:
    'Who opens it sees the settings and the template tags as text, and nothing of what a generator would make of them.',
  wrong: '<a href="fares.html">  while fares.html begins with --- and settings',
  right: 'the folder that the generator makes, checked in the place of its sources',
  cause: 'rule',
  looksAt: ['names', 'pages', 'ways'],
  judgeSite({ site, pages, sources }) {
    const led = new Set([site.entry]);
    for (const { leadsTo } of pages.values()) for (const path of leadsTo) led.add(path);
    const shown = sources.filter((path) => led.has(path));
    const [first, ...others] = sources.filter((path) => !led.has(path));
    const told = shown.map((path) =>
      wholeFile(
        path,
        'it is a source for a generator: visitors see its settings and template tags as they stand here',
      ),
    );
    if (first === undefined) return told;
    const message =
      others.length === 0
        ? `${first} is a source for a generator: check what that makes of it`
        : `${others.length + 1} files are sources for a generator: check what it makes`;
    return [...told, { ...wholeFile(first, message), grade: 'untidy' }];
  },
};
