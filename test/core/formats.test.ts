import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { allRules } from '../../src/core/judge/index.ts';
import { sniffEncoding } from '../../src/core/read/encoding.ts';
import { positionsIn } from '../../src/core/read/lines.ts';
import { readFile } from '../../src/core/read/read.ts';
import { type Reading, toldBy } from '../../src/core/read/reading.ts';
import { inWords } from '../../src/show/holder.ts';
import { bytesOf } from '../support/site.ts';

const read = (path: string, content: string | Uint8Array) => readFile(path, bytesOf(content)) as Reading;
const told = ({ references }: Reading) =>
  references.map(({ kind, holder, written }) => `${kind} ${inWords(holder)} ${written}`);

/** Each attribute, and each file format, with the references it holds. */
const rows: readonly (readonly [path: string, content: string, ...expected: string[]])[] = [
  ['sitemap.xml', '<constructor><loc>a</loc></constructor>'],
  ['feed.xml', '<__proto__ toString="a"/>'],
  ['a.svg', '<svg><constructor href="a"/></svg>', 'image constructor href a'],
  ['a.html', '<constructor href=a src=b><svg><toString href=c>', 'image tostring href c'],
  [
    'a.html',
    '<a href=a ping="b c"><area href=d>',
    'page a href a',
    'data a ping b',
    'data a ping c',
    'page area href d',
  ],
  [
    'a.html',
    '<body background=a><table background=b><tr><td background=c>',
    'image body background a',
    'image table background b',
    'image td background c',
  ],
  [
    'a.html',
    '<embed src=a><object data=b></object><object data=c type=text/html>',
    'media embed src a',
    'media object data b',
    'frame object data c',
  ],
  [
    'a.html',
    '<form action=a><input src=b formaction=c><button formaction=d>',
    'page form action a',
    'image input src b',
    'page input formaction c',
    'page button formaction d',
  ],
  [
    'a.html',
    '<q cite=a></q><blockquote cite=b></blockquote><ins cite=c></ins><del cite=d>',
    'page q cite a',
    'page blockquote cite b',
    'page ins cite c',
    'page del cite d',
  ],
  ['a.html', '<video><track src=a></video><image src=b>', 'media track src a', 'image image src b'],
  ['a.html', '<frameset><frame src=a><frame src=b></frameset>', 'frame frame src a', 'frame frame src b'],
  [
    'a.html',
    '<link rel=preload as=font href=a><link rel=modulepreload href=b><link rel=preload as=image imagesrcset="c 1x">',
    'font link href a',
    'module link href b',
    'image link imagesrcset c',
  ],
  [
    'a.html',
    '<link rel="alternate stylesheet" href=a><link rel=canonical href=b><link rel=apple-touch-icon href=c>',
    'stylesheet link href a',
    'page link href b',
    'icon link href c',
  ],
  [
    'a.html',
    '<meta http-equiv=refresh content="5; url=a"><meta http-equiv=refresh content="5"><meta http-equiv=Refresh content="0;URL=\'b c\'x">',
    'page meta refresh a',
    'page meta refresh b c',
  ],
  [
    'a.html',
    '<meta property=og:image content=a><meta name=twitter:image content=b><meta name=author content=c><meta itemprop=image content=d>',
    'image meta og:image a',
    'image meta twitter:image b',
    'image meta image d',
  ],
  ['a.html', '<p style="background:url(&quot;a.png&quot;)"><b style="color:red">', 'image url() a.png'],
  ['a.html', '<iframe srcdoc="<img src=&quot;a&amp;amp;b&quot;>"></iframe>', 'image srcdoc img src a&b'],
  [
    'a.html',
    '<svg><image href=a /><use xlink:href="b#c"/><a href=d></a><rect fill="url(e#f)" stroke="url(#g)"/></svg>',
    'image image href a',
    'image use xlink:href b#c',
    'page a href d',
    'image url() e#f',
  ],
  [
    'a.html',
    '<svg><style>p{fill:url(&quot;a.svg&quot;)}</style></svg><svg><style> <![CDATA[q{mask:url(b.svg)}]]></style><image href=c /></svg>',
    'image url() a.svg',
    'image url() b.svg',
    'image image href c',
  ],
  ['a.html', '<noscript><base href=x/><svg><image href=a /></svg></noscript>', 'image image href a'],
  [
    'a.html',
    '<template><img src=a></template><noscript><img src=b></noscript>',
    'image img src a',
    'image img src b',
  ],
  [
    'a.html',
    '<script type=importmap>{"imports":{"x":"./a.js"},"scopes":{"/s/":{"y":"b.js"}}}</script>',
    'module importmap imports ./a.js',
    'module importmap scopes b.js',
  ],
  [
    'a.html',
    '<script type=speculationrules>{"prefetch":[{"urls":["a.html","b.html"]}]}</script>',
    'page speculationrules prefetch.urls a.html',
    'page speculationrules prefetch.urls b.html',
  ],
  [
    'a.html',
    '<script type=module>import "./a.js"; fetch("b.json")</script><script type=text/x-template>import "./c.js"</script>',
    'module import ./a.js',
    'data fetch() b.json',
  ],
  [
    'a.css',
    '@import url("a.css") layer(x); p{background:image-set("b.png" 1x, url(c.png) 2x); mask: src("d.svg")}',
    'stylesheet @import a.css',
    'image image-set() b.png',
    'image url() c.png',
    'image src() d.svg',
  ],
  [
    'a.mjs',
    'import a from "./a.js"; export * from "./b.js"; export { c } from "./c.js"; import("./d.js"); import(`./e.js`); import(x)',
    'module import ./a.js',
    'module export from ./b.js',
    'module export from ./c.js',
    'module import() ./d.js',
    'module import() ./e.js',
  ],
  [
    'a.js',
    'new URL("a.png", import.meta.url); new URL("b.png", location)',
    'data new URL() a.png',
    'data new URL() b.png',
  ],
  [
    'a.js',
    'new Worker("a.js"); new SharedWorker("b.js"); importScripts("c.js", "d.js"); navigator.serviceWorker.register("/e.js"); window.fetch("f")',
    'script new Worker() a.js',
    'script new SharedWorker() b.js',
    'script importScripts() c.js',
    'script importScripts() d.js',
    'script serviceWorker.register() /e.js',
    'data fetch() f',
  ],
  ['a.js', '// import "./a.js"\nvar s = "import \'./b.js\'", r = /fetch("c")/'],
  [
    'a.svg',
    '<?xml version="1.0"?><?xml-stylesheet type="text/css" href="a.css"?><svg xmlns:xlink="x"><style><![CDATA[p{fill:url(b.svg#c)}]]></style><use xlink:href="d.svg#e"/><script href="f.js"/></svg>',
    'stylesheet xml-stylesheet href a.css',
    'image url() b.svg#c',
    'image use xlink:href d.svg#e',
    'script script href f.js',
  ],
  [
    'a.webmanifest',
    '{"start_url": "./", "icons": [{"src": "a\\u002epng", "sizes": "1x1"}], "name": "b.png"}',
    'page manifest start_url ./',
    'icon manifest icons.src a.png',
  ],
  ['manifest.json', '{"icons": [{"src": "a.png"}]}', 'icon manifest icons.src a.png'],
  [
    'sitemap.xml',
    '<urlset><url><loc>\n a.html?x&amp;y </loc><image:image><image:loc>b.png</image:loc></image:image></url></urlset>',
    'page sitemap loc a.html?x&y',
    'image sitemap image:loc b.png',
  ],
  [
    'atom.xml',
    '<feed><link rel="self" href="a.xml"/><entry><link href="b.html"/><content src="c.txt"/></entry></feed>',
    'page feed link href a.xml',
    'page feed link href b.html',
    'data feed content src c.txt',
  ],
  [
    'feed.rss',
    '<rss><channel><link>a</link><item><enclosure url="b.mp3"/></item></channel></rss>',
    'page feed link a',
    'media feed enclosure url b.mp3',
  ],
  [
    'browserconfig.xml',
    '<browserconfig><msapplication><tile><TileImage src="a.png"/></tile></msapplication></browserconfig>',
    'image browserconfig TileImage src a.png',
  ],
  ['other.xml', '<catalog><link href="a"/></catalog>'],
];

test('every format: all addresses that it holds are read, and nothing else', () => {
  for (const [path, content, ...expected] of rows)
    assert.deepEqual(told(read(path, content)), expected, content);
});

test('a page says what it is, and where it says so', () => {
  const { page, base, anchors } = read(
    'a.html',
    '<!doctype html><html lang=en><head><meta charset=utf-8><title>Tea &amp; tide</title><svg><title>no</title></svg>' +
      '<base href=b/><meta name=description content=d><meta name=viewport content=v><link rel=stylesheet herf=a.css src=b.css>' +
      '<script scr=x.js>var a</script><style>p{}</style><a name=n><img id=i sc="a">',
  );
  assert.deepEqual(
    {
      ...page,
      inlineScripts: page?.inlineScripts.length,
      inlineStyles: page?.inlineStyles.length,
      nearMisses: page?.nearMisses.map(({ element, attribute, meant }) => `${element} ${attribute} ${meant}`),
    },
    {
      doctype: { offset: 0, length: 15 },
      form: 'page',
      hasMark: false,
      language: 'en',
      title: { offset: 62, length: 14, text: 'Tea & tide' },
      description: 'd',
      viewport: 'v',
      charset: { label: 'utf-8', offset: 35 },
      base: { offset: 112, after: 0 },
      inlineScripts: 1,
      inlineStyles: 1,
      code: [{ offset: 248, length: 5, goal: 'script', isAsync: false, isInHead: false, text: 'var a' }],
      handlers: [],
      nearMisses: ['link herf href', 'link src href', 'script scr src', 'img sc src'],
      emptyScripts: [],
      frames: [],
      ignoredCode: [],
      inert: [],
      importMap: null,
      partMarks: [],
      swallowed: [],
    },
  );
  assert.deepEqual([base, [...anchors]], ['b/', ['n', 'i']]);
});

test('each reference knows where it stands and how its holder loads', () => {
  const { references } = read(
    'a.html',
    '<head><link rel=stylesheet href=a media=print><script src=b defer></script><noscript><link href=c></noscript></head><select><option><svg><image href=d /></svg></select>' +
      '<template><img src=e loading=lazy></template><svg><image href=f /></svg><p><link href=g>',
  );
  assert.deepEqual(
    references.map(({ written, standing }) => [
      written,
      standing?.region,
      standing?.inside,
      standing?.attributes,
    ]),
    [
      ['a', 'head', null, { rel: 'stylesheet', media: 'print' }],
      ['b', 'head', null, { defer: '' }],
      ['c', 'head', 'noscript', null],
      ['e', 'body', 'template', { loading: 'lazy' }],
      ['f', 'body', 'svg', null],
      ['g', 'body', null, null],
    ],
  );
});

test('scripts that do not parse, late imports and broken JSON are faults with a place', () => {
  const rows: readonly (readonly [path: string, content: string, fault: string])[] = [
    ['a.js', 'é; fetch("a") fetch("b")', 'script-does-not-parse 15+1 unexpected token'],
    ['a.js', 'fetch("a"', 'script-does-not-parse 9+0 it ends before it is complete'],
    ['a.html', '<script>fetch("a"</script>', 'script-does-not-parse 17+0 it ends before it is complete'],
    ['a.css', '@charset "utf-8"; @layer a; @import "b"; p{} @import "c";', 'late-import 45+7 '],
    ['a.webmanifest', '{"icons": ]}', 'json-does-not-parse 10+1 ] is not expected here'],
    ['a.webmanifest', '\ufeff{"icons": [],}', 'json-does-not-parse 16+1 JSON has no comma before }'],
    ['manifest.json', '{"icons": [', 'json-does-not-parse 11+0 it ends before it is complete'],
    ['manifest.json', '{icons: []}', 'json-does-not-parse 1+5 icons stands in no quotes'],
    ['manifest.json', "{'icons': []}", 'json-does-not-parse 1+7 JSON has double quotes only'],
    ['manifest.json', '{"a": 1 /* one */}', 'json-does-not-parse 8+9 JSON has no comments'],
    ['manifest.json', '{} {}', 'json-does-not-parse 3+1 something follows its end'],
    ['manifest.json', '{"a": .5}', 'json-does-not-parse 9+0 it is no JSON'],
    [
      'a.html',
      '<script type=importmap>{"imports": {"a": "./a.js",}}</script>',
      'json-does-not-parse 50+1 JSON has no comma before }',
    ],
  ];
  for (const [path, content, fault] of rows) {
    const { faults } = read(path, content);
    assert.deepEqual(
      faults.map(({ code, offset, length, detail }) => `${code} ${offset}+${length} ${detail}`),
      [fault],
      content,
    );
  }
  const rules = new Set(allRules.map(({ name }) => name));
  for (const rule of Object.values(toldBy)) assert.ok(rule === 'unread' || rules.has(rule), rule);
});

test('srcset and refresh are read by the algorithms of the standard', () => {
  const srcset: readonly (readonly [value: string, ...addresses: string[]])[] = [
    ['a', 'a'],
    ['a 1x, b 2x', 'a', 'b'],
    ['a,b', 'a,b'],
    ['a, b', 'a', 'b'],
    [',,a,,', 'a'],
    ['a 1x,b 2x', 'a', 'b'],
    ['a (x, y), b', 'a', 'b'],
    ['data:,a 1x, b', 'data:,a', 'b'],
    ['', ...[]],
  ];
  for (const [value, ...addresses] of srcset) {
    const { references } = read('a.html', `<img srcset="${value}">`);
    assert.deepEqual(
      references.map(({ written }) => written),
      addresses,
      value,
    );
  }
  const refresh: readonly (readonly [value: string, address: string | null])[] = [
    ['0;url=a', 'a'],
    ['0; URL = a', 'a'],
    ['0,a', 'a'],
    ['0 a', 'a'],
    ['1.5;url=a', 'a'],
    [".5;url='a'b", 'a'],
    ["0;'a", 'a'],
    ['0;ur=a', 'ur=a'],
    ['0;url', 'url'],
    ['0', null],
    ['0;', null],
    ['url=a', null],
    ['0x;url=a', null],
  ];
  for (const [value, address] of refresh) {
    const { references } = read('a.html', `<meta http-equiv=refresh content="${value}">`);
    assert.deepEqual(references[0]?.written ?? null, address, value);
  }
});

test('references come in the order of the file, with the exact span of the address', () => {
  const page =
    '<p style="background:url(&#x61;.png)"><img srcset="b.png 1x, &amp;c.png 2x" style="mask:url( d.png )" src=e.png>' +
    '<iframe srcdoc="<img src=f.png><style>p{background:url(&quot;g.png&quot;)}</style>"></iframe><script>fetch(`h.json`)</script>';
  const { references } = read('a.html', page);
  assert.deepEqual(
    references.map(({ offset, length }) => page.slice(offset, offset + length)),
    ['&#x61;.png', 'b.png', '&amp;c.png', 'd.png', 'e.png', 'f.png', 'g.png', 'h.json'],
  );
});

test('strings that look like paths are hints, once, and only those', () => {
  const { hints, references } = read(
    'a.js',
    'load("images/pier.svg", "x", `data/tide.json?v=1`, "no.such", "https://a.example/b.js"); import("./c.js")',
  );
  assert.deepEqual(
    hints.map(({ written, offset }) => [written, offset]),
    [
      ['images/pier.svg', 6],
      ['data/tide.json?v=1', 30],
    ],
  );
  assert.equal(references.length, 1);
});

const text = '<p>Fähre €</p>\r\n<img src="プール/é.png">';
/** The same page in many encodings, made with what the platform decodes. */
const encoded: readonly (readonly [
  label: string,
  bytes: Uint8Array,
  columns: readonly [line: number, column: number],
])[] = [
  ['utf-8', bytesOf(`\uFEFF<img src="é.png">`), [1, 11]],
  ['utf-16le', new Uint8Array(Buffer.from(`\uFEFF${text}`, 'utf16le')), [2, 11]],
  ['utf-16be', new Uint8Array(Buffer.from(`\uFEFF${text}`, 'utf16le').swap16()), [2, 11]],
  [
    'windows-1252',
    new Uint8Array(Buffer.from('<meta charset=iso-8859-1>\n<p>é<img src="\xe9.png">', 'latin1')),
    [2, 15],
  ],
  [
    'shift_jis',
    new Uint8Array([
      ...bytesOf('<meta charset=shift_jis><img src="'),
      0x83,
      0x76,
      0x81,
      0x5b,
      0x83,
      0x8b,
      ...bytesOf('.png">'),
    ]),
    [1, 35],
  ],
  [
    'gbk',
    new Uint8Array([
      ...bytesOf('<meta http-equiv=content-type content="text/html; charset=gb2312">\n'),
      0xc4,
      0xe3,
      ...bytesOf('<img src='),
      0x81,
      0x5c,
      ...bytesOf('>'),
    ]),
    [2, 11],
  ],
];

test('encodings: byte offsets are those on disk, addresses are decoded, columns are what editors show', () => {
  for (const [label, bytes, [line, column]] of encoded) {
    assert.equal(sniffEncoding(bytes, 'html'), label);
    const { references, encoding } = read('a.html', bytes);
    assert.deepEqual([references.length, encoding], [1, label]);
    const [{ offset, length, written } = { offset: 0, length: 0, written: '' }] = references;
    assert.equal(new TextDecoder(label).decode(bytes.subarray(offset, offset + length)), written);
    assert.deepEqual(positionsIn(bytes, label)(offset), { line, column }, label);
  }
  const sniffed = (format: 'css' | 'xml' | 'html', start: string) => sniffEncoding(bytesOf(start), format);
  assert.deepEqual(
    [
      sniffed('css', '@charset "latin1"; x'),
      sniffed('css', ' @charset "latin1";'),
      sniffed('xml', '<?xml version="1.0" encoding="koi8-r"?>'),
      sniffed('html', '<!-- <meta charset=koi8-r> --><meta charset=utf-16>'),
      sniffed('html', `${' '.repeat(1024)}<meta charset=koi8-r>`),
    ],
    ['windows-1252', 'utf-8', 'koi8-r', 'utf-8', 'utf-8'],
  );
});

test('no bytes make a reader throw, in any format or encoding, and every span lies inside the file', () => {
  const paths = ['a.html', 'a.css', 'a.js', 'a.mjs', 'a.svg', 'a.webmanifest', 'sitemap.xml'];
  const crumb = fc.constantFrom(
    '<',
    '>',
    '</',
    '"',
    "'",
    '=',
    '<!--',
    '-->',
    '<script>',
    '</script>',
    '<style>',
    '<svg>',
    '<a href=',
    ' srcset="',
    ' style="url(',
    ' srcdoc="',
    'url(',
    ')',
    '\\',
    '/*',
    '*/',
    '@import ',
    '{',
    '}',
    ';',
    ' ',
    '\n',
    '\0',
    '&amp;',
    '&#x2c;',
    'é',
    '<?xml',
    '?>',
    '<![CDATA[',
    ']]>',
    'import "',
    '`${',
    'fetch(',
    '<meta charset=shift_jis>',
    '<meta charset=utf-16>',
    '<meta charset=iso-2022-jp>',
    '<urlset><loc>',
    '["a.png"',
    '{"icons":',
  );
  const parts = fc.array(fc.oneof(crumb.map(bytesOf), fc.uint8Array({ maxLength: 6 })), { maxLength: 30 });
  const mark = fc.constantFrom([], [0xff, 0xfe], [0xfe, 0xff], [0xef, 0xbb, 0xbf]);
  fc.assert(
    fc.property(fc.constantFrom(...paths), mark, parts, (path, start, pieces) => {
      const bytes = Uint8Array.from([...start, ...pieces.flatMap((piece) => [...piece])]);
      const { references, hints, faults } = read(path, bytes);
      for (const { offset, length } of [...references, ...hints])
        assert.ok(offset >= 0 && length >= 0 && offset + length <= bytes.length);
      for (const { offset } of faults) assert.ok(offset >= 0 && offset <= bytes.length);
    }),
    { numRuns: Number(process.env.CRAVEL_SOUP ?? 2000) },
  );
});
