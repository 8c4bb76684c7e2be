import assert from 'node:assert/strict';
import { createHash } from 'node:crypto';
import { test } from 'node:test';
import fc from 'fast-check';
import type { CravelError } from '../../src/core/errors.ts';
import { filesAt } from '../../src/core/library/hosted.ts';
import { buildOf, libraryName, withoutVersion } from '../../src/core/library/names.ts';
import { counterpart, replaceInFile, replaceInPage } from '../../src/core/library/replace.ts';
import { type ShapedLibrary, shapeLibrary } from '../../src/core/library/shape.ts';
import { namesOfScript } from '../../src/core/order/made-names.ts';
import { openPage } from '../../src/core/page/page.ts';
import { placeLibrary } from '../../src/core/settings/place-library.ts';
import { readSettings } from '../../src/core/settings/read.ts';
import { removeLibrary } from '../../src/core/settings/remove-library.ts';
import type { Library } from '../../src/core/settings/settings.ts';
import { wireSettings } from '../../src/core/settings/wire-settings.ts';
import { type LibraryEntry, withLibrary, withoutLibrary } from '../../src/core/settings/write.ts';
import type { Places } from '../../src/core/site/places.ts';
import { filesOf, textOf } from '../support/files.ts';
import { tideclock } from '../support/library.ts';
import { bytesOf, type Files } from '../support/site.ts';

test('names lose their version and say which build they are', () => {
  const versions = {
    'tideclock-2.3.1': 'tideclock',
    'tideclock-2.3.1.min.js': 'tideclock.min.js',
    'tideclock.v4.js': 'tideclock.js',
    'tideclock@2': 'tideclock',
    'tideclock-1.0.0-beta.2': 'tideclock',
    'tideclock_v1.2.3-rc1.css': 'tideclock.css',
    'buoys-3d.js': 'buoys-3d.js',
    'area51.js': 'area51.js',
    'grid-12.css': 'grid-12.css',
  };
  for (const [name, plain] of Object.entries(versions)) assert.equal(withoutVersion(name), plain, name);
  const names = {
    'tideclock-2.3.1.zip': 'tideclock',
    'Tide_Clock.tar.gz': 'tide_clock',
    'tideclock.js': 'tideclock',
    'tideclock-main': 'tideclock',
    'tideclock.umd.min.js': 'tideclock',
    'tide.clock': 'tide-clock',
  };
  for (const [named, name] of Object.entries(names)) assert.equal(libraryName(named), name, named);
  assert.deepEqual(buildOf('Tideclock-2.3.1.umd.min.js'), {
    stem: 'Tideclock',
    isMinified: true,
    format: 'umd',
    variant: null,
    extension: 'js',
  });
  assert.deepEqual(buildOf('tideclock.bundle.mjs'), {
    stem: 'tideclock',
    isMinified: false,
    format: 'esm',
    variant: 'bundle',
    extension: 'js',
  });
});

test('the names that a script makes are found, behind wrappers and in minified builds', () => {
  const rows: readonly (readonly [code: string, names: readonly string[]])[] = [
    ['var Tideclock = {};', ['Tideclock']],
    ['const a = 1, B = 2; function c() { var inner; } class D {}', ['c', 'a', 'B', 'D']],
    [textOf(bytesOf(tideclock['dist/Tideclock-2.3.1.js'] as string)), ['Tideclock']],
    [textOf(bytesOf(tideclock['dist/Tideclock-2.3.1.min.js'] as string)), ['Tideclock']],
    ['(function () { window.Tideclock = {}; window["Tide2"] = 1; var local; })();', ['Tideclock', 'Tide2']],
    // Keys of objects, names of servers, local functions and what browsers give are none.
    ['(function () { var headers = {}; headers["X-Requested-With"] = 1; this.hidden = 2; })', []],
    ['var path = 1; var fs; (function () { exports.rootPath = 1; Date = Date; })', ['path', 'fs']],
    [
      '!function (e, t) { e.Tide = t() }(this, function () { var state = {}; state.hover = 1; return {} })',
      ['Tide'],
    ],
    ['export const a = 1', []],
    ['}{', []],
  ];
  for (const [code, names] of rows) assert.deepEqual(namesOfScript(code).makes, names, code);
});

test('scripts of a library come after those that they need, and what throws in a browser is left', () => {
  const { scripts, provides, needed, left } = shapeLibrary(
    new Map(
      Object.entries({
        'dist/clock.js': 'Core.add("clock"); Base.x;',
        'dist/core.js': 'var Core = { add() {} };',
        'dist/node.js': 'module.exports = require("./core");',
      }).map(([path, text]) => [path, bytesOf(text)]),
    ),
    { name: 'clock', wish: null, wanted: [], provided: [] },
  ) as ShapedLibrary;
  assert.deepEqual([scripts, provides, needed], [['core.js', 'clock.js'], ['Core'], ['Base']]);
  assert.deepEqual(left, [{ path: 'dist/node.js', why: 'for servers: it throws in a browser' }]);
});

const entries = (files: Files) =>
  new Map(Object.entries(files).map(([path, content]) => [path, bytesOf(content)]));

test('of a download, what pages load is taken, with all that it refers to, under plain names and in order', () => {
  const shaped = shapeLibrary(entries(tideclock), {
    name: 'tideclock',
    wish: null,
    wanted: [],
    provided: [],
  });
  assert.ok(shaped);
  const { taken, left, because, places, ...rest } = shaped;
  assert.deepEqual(rest, {
    styles: ['css/reset.css', 'css/tideclock.css', 'css/theme.css'],
    scripts: ['tideclock.js'],
    release: { 'css/tideclock.css': 'css/tideclock.min.css', 'tideclock.js': 'tideclock.min.js' },
    provides: ['Tideclock'],
    needed: [],
    asked: [],
    dependencies: ['buoys'],
  });
  assert.deepEqual([...because], [['tideclock.js', "has the library's name"]]);
  assert.equal(places.get('dist/Tideclock-2.3.1.min.js'), 'tideclock.min.js');
  assert.deepEqual([...taken.keys()].sort(), [
    'LICENSE',
    'css/reset.css',
    'css/theme.css',
    'css/tideclock.css',
    'css/tideclock.min.css',
    'fonts/tide.woff2',
    'images/wave.svg',
    'tideclock.js',
    'tideclock.js.map',
    'tideclock.min.js',
  ]);
  assert.match(textOf(taken.get('tideclock.js') as Uint8Array), /sourceMappingURL=tideclock\.js\.map\n$/);
  assert.deepEqual(
    left.map(({ path, why }) => `${path}: ${why}`),
    [
      'README.md: nothing taken refers to it',
      'dist/fonts/other.woff2: nothing taken refers to it',
      'dist/tideclock.cjs: for servers: it throws in a browser',
      'dist/tideclock.esm.js: a module, and there are plain scripts',
      'docs/index.html: not for pages',
      'gulpfile.js: nothing taken refers to it',
      'package.json: nothing taken refers to it',
      'src/tideclock.js: not for pages',
      'test/tideclock.test.js: not for pages',
    ],
  );
});

test('downloads of every shape are understood', () => {
  const rows: readonly (readonly [
    what: string,
    files: Files,
    wired: readonly string[] | null,
    release?: Record<string, string>,
  ])[] = [
    ['a file', { 'a.js': '' }, ['a.js']],
    ['a minified build alone', { 'a-1.2.0.min.css': '' }, ['a.min.css']],
    ['builds in a folder of their own', { 'a.js': '', 'min/a.js': '' }, ['a.js'], { 'a.js': 'min/a.js' }],
    [
      'development and production',
      { 'a.development.js': '', 'a.production.min.js': '' },
      ['a.development.js'],
      { 'a.development.js': 'a.production.min.js' },
    ],
    [
      'the plain format before others',
      { 'a.umd.js': '', 'a.js': '', 'a.esm.js': '', 'a.slim.js': '' },
      ['a.js'],
    ],
    ['a module where there is no other', { 'a.mjs': 'export {}' }, ['a.mjs']],
    ['imported sheets are loaded by their importer', { 'a.css': '@import "b.css";', 'b.css': '' }, ['a.css']],
    [
      'fonts above the stylesheet',
      { 'dist/css/a.css': '@font-face{src:url(../../fonts/f.woff)}', 'fonts/f.woff': '' },
      ['dist/css/a.css'],
    ],
    ['capitals and spaces', { 'dist/Tide Clock.js': '' }, ['tide-clock.js']],
    ['nothing for pages', { 'README.md': '', 'src/a.ts': '' }, null],
    ['only sources', { 'src/a.js': '' }, ['a.js']],
  ];
  for (const [what, files, wired, release = {}] of rows) {
    const shaped = shapeLibrary(entries(files), { name: 'a', wish: null, wanted: [], provided: [] });
    assert.deepEqual(shaped && [...shaped.styles, ...shaped.scripts], wired, what);
    if (shaped) assert.deepEqual(shaped.release, release, what);
    for (const path of shaped ? [...shaped.styles, ...shaped.scripts, ...Object.values(shaped.release)] : [])
      assert.ok(shaped?.taken.has(path), `${what}: ${path}`);
  }
});

const looksFor = (name: string, made: string) =>
  `(function (g, f) { g.${made} = f(g.${name}) })(this, function (b) { return { b } });`;
const dense = (code: string) => `${code}${' var pad = 1;'.repeat(100)}`;
const CLOCK = 'var Tide = {};';
const SERVER = 'module.exports = require("./x");';
const about = (fields: object) => JSON.stringify(fields);
const sheet = (...names: readonly string[]) =>
  names.map((name) => `.${name} { margin: 1px; top: 2px }`).join('\n');

test('of a library, pages load what it says of itself, what is called like it, and no more than is needed', () => {
  const rows: readonly (readonly [
    what: string,
    files: Files,
    loads: readonly string[],
    left: Readonly<Record<string, string>>,
    options?: Partial<Parameters<typeof shapeLibrary>[1]>,
  ])[] = [
    [
      'what the package names',
      {
        'package.json': about({ main: 'dist/core', style: './dist/tide.css' }),
        'dist/core.js': CLOCK,
        'dist/tide.js': CLOCK,
        'dist/tide.css': sheet('a'),
        'dist/print.css': sheet('b'),
      },
      ['tide.css', 'core.js'],
      {
        'dist/print.css': 'not what its package names for pages',
        'dist/tide.js': 'not what its package names for pages',
      },
    ],
    [
      'what it names for servers is no entry',
      {
        'package.json': about({
          main: 'index.js',
          exports: { '.': { node: './n.js', default: './dist/b.js' } },
        }),
        'index.js': SERVER,
        'n.js': CLOCK,
        'dist/b.js': CLOCK,
      },
      ['b.js'],
      {},
    ],
    [
      'what it names for browsers comes before its main file',
      {
        'package.json': about({ main: 'a.js', browser: 'b.min.js', unpkg: 7 }),
        'a.js': CLOCK,
        'b.js': CLOCK,
        'b.min.js': CLOCK,
      },
      ['b.js'],
      { 'a.js': 'not what its package names for pages' },
    ],
    [
      'what is called as the library, and what that needs',
      { 'tide.js': 'Core.x; var Tide;', 'core.js': 'var Core = {};', 'tide-more.js': 'Tide.more = 1;' },
      ['core.js', 'tide.js'],
      { 'tide-more.js': 'not called tide' },
    ],
    [
      'a bundle where what the plain build looks for is not there',
      { 'tide.js': looksFor('Buoys', 'Tide'), 'tide.bundle.js': 'var Tide = {};' },
      ['tide.bundle.js'],
      { 'tide.js': 'it lacks Buoys, which tide.bundle.js brings' },
    ],
    [
      'the plain build where it is',
      { 'tide.js': looksFor('Buoys', 'Tide'), 'tide.bundle.js': 'var Tide = {};' },
      ['tide.js'],
      { 'tide.bundle.js': 'another build' },
      { provided: ['Buoys'] },
    ],
    [
      'the plain build where a page loads it already',
      {
        'tide.js': looksFor('Buoys', 'Tide'),
        'tide.min.js': looksFor('Buoys', 'Tide'),
        'tide.bundle.js': 'var Tide = {};',
      },
      ['tide.js'],
      { 'tide.bundle.js': 'another build' },
      { wanted: ['tide.min.js'] },
    ],
    [
      'a script that holds another one, and what that needs',
      {
        'tide.js': `Buoys.x; var Tide = {}; ${'Tide.a = "harbour"; '.repeat(50)}`,
        'tide-and-buoys.js': `var Buoys = {}; Buoys.x; var Tide = {}; ${'Tide.a = "harbour"; '.repeat(50)}`,
      },
      ['tide-and-buoys.js'],
      { 'tide.js': 'it lacks Buoys, which tide-and-buoys.js brings' },
    ],
    [
      'of what makes the same names the larger one',
      { 'x.js': `${CLOCK} var more = 1;`, 'y.js': CLOCK },
      ['x.js'],
      { 'y.js': 'it makes what x.js makes' },
    ],
    [
      'a build that is written for machines by its lines, whatever it is called',
      { 'tide-src.js': CLOCK, 'tide.js': dense(CLOCK) },
      ['tide-src.js'],
      {},
    ],
    [
      'parts of a stylesheet, and other looks',
      {
        'tide.css': sheet('a', 'b', 'c'),
        'grid.css': sheet('b'),
        'dark.css': '.a { color: red } .b { color: red }',
        'own.css': sheet('z'),
        'tide-print.css': sheet('y'),
      },
      ['tide.css', 'own.css'],
      {
        'dark.css': 'another look than tide.css',
        'grid.css': 'a part of tide.css',
        'tide-print.css': 'for print alone',
      },
    ],
    [
      'modules only where there are no plain scripts, and only whole ones',
      { 'tide.js': 'import "./more.js"; export {};', 'more.js': 'export const a = 1;' },
      ['tide.js'],
      {},
    ],
    [
      'a module that is to be bundled, and a script for servers',
      {
        'a.css': '',
        'tide.mjs': 'import "buoys";',
        'core.js': SERVER,
        'odd.js': '}{',
        'c.mjs': 'import "./core.js";',
      },
      ['a.css'],
      {
        'c.mjs': 'a module that imports what no page finds',
        'core.js': 'for servers: it throws in a browser',
        'odd.js': 'it does not parse',
        'tide.mjs': 'a module that imports what no page finds',
      },
    ],
    [
      'many modules do nothing by themselves',
      { 'a.css': '', 'x.js': 'export {}', 'y.js': 'export {}' },
      ['a.css'],
      {
        'x.js': 'one of many modules, none of them named for pages',
        'y.js': 'one of many modules, none of them named for pages',
      },
    ],
    [
      'what somebody chose, in that order',
      { 'tide.js': CLOCK, 'b.js': '', 'a.js': '', 'tide.slim.js': CLOCK },
      ['b.js', 'tide.slim.js', 'tide.js'],
      { 'a.js': 'nothing taken refers to it' },
      { wish: (path) => [/^b/, /slim/, /^tide/].findIndex((one) => one.test(path)) + 1 || null },
    ],
    [
      'what an address stands for, before what the package names',
      { 'package.json': about({ main: 'a.js' }), 'a.js': CLOCK, 'b.js': CLOCK, 'b.min.js': CLOCK },
      ['b.js'],
      { 'a.js': 'no address stands for it' },
      { wanted: ['b.min.js'] },
    ],
    [
      'scripts that fill what another one makes, after it and before those that read it',
      {
        'base.js': 'var T = {};',
        'a-start.js': 'new T.Reporter();',
        'b-report.js': 'T.x; for (const k of ["Reporter"]) fill(T, k); function fill(o, k) { o[k] = 1; }',
      },
      ['base.js', 'b-report.js', 'a-start.js'],
      {},
    ],
  ];
  for (const [what, files, loads, left, options] of rows) {
    const shaped = shapeLibrary(entries(files), {
      name: 'tide',
      wish: null,
      wanted: [],
      provided: [],
      ...options,
    });
    assert.deepEqual(shaped && [...shaped.styles, ...shaped.scripts], loads, what);
    const told = shaped?.left.filter(({ path }) => path !== 'package.json' && /\.(?:css|m?js)$/.test(path));
    const expected = Object.entries(left).map(([path, why]) => ({ path, why }));
    if (expected.length > 0) assert.deepEqual(told, expected, what);
  }
});

test('terms come along from the top, and from beside what is taken, whatever they are called', () => {
  const files = {
    'dist/tide.js': '',
    'dist/tide.js.LICENSE.txt': 'x',
    'dist/MIT-licence': 'x',
    'dist/tide.license': 'x',
    'dist/licensing.js.map': 'x',
    'LICENSE-APACHE': 'x',
    'tide.copying.md': 'x',
    'docs/LICENSE.html': 'x',
  };
  const shaped = shapeLibrary(entries(files), { name: 'tide', wish: null, wanted: [], provided: [] });
  assert.deepEqual([...(shaped?.taken.keys() ?? [])].sort(), [
    'LICENSE-APACHE',
    'MIT-licence',
    'tide.copying.md',
    'tide.js',
    'tide.js.LICENSE.txt',
    'tide.license',
  ]);
  assert.deepEqual(
    shaped?.left.map(({ path }) => path),
    ['dist/licensing.js.map', 'docs/LICENSE.html'],
  );
});

const entry: LibraryEntry = {
  folder: 'lib/tide',
  styles: [],
  scripts: ['tide.js'],
  release: {},
  provides: [],
  needs: [],
  files: {},
};
const LINE = 'tide: { folder: lib/tide, scripts: [ tide.js ] }';

test('a library is recorded without a change to any other line', () => {
  const rows: readonly (readonly [before: string, after: string])[] = [
    ['', `libraries:\n  ${LINE}\n`],
    ['site: .   # here\n', `site: .   # here\nlibraries:\n  ${LINE}\n`],
    ['site: .', `site: .\nlibraries:\n  ${LINE}\n`],
    [
      '# a\nlibraries:   # b\n    buoys: { folder: lib/b }  # c\n\n# d\nentry: a.html\n',
      `# a\nlibraries:   # b\n    buoys: { folder: lib/b }  # c\n    ${LINE}\n\n# d\nentry: a.html\n`,
    ],
    [
      'libraries:\n  buoys:\n    folder: lib/b\n    scripts:\n      - b.js\n\nentry: a.html\n',
      `libraries:\n  buoys:\n    folder: lib/b\n    scripts:\n      - b.js\n  ${LINE}\n\nentry: a.html\n`,
    ],
    [
      'libraries:\n  tide: { folder: old }  # c\n  buoys: { folder: lib/b }\n',
      `libraries:\n  ${LINE}  # c\n  buoys: { folder: lib/b }\n`,
    ],
    [
      'libraries:\n  tide:\n    folder: old\n  buoys: { folder: lib/b }\n',
      `libraries:\n  ${LINE}\n  buoys: { folder: lib/b }\n`,
    ],
    ['libraries: {}\n', `libraries:\n  ${LINE}\n`],
    ['libraries:\nentry: a.html\n', `libraries:\n  ${LINE}\nentry: a.html\n`],
    [
      'entry: a.html\r\nlibraries:\r\n  b: { folder: lib/b }\r\n',
      `entry: a.html\r\nlibraries:\r\n  b: { folder: lib/b }\r\n  ${LINE}\r\n`,
    ],
  ];
  for (const [before, after] of rows) {
    const now = withLibrary(before, 'tide', entry);
    assert.equal(now, after, before);
    assert.equal(readSettings(now).libraries.tide?.folder, 'lib/tide');
    assert.equal(withLibrary(now, 'tide', entry), now, 'again');
  }
});

test('libraries recorded one after the other are all there, in order', () => {
  const name = fc.stringMatching(/^[a-z][a-z0-9-]{0,8}$/);
  fc.assert(
    fc.property(
      fc.uniqueArray(name, { minLength: 1, maxLength: 6 }),
      fc.array(fc.stringMatching(/^[a-z]{1,30}\.css$/), { maxLength: 6 }),
      (names, styles) => {
        const text = names.reduce(
          (before, one) => withLibrary(before, one, { ...entry, folder: `lib/${one}`, styles }),
          '# mine\n',
        );
        const { libraries } = readSettings(text);
        assert.deepEqual(Object.keys(libraries).sort(), [...names].sort());
        for (const one of names)
          assert.deepEqual([libraries[one]?.folder, libraries[one]?.styles], [`lib/${one}`, styles]);
        assert.ok(text.startsWith('# mine\n'));
      },
    ),
    { numRuns: 100 },
  );
});

test('hosted files are told by their names', () => {
  const mains = ['lib/tide/css/reset.css', 'lib/tide/css/tide.css', 'lib/tide/tide.js'];
  const rows: readonly (readonly [written: string, file: string | null])[] = [
    ['https://cdn.gullhaven.example/tide@2.3.1/dist/tide.min.js?x#y', 'lib/tide/tide.js'],
    ['//cdn.gullhaven.example/Tide-2.0.css', 'lib/tide/css/tide.css'],
    ['https://cdn.gullhaven.example/bundle/x.js', 'lib/tide/tide.js'],
    ['https://cdn.gullhaven.example/other.css', null],
    ['https://cdn.gullhaven.example/tide.png', null],
  ];
  for (const [written, file] of rows) assert.equal(counterpart(written, mains), file, written);
});

test('of a library, the file is taken that an address stands for: by its hash, else by its name', () => {
  const library = entries({
    'dist/tide.js': 'a',
    'dist/tide.min.js': 'b',
    'x/tide.js': 'c',
    'dist/other.js': 'd',
  });
  const digest = (algorithm: string, content: Uint8Array) =>
    createHash(algorithm).update(content).digest('base64');
  const hash = `sha256-${digest('sha256', bytesOf('c'))}`;
  const HOST = 'https://cdn.gullhaven.example';
  const site = filesOf({
    'index.html': `<script src="${HOST}/tide@2/tide-2.1.min.js"></script><script src="${HOST}/t.js" integrity="${hash}"></script><a href="${HOST}/other.js">x</a>`,
    'a.css': `@import "${HOST}/none.css";`,
    'b.js': `import "${HOST}/x/Tide.js?v=2";`,
  });
  assert.deepEqual(
    [...filesAt(site, [`${HOST}/`], library, digest)],
    [
      [`${HOST}/x/Tide.js?v=2`, 'x/tide.js'],
      [`${HOST}/tide@2/tide-2.1.min.js`, 'dist/tide.min.js'],
      [`${HOST}/t.js`, 'x/tide.js'],
    ],
  );
});

test('what another host holds is replaced; integrity stays where the file is the same, crossorigin never', () => {
  const bytes = bytesOf('var Tide;');
  const hash = (algorithm: string) => createHash(algorithm).update(bytes).digest('base64');
  const options = {
    address: 'https://cdn.gullhaven.example/tide/',
    fileFor: (written: string) => (written.endsWith('.css') ? 'lib/tide.css' : 'lib/tide.js'),
    files: new Map([
      ['lib/tide.js', bytes],
      ['lib/tide.css', bytesOf('b{}')],
    ]),
    digest: (algorithm: string, content: Uint8Array) =>
      createHash(algorithm).update(content).digest('base64'),
  };
  const FROM = 'https://cdn.gullhaven.example/tide/x';
  const good = `sha256-wrong sha384-${hash('sha384')}`;
  const rows: readonly (readonly [what: string, before: string, after: string])[] = [
    [
      'the same bytes',
      `<script src="${FROM}.js" integrity="${good}" crossorigin="anonymous" defer></script>`,
      `<script src="../lib/tide.js" integrity="${good}" defer></script>`,
    ],
    [
      'other bytes',
      `<link rel=stylesheet href='${FROM}.css' integrity="sha256-${hash('sha256')}" crossorigin>`,
      "<link rel=stylesheet href='../lib/tide.css'>",
    ],
    [
      'only the strongest hash counts',
      `<script crossorigin integrity="sha256-${hash('sha256')} sha512-bad" src=${FROM}.js></script>`,
      '<script src=../lib/tide.js></script>',
    ],
    [
      'without a scheme, with a query',
      '<script src="//CDN.gullhaven.example/tide/x.js?v=2"></script>',
      '<script src="../lib/tide.js"></script>',
    ],
    [
      'one that is there already',
      `<p>\n<script src="../lib/tide.js"></script>\n<script src="${FROM}.js"></script>\n`,
      '<p>\n<script src="../lib/tide.js"></script>\n',
    ],
    [
      'a connection that nothing needs now',
      `<link rel="preconnect" href="https://cdn.gullhaven.example" crossorigin><script src="${FROM}.js"></script>`,
      '<script src="../lib/tide.js"></script>',
    ],
    [
      'a connection that something needs',
      `<link rel="preconnect" href="https://cdn.gullhaven.example"><img src="https://cdn.gullhaven.example/i.png"><script src="${FROM}.js"></script>`,
      '<link rel="preconnect" href="https://cdn.gullhaven.example"><img src="https://cdn.gullhaven.example/i.png"><script src="../lib/tide.js"></script>',
    ],
    [
      'a preload of it',
      `<link rel="preload" href="${FROM}.js" as="script"><script src="${FROM}.js"></script>`,
      '<script src="../lib/tide.js"></script>',
    ],
    ['inside a style', `<style>@import "${FROM}.css";</style>`, '<style>@import "../lib/tide.css";</style>'],
    ['a link to follow', `<a href="${FROM}.js">x</a>`, ''],
  ];
  for (const [what, before, after] of rows) {
    const replaced = replaceInPage(openPage('piers/a.html', bytesOf(before)), options);
    assert.equal(replaced === null ? '' : textOf(replaced.bytes), after, what);
  }
  const sheet = replaceInFile('css/a.css', bytesOf(`@import url(${FROM}.css);\n`), options);
  assert.equal(textOf(sheet?.bytes ?? new Uint8Array()), '@import url(../lib/tide.css);\n');
});

/** The code of what a call throws; null where it throws nothing. */
function code(run: () => unknown): string | null {
  try {
    run();
    return null;
  } catch (error) {
    return (error as CravelError).code;
  }
}

test('a library is placed with its entry, in its own folder, and what was edited there stays', () => {
  const shaped = (
    version: string,
    dependencies: readonly string[] = [],
    needed: readonly string[] = [],
  ): ShapedLibrary => ({
    taken: new Map([
      ['tide.css', bytesOf(`a{} /* ${version} */`)],
      ['tide.js', bytesOf(`let Tide; // ${version}`)],
    ]),
    because: new Map(),
    places: new Map(),
    asked: [],
    left: [],
    styles: ['tide.css'],
    scripts: ['tide.js'],
    release: { 'tide.js': 'tide.min.js' },
    provides: ['Tide'],
    needed,
    dependencies,
  });
  const digest = (bytes: Uint8Array) => createHash('sha256').update(bytes).digest('hex');
  const given = { replace: false, needs: [], digest, lineEnd: '\r\n' } as const;
  const project = (places: Places, present: Files = {}) => {
    const files = filesOf(present);
    return { files, site: files, settings: readSettings(''), places };
  };

  for (const [places, folder] of [
    [{ libraries: 'vendor' }, 'vendor/tide'],
    [{ styles: 'assets/css' }, 'assets/lib/tide'],
    [{ styles: 'css' }, 'lib/tide'],
    [{}, 'lib/tide'],
  ] as const)
    assert.equal(placeLibrary(project(places), 'tide', shaped('1'), given).folder, folder);

  const own = project({ libraries: 'lib' });
  assert.deepEqual(placeLibrary(own, 'tide', shaped('1'), given), {
    folder: 'lib/tide',
    stays: [],
    needs: [],
    lacking: [],
  });
  const text = textOf(own.files.read('cravel.yaml'));
  assert.ok(text.includes('\r\n') && !/[^\r]\n/.test(text));
  const entry = readSettings(text).libraries.tide;
  assert.deepEqual(entry, own.settings.libraries.tide);
  assert.deepEqual(
    [
      entry?.folder,
      entry?.styles,
      entry?.scripts,
      entry?.release,
      entry?.provides,
      Object.keys(entry?.files ?? {}),
    ],
    ['lib/tide', ['tide.css'], ['tide.js'], { 'tide.js': 'tide.min.js' }, ['Tide'], ['tide.css', 'tide.js']],
  );

  assert.equal(
    code(() => placeLibrary(own, 'tide', shaped('2'), given)),
    'library-there',
  );
  assert.equal(
    code(() => placeLibrary(project({ libraries: 'lib' }, { 'lib/tide/x': '' }), 'tide', shaped('2'), given)),
    'library-there',
  );
  assert.equal(
    code(() => placeLibrary(own, 'buoys', shaped('1'), { ...given, needs: ['waves'] })),
    'no-need',
  );
  own.files.write('lib/tide/tide.css', bytesOf('mine'));
  const again = placeLibrary(own, 'tide', shaped('2'), { ...given, replace: true });
  assert.deepEqual(again.stays, ['tide.css']);
  assert.match(textOf(own.files.read('lib/tide/tide.js')), /2$/);

  // What it says it needs is noted where it is there, and what was asked for comes first.
  placeLibrary(own, 'buoys', shaped('1', ['tide', 'waves']), given);
  assert.deepEqual(own.settings.libraries.buoys?.needs, ['tide']);
  placeLibrary(own, 'flags', shaped('1', ['tide']), { ...given, needs: ['buoys', 'tide'] });
  assert.deepEqual(own.settings.libraries.flags?.needs, ['buoys', 'tide']);

  // So is what its scripts use, and what nobody makes is told.
  const using = placeLibrary(own, 'pennants', shaped('1', [], ['Tide', 'Wave']), given);
  assert.deepEqual([using.needs, using.lacking], [['tide', 'buoys', 'flags'], ['Wave']]);

  const { areBuilds, provided, scriptsGo } = wireSettings(own.settings, own.places);
  const pairs: readonly (readonly [one: string, other: string, isPair: boolean])[] = [
    ['lib/tide/tide.js', 'lib/tide/tide.min.js', true],
    ['lib/tide/tide.min.js', 'lib/tide/tide.js', true],
    ['lib/tide/tide.js', 'lib/tide/tide.js', false],
    ['js/a.js', 'js/a-min.js', true],
    ['js/a.js', 'css/a.min.js', false],
    ['js/a.min.js', 'js/a.min.css', false],
    ['js/a.min.js', 'js/a-min.js', false],
  ];
  for (const [one, other, isPair] of pairs) assert.equal(areBuilds(one, other), isPair, `${one} ${other}`);
  assert.deepEqual(provided, ['Tide', 'Tide', 'Tide', 'Tide']);
  assert.equal(scriptsGo, undefined);
});

test('a library that is taken out leaves the site as it was, but for what is edited or still shown', () => {
  const digest = (bytes: Uint8Array) => createHash('sha256').update(bytes).digest('hex');
  const place = (files: Files, needs: readonly string[] = []) => {
    const own = filesOf(files);
    const settings = readSettings(textOf(own.has('cravel.yaml') ? own.read('cravel.yaml') : bytesOf('')));
    const project = { files: own, site: own, settings, places: {} };
    const shaped = shapeLibrary(entries({ 'tide.css': 'a{}', 'tide.js': CLOCK, 'tide.min.js': CLOCK }), {
      name: 'tide',
      wish: () => 0,
      wanted: [],
      provided: [],
    }) as ShapedLibrary;
    placeLibrary(project, 'tide', shaped, { replace: false, needs, digest, lineEnd: '\n' });
    return project;
  };
  const page = '<!doctype html>\n<head>\n  <title>x</title>\n</head>\n<body>\n</body>\n';
  const loading = page
    .replace(
      '</head>',
      '  <link rel="preload" as="style" href="../lib/tide/tide.css">\n  <link rel="stylesheet" href="../lib/tide/tide.css">\n</head>',
    )
    .replace('</body>', '  <script src="../lib/tide/tide.min.js?v=1"></script>\n</body>');
  const before = { 'cravel.yaml': 'site: .\n# Ours.\nfail-on: [broken]\n', 'js/a.js': 'var a;' };
  const project = place({ ...before, 'piers/a.html': loading });
  assert.deepEqual(removeLibrary(project, 'tide', digest), {
    folder: 'lib/tide',
    pages: ['piers/a.html'],
    files: 3,
    stays: [],
    shown: new Map(),
  });
  const after = Object.fromEntries(
    project.files.paths().map((path) => [path, textOf(project.files.read(path))]),
  );
  assert.deepEqual(after, { ...before, 'piers/a.html': page });
  assert.deepEqual(project.settings.libraries, {});

  const kept = place({
    'piers/a.html': '<base href="../">\n<img src="lib/tide/tide.css">',
    'b.css': '@import "lib/tide/tide.css";',
    'c.css':
      'a{background:url(https://x.example/lib/tide/tide.css)} b{background:url(lib/tide/none.css)} c{background:url(b.css)}',
    'd.html': '<img src="https://x.example/"><link rel="icon" href="b.css"><a href="lib/tide">x</a>',
  });
  kept.files.write('lib/tide/tide.js', bytesOf('mine'));
  kept.files.write('lib/tide/own.css', bytesOf('@import "tide.css";'));
  const { stays, shown, files } = removeLibrary(kept, 'tide', digest);
  assert.deepEqual([stays, files], [['own.css', 'tide.js'], 1]);
  assert.deepEqual([...shown], [['tide.css', new Set(['b.css', 'piers/a.html'])]]);

  assert.equal(
    code(() => removeLibrary(kept, 'tide', digest)),
    'no-such-library',
  );
  const needed = place({});
  const two = place({});
  Object.assign(two.settings.libraries, {
    buoys: two.settings.libraries.tide,
    flags: two.settings.libraries.tide,
  });
  assert.throws(() => removeLibrary(two, 'tides', digest), /tide/);
  assert.throws(() => removeLibrary(two, 'waves', digest), /tide, buoys, flags/);
  needed.settings.libraries.buoys = { ...(needed.settings.libraries.tide as Library), needs: ['tide'] };
  assert.equal(
    code(() => removeLibrary(needed, 'tide', digest)),
    'needed-library',
  );
});

test('a record that is put in and taken out leaves every other line as it was', () => {
  const texts = [
    '',
    'site: .\n',
    'site: .',
    'site: .\r\nfail-on: [broken]\r\n',
    'libraries:\n  buoys: { folder: lib/buoys }\n\n# Behind.\nsite: .\n',
    'libraries:\n  # First.\n  buoys:\n    folder: lib/buoys\n    # Its scripts.\n    scripts: [ a.js ]\nsite: .\n',
    'site: .\nlibraries:\n    buoys: { folder: lib/buoys } # here\n',
  ];
  for (const text of texts)
    for (const one of [entry, { ...entry, provides: ['A'.repeat(90)] }]) {
      const back = withoutLibrary(withLibrary(text, 'tide', one), 'tide');
      // A last line gets its end.
      assert.equal(back, text === '' || text.endsWith('\n') ? text : `${text}\n`, text);
    }
  // The first of several, what stands in braces, and what is not there.
  const first = 'libraries:\n  tide: { folder: a }\n  # Of buoys.\n  buoys: { folder: b }\n';
  assert.equal(withoutLibrary(first, 'tide'), 'libraries:\n  # Of buoys.\n  buoys: { folder: b }\n');
  assert.equal(
    withoutLibrary('libraries: { tide: { folder: a }, buoys: { folder: b } }\n', 'tide'),
    'libraries: { buoys: { folder: b } }\n',
  );
  assert.equal(withoutLibrary('libraries: { tide: { folder: a } }\nsite: .\n', 'tide'), 'site: .\n');
  assert.equal(withoutLibrary(first, 'waves'), first);
});
