/** Moving: whatever moves, every reference leads to the same as before. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { renamingOf } from '../../src/core/moving/renaming.ts';
import { followedSettings } from '../../src/core/settings/follow.ts';
import { graphOf, moved, type Pairs, siteAndMove } from '../support/moved.ts';
import { bytesOf, type Files } from '../support/site.ts';

/** How many are made up; `npm run long` makes up many more. */
const MOVES = Number(process.env.CRAVEL_MOVES ?? 400);

test('the references of a site lead to the same after a move, and moving back gives every byte', async () => {
  await fc.assert(
    fc.asyncProperty(siteAndMove, async ({ site, isPublished, pairs }) => {
      const renaming = renamingOf(pairs);
      const after = await moved(site, pairs, { isPublished });
      assert.deepEqual(
        graphOf(after.site, isPublished),
        graphOf(site, isPublished, (path) => renaming.of(path)),
      );
      const again = await moved(
        after.site,
        pairs.map(([from, to]) => [to, from] as const),
        { isPublished },
      );
      const text = (files: Readonly<Record<string, Uint8Array | string>>) =>
        Object.fromEntries(
          Object.entries(files)
            .sort(([one], [other]) => (one < other ? -1 : 1))
            .map(([path, content]) => [path, new TextDecoder().decode(bytesOf(content))]),
        );
      assert.deepEqual(text(again.site), text(site));
    }),
    { numRuns: MOVES },
  );
});

const image = '<svg xmlns="http://www.w3.org/2000/svg"/>';

/** What stands there, what moves, what stands there then; strings that nobody can be sure of, as `file:line string`. */
const rows: readonly (readonly [
  about: string,
  files: Files,
  pairs: Pairs,
  after: Files,
  unsure?: readonly string[],
])[] = [
  [
    'each format in its own manner',
    {
      'index.html':
        '<img src=images/a.svg><img srcset="./images/a.svg 2x, images/b.svg"><a href=\'images/a.svg?x&amp;y#z\'>',
      'css/a.css': 'b { background: URL( ../images/a.svg ) } @import "../images/x.css";',
      'feed.xml': '<rss><channel><link>images/a.svg</link></channel></rss>',
      'site.webmanifest': '{"icons":[{"src":"images\\/a.svg"}]}',
      'images/a.svg': image,
      'images/b.svg': image,
      'images/x.css': '',
    },
    [['images/', 'pictures/']],
    {
      'index.html':
        '<img src=pictures/a.svg><img srcset="./pictures/a.svg 2x, pictures/b.svg"><a href=\'pictures/a.svg?x&amp;y#z\'>',
      'css/a.css': 'b { background: URL( ../pictures/a.svg ) } @import "../pictures/x.css";',
      'feed.xml': '<rss><channel><link>pictures/a.svg</link></channel></rss>',
      'site.webmanifest': '{"icons":[{"src":"pictures/a.svg"}]}',
    },
  ],
  [
    'a page, with what leads to it and what it leads to',
    {
      'index.html': '<a href=about.html>a</a><a href="/about.html#x">b</a>',
      'about.html':
        '<a href="#x">x</a><a href="about.html">y</a><a href="?q">z</a><img src="p.svg"><a href="none.html">n</a>',
      'p.svg': image,
    },
    [['about.html', 'more/about us.html']],
    {
      'index.html': '<a href=more/about%20us.html>a</a><a href="/more/about%20us.html#x">b</a>',
      'more/about us.html':
        '<a href="#x">x</a><a href="about%20us.html">y</a><a href="?q">z</a><img src="../p.svg"><a href="../none.html">n</a>',
    },
  ],
  [
    'a folder by its index page, with and without the slash',
    {
      'index.html': '<a href="piers/">p</a><a href=piers>q</a><a href="./">h</a>',
      'piers/index.html': '<a href="../">up</a>',
    },
    [['piers/', 'north/docks/']],
    {
      'index.html': '<a href="north/docks/">p</a><a href=north/docks>q</a><a href="./">h</a>',
      'north/docks/index.html': '<a href="../../">up</a>',
    },
  ],
  [
    'a page with a base, and the base itself',
    { 'a/p.html': '<base href="../img/"><img src="x.svg"><a href="../a/p.html">', 'img/x.svg': image },
    [
      ['img/', 'pics/'],
      ['a/p.html', 'p.html'],
    ],
    { 'p.html': '<base href="pics/"><img src="x.svg"><a href="../p.html">' },
  ],
  [
    'modules and import maps',
    {
      'index.html':
        '<script type=importmap>{"imports":{"tide":"./js/tide.js","own/":"./js/own/"}}</script><script type=module src=js/app.js></script>',
      'js/app.js':
        'import "./tide.js"; import("./own/a.js"); new URL("../p.svg", import.meta.url); import "tide";',
      'js/tide.js': '',
      'js/own/a.js': 'export * from "../tide.js";',
      'p.svg': image,
    },
    [['js/', 'scripts/']],
    {
      'index.html':
        '<script type=importmap>{"imports":{"tide":"./scripts/tide.js","own/":"./scripts/own/"}}</script><script type=module src=scripts/app.js></script>',
    },
  ],
  [
    'what a script asks for, from the pages that run it',
    {
      'index.html': '<script src=js/a.js></script><script src=js/b.js></script>',
      'piers/n.html': '<script src=../js/b.js></script>',
      'js/a.js': 'fetch("data/t.json");\nconst file = "data/t.json";',
      'js/b.js': '\nfetch("data/t.json");',
      'data/t.json': '{}',
    },
    [['data/', 'facts/']],
    { 'js/a.js': 'fetch("facts/t.json");\nconst file = "data/t.json";' },
    ['js/a.js:2 data/t.json', 'js/b.js:2 data/t.json'],
  ],
  [
    'a page that moves takes along where its scripts start from',
    {
      'index.html': '<script src=js/a.js></script><script>fetch("data/t.json")</script>',
      'js/a.js': 'fetch("data/t.json");',
      'data/t.json': '{}',
    },
    [['index.html', 'home/index.html']],
    {
      'home/index.html': '<script src=../js/a.js></script><script>fetch("../data/t.json")</script>',
      'js/a.js': 'fetch("../data/t.json");',
    },
  ],
  [
    'two that change places',
    { 'index.html': '<img src=a.svg><img src=b.svg>', 'a.svg': image, 'b.svg': `${image} ` },
    [
      ['a.svg', 'b.svg'],
      ['b.svg', 'a.svg'],
    ],
    { 'index.html': '<img src=b.svg><img src=a.svg>', 'a.svg': `${image} `, 'b.svg': image },
  ],
  [
    'letter case alone',
    { 'index.html': '<img src=Pier.SVG>', 'Pier.SVG': image },
    [['Pier.SVG', 'pier.svg']],
    { 'index.html': '<img src=pier.svg>', 'pier.svg': image },
  ],
  [
    'line ends, byte order marks and encodings',
    {
      'index.html': '\ufeff<a href=a.html>é</a>\r\n<a href=b.html>\r\n',
      'latin.html': Uint8Array.from(
        [...'<meta charset=latin1>\xe9<img src=p.svg>'].map((one) => one.charCodeAt(0)),
      ),
      'a.html': '',
      'p.svg': image,
    },
    [
      ['a.html', 'c.html'],
      ['p.svg', 'q/é.svg'],
    ],
    {
      'index.html': '\ufeff<a href=c.html>é</a>\r\n<a href=b.html>\r\n',
      'latin.html': Uint8Array.from(
        [...'<meta charset=latin1>\xe9<img src=q/%C3%A9.svg>'].map((one) => one.charCodeAt(0)),
      ),
    },
  ],
];

test('what moves is followed in every format, and nothing else is touched', async () => {
  for (const [about, files, pairs, after, unsure = []] of rows) {
    const outcome = await moved(files, pairs);
    const renaming = renamingOf(pairs);
    const whole = Object.entries(files).map(([path, content]) => [renaming.of(path), content] as const);
    const wanted = { ...Object.fromEntries(whole), ...after };
    const text = (one: Uint8Array | string) => Buffer.from(bytesOf(one)).toString('latin1');
    const shown = (all: Readonly<Record<string, Uint8Array | string>>) =>
      Object.fromEntries(
        Object.entries(all)
          .sort(([one], [other]) => (one < other ? -1 : 1))
          .map(([path, content]) => [path, text(content)]),
      );
    assert.deepEqual(shown(outcome.site), shown(wanted), about);
    assert.deepEqual(
      outcome.unsure.map(({ file, line, written }) => `${file}:${line} ${written}`).sort(),
      unsure,
      about,
    );
  }
});

test('what was moved by other means is followed, and what holds already stays', async () => {
  const files = {
    'index.html': '<link rel=stylesheet href=styles/a.css><link rel=stylesheet href=css/b.css>',
    'styles/a.css': 'b { background: url(../p.svg) }',
    'styles/b.css': 'b { background: url(p.svg) }',
    'styles/p.svg': image,
    'p.svg': image,
  };
  const { site } = await moved(files, [['css/', 'styles/']], { isDone: true });
  const text = Object.fromEntries(
    Object.entries(site).map(([path, bytes]) => [path, new TextDecoder().decode(bytes)]),
  );
  assert.deepEqual(text, {
    ...files,
    'index.html': '<link rel=stylesheet href=styles/a.css><link rel=stylesheet href=styles/b.css>',
  });
});

test('cravel.yaml follows, and keeps all else as it is', () => {
  const text = `# Ours
entry: home.html   # the first one
places: { styles: css, images: "img" }
libraries:
  tide: { folder: lib/tide, scripts: [ tide.js ], release: { tide.js: 'tide.min.js' }, files: { tide.js: ab } }
leave-out: [ img/raw/**, "*.psd", drafts/x.html ]
accept:
  - { rule: absent, file: home.html, written: "img/none.svg", because: soon }
`;
  const renaming = renamingOf([
    ['img/', 'pictures/'],
    ['home.html', 'start.html'],
    ['lib/tide/', 'lib/tides/'],
    ['drafts/', 'old drafts/'],
  ]);
  const followed = followedSettings(text, {
    of: (path) => renaming.of(path),
    rewritten: (file, written) => (file === 'home.html' ? written.replace('img/', 'pictures/') : undefined),
  });
  assert.deepEqual(followed, {
    text: text
      .replace('entry: home', 'entry: start')
      .replace('"img"', '"pictures"')
      .replace('lib/tide,', 'lib/tides,')
      .replace('img/raw', 'pictures/raw')
      .replace('drafts/x', 'old drafts/x')
      .replace('file: home', 'file: start')
      .replace('img/none', 'pictures/none'),
    unsure: [],
  });
  const out = renamingOf([['lib/tide/tide.js', 'js/tide.js']]);
  assert.deepEqual(
    followedSettings(text, { of: (path) => out.of(path), rewritten: () => undefined }).unsure.map(
      ([key]) => key,
    ),
    ['libraries, scripts', 'libraries, release', 'libraries, files'],
  );
});
