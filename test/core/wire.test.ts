import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { parse, serialize } from 'parse5';
import { loadOrder } from '../../src/core/order/order.ts';
import { ScriptUses } from '../../src/core/order/script-uses.ts';
import { familyOf, kindOfFile, type WireSettings } from '../../src/core/page/loaders.ts';
import { openPage } from '../../src/core/page/page.ts';
import { NotWired, unwire, wire, wireAll } from '../../src/core/page/wire.ts';
import { type WireKind } from '../../src/core/page/wire-kinds.ts';
import type { Library } from '../../src/core/settings/settings.ts';
import type { ScriptPlace } from '../../src/core/site/places.ts';
import { bytesOf } from '../support/site.ts';

const libraries: Record<string, Library> = {
  buoys: {
    folder: 'lib/buoys',
    styles: [],
    scripts: ['buoys.js'],
    release: {},
    provides: ['Buoys'],
    needs: [],
    files: {},
  },
  tideclock: {
    folder: 'lib/tideclock',
    styles: ['reset.css', 'tideclock.css'],
    scripts: ['tideclock.js'],
    release: { 'tideclock.js': 'tideclock.min.js' },
    provides: ['Tideclock'],
    needs: ['waves'],
    files: {},
  },
  waves: {
    folder: 'lib/waves',
    styles: ['waves.css'],
    scripts: ['waves.js'],
    release: {},
    provides: [],
    needs: [],
    files: {},
  },
};

function settings(scriptsGo?: ScriptPlace): WireSettings {
  return {
    order: loadOrder(libraries, 'lib'),
    scriptsGo,
    provided: ['Buoys', 'Tideclock'],
    scripts: new ScriptUses((path) => texts[path] ?? null),
    areBuilds: (path, other) =>
      path !== other && [path, other].every((one) => /^lib\/tideclock\/tideclock(?:\.min)?\.js$/.test(one)),
    swaps: true,
  };
}

interface How {
  readonly file?: string;
  readonly go?: ScriptPlace;
  readonly kind?: WireKind;
}

/** Scripts whose names matter. */
const texts: Readonly<Record<string, string>> = {
  'js/make.js': 'var Tides = {};',
  'js/use.js': 'Tides.x;',
  'js/both.js': 'var Piers = Tides;',
  'js/end.js': 'Piers.x;',
};

const text = (bytes: Uint8Array) => new TextDecoder('utf-8', { ignoreBOM: true }).decode(bytes);

/** The page after wiring; the same page where nothing was to do, and why not where it was left alone. */
function wired(before: string, path: string, { file = 'index.html', go, kind }: How = {}): string {
  const wiring = { path, kind: kind ?? (kindOfFile(path.replace(/\?.*/, '')) as WireKind) };
  const outcome = wire(openPage(file, bytesOf(before)), wiring, settings(go));
  if (outcome instanceof NotWired) return outcome.why;
  return outcome === null ? before : text(outcome);
}

const HEAD = '<!doctype html>\n<html>\n<head>\n  <title>x</title>\n';

test('every kind of file gets its element at its spot, in its order and in the manner of the page', () => {
  const rows: readonly (readonly [what: string, before: string, path: string, after: string, how?: How])[] = [
    [
      'an own stylesheet comes last',
      `${HEAD}  <link rel="stylesheet" href="css/main.css">\n</head>`,
      'css/print.css',
      `${HEAD}  <link rel="stylesheet" href="css/main.css">\n  <link rel="stylesheet" href="css/print.css">\n</head>`,
    ],
    [
      "a library's stylesheet comes before one's own",
      `${HEAD}  <link rel="stylesheet" href="css/main.css">\n</head>`,
      'lib/waves/waves.css',
      `${HEAD}  <link rel="stylesheet" href="lib/waves/waves.css">\n  <link rel="stylesheet" href="css/main.css">\n</head>`,
    ],
    [
      'what stands in a noscript is no neighbour: nothing of it loads where scripts run',
      `${HEAD}  <link rel="stylesheet" href="css/main.css">\n  <noscript><img src="count.gif"><link rel="stylesheet" href="css/print.css"></noscript>\n</head><p>x`,
      'css/print.css',
      `${HEAD}  <link rel="stylesheet" href="css/main.css">\n  <link rel="stylesheet" href="css/print.css">\n  <noscript><img src="count.gif"><link rel="stylesheet" href="css/print.css"></noscript>\n</head><p>x`,
    ],
    [
      'libraries come in the order of their needs, not of their names',
      '<link rel=stylesheet href=lib/tideclock/tideclock.css><link rel=stylesheet href=css/main.css>',
      'lib/waves/waves.css',
      '<link rel=stylesheet href=lib/waves/waves.css><link rel=stylesheet href=lib/tideclock/tideclock.css><link rel=stylesheet href=css/main.css>',
    ],
    [
      'the stylesheets of one library keep its order',
      '<link rel=stylesheet href=lib/tideclock/tideclock.css>',
      'lib/tideclock/reset.css',
      '<link rel=stylesheet href=lib/tideclock/reset.css><link rel=stylesheet href=lib/tideclock/tideclock.css>',
    ],
    [
      'what no browser runs is not there: a type is a whole word or none (HTML 4.12.1.1)',
      '<body><script src=js/a.js type="text/javascript; charset=utf-8"></script></body>',
      'js/a.js',
      '<body><script src=js/a.js type="text/javascript; charset=utf-8"></script><script src=js/a.js></script></body>',
    ],
    [
      'before inline styles and scripts of the head',
      `${HEAD}  <style>b{}</style>\n  <script>1</script>\n</head>`,
      'css/main.css',
      `${HEAD}  <link rel="stylesheet" href="css/main.css">\n  <style>b{}</style>\n  <script>1</script>\n</head>`,
    ],
    [
      'tabs, single quotes and CRLF stay what they are',
      "<html>\r\n<head>\r\n\t<link rel='icon' href='i.svg'>\r\n</head>\r\n",
      'css/main.css',
      "<html>\r\n<head>\r\n\t<link rel='icon' href='i.svg'>\r\n\t<link rel='stylesheet' href='css/main.css'>\r\n</head>\r\n",
    ],
    [
      'capitals and closed tags too',
      '<HEAD><META CHARSET="utf-8" /><LINK REL="icon" HREF="i.svg" /></HEAD>',
      'css/main.css',
      '<HEAD><META CHARSET="utf-8" /><LINK REL="icon" HREF="i.svg" /><LINK REL="stylesheet" HREF="css/main.css" /></HEAD>',
    ],
    [
      'from a page deeper down',
      '<title>x</title>\n',
      'css/a b.css',
      '<title>x</title>\n<link rel="stylesheet" href="../../css/a%20b.css">\n',
      { file: 'piers/north/index.html' },
    ],
    [
      'from a page with a base of its own',
      '<base href="../"><title>x</title>',
      'css/main.css',
      '<base href="../"><title>x</title><link rel="stylesheet" href="css/main.css">',
      { file: 'piers/north.html' },
    ],
    [
      'an empty head',
      '<html><head></head></html>',
      'a.css',
      '<html><head><link rel="stylesheet" href="a.css"></head></html>',
    ],
    [
      'an empty head on lines of its own',
      '<html>\n<head>\n</head>\n</html>',
      'a.css',
      '<html>\n<head>\n  <link rel="stylesheet" href="a.css">\n</head>\n</html>',
    ],
    [
      'no head at all',
      '<!doctype html>\n<p>x',
      'a.css',
      '<!doctype html>\n<link rel="stylesheet" href="a.css">\n<p>x',
    ],
    ['nothing at all', '', 'a.css', '<link rel="stylesheet" href="a.css">\n'],
    [
      'a byte order mark stays first',
      '\uFEFF<p>x',
      'a.css',
      '\uFEFF<link rel="stylesheet" href="a.css">\n<p>x',
    ],
    [
      'what a comment or a template holds does not count',
      '<title>x</title><!-- <link rel=stylesheet href=a.css> --><template><link rel=stylesheet href=a.css></template>',
      'a.css',
      '<title>x</title><link rel="stylesheet" href="a.css"><!-- <link rel=stylesheet href=a.css> --><template><link rel=stylesheet href=a.css></template>',
    ],
    [
      'a script goes to the end of the body',
      '<body>\n  <p>x</p>\n</body>\n</html>\n',
      'js/a.js',
      '<body>\n  <p>x</p>\n  <script src="js/a.js"></script>\n</body>\n</html>\n',
    ],
    [
      'after the scripts that are there',
      '<body>\n<script src="js/a.js"></script>\n</body>',
      'js/b.js',
      '<body>\n<script src="js/a.js"></script>\n<script src="js/b.js"></script>\n</body>',
    ],
    [
      'not into the middle of the text',
      '<body>\n  <script src="js/a.js"></script>\n  <p>x</p>\n</body>',
      'js/b.js',
      '<body>\n  <script src="js/a.js"></script>\n  <p>x</p>\n  <script src="js/b.js"></script>\n</body>',
    ],
    [
      "a library's script before one's own, wherever that is",
      '<head><script src="js/own.js" defer></script></head>',
      'lib/tideclock/tideclock.js',
      '<head><script src="lib/tideclock/tideclock.js" defer></script><script src="js/own.js" defer></script></head>',
    ],
    [
      'scripts that wait for nobody do not count',
      '<head><script src="js/count.js" async></script></head><body></body>',
      'js/a.js',
      '<head><script src="js/count.js" async></script></head><body><script src="js/a.js"></script></body>',
    ],
    [
      'such a script is there already',
      '<head><script src="js/a.js" async></script></head><body></body>',
      'js/a.js',
      '<head><script src="js/a.js" async></script></head><body></body>',
    ],
    [
      'what a drawing holds does not count',
      '<title>x</title><svg><style>b{}</style><script href="js/a.js"/></svg>',
      'js/a.js',
      '<title>x</title><svg><style>b{}</style><script href="js/a.js"/></svg>\n<script src="js/a.js"></script>',
    ],
    [
      'before inline code of the body',
      '<body>\n  <script>Tideclock.start()</script>\n</body>',
      'lib/tideclock/tideclock.js',
      '<body>\n  <script src="lib/tideclock/tideclock.js"></script>\n  <script>Tideclock.start()</script>\n</body>',
    ],
    [
      'not before inline code of the head that needs no library',
      '<head><script>document.documentElement.className = "js"</script></head><body></body>',
      'lib/tideclock/tideclock.js',
      '<head><script>document.documentElement.className = "js"</script></head><body><script src="lib/tideclock/tideclock.js"></script></body>',
    ],
    [
      'after what other hosts hold',
      '<body><script src="https://gullhaven.example/x.js"></script></body>',
      'lib/buoys/buoys.js',
      '<body><script src="https://gullhaven.example/x.js"></script><script src="lib/buoys/buoys.js"></script></body>',
    ],
    [
      'own code waits where its library does',
      '<head><script src="lib/waves/waves.js" defer></script></head><body></body>',
      'js/a.js',
      '<head><script src="lib/waves/waves.js" defer></script><script src="js/a.js" defer></script></head><body></body>',
      { go: 'end-of-body' },
    ],
    [
      'deferred in the head where the project says so',
      `${HEAD}  <link rel="stylesheet" href="a.css">\n</head>\n<body>\n</body>`,
      'js/a.js',
      `${HEAD}  <link rel="stylesheet" href="a.css">\n  <script src="js/a.js" defer></script>\n</head>\n<body>\n</body>`,
      { go: 'deferred-head' },
    ],
    [
      'a module',
      '<head><title>x</title></head>',
      'js/a.mjs',
      '<head><title>x</title><script type="module" src="js/a.mjs"></script></head>',
    ],
    [
      'a module that is called script',
      '<head><title>x</title></head>',
      'js/a.js',
      '<head><title>x</title><script type="module" src="js/a.js"></script></head>',
      { kind: 'module' },
    ],
    [
      'a page of frames has no body',
      '<head><title>x</title></head><frameset><frame src="a.html"></frameset>',
      'js/a.js',
      '<head><title>x</title><script src="js/a.js" defer></script></head><frameset><frame src="a.html"></frameset>',
    ],
    [
      'an icon before the stylesheets',
      '<title>x</title><link rel="stylesheet" href="a.css">',
      'icon.svg',
      '<title>x</title><link rel="icon" href="icon.svg" type="image/svg+xml"><link rel="stylesheet" href="a.css">',
    ],
    [
      'an icon for home screens',
      '<title>x</title>',
      'apple-touch-icon.png',
      '<title>x</title><link rel="apple-touch-icon" href="apple-touch-icon.png" type="image/png">',
    ],
    [
      'a manifest',
      '<title>x</title>',
      'app.webmanifest',
      '<title>x</title><link rel="manifest" href="app.webmanifest">',
    ],
    [
      'a font, preloaded',
      '<title>x</title><link rel="stylesheet" href="a.css">',
      'fonts/sail.woff2',
      '<title>x</title><link rel="preload" href="fonts/sail.woff2" as="font" type="font/woff2" crossorigin><link rel="stylesheet" href="a.css">',
    ],
    [
      'a second manifest is refused',
      '<link rel=manifest href=a.webmanifest>',
      'b.webmanifest',
      'it has a manifest already; a page can have one only',
    ],
    [
      'a base on another host is respected',
      '<base href="https://gullhaven.example/">',
      'a.css',
      'its base address lies on another host',
    ],
    [
      'one build takes the place of the other, and of what the other was held to',
      '<p>\n<script src=lib/tideclock/tideclock.min.js integrity="sha256-x" defer></script>\n',
      'lib/tideclock/tideclock.js',
      '<p>\n<script src="lib/tideclock/tideclock.js" defer></script>\n',
    ],
    [
      'a file of another host comes before all that the site has',
      '<script src="https://other.example/a.js"></script><script src="js/app.js"></script>',
      'https://cdn.gullhaven.example/tide.js?v=1&b',
      '<script src="https://other.example/a.js"></script><script src="https://cdn.gullhaven.example/tide.js?v=1&amp;b"></script><script src="js/app.js"></script>',
    ],
    [
      'and is there once',
      '<link rel="stylesheet" href="//cdn.gullhaven.example/tide.css">',
      '//cdn.gullhaven.example/tide.css',
      '<link rel="stylesheet" href="//cdn.gullhaven.example/tide.css">',
    ],
  ];
  for (const [what, before, path, after, how] of rows) assert.equal(wired(before, path, how), after, what);
});

test('a file of another host is held to its bytes, now or later', () => {
  const HOST = 'https://cdn.gullhaven.example';
  const hold = (before: string, path: string, integrity: string | undefined) => {
    const kind = path.endsWith('.css') ? 'stylesheet' : 'script';
    const { bytes } = wireAll(
      openPage('a.html', bytesOf(before)),
      [{ kind, path: HOST + path, integrity }],
      settings(),
    );
    return bytes === null ? null : text(bytes);
  };
  const plain = `<script src="${HOST}/a.js"></script>`;
  const held = `<script src="${HOST}/a.js" integrity="sha384-b" crossorigin="anonymous"></script>`;
  const rows: readonly (readonly [
    before: string,
    path: string,
    integrity: string | undefined,
    after: string | null,
  ])[] = [
    ['<p>x', '/a.js', 'sha384-b', `<p>x\n${held}`],
    [
      '<title>x</title>',
      '/a.css',
      'sha384-b',
      `<title>x</title><link rel="stylesheet" href="${HOST}/a.css" integrity="sha384-b" crossorigin="anonymous">`,
    ],
    [plain, '/a.js', 'sha384-b', held],
    [held, '/a.js', 'sha384-b', null],
    [held, '/a.js', undefined, null],
    [held, '/a.js', 'sha384-c', held.replace('-b', '-c')],
    [
      `<script crossorigin src=${HOST}/a.js></script>`,
      '/a.js',
      'sha384-b',
      `<script crossorigin src=${HOST}/a.js integrity="sha384-b"></script>`,
    ],
  ];
  for (const [before, path, integrity, after] of rows)
    assert.equal(hold(before, path, integrity), after, before);
});

test('pages in other encodings keep every byte', () => {
  const page = '<!doctype html>\n<meta charset="utf-16le">\n<title>Fähre ⛴</title>\n<p>Grüße';
  const utf16 = new Uint8Array([
    0xff,
    0xfe,
    ...new Uint8Array(Uint16Array.from(page, (unit) => unit.charCodeAt(0)).buffer),
  ]);
  const latin = Uint8Array.from('<meta charset="windows-1252">\n<title>Fähre</title>\n<p>Grüße', (unit) =>
    unit.charCodeAt(0),
  );
  for (const [bytes, label] of [
    [utf16, 'utf-16le'],
    [latin, 'windows-1252'],
  ] as const) {
    const wiring = { kind: 'stylesheet', path: 'a.css' } as const;
    const after = wire(openPage('a.html', bytes), wiring, settings()) as Uint8Array;
    const [old, now] = [bytes, after].map((content) => new TextDecoder(label).decode(content));
    assert.equal(now, old?.replace('</title>\n', '</title>\n<link rel="stylesheet" href="a.css">\n'));
    assert.deepEqual(unwire(openPage('a.html', after), [wiring], settings()), bytes);
  }
});

/** Pages of all manners: with and without head, body, lines, quotes and files that are wired already. */
const pages = fc
  .record({
    doctype: fc.constantFrom('', '<!doctype html>'),
    gap: fc.constantFrom('', '\n', '\r\n', '\n  ', '\n\t'),
    head: fc.constantFrom(['<head>', '</head>'], ['', '']),
    body: fc.constantFrom(['<body>', '</body>'], ['<body>', ''], ['', '']),
    early: fc.subarray([
      '<meta charset=utf-8>',
      '<title>Ü</title>',
      "<link rel='stylesheet' href='css/main.css'>",
      '<style>b{}</style>',
      '<script defer src="lib/waves/waves.js"></script>',
      '<!-- <head> -->',
    ]),
    late: fc.subarray([
      '<p>Fähre</p>',
      '<script src=js/own.js></script>',
      '<script>Tideclock()</script>',
      '<main>x</main>',
      '<script src="lib/tideclock/tideclock.js"></script>',
    ]),
    end: fc.constantFrom('', '\n', '</html>', '\n</html>\n'),
  })
  .map(({ doctype, gap, head, body, early, late, end }) =>
    [doctype, head[0], ...early, head[1], body[0], ...late, body[1], end]
      .filter((piece) => piece !== '')
      .join(gap),
  );
const files = fc.constantFrom(
  'css/print.css',
  'lib/waves/waves.css',
  'js/more.js',
  'lib/buoys/buoys.js',
  'js/more.mjs',
  'icon.svg',
  'app.webmanifest',
  'fonts/a.woff2',
);
const places = fc.constantFrom<ScriptPlace | undefined>('end-of-body', 'deferred-head', 'any', undefined);

test('wiring again changes nothing, taking out again gives the page back, and nothing else of the page moves', () => {
  fc.assert(
    fc.property(pages, files, places, (page, path, go) => {
      const kind = kindOfFile(path) as WireKind;
      const once = wired(page, path, go === undefined ? {} : { go });
      assert.notEqual(once, page);
      assert.equal(wired(once, path, go === undefined ? {} : { go }), once, 'again');
      const back = unwire(openPage('index.html', bytesOf(once)), [{ path, kind }], settings(go));
      assert.equal(text(back as Uint8Array), page, 'out again');
      // A browser sees the same page with one more element.
      const { reading } = openPage('index.html', bytesOf(once));
      assert.equal(reading.references.filter(({ written }) => written === path).length, 1);
      assert.ok(serialize(parse(once)).length > serialize(parse(page)).length);
    }),
    { numRuns: 500 },
  );
});

test('libraries and own files end up in order, whatever order they are wired in', () => {
  const all = [
    'css/main.css',
    'lib/waves/waves.css',
    'lib/tideclock/reset.css',
    'lib/tideclock/tideclock.css',
    'js/own.js',
    'lib/waves/waves.js',
    'lib/tideclock/tideclock.js',
  ];
  const { order } = settings();
  fc.assert(
    fc.property(fc.shuffledSubarray(all), places, (paths, go) => {
      const page = paths.reduce(
        (before, path) => wired(before, path, go === undefined ? {} : { go }),
        `${HEAD}</head>\n<body>\n  <p>x</p>\n</body>\n</html>\n`,
      );
      const { references } = openPage('index.html', bytesOf(page)).reading;
      for (const kind of ['stylesheet', 'script']) {
        const ranks = references
          .filter((reference) => reference.kind === kind)
          .map(({ written }) => order.rankOf(written));
        assert.deepEqual(
          ranks,
          ranks.toSorted((a, b) => (a === b ? 0 : a - b)),
          page,
        );
      }
    }),
    { numRuns: 200 },
  );
});

test('several files wired at once stand in the order that they would have one after the other', () => {
  const apart = (page: string) => page.replace(/>\s+</g, '><');
  const own = fc.constantFrom('css/a.css', 'css/b.css', 'js/a.js', 'js/b.js', 'js/a.mjs', 'fonts/b.woff2');
  const wirings = fc.uniqueArray(fc.oneof(files, own), { maxLength: 10 });
  fc.assert(
    fc.property(
      pages.filter((page) => page.includes('<body>')),
      wirings,
      places,
      (page, paths, go) => {
        const how = go === undefined ? {} : { go };
        const { bytes } = wireAll(
          openPage('index.html', bytesOf(page)),
          paths.map((path) => ({ path, kind: kindOfFile(path) as WireKind })),
          settings(go),
        );
        const { rankOf } = settings().order;
        const families = [
          ...new Set(paths.map((path) => familyOf(kindOfFile(path.replace(/\?.*/, '')) as WireKind))),
        ];
        const familyRank = (path: string) =>
          families.indexOf(familyOf(kindOfFile(path.replace(/\?.*/, '')) as WireKind));
        const inOrder = paths.toSorted((a, b) => familyRank(a) - familyRank(b) || rankOf(a) - rankOf(b));
        const oneByOne = inOrder.reduce((before, path) => wired(before, path, how), page);
        assert.equal(apart(bytes === null ? page : text(bytes)), apart(oneByOne), JSON.stringify(paths));
      },
    ),
    { numRuns: 500 },
  );
});

test('deferred files stand in the order given, also before a script that does not wait', () => {
  const page = `${HEAD}</head>\n<body>\n  <script src="js/own.js"></script>\n</body>\n</html>\n`;
  const paths = ['js/a.js', 'js/b.js', 'js/c.js'];
  const oneByOne = paths.reduce((before, path) => wired(before, path, { go: 'deferred-head' }), page);
  const lines = paths.map((path) => `  <script src="${path}" defer></script>\n`);
  assert.equal(oneByOne, page.replace('</head>', `${lines.join('')}</head>`));
});

test('a page whose end is swallowed is left alone, since nothing that is put in would load', () => {
  const start = '<!doctype html><html lang="en"><head><meta charset="utf-8">';
  const rows: readonly (readonly [rest: string, why: RegExp | null])[] = [
    ['<title>Ferry</head><body></body></html>', /inside of <title>, which is never closed/],
    ['<title>x</title><style>a{}</head><body></body></html>', /inside of <style>, which/],
    ['<title>x</title><body><p>a<!-- open', /inside of a comment or a tag/],
    ['<title>x</title><body><p>a<a href="x>b</a>', /inside of a comment or a tag/],
    ['<title>x</title><body><p>a<noscript><p>b</body>', /inside of <noscript>, which/],
    ['<title>x</title><body><p>a', null],
    ['<title>x</title><body><noscript><iframe src=b.html></noscript><p>a', null],
    ['<title>x</title><body><p>a<!-- b --></p>', null],
  ];
  for (const [rest, why] of rows) {
    const { bytes, left } = wireAll(
      openPage('index.html', bytesOf(start + rest)),
      [{ path: 'js/a.js', kind: 'script' }],
      settings('end-of-body'),
    );
    if (why === null) assert.match(text(bytes as Uint8Array), /<script src="js\/a\.js">/, rest);
    else assert.match(left[0]?.why ?? '', why, rest);
    assert.equal(bytes === null, why !== null, rest);
  }
});

test('several files wired at once get a line each', () => {
  const page = `${HEAD}</head>\n<body>\n  <p>x</p>\n</body>\n</html>\n`;
  const wirings = ['css/a.css', 'css/b.css', 'js/a.js', 'js/b.js'].map((path) => ({
    path,
    kind: kindOfFile(path) as WireKind,
  }));
  const { bytes } = wireAll(openPage('index.html', bytesOf(page)), wirings, settings());
  const links =
    '  <link rel="stylesheet" href="css/a.css">\n  <link rel="stylesheet" href="css/b.css">\n</head>';
  const scripts = '  <script src="js/a.js"></script>\n  <script src="js/b.js"></script>\n</body>';
  assert.equal(text(bytes as Uint8Array), page.replace('</head>', links).replace('</body>', scripts));
});

test('a name that every object has tells nothing of a file', () => {
  for (const name of ['constructor', 'a.constructor', 'a.toString', '__proto__'])
    assert.equal(kindOfFile(name), null);
});

test('a script goes where its needs are met: after what it uses, before what uses it', () => {
  const body = (...sources: readonly string[]) =>
    `<body>\n${sources.map((source) => (source.startsWith('<') ? `${source}\n` : `<script src="${source}"></script>\n`)).join('')}</body>\n`;
  const wireSome = (before: string, paths: readonly string[], beside?: WireSettings['beside']) => {
    const { bytes, left, moved } = wireAll(
      openPage('index.html', bytesOf(before)),
      paths.map((path) => ({ path, kind: 'script' as const })),
      { ...settings(), beside },
    );
    return [bytes === null ? before : text(bytes), left.map(({ why }) => why), moved];
  };
  const rows: readonly (readonly [
    before: string,
    paths: readonly string[],
    after: string,
    moved?: readonly string[],
  ])[] = [
    [body('js/use.js'), ['js/make.js'], body('js/make.js', 'js/use.js')],
    [body('js/make.js'), ['js/use.js'], body('js/make.js', 'js/use.js')],
    [body('js/other.js'), ['js/make.js'], body('js/other.js', 'js/make.js')],
    [body('<script>Tides.x;</script>'), ['js/make.js'], body('js/make.js', '<script>Tides.x;</script>')],
    // Several at once are in order among themselves.
    [
      body('js/a.js'),
      ['js/end.js', 'js/both.js', 'js/make.js'],
      body('js/a.js', 'js/make.js', 'js/both.js', 'js/end.js'),
    ],
    // What stands in a wrong order is moved.
    [body('js/use.js', 'js/make.js'), ['js/make.js'], body('js/make.js', 'js/use.js'), ['js/make.js']],
    [
      body('js/use.js', '<script defer src="js/make.js"></script>'),
      ['js/make.js'],
      body('js/make.js', 'js/use.js'),
      ['js/make.js'],
    ],
    [body('js/make.js', 'js/use.js'), ['js/make.js'], body('js/make.js', 'js/use.js')],
  ];
  for (const [before, paths, after, moved = []] of rows)
    assert.deepEqual(wireSome(before, paths), [after, [], moved], `${before} ${paths}`);
  const chosen = (path: string, side: 'before' | 'after') =>
    wireSome(body('js/a.js', 'js/b.js'), ['js/other.js'], { path, side });
  assert.deepEqual(chosen('js/b.js', 'before')[0], body('js/a.js', 'js/other.js', 'js/b.js'));
  assert.deepEqual(chosen('js/a.js', 'after')[0], body('js/a.js', 'js/other.js', 'js/b.js'));
  assert.deepEqual(chosen('js/none.js', 'after'), [
    body('js/a.js', 'js/b.js'),
    ['it does not load js/none.js'],
    [],
  ]);
});
