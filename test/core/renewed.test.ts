/** What one change of a site brings or takes away, told by a check that goes on as by a new one. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import type { SiteReport } from '../../src/core/report.ts';
import { LiveCheck } from '../support/live.ts';
import { type Files, samples } from '../support/site.ts';

const facts =
  '<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width">';
const page = (name: string, body: string, about = name) =>
  `${facts}<title>${name}</title><meta name="description" content="${about}"><body>${body}</body></html>`;
const link = (to: string, text = to) => `<a href="${to}">${text}</a>`;
const index = (body: string) => ({ 'index.html': page('Home', body) });
/** A page, and what it leads to. */
const two = (body: string, other: string, about?: string): Files => ({
  ...index(link('a.html') + body),
  'a.html': page('A', link('index.html') + other, about),
});
const menus = (change: (name: string) => string): Files =>
  Object.fromEntries(
    ['index', 'a', 'b', 'c', 'd'].map((name) => [`${name}.html`, page(name, `<nav>${change(name)}</nav>`)]),
  );
const menu = ['index', 'a', 'b', 'c', 'd'].map((name) => link(`${name}.html`)).join('');
const styled = (odd: string): Files =>
  Object.fromEntries(
    ['index', 'a', 'b', 'c'].map((name) => [
      `${name}.html`,
      page(name, menu.replace(link('d.html'), '')).replace(
        '<body>',
        name === 'c' && odd === '' ? '<body>' : '<link rel="stylesheet" href="s.css"><body>',
      ),
    ]),
  );
const png = Uint8Array.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]);
const importing = (map: string) => ({
  ...index(`<script type="importmap">${map}</script><script type="module">import "pier";</script>`),
  'p.js': 'export {};',
});

/** The site that is sound, and the one that has a finding of the rule. */
const rows: readonly (readonly [rule: string, sound: Files, wrong: Files])[] = [
  ['same-title', two('', ''), { ...two('', ''), 'a.html': page('Home', link('index.html'), 'A') }],
  ['same-description', two('', ''), two('', '', 'Home')],
  ['filler', two('', `<p>${samples[0]}</p>${samples[1]}`), two('', `<p>${samples[1]}</p>`)],
  ['unreached', two('', ''), { ...two('', ''), 'index.html': page('Home', '') }],
  ['unreached', two('', ''), { ...two('', ''), 'b.html': page('B', '') }],
  [
    'odd-one-out',
    menus(() => menu),
    menus((name) => (name === 'c' ? menu.replace(link('d.html'), '') : menu)),
  ],
  ['odd-one-out', { ...styled('x'), 's.css': 'a{}' }, { ...styled(''), 's.css': 'a{}' }],
  ['unused', { ...index('<img src="p.png" alt="">'), 'p.png': png }, { ...index(''), 'p.png': png }],
  ['unused', { ...two('', '<img src="p.png" alt="">'), 'p.png': png }, { ...two('', ''), 'p.png': png }],
  [
    'unused',
    { ...index('<link rel="stylesheet" href="s.css">'), 's.css': 'a{background:url(p.png)}', 'p.png': png },
    { ...index('<link rel="stylesheet" href="s.css">'), 's.css': 'a{}', 'p.png': png },
  ],
  [
    'unused',
    { ...index('<script defer src="j.js"></script>'), 'j.js': 'let a = "i/" + name;', 'i/p.png': png },
    { ...index('<script defer src="j.js"></script>'), 'j.js': 'let a = "k/" + name;', 'i/p.png': png },
  ],
  ['absent', { ...index('<img src="p.png" alt="">'), 'p.png': png }, index('<img src="p.png" alt="">')],
  [
    'letter-case',
    { ...index('<img src="p.png" alt="">'), 'p.png': png },
    { ...index('<img src="p.png" alt="">'), 'P.png': png },
  ],
  [
    'wrong-kind',
    { ...index('<img src="p.png" alt="">'), 'p.png': png },
    { ...index('<img src="p.png" alt="">'), 'p.png': '<html>' },
  ],
  ['absent-anchor', two(link('a.html#x'), '<p id="x">'), two(link('a.html#x'), '<p id="y">')],
  ['absent-anchor', two(`${link('#x')}<p id="x">`, ''), two(link('#x'), '')],
  [
    'lacks-index',
    { ...index(link('b/')), 'b/index.html': page('B', link('../index.html')) },
    { ...index(link('b/')), 'b/c.html': page('C', '') },
  ],
  ['absent', importing('{"imports":{"pier":"./p.js"}}'), importing('{"imports":{"pear":"./p.js"}}')],
  [
    'absent',
    { ...index('<script defer src="j/j.js"></script>'), 'j/j.js': 'fetch("d.json")', 'd.json': '{}' },
    { ...index('<script defer src="j/j.js"></script>'), 'j/j.js': 'fetch("e.json")', 'd.json': '{}' },
  ],
  [
    'absent',
    {
      ...index('<script defer src="j/j.js"></script>'),
      'j/j.js': 'new Worker("w/w.js")',
      'w/w.js': 'fetch("d.json")',
      'w/d.json': '{}',
      'd.json': '{}',
    },
    {
      ...index('<script defer src="j/j.js"></script>'),
      'j/j.js': 'new Worker("w/w.js")',
      'w/w.js': 'fetch("d.json")',
      'd.json': '{}',
    },
  ],
  [
    'part-drift',
    { ...two('<!-- Part: n -->x<!-- End of part: n -->', '<!-- Part: n -->x<!-- End of part: n -->') },
    { ...two('<!-- Part: n -->y<!-- End of part: n -->', '<!-- Part: n -->x<!-- End of part: n -->') },
  ],
  ['lacks-entry', index(''), { 'home.html': page('Home', '') }],
  [
    'twin-names',
    { ...index(link('a.html')), 'a.html': page('A', '') },
    { ...index(link('a.html')), 'a.html': page('A', ''), 'A.html': page('B', '') },
  ],
  [
    'wrong-place',
    { ...index('<link rel="stylesheet" href="css/s.css">'), 'css/s.css': 'a{}' },
    {
      ...index('<link rel="stylesheet" href="css/s.css"><link rel="stylesheet" href="t.css">'),
      'css/s.css': 'a{}',
      't.css': 'a{}',
    },
  ],
  [
    'twice',
    { ...index('<script src="j.js"></script>'), 'j.js': 'let a;' },
    { ...index('<script src="j.js"></script><script src="j.js"></script>'), 'j.js': 'let a;' },
  ],
  [
    'nothing-in-it',
    { ...index('<script src="j.js"></script>'), 'j.js': 'let a;' },
    { ...index('<script src="j.js"></script>'), 'j.js': '' },
  ],
  [
    'does-not-parse',
    { ...index('<script src="j.js"></script>'), 'j.js': 'let a;' },
    { ...index('<script src="j.js"></script>'), 'j.js': 'let a' + ';{' },
  ],
  // What scripts make and need
  [
    'nobody-makes',
    { ...index('<script src="j.js"></script>'), 'j.js': 'console.log(1);' },
    { ...index('<script src="j.js"></script>'), 'j.js': 'Tides;' },
  ],
  [
    'nobody-makes',
    {
      ...index('<script src="l.js"></script><script src="j.js"></script>'),
      'l.js': 'var Tides;',
      'j.js': 'Tides;',
    },
    {
      ...index('<script src="l.js"></script><script src="j.js"></script>'),
      'l.js': 'let a;',
      'j.js': 'Tides;',
    },
  ],
  [
    'library-left-out',
    {
      ...index('<script src="l.js"></script><script src="j.js"></script>'),
      'l.js': 'var Tides;',
      'j.js': 'Tides;',
    },
    { ...index('<script src="j.js"></script>'), 'l.js': 'var Tides;', 'j.js': 'Tides;' },
  ],
  [
    'before-its-library',
    {
      ...index('<script src="l.js"></script><script src="j.js"></script>'),
      'l.js': 'var Tides;',
      'j.js': 'Tides;',
    },
    {
      ...index('<script src="j.js"></script><script src="l.js"></script>'),
      'l.js': 'var Tides;',
      'j.js': 'Tides;',
    },
  ],
  [
    'calls-nothing',
    index('<button onclick="go()">x</button><script>function go() {}</script>'),
    index('<button onclick="go()">x</button><script>function no() {}</script>'),
  ],
  [
    'nobody-makes',
    index('<p id="pier"></p><script>pier.x;</script>'),
    index('<p id="boat"></p><script>pier.x;</script>'),
  ],
];

const coldReport = (files: Files): SiteReport => new LiveCheck({ files }, { samples }).report();

/** The reports as a site goes from one state to the next. */
function liveReports(states: readonly Files[], isPrepared: boolean): SiteReport[] {
  const [first, ...others] = states as [Files, ...Files[]];
  const live = new LiveCheck({ files: first }, { samples });
  if (isPrepared) live.check.prepare();
  const reports = [live.report()];
  for (const files of others) {
    live.become({ files });
    reports.push(live.report());
  }
  return reports;
}

/** The pages with a line more before their content. */
function shiftedIn(files: Files): Files {
  const pages = Object.entries(files).filter(([path]) => path.endsWith('.html'));
  return Object.fromEntries(
    pages.map(([path, text]) => [path, String(text).replace('<body>', '<body>\n<p>é</p>\n')]),
  );
}

test('a change is told as it comes and as it goes', () => {
  for (const [rule, sound, wrong] of rows) {
    const shown = `${rule}: ${JSON.stringify(wrong).slice(0, 400)}`;
    const [whole, broken] = [coldReport(sound), coldReport(wrong)];
    const tells = ({ findings }: SiteReport) => findings.some((one) => one.rule === rule);
    assert.deepEqual([tells(whole), tells(broken)], [false, true], shown);
    // What stands elsewhere in its page is told there.
    const shifted = { ...wrong, ...shiftedIn(wrong) };
    const elsewhere = coldReport(shifted);
    for (const isPrepared of [false, true]) {
      assert.deepEqual(liveReports([wrong, shifted, wrong], isPrepared), [broken, elsewhere, broken], shown);
      assert.deepEqual(liveReports([sound, wrong, sound], isPrepared), [whole, broken, whole], shown);
      assert.deepEqual(liveReports([wrong, sound, wrong], isPrepared), [broken, whole, broken], shown);
    }
  }
});
