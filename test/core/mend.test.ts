/** Mending: what is found is settled, nothing is found that was not, and no other byte is touched. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import type { Finding } from '../../src/core/report.ts';
import { type Mending, mended } from '../support/mended.ts';
import { around, carriers, oddAddress } from '../support/odd-addresses.ts';
import { bytesOf, type Files } from '../support/site.ts';

const head = '<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Ferry</title>';
const image = '<svg xmlns="http://www.w3.org/2000/svg"/>';

/** What stands in the index page, and what after mending; what else the site has. */
const rows: readonly (readonly [
  about: string,
  before: string,
  after: string,
  files?: Files,
  mending?: Mending,
])[] = [
  [
    'a path that starts from the wrong folder',
    '<img src="../images/p.svg">',
    '<img src="images/p.svg">',
    { 'images/p.svg': image },
  ],
  ['letter case', '<img src=images/P.svg>', '<img src=images/p.svg>', { 'images/p.svg': image }],
  ['slashes', '<img src="images\\p.svg">', '<img src="images/p.svg">', { 'images/p.svg': image }],
  [
    'letters of other scripts',
    '<a href="宿.html">x</a>',
    '<a href="%E5%AE%BF.html">x</a>',
    { '宿.html': `${head}</head>x` },
  ],
  ['a misspelt attribute', '<img scr="p.svg">', '<img src="p.svg">', { 'p.svg': image }],
  [
    'a misspelt element',
    '<scirpt src="a.js"></scirpt>',
    '<script src="a.js"></script>',
    { 'a.js': 'x = 1;' },
    { only: ['without-effect', 'swallowed'] },
  ],
  [
    'addresses without a scheme',
    '<a href="www.gullhaven.example">w</a><a href="crew@gullhaven.example">m</a>',
    '<a href="https://www.gullhaven.example">w</a><a href="mailto:crew@gullhaven.example">m</a>',
  ],
  [
    'a spot that is nearly there',
    '<a href="#Tides">t</a><p id="tides">',
    '<a href="#tides">t</a><p id="tides">',
  ],
  [
    'the same file on a disk',
    '<img src="C:\\site\\images\\p.svg">',
    '<img src="images/p.svg">',
    { 'images/p.svg': image },
  ],
  [
    'two of one script',
    '<script src="a.js"></script><p>x</p><script src="a.js"></script>',
    '<script src="a.js"></script><p>x</p>',
    { 'a.js': 'x = 1;' },
  ],
  ['a comment that is left open is not guessed at', '<!-- x <p>y', '<!-- x <p>y'],
  [
    'from the root, where somebody wants it so',
    '<img src="/p.svg"><img src="/p.svg?x#y">',
    '<img src="p.svg"><img src="p.svg?x#y">',
    { 'p.svg': image },
    { guesses: true, only: ['from-root'] },
  ],
  [
    'guesses stay where nobody asks for them',
    '<img src="old-pier.svg">',
    '<img src="old-pier.svg">',
    { 'pier.svg': image },
  ],
  [
    'what is loaded twice then is taken out',
    '<script src="a.js"></script><script src="A.js"></script>',
    '<script src="a.js"></script>',
    { 'a.js': 'x = 1;' },
  ],
];

const decoder = new TextDecoder('utf-8', { ignoreBOM: true });
const about = '<meta name="description" content="x"><meta name="viewport" content="width=device-width">';
const page = (body: string) => `${head}${about}</head><body>\n${body}\n</body></html>`;

test('each sort of mistake is mended, and mending again does nothing', async () => {
  for (const [what, before, after, files = {}, mending] of rows) {
    const site = { ...files, 'index.html': page(before) };
    const first = await mended(site, mending);
    assert.equal(decoder.decode(first.site['index.html']), page(after), what);
    const again = await mended(first.site, mending);
    assert.deepEqual([again.done, again.site], [[], first.site], what);
  }
});

test('what a page lacks is put where it belongs, in the manner of the page', async () => {
  const bare =
    '<html>\n<head>\n\t<title>Ferry</title>\n</head>\n<body>\n\t<link rel=stylesheet href=a.css>\n\t<p>x</p>\n</body>\n</html>\n';
  const { site } = await mended({ 'index.html': bare, 'a.css': 'b{}' });
  assert.equal(
    decoder.decode(site['index.html']),
    '<!doctype html>\n<html lang="en">\n<head>\n\t<meta charset=utf-8>\n\t<title>Ferry</title>\n\t<meta name=viewport content="width=device-width, initial-scale=1">\n\t<link rel=stylesheet href=a.css>\n</head>\n<body>\n\t<p>x</p>\n</body>\n</html>\n',
  );
  // No tag that the parser adds is needed for it; a page in another encoding is not called UTF-8.
  const rows: readonly (readonly [before: string | Uint8Array, after: string])[] = [
    ['<p>x', '<!doctype html>\n<html lang="en">\n<meta charset="utf-8">\n<p>x'],
    [Uint8Array.from([0x3c, 0x70, 0x3e, 0xe9]), '<p>\ufffd'],
    [
      `<!-- ${'x'.repeat(900)} --><html><head><title>x</title>${' '.repeat(200)}<meta charset=utf-8>`,
      `<!-- ${'x'.repeat(900)} --><html><head><meta charset=utf-8><title>x</title>${' '.repeat(200)}`,
    ],
  ];
  for (const [before, after] of rows) {
    const only = [
      'lacks-charset',
      'late-charset',
      ...(typeof before === 'string' && before.length < 9 ? ['lacks-doctype', 'lacks-language'] : []),
    ];
    const outcome = await mended({ 'index.html': before, 'b.html': page('') }, { only });
    assert.equal(decoder.decode(outcome.site['index.html']), after);
  }
});

test('what only a person knows is asked, and written as it is said', async () => {
  const whole = (title: string, more: string) =>
    `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>${title}</title>${more}<meta name="viewport" content="x"></head><body></body></html>`;
  const answers = { 'placeholder-title': 'Tides & fares', 'lacks-description': 'All "tides".' };
  const rows: readonly (readonly [before: string, after: string])[] = [
    [
      whole('Untitled', ''),
      whole('Tides &amp; fares', '<meta name="description" content="All &quot;tides&quot;.">'),
    ],
    [
      whole('Ferry', '<meta name=description content="">'),
      whole('Ferry', '<meta name="description" content="All &quot;tides&quot;.">'),
    ],
  ];
  for (const [before, after] of rows) {
    const { site } = await mended({ 'index.html': before }, { answers });
    assert.equal(decoder.decode(site['index.html']), after);
    const silent = await mended({ 'index.html': before });
    assert.equal(decoder.decode(silent.site['index.html']), before);
  }
});

test('a mend goes by what stands around it', async () => {
  const link = (name: string) => `<link rel="stylesheet" href="${name}.css">`;
  const whole = (inHead: string, body = '', start = '<!doctype html><html lang="en"><head>') =>
    `${start}<meta charset="utf-8"><title>Ferry</title>${about}${inHead}</head><body>${body}</body></html>`;
  const [a, b, style] = [link('a'), link('b'), '<style>i{}</style>'];
  const script = '<script src="a.js"></script>';
  const asked = { answers: { 'lacks-description': 'Tides', 'placeholder-title': 'Tides' } };
  const viewport = '<meta name="viewport" content="width=device-width, initial-scale=1">';
  const rows: readonly (readonly [rule: string, before: string, after: string, mending?: Mending])[] = [
    ['twice', whole(a + a), whole(a)],
    ['twice', whole(b + a + a), whole(b + a)],
    ['twice', whole(a + a + b), whole(a + b)],
    ['twice', whole(style + a + a + style), whole(style + a + style)],
    ['twice', whole(a + b + a), whole(a + b + a)],
    ['twice', whole(a + style + a), whole(a + style + a)],
    ['twice', whole(a + b + a), whole(a + b), { guesses: true }],
    ['twice', whole('', script + style + script), whole('', script + style)],
    ['late-stylesheet', whole('', a), whole(a)],
    ['late-stylesheet', whole(style, `${a}<p>x</p>${style}`), whole(style + a, `<p>x</p>${style}`)],
    ['late-stylesheet', whole('', style + a), whole('', style + a)],
    ['late-stylesheet', whole('', style + a), whole(a, style), { guesses: true }],
    [
      'lacks-viewport',
      '<!doctype html><html lang="en"><head><meta charset="utf-8"><title>x</title></head>x',
      `<!doctype html><html lang="en"><head><meta charset="utf-8">${viewport}<title>x</title></head>x`,
    ],
    [
      'lacks-viewport',
      '<!doctype html><html lang="en"><head><title>x</title></head><body><meta charset="utf-8">x',
      `<!doctype html><html lang="en"><head><title>x</title>${viewport}</head><body><meta charset="utf-8">x`,
    ],
    [
      'lacks-description',
      '<!doctype html><html><head><meta name="author" content="Ida"><meta NAME="Description" content=" "></head>x',
      '<!doctype html><html><head><meta name="author" content="Ida"><meta name="description" content="Tides"></head>x',
      asked,
    ],
    [
      'lacks-description',
      '<!doctype html><html><head><meta name="author" content="Ida"></head><svg><title>y</title></svg>',
      '<!doctype html><html><head><meta name="author" content="Ida"><meta name="description" content="Tides"></head><svg><title>y</title></svg>',
      asked,
    ],
    [
      'lacks-description',
      '<!doctype html><html><head><title>y</title><style></style></head>x',
      '<!doctype html><html><head><title>y</title><meta name="description" content="Tides"><style></style></head>x',
      asked,
    ],
    [
      'lacks-language',
      '<!doctype html><html lang=" " class=x><title>x</title>',
      '<!doctype html><html lang="en" class=x><title>x</title>',
      { guesses: true },
    ],
    [
      'lacks-language',
      '<!doctype html><html class=x><title>x</title>',
      '<!doctype html><html class=x><title>x</title>',
      { language: null },
    ],
    [
      'lacks-language',
      '<!doctype html><html class=x><title>x</title>',
      '<!doctype html><html class=x lang="da"><title>x</title>',
      { language: 'da' },
    ],
    [
      'lacks-language',
      '<!doctype html><title>x</title>',
      '<!doctype html>\n<html lang="en"><title>x</title>',
      { language: null, guesses: true },
    ],
    ['lacks-language', '<title>x</title>', '<html lang="en">\n<title>x</title>', { guesses: true }],
    ['lacks-doctype', '<HTML><TITLE>x</TITLE>', '<!DOCTYPE html>\n<HTML><TITLE>x</TITLE>'],
    ['lacks-doctype', '\ufeff<p>x', '\ufeff<!doctype html>\n<p>x'],
    ['lacks-doctype', 'X', '<!doctype html>\nX'],
    [
      'placeholder-title',
      '<!doctype html><html><head><meta charset="utf-8"></head><svg><title>y</title></svg>',
      '<!doctype html><html><head><meta charset="utf-8"><title>Tides</title></head><svg><title>y</title></svg>',
      asked,
    ],
    [
      'placeholder-title',
      '<!doctype html><html><head><title></title></head>x',
      '<!doctype html><html><head><title>Tides</title></head>x',
      asked,
    ],
    ['without-effect', page('<SCIRPT SRC=a.js></SCIRPT>'), page('<script SRC=a.js></script>')],
    ['without-effect', page('<scirpt src=a.js>'), page('<scirpt src=a.js>')],
    [
      'without-effect',
      page('<scirpt src=a.js></scirpt><scirpt src=b.js></scirpt>'),
      page('<script src=a.js></script><script src=b.js></script>'),
    ],
  ];
  const files = { 'a.css': 'b{}', 'b.css': 'u{}', 'a.js': 'x = 1;', 'b.js': 'y = 1;' };
  for (const [rule, before, after, mending] of rows) {
    const { site } = await mended({ ...files, 'index.html': before }, { only: [rule], ...mending });
    assert.equal(decoder.decode(site['index.html']), after, `${rule}: ${before}`);
  }
});

test('what a mend brings along is mended as well', async () => {
  const whole = (inHead: string, body: string) =>
    `${head}${about}${inHead}</head><body>${body}</body></html>`;
  const files = { 'index.html': whole('', '<link rel="styleshet" href="a.css">'), 'a.css': 'b{}' };
  const { site } = await mended(files);
  assert.equal(decoder.decode(site['index.html']), whole('<link rel="stylesheet" href="a.css">', ''));
  const only = await mended(files, { only: ['without-effect'] });
  assert.deepEqual(
    [only.withheld.map(({ brings }) => brings.rule), decoder.decode(only.site['index.html'])],
    [['late-stylesheet'], files['index.html']],
  );
});

test('scripts wait only where nothing is missed by that', async () => {
  const rows: readonly (readonly [before: string, after: string])[] = [
    ['<script src=a.js></script>', '<script src=a.js defer></script>'],
    // What runs behind it needs it at once.
    [
      '<script src=a.js></script><script>make();</script>',
      '<script src=a.js></script><script>make();</script>',
    ],
    // What writes into the page stays.
    ['<script src=w.js></script>', '<script src=w.js></script>'],
  ];
  for (const [before, after] of rows) {
    const files = { 'a.js': 'function make() {}', 'w.js': 'document.write("x");' };
    const whole = (scripts: string) => `${head}${about}${scripts}</head><body></body></html>`;
    const { site } = await mended({ ...files, 'index.html': whole(before) });
    assert.equal(decoder.decode(site['index.html']), whole(after));
  }
});

test('a stylesheet takes effect: imports in front, quotes as they are known', async () => {
  const before =
    '@charset "utf-8";\r\n/* x */\r\n@import "b.css";\r\ni { color: red }\r\n  @import "c.css" screen;\r\n@import d.css;\r\na { content: “x” }\r\n';
  const after =
    '@charset "utf-8";\r\n/* x */\r\n@import "b.css";\r\n@import "c.css" screen;\r\n@import "d.css";\r\ni { color: red }\r\na { content: "x" }\r\n';
  const files = {
    'index.html': page('').replace('</head>', '<link rel=stylesheet href=a.css></head>'),
    'b.css': 'b{}',
    'c.css': 'b{}',
    'd.css': 'b{}',
  };
  const { site } = await mended({ ...files, 'a.css': before });
  assert.equal(decoder.decode(site['a.css']), after);
});

test('a mend that would bring what was not there is withheld, and told with what it would bring', async () => {
  const files = {
    'index.html': page(
      '<img src="pier.svg"><a href="Fares.html#bikes">f</a><script src="a.js"></script><script src="A.js"></script>',
    ),
    'images/pier.svg': image,
    'fares.html': page('<p id="bicycles">'),
    'a.js': 'x = 1;',
  };
  const { withheld, done, before, left } = await mended(files, { only: ['absent', 'letter-case'] });
  assert.deepEqual(
    withheld.map(({ mend, brings }) => [mend.title, brings.rule]),
    [['write a.js', 'twice']],
  );
  assert.ok(done.some(({ written }) => written === 'pier.svg'));
  const keys = new Set(before.map(({ rule, file, written }) => [rule, file, written].join(' ')));
  for (const { rule, file, written } of left) assert.ok(keys.has([rule, file, written].join(' ')), rule);
});

test('bytes outside of edits stay: marks, line ends, encodings', async () => {
  const latin = Uint8Array.from(
    [
      ...'<!doctype html><html lang="en"><head><meta charset=latin1><title>\xe9</title></head>\r\n<img src=P.svg>\r',
    ].map((one) => one.charCodeAt(0)),
  );
  const wide = Buffer.from(`\ufeff${page('<img src="P.svg">')}`, 'utf16le');
  const { site } = await mended(
    {
      'index.html': latin,
      'wide.html': wide,
      'mark.html': `\ufeff${page('<img src=P.svg>')}`,
      'p.svg': image,
    },
    { only: ['letter-case'] },
  );
  const text = (path: string) => Buffer.from(bytesOf(site[path] as Uint8Array));
  assert.equal(
    text('index.html').toString('latin1'),
    Buffer.from(latin).toString('latin1').replace('P.svg', 'p.svg'),
  );
  assert.equal(text('wide.html').toString('utf16le'), wide.toString('utf16le').replace('P.svg', 'p.svg'));
  assert.equal(text('mark.html').toString(), `\ufeff${page('<img src=p.svg>')}`);
});

/** What people get wrong about scripts, stylesheets and spots. */
const wrong = [
  '<title>A</title><link rel=styleshet href=css/b.css>',
  '<script src=js/u.js></script><script src=js/l.js></script>',
  '<link rel=stylesheet src="css/b.css"><p id=go>',
  '<scirpt src=js/l.js></scirpt>',
  '<script src=js/e.js></script><p id=go>',
  '<body><link rel=stylesheet href=css/B.css>',
  '<script async src=js/u.js></script><script src=js/l.js></script>',
  '<img scr=images/pier.svg>',
  '<style>i{} @import "css/b.css"; u{content:“x”}</style>',
  '<a href="www.gullhaven.example">x</a><a href="#Day">x</a><p id=day>',
  '<script src=js/l.js></script><script src=js/L.js></script>',
];
const beside: Files = {
  ...around,
  'css/b.css': 'i{}',
  'js/u.js': 'Tide.go()',
  'js/l.js': 'var Tide = { go() {} };',
  'js/e.js': 'document.getElementById("go").hidden = true',
};

test('whatever is wrong with a site, mending brings nothing, and mending again does nothing', async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.array(oddAddress, { maxLength: 2 }),
      fc.constantFrom(...Object.keys(carriers)),
      fc.array(fc.constantFrom(...wrong), { maxLength: 3 }),
      fc.boolean(),
      async (all, carrier, more, guesses) => {
        const home = `<!doctype html><html lang=en>${more.join('\n')}`;
        const site = { ...beside, ...carriers[carrier]?.(all), 'home.html': home };
        const first = await mended(site, { guesses });
        const amount = (findings: readonly Finding[]) =>
          findings.filter(({ grade }) => grade !== 'untidy').length;
        assert.ok(amount(first.left) <= amount(first.before), JSON.stringify(site));
        const again = await mended(first.site, { guesses });
        assert.deepEqual(
          again.done.map(({ rule, written: one }) => `${rule} ${one}`),
          [],
          JSON.stringify(site),
        );
      },
    ),
    { numRuns: Number(process.env.CRAVEL_MADE_UP ?? 100) },
  );
});
