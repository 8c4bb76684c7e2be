/** What findings say, word for word where that depends on what was found; and the names that rules go by. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { picker } from '../../src/core/judge/pick.ts';
import type { SiteFacts, SiteRule } from '../../src/core/judge/rule.ts';
import { fileName } from '../../src/core/judge/rules/file-name.ts';
import { unused } from '../../src/core/judge/rules/unused.ts';
import { makeInventory } from '../../src/core/site/inventory.ts';
import { checkFiles, type Files } from '../support/site.ts';

const messages = (files: Files, rule: string) =>
  checkFiles(files)
    .findings.filter((one) => one.rule === rule)
    .map(({ message }) => message);

const title = (text: string): Files => ({ 'a.html': `<title>${text}</title>` });

test('a finding says what was found', () => {
  const rows: readonly (readonly [rule: string, files: Files, ...said: string[]])[] = [
    ['placeholder-title', { 'a.html': '<p>' }, 'the page has no title'],
    ['placeholder-title', title(' '), 'the title is empty'],
    ['placeholder-title', title('Untitled Page'), 'the title Untitled Page says nothing of the page'],
    ['placeholder-title', title('index.htm'), 'the title index.htm says nothing of the page'],
    ['placeholder-title', title('index'), 'the title index says nothing of the page'],
    ['placeholder-title', title('index.html of fares')],
    ['placeholder-title', title('The index')],
    [
      'needs-encoding',
      { 'a.html': '<img src="b c.svg">', 'b c.svg': '' },
      'a space is written percent-encoded in an address',
    ],
    [
      'needs-encoding',
      { 'a.html': '<img src="50%.svg">', '50%.svg': '' },
      'a % that begins no escape is written percent-encoded in an address',
    ],
    [
      'needs-encoding',
      { 'a.html': '<img src="é.svg">', 'é.svg': '' },
      'é is written percent-encoded in an address',
    ],
    ['needs-encoding', { 'a.html': '<a href=" b.html#é ">', 'b.html': '<p id="é">' }],
    [
      'beyond-site',
      { 'a.html': '<img src="../p.svg">' },
      "../ leads out of the site: this file is in the site's root; browsers ask the host for /p.svg",
    ],
    [
      'beyond-site',
      { 'a.html': '<img src="../p.svg">', 'p.svg': '' },
      "../ leads out of the site: this file is in the site's root; it is found only where that is the root of its host, since browsers stop there",
    ],
    [
      'beyond-site',
      { 'a.html': '<a href="../a.html">a</a>', 'b.html': '<a href="../a.html">a</a>' },
      "../ leads out of the site: this file is in the site's root; browsers ask the host for /a.html",
      "../ leads out of the site: this file is in the site's root; it is found only where that is the root of its host, since browsers stop there",
    ],
    [
      'beyond-site',
      { 'a/b/c.html': '<img src="../../../x/p.svg">', 'i.html': '' },
      '../../../ leads out of the site: a/b/ is only 2 deep; browsers ask the host for /x/p.svg',
    ],
    [
      'beyond-site',
      { 'a.html': `<img src="${'../'.repeat(12)}p.svg">` },
      `${'../'.repeat(9)} leads out of the site: this file is in the site's root; browsers ask the host for /p.svg`,
    ],
    [
      'host-dependent',
      { 'a.html': '<a href="b//c.html">', 'b/c.html': '' },
      'not every host takes two slashes for one',
    ],
    [
      'host-dependent',
      { 'a.html': '<a href="b">', 'b/index.html': '' },
      'a folder is addressed with a slash at the end',
    ],
    [
      'host-dependent',
      { 'a.html': '<a href="c"><iframe src="c">', 'c.html': '' },
      'only some hosts add .html by themselves',
    ],
    ['host-dependent', { 'a.html': '<a href="b/"><a href="?x//y"><img src="b">', 'b/index.html': '' }],
    [
      'file-name',
      { 'a.html': '', 'north pier.txt': '' },
      'north pier.txt has a space, a capital or an odd character; safe is north-pier.txt',
    ],
    [
      'file-name',
      { 'a.html': '', 'A B/c.txt': '' },
      'A B has a space, a capital or an odd character; safe is a-b',
    ],
    [
      'file-name',
      { 'a.html': '', 'con.txt': '' },
      'con.txt is a name that Windows cannot have; safe is con-1.txt',
    ],
    ['file-name', { 'a.html': '', 'a.js.js': '' }, 'a.js.js has its extension twice'],
    ['file-name', { 'a.html': '', notes: '' }, 'notes has no extension'],
    ['unused', { 'a.html': '', 'old.txt': '' }, 'no file of the site refers to it'],
    [
      'lacks-index',
      { 'a.html': '<a href="b/">', 'b/c.html': '', 'b/d.html': '' },
      'there is no index.html in b',
    ],
    ['lacks-index', { 'b.html': '<a href="./">' }, "there is no index.html in the site's root"],
  ];
  for (const [rule, files, ...said] of rows)
    assert.deepEqual(messages(files, rule), said, `${rule} ${JSON.stringify(files)}`);
});

test('what is loaded is judged by its extension, whole and in either case', () => {
  const css = 'a{}';
  const png = Uint8Array.of(0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a);
  const woff = 'wOFF';
  const rows: readonly (readonly [
    markup: (file: string) => string,
    content: string | Uint8Array,
    fit: readonly string[],
    misfit: readonly string[],
  ])[] = [
    [
      (file) => `<link rel="stylesheet" href="${file}">`,
      css,
      ['css', 'CSS'],
      ['scss', 'css2', 'txt', 'less'],
    ],
    [
      (file) => `<script src="${file}"></script>`,
      'let a;',
      ['js', 'mjs', 'cjs'],
      ['json', 'jsx', 'xjs', 'ts', 'txt'],
    ],
    [
      (file) => `<script type="module" src="${file}"></script>`,
      'let a;',
      ['js', 'mjs', 'json', 'css', 'wasm'],
      ['cjs', 'ts', 'jsx', 'xjs'],
    ],
    [
      (file) => `<img src="${file}">`,
      png,
      ['png', 'jpg', 'php', 'htmlx', 'cssx', 'xjs', 'mdx'],
      ['html', 'htm', 'xhtml', 'css', 'js', 'mjs', 'json', 'txt', 'md', 'pdf', 'woff', 'woff2'],
    ],
    [
      (file) => `<link rel="icon" href="${file}">`,
      png,
      ['ico', 'png', 'woff', 'htmlx', 'xjs'],
      ['html', 'htm', 'xht' + 'ml', 'css', 'js', 'mjs', 'json', 'txt', 'md', 'pdf'],
    ],
    [
      (file) => `<style>@font-face{src:url(${file})}</style>`,
      woff,
      ['woff', 'ttf', 'jpegx', 'xjs'],
      ['html', 'htm', 'css', 'js', 'mjs', 'png', 'jpg', 'jpeg', 'gif'],
    ],
  ];
  for (const [markup, content, fit, misfit] of rows)
    for (const [extensions, isFit] of [
      [fit, true],
      [misfit, false],
    ] as const)
      for (const extension of extensions) {
        const file = `x.${extension}`;
        const said = messages({ 'a.html': markup(file), [file]: content }, 'wrong-kind');
        assert.equal(said.length, isFit ? 0 : 1, `${markup(file)} ${said}`);
        if (!isFit)
          assert.match(said[0] as string, new RegExp(`hosts serve \\.${extension} as something else$`));
      }
  const embedded = messages(
    { 'a.html': '<embed src="a.css"><embed src="b.png">', 'a.css': css, 'b.png': css },
    'wrong-kind',
  );
  assert.deepEqual(embedded, []);
});

/** The files that a rule about the site has something to say of. */
function told(
  rule: SiteRule,
  paths: readonly string[],
  more: Partial<SiteFacts> = {},
  libraries?: string,
): string[] {
  const site = { inventory: makeInventory(paths), places: libraries === undefined ? {} : { libraries } };
  const facts = {
    site,
    isWhole: true,
    pages: new Map(),
    used: new Set<string>(),
    missed: new Set<string>(),
    ...more,
  };
  return rule.judgeSite(facts as unknown as SiteFacts).map(({ file }) => file);
}

test('names that other programs ask for as they are are no odd names', () => {
  const fine = [
    'LICENSE',
    'LICENCE.md',
    'README',
    'README.txt',
    'CNAME',
    '_headers',
    '_redirects',
    '.htaccess',
    '.nojekyll',
    '.well-known/a.txt',
    'a_b-c.css',
    '写真.png',
    'привет.css',
    '_static/a.css',
    'x9.html',
  ];
  const odd = [
    'a b.css',
    'a.b c',
    'ä.css',
    'x(1).png',
    'LICENSEx/a b.css',
    'my README',
    '_headers ',
    'a.css-',
    'LOGO.PNG',
    'Readme.md',
    'straße.css',
    'plain',
    'a.tar.tar',
  ];
  for (const path of fine) assert.deepEqual(told(fileName, [path]), [], path);
  for (const path of odd) assert.deepEqual(told(fileName, [path]), [path], path);
  const safe = (...paths: readonly string[]) =>
    fileName
      .judgeSite({ site: { inventory: makeInventory(paths), places: {} } } as unknown as SiteFacts)
      .map(({ message }) => /safe is (.+)$/.exec(message)?.[1]);
  assert.deepEqual(
    safe('North Pier (2).png', 'LOGO.PNG', 'Straße.CSS', 'Écluse Nº 3.svg', '写 真.png', '(?).txt'),
    ['north-pier-2.png', 'logo.png', 'strasse.css', 'ecluse-no-3.svg', '写-真.png', 'file.txt'],
  );
  // Two files of a folder never get one name.
  assert.deepEqual(safe('a/Pier.svg', 'a/pier.svg', 'a/PIER.svg', 'b/Pier.svg', 'a/p q.svg', 'a/P-Q.svg'), [
    'pier-2.svg',
    'pier-3.svg',
    'pier.svg',
    'p-q.svg',
    'p-q-2.svg',
  ]);
  assert.deepEqual(told(fileName, ['lib/A B.js', 'libs/A B.js', 'x/lib/A B.js'], {}, 'lib'), [
    'libs/A B.js',
    'x/lib/A B.js',
  ]);
});

test('what hosts ask for, what lies beside, and what comes with a library in use is not unused', () => {
  const fine = [
    'favicon.ico',
    'apple-touch-icon-57.png',
    'apple-touch-icon.png',
    'robots.txt',
    'humans.txt',
    'sitemap.xml',
    'sitemap-2.xml',
    'sitemap.txt',
    'feed.xml',
    'atom.xml',
    'rss.xml',
    'ads.txt',
    'browserconfig.xml',
    'site.webmanifest',
    'manifest.json',
    '.htaccess',
    '.nojekyll',
    '_headers',
    '_redirects',
    'CNAME',
    '.well-known/security.txt',
    'js/LICENSE',
    'a/README.md',
    'COPYING',
    'NOTICE.txt',
    'a.js.map',
  ];
  const others = [
    'favicon.icon',
    'xfavicon.ico',
    'a/robots.txt',
    'robots.txt.old',
    'apple-touch-icon/a.png',
    'sitemap/a.xml',
    '.well-known',
    'aLICENSE',
    'LICENSE/a',
    'a.map.js',
    'feed.xml2',
  ];
  for (const path of fine) assert.deepEqual(told(unused, [path]), [], path);
  for (const path of others) assert.deepEqual(told(unused, [path]), [path], path);
  const files = [
    'lib/tide/tide.js',
    'lib/tide/tide.min.js',
    'lib/tidal/a.js',
    'lib/a.js',
    'x/lib/tide/a.js',
    'data/a/b.json',
  ];
  const used = new Set(['lib/tide/tide.js', 'data/']);
  assert.deepEqual(told(unused, files, { used }, 'lib'), ['lib/tidal/a.js', 'lib/a.js', 'x/lib/tide/a.js']);
  assert.deepEqual(told(unused, files, { used }), [
    'lib/tide/tide.min.js',
    'lib/tidal/a.js',
    'lib/a.js',
    'x/lib/tide/a.js',
  ]);
});

test('findings are picked by grades and rules, and names of neither are told', () => {
  const absent = { rule: 'absent', grade: 'broken' } as const;
  const twice = { rule: 'twice', grade: 'misplaced' } as const;
  const rows: readonly (readonly [names: readonly string[], absent: boolean, twice: boolean])[] = [
    [['broken'], true, false],
    [['twice'], false, true],
    [['broken', 'twice'], true, true],
    [['untidy', 'letter-case'], false, false],
  ];
  for (const [names, ...expected] of rows)
    assert.deepEqual([absent, twice].map(picker(names)), expected, names.join());
  assert.throws(
    () => picker(['broken', 'absnt']),
    /There is no grade and no rule named absnt\.\nDid you mean: absent\?/,
  );
});

test('addresses of this machine and of its network are told apart from those of others', () => {
  const own = [
    'http://localhost/x',
    '//LOCALHOST:80/',
    ' http://127.0.0.1/',
    'http://127.10.22.255',
    'http://0.0.0.0?x',
    'http://10.12.34.56/',
    'https://192.168.10.200#x',
    'http://172.16.10.11/',
    'http://172.20.10.11/',
    'http://172.31.10.11/',
    'http://ida:1@localhost/',
    'http://[::1]/',
    'http://[::]/',
    'http://[fd00::1]:8080/',
    'http://[fe80::1]/',
    'ws://localhost/',
  ];
  const others = [
    'http://localhost.example/',
    'http://mylocalhost/',
    'http://127.0.0.example/',
    'http://127.0.0/',
    'http://110.0.0.1/',
    'http://172.15.0.1/',
    'http://172.32.0.1/',
    'http://192.169.0.1/',
    'http://gullhaven.example/localhost/',
    'http://[2001::1]/',
    'x//localhost/',
  ];
  const isTold = (address: string) =>
    messages({ 'index.html': `<a href="${address}">x</a>` }, 'this-machine').length > 0;
  assert.deepEqual(
    own.filter((address) => !isTold(address)),
    [],
  );
  assert.deepEqual(others.filter(isTold), []);
});

test('a home page under another name is told by name', () => {
  const rows: readonly (readonly [files: readonly string[], file: string | null, home?: string])[] = [
    [['index.html'], null],
    [['a.html', 'home.html'], 'home.html', 'home.html'],
    [['a.html', 'Default.htm'], 'Default.htm', 'Default.htm'],
    [['a.html', 'main.html'], 'main.html', 'main.html'],
    [['a.html', 'start.xhtml'], 'start.xhtml', 'start.xhtml'],
    [['a.html', 'index.htm'], 'index.htm', 'index.htm'],
    [['a.html', 'myhome.html'], 'a.html'],
    [['a.html', 'home.old.html'], 'a.html'],
    [['a.html', 'b/home.html'], 'a.html'],
    [['a.html', 'home.txt'], 'a.html'],
  ];
  for (const [paths, file, home] of rows) {
    const { findings } = checkFiles(Object.fromEntries(paths.map((path) => [path, '<p>x'])));
    const [found] = findings.filter(({ rule }) => rule === 'lacks-entry');
    const said = `the site has no index.html${home === undefined ? '' : `; is ${home} meant to be it?`}`;
    assert.deepEqual(found && [found.file, found.message], file === null ? undefined : [file, said]);
  }
});

test('where no edit mends it, the next step is a command that does', () => {
  const commandsFor = (files: Files, rule: string) =>
    checkFiles(files)
      .causes.filter((cause) => cause.rule === rule)
      .map(({ mend }) => mend);
  const link = (address: string): Files => ({ 'index.html': `<a href="${address}">x</a>` });
  const oddOne = (sheet: string, odd: string): Files => ({
    ...Object.fromEntries(
      Array.from({ length: 12 }, (_none, at) => [`p${at}.html`, `<link rel="stylesheet" href="${sheet}">`]),
    ),
    [odd]: '<p>x',
    [decodeURIComponent(sheet)]: 'b{}',
  });
  const rows: readonly (readonly [rule: string, files: Files, command: string | null])[] = [
    ['absent', link('fares.html'), 'cravel page ./fares.html'],
    ['absent', link('piers/north.html'), 'cravel page ./piers/north.html'],
    ['absent', link('fares and tides.html'), null],
    ['absent', link('a b/fares.html'), null],
    ['absent', link('tides.pdf'), null],
    ['lacks-index', { ...link('piers/'), 'piers/map.svg': '' }, 'cravel page ./piers/'],
    ['lacks-index', { 'a.html': '<a href="./">x</a>' }, null],
    [
      'absent',
      { 'index.html': '<script src="lib/tide.js"></script>' },
      'cravel adopt <folder, archive or address> --wire',
    ],
    [
      'absent',
      { 'index.html': '<script src="vendor/a/tide.js"></script>' },
      'cravel adopt <folder, archive or address> --wire',
    ],
    [
      'absent',
      { 'index.html': '<script src="js/tide.min.js"></script>' },
      'cravel adopt <folder, archive or address> --wire',
    ],
    [
      'absent',
      { 'index.html': '<script src="js/tide-min.js"></script>' },
      'cravel adopt <folder, archive or address> --wire',
    ],
    ['absent', { 'index.html': '<script src="js/tide.js"></script>' }, null],
    ['absent', { 'index.html': '<script src="js/glib/tide.js"></script>' }, null],
    ['absent', { 'index.html': '<img src="lib/tide.svg" alt="">' }, null],
    ['odd-one-out', oddOne('css/a.css', 'q.html'), 'cravel wire css/a.css --into q.html'],
    ['odd-one-out', oddOne('css/a%20b.css', 'q.html'), null],
    ['odd-one-out', oddOne("css/it's.css", 'q.html'), null],
    ['odd-one-out', oddOne('css/a.css', 'q r.html'), null],
  ];
  for (const [rule, files, command] of rows)
    assert.deepEqual(commandsFor(files, rule), [command], JSON.stringify([rule, files]));
});
