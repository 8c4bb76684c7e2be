/** Scripts that pages wait for, and libraries that need others by the settings: what is told of each, and how it is mended. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import type { StatedLibraries } from '../../src/core/check/script-files.ts';
import type { Mend } from '../../src/core/report.ts';
import { casesOf } from '../support/cases.ts';
import { checkFiles, type Files, mendedBy } from '../support/site.ts';

/** What rules say of a site, and by which words of it; mends by their titles. */
function told(files: Files, rules: RegExp, libraries: StatedLibraries = {}): string[] {
  return checkFiles(files, null, { libraries })
    .findings.filter(({ rule }) => rules.test(rule))
    .map(({ file, line, column, written, target, message, order, mends }) =>
      [
        `${file}:${line}:${column} ${written}`,
        message,
        ...(target === null ? [] : [`makes it: ${target}`]),
        ...(order === null ? [] : [`${order.is.join(' ')} > ${order.should.join(' ')}`]),
        ...mends.map(({ sure, title }) => (sure ? title : `perhaps ${title}`)),
      ].join(' | '),
    );
}

const s = (...paths: readonly string[]) => paths.map((path) => `<script src=${path}></script>`).join('');

test('of a script that a page waits for is told what can be done, by what runs behind it', () => {
  for (const { what, files, said } of casesOf('waiting-scripts'))
    assert.deepEqual(told(files, /^blocking-script$/), said, what);
});

const library = (
  name: string,
  needs: readonly string[] = [],
  more: Partial<StatedLibraries[string]> = {},
) => ({
  [name]: { folder: `lib/${name}`, scripts: [`${name}.js`], release: {}, provides: [], needs, ...more },
});
const both = { ...library('tide', ['buoys']), ...library('buoys') };
const [tide, buoys] = ['lib/tide/tide.js', 'lib/buoys/buoys.js'];
const files = { [tide]: 'let tide', [buoys]: 'let buoys', 'x.js': 'let x', 'js/x.js': 'let y' };
const small = { scripts: ['buoys.js'], release: { 'buoys.js': 'buoys.min.js' } };

const stated: readonly (readonly [
  what: string,
  body: string,
  libraries: StatedLibraries,
  more: Files,
  ...said: string[],
])[] = [
  ['in order', s(buoys, tide), both, {}],
  [
    'the wrong way round',
    s(tide, buoys),
    both,
    {},
    'index.html:1:13 buoys | tide needs buoys by the settings, and lib/buoys/buoys.js runs only after lib/tide/tide.js | makes it: lib/buoys/buoys.js | lib/tide/tide.js lib/buoys/buoys.js > lib/buoys/buoys.js lib/tide/tide.js | move lib/buoys/buoys.js before lib/tide/tide.js',
  ],
  [
    'the wrong way round, with another between',
    s(tide, 'x.js', buoys),
    both,
    {},
    'index.html:1:13 buoys | tide needs buoys by the settings, and lib/buoys/buoys.js runs only after lib/tide/tide.js | makes it: lib/buoys/buoys.js | lib/tide/tide.js x.js lib/buoys/buoys.js > lib/buoys/buoys.js lib/tide/tide.js x.js | move lib/buoys/buoys.js before lib/tide/tide.js',
  ],
  [
    'without it',
    s(tide),
    both,
    {},
    'index.html:1:13 buoys | tide needs buoys by the settings, and the page does not load it | makes it: lib/buoys/buoys.js | load lib/buoys/buoys.js before lib/tide/tide.js',
  ],
  [
    'without it, and with others',
    s('x.js', tide),
    both,
    {},
    'index.html:1:39 buoys | tide needs buoys by the settings, and the page does not load it | makes it: lib/buoys/buoys.js | load lib/buoys/buoys.js before lib/tide/tide.js',
  ],
  ['neither', s('x.js'), both, {}],
  ['only what is needed', s(buoys), both, {}],
  ['both deferred', `<script src=${buoys} defer></script><script src=${tide} defer></script>`, both, {}],
  [
    'both deferred, the wrong way round',
    `<script src=${tide} defer></script><script src=${buoys} defer></script>`,
    both,
    {},
    'index.html:1:13 buoys | tide needs buoys by the settings, and lib/buoys/buoys.js runs only after lib/tide/tide.js | makes it: lib/buoys/buoys.js | lib/tide/tide.js lib/buoys/buoys.js > lib/buoys/buoys.js lib/tide/tide.js | move lib/buoys/buoys.js before lib/tide/tide.js',
  ],
  ['deferred behind what runs at once', `<script src=${tide} defer></script>${s(buoys)}`, both, {}],
  [
    'what is needed waits',
    `<script src=${buoys} defer></script>${s(tide)}`,
    both,
    {},
    'index.html:1:59 buoys | tide needs buoys by the settings, and lib/buoys/buoys.js runs only after lib/tide/tide.js | makes it: lib/buoys/buoys.js | lib/tide/tide.js lib/buoys/buoys.js > lib/buoys/buoys.js lib/tide/tide.js | defer lib/tide/tide.js as well',
  ],
  [
    'what is needed is async',
    `<script src=${buoys} async></script>${s(tide)}`,
    both,
    {},
    'index.html:1:59 buoys | tide needs buoys by the settings, and lib/buoys/buoys.js runs only after lib/tide/tide.js | makes it: lib/buoys/buoys.js | lib/tide/tide.js lib/buoys/buoys.js > lib/buoys/buoys.js lib/tide/tide.js | load lib/buoys/buoys.js without async',
  ],
  [
    'the small build',
    s('lib/buoys/buoys.min.js', tide),
    { ...library('tide', ['buoys']), ...library('buoys', [], small) },
    { 'lib/buoys/buoys.min.js': 'let buoys' },
  ],
  [
    'the small build, too late',
    s(tide, 'lib/buoys/buoys.min.js'),
    { ...library('tide', ['buoys']), ...library('buoys', [], small) },
    { 'lib/buoys/buoys.min.js': 'let buoys' },
    'index.html:1:13 buoys | tide needs buoys by the settings, and lib/buoys/buoys.min.js runs only after lib/tide/tide.js | makes it: lib/buoys/buoys.min.js | lib/tide/tide.js lib/buoys/buoys.min.js > lib/buoys/buoys.min.js lib/tide/tide.js | move lib/buoys/buoys.min.js before lib/tide/tide.js',
  ],
  [
    'what is needed has no scripts',
    s(tide),
    { ...library('tide', ['buoys']), ...library('buoys', [], { scripts: [] }) },
    {},
  ],
  [
    'two are needed',
    s(tide),
    {
      ...library('tide', ['buoys', 'x']),
      ...library('buoys'),
      x: { ...library('x').x, folder: 'js', scripts: ['x.js'] } as StatedLibraries[string],
    },
    {},
    'index.html:1:13 buoys | tide needs buoys by the settings, and the page does not load it | makes it: lib/buoys/buoys.js | load lib/buoys/buoys.js before lib/tide/tide.js',
    'index.html:1:13 x | tide needs x by the settings, and the page does not load it | makes it: js/x.js | load js/x.js before lib/tide/tide.js',
  ],
  [
    'told by its name already',
    s(tide),
    { ...library('tide', ['buoys']), ...library('buoys', [], { provides: ['Buoys'] }) },
    { [tide]: 'Buoys.go()' },
    'lib/tide/tide.js:1:1 Buoys | nothing that the page runs makes Buoys; lib/buoys/buoys.js does, and the page does not load it | makes it: lib/buoys/buoys.js | load lib/buoys/buoys.js before lib/tide/tide.js',
  ],
  [
    'told of the page by another name',
    s(tide, 'x.js'),
    both,
    { 'x.js': 'Piers.go()' },
    'index.html:1:13 buoys | tide needs buoys by the settings, and the page does not load it | makes it: lib/buoys/buoys.js | load lib/buoys/buoys.js before lib/tide/tide.js',
    'x.js:1:1 Piers | nothing that the page runs makes Piers',
  ],
  [
    'two pages',
    s(tide),
    both,
    { 'b.html': s(tide), 'c.html': s(buoys, tide) },
    'b.html:1:13 buoys | tide needs buoys by the settings, and the page does not load it | makes it: lib/buoys/buoys.js | load lib/buoys/buoys.js before lib/tide/tide.js',
    'index.html:1:13 buoys | tide needs buoys by the settings, and the page does not load it | makes it: lib/buoys/buoys.js | load lib/buoys/buoys.js before lib/tide/tide.js',
  ],
];

const ORDER = /^(?:before-its-library|library-left-out|nobody-makes)$/;

function mendsOf(site: Files, rules: RegExp, libraries: StatedLibraries): readonly Mend[] {
  const { findings } = checkFiles(site, null, { libraries });
  return findings
    .filter(({ rule }) => rules.test(rule))
    .flatMap(({ mends }) => mends.filter(({ sure }) => sure));
}

test('a library that needs another one by the settings is told where a page does not load that before it', () => {
  for (const [what, body, libraries, more, ...said] of stated) {
    const site = { ...files, 'index.html': body, ...more };
    assert.deepEqual(told(site, ORDER, libraries), said, what);
    for (const mend of mendsOf(site, ORDER, libraries)) {
      const left = told(mendedBy(site, mend), ORDER, libraries);
      assert.equal(left.length, said.length - 1, `${what}: ${mend.title} leaves ${left.join()}`);
    }
  }
});

test('two builds of one library by the settings are one, whatever they are called', () => {
  const libraries = library('tide', [], { scripts: ['clock.js'], release: { 'clock.js': 'small.js' } });
  const [clock, smaller] = ['lib/tide/clock.js', 'lib/tide/small.js'];
  const rows: readonly (readonly [body: string, libraries: StatedLibraries, ...said: string[]])[] = [
    [
      s(clock, smaller),
      libraries,
      'index.html:1:52 lib/tide/small.js | this page loads lib/tide/clock.js already, and small.js is the same in another build | makes it: lib/tide/small.js',
    ],
    [
      s(smaller, clock),
      libraries,
      'index.html:1:52 lib/tide/clock.js | this page loads lib/tide/small.js already, and clock.js is the same in another build | makes it: lib/tide/clock.js',
    ],
    [s(clock, smaller), {}],
    [s(clock, 'x.js'), libraries],
    [
      s(clock, clock),
      libraries,
      'index.html:1:52 lib/tide/clock.js | this page loads lib/tide/clock.js already | makes it: lib/tide/clock.js',
    ],
  ];
  for (const [body, stated, ...said] of rows) {
    const site = { 'index.html': body, [clock]: 'let a', [smaller]: 'let b', 'x.js': 'let x' };
    const what = body;
    assert.deepEqual(told(site, /^twice$/, stated), said, what);
  }
});
