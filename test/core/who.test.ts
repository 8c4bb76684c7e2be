/** Every spot that refers to a file, and the pages that get it by way of others. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { startCheck } from '../../src/core/check/check.ts';
import { makeInventory } from '../../src/core/site/inventory.ts';
import { inWords } from '../../src/show/holder.ts';
import { bytesOf, contentOptions, type Files, oneAtATime, takeAll } from '../support/site.ts';

const ours: Files = {
  'index.html': `<link rel="stylesheet" href="css/a.css"><a href="b/c.html#x">c</a><img src="i/p.png" alt="é"><img srcset="i/p.png 2x">
<script type="importmap">{"imports":{"pier":"./js/m.js"}}</script><script type="module">import "pier"; import "./js/m.js";</script>`,
  'b/c.html':
    '<link rel="stylesheet" href="../css/a.css"><img src="../i/p.png"><script src="../js/s.js"></script>',
  'b/d.html': '<p id="x">d</p><a href="c.html">c</a>',
  'css/a.css': '@import "b.css"; @font-face{src:url(f.woff2)}',
  'css/b.css': 'p{background:url(../i/p.png)}',
  'css/f.woff2': 'wOF2',
  'js/m.js': 'export {};',
  'js/s.js': 'fetch("d.json"); const picture = "i/p.png"; new Worker("../js/w.js");',
  'js/w.js': 'importScripts("x.js");',
  'js/x.js': 'let x;',
  'b/d.json': '{}',
  'i/p.png': Uint8Array.from([0x89, 0x50, 0x4e, 0x47]),
};

function whoOf(path: string, files: Files = ours): { spots: string[]; pages: string[] } {
  const read = (file: string) => bytesOf(files[file] ?? '');
  const check = startCheck(makeInventory(Object.keys(files)), contentOptions(read));
  takeAll(check, read);
  const isFolder = path.endsWith('/');
  const asked = Object.keys(files).filter((file) => (isFolder ? file.startsWith(path) : file === path));
  const { referrers, pages } = check.who(new Set(asked), isFolder ? path : null, oneAtATime(read));
  return {
    spots: referrers.map((one) => {
      const { file, line, column, endColumn, offset, length, written } = one;
      // What stands at the place is what is told.
      const text = new TextDecoder().decode(read(file));
      assert.equal(text.split('\n')[line - 1]?.slice(column - 1, endColumn - 1), written);
      assert.equal(new TextDecoder().decode(read(file).subarray(offset, offset + length)), written);
      return `${file} ${inWords(one.holder)} ${one.target}`;
    }),
    pages: pages.map(({ page, by }) => `${page} by ${by.join(' ')}`),
  };
}

test('who refers to a file is told spot by spot, and who gets it by way of others', () => {
  const rows: readonly (readonly [path: string, spots: readonly string[], pages: readonly string[]])[] = [
    [
      'i/p.png',
      [
        'b/c.html img src i/p.png',
        'css/b.css url() i/p.png',
        'index.html img src i/p.png',
        'index.html img srcset i/p.png',
        'js/s.js string i/p.png',
      ],
      [],
    ],
    ['css/f.woff2', ['css/a.css url() css/f.woff2'], ['b/c.html by css/a.css', 'index.html by css/a.css']],
    ['css/b.css', ['css/a.css @import css/b.css'], ['b/c.html by css/a.css', 'index.html by css/a.css']],
    ['b/c.html', ['b/d.html a href b/c.html', 'index.html a href b/c.html'], []],
    [
      'js/m.js',
      ['index.html importmap imports js/m.js', 'index.html import js/m.js', 'index.html import js/m.js'],
      [],
    ],
    ['b/d.json', ['js/s.js fetch() b/d.json'], ['b/c.html by js/s.js']],
    ['js/x.js', ['js/w.js importScripts() js/x.js'], ['b/c.html by js/w.js']],
    ['css/', ['b/c.html link href css/a.css', 'index.html link href css/a.css'], []],
    ['b/d.html', [], []],
  ];
  for (const [path, spots, pages] of rows) assert.deepEqual(whoOf(path), { spots, pages }, path);
});

test('ways through scripts, maps and other files are told, each page once, by the shortest', () => {
  const worker = 'importScripts("x.js");';
  const rows: readonly (readonly [what: string, path: string, files: Files, ...said: string[]])[] = [
    [
      'asked for from the page that runs it',
      'b/d.json',
      { 'b/c.html': '<script src="../s.js"></script>', 's.js': 'fetch("d.json")', 'b/d.json': '{}' },
      's.js fetch() b/d.json',
      'b/c.html by s.js',
    ],
    [
      'asked for by two scripts',
      'd.json',
      {
        'c.html': '<script src="s.js"></script><script src="t.js"></script>',
        's.js': 'fetch("d.json")',
        't.js': 'fetch("d.json")',
        'd.json': '{}',
      },
      's.js fetch() d.json',
      't.js fetch() d.json',
      'c.html by s.js',
    ],
    [
      'asked for by the page itself',
      'd.json',
      { 'c.html': '<script>fetch("d.json")</script>', 'd.json': '{}' },
      'c.html fetch() d.json',
    ],
    [
      'by a chain of stylesheets, and directly',
      'c.css',
      {
        'i.html': '<link rel="stylesheet" href="a.css"><link rel="stylesheet" href="c.css">',
        'a.css': '@import "b.css";',
        'b.css': '@import "c.css";',
        'c.css': 'a{}',
      },
      'b.css @import c.css',
      'i.html link href c.css',
    ],
    [
      'by a chain of three',
      'c.css',
      {
        'i.html': '<link rel="stylesheet" href="a.css">',
        'j.html': '<link rel="stylesheet" href="b.css">',
        'a.css': '@import "b.css";',
        'b.css': '@import "c.css";',
        'c.css': 'a{}',
      },
      'b.css @import c.css',
      'i.html by a.css b.css',
      'j.html by b.css',
    ],
    [
      'by workers',
      'x.js',
      {
        'i.html': '<script src="s.js"></script>',
        's.js': 'new Worker("w.js")',
        'w.js': worker,
        'x.js': 'let x',
      },
      'w.js importScripts() x.js',
      'i.html by w.js',
    ],
    [
      'by an import map of a page, in a module of a file',
      'js/m.js',
      {
        'i.html':
          '<script type="importmap">{"imports":{"pier":"./js/m.js"}}</script><script type="module" src="s.js"></script>',
        's.js': 'import "pier"',
        'js/m.js': 'export {}',
      },
      'i.html importmap imports js/m.js',
      's.js import js/m.js',
    ],
    [
      'by no map',
      'js/m.js',
      {
        'i.html': '<script type="module" src="s.js"></script>',
        's.js': 'import "pier"',
        'js/m.js': 'export {}',
      },
    ],
    [
      'by a map that names something else',
      'js/m.js',
      {
        'i.html':
          '<script type="importmap">{"imports":{"pier":"./js/n.js"}}</script><script type="module" src="s.js"></script>',
        's.js': 'import "pier"',
        'js/m.js': 'export {}',
        'js/n.js': '',
      },
    ],
    [
      'with fragments',
      'b.html',
      { 'i.html': '<a href="b.html#x">x</a><a href="b.html#y/\n">y</a>', 'b.html': '<p id="x">' },
      'i.html a href b.html',
      'i.html a href b.html',
    ],
    ['by itself', 'b.html', { 'b.html': '<a href="b.html">x</a><a href="#x">x</a><p id="x">' }],
    [
      'a folder, from outside',
      'b/',
      {
        'i.html': '<a href="b/">x</a><img src="b/p.png">',
        'b/index.html': '<img src="p.png"><a href="../i.html">x</a>',
        'b/p.png': ours['i/p.png'] as Uint8Array,
      },
      'i.html a href b/index.html',
      'i.html img src b/p.png',
    ],
    [
      'a folder whose files scripts put together',
      'd/a.png',
      {
        'i.html': '<script src="s.js"></script>',
        's.js': 'const one = "d/" + name;',
        'd/a.png': ours['i/p.png'] as Uint8Array,
      },
      'i.html by s.js',
    ],
    [
      'a string',
      'p.png',
      {
        'i.html': '<script>const one = "p.png", two = "p.png";</script>',
        'p.png': ours['i/p.png'] as Uint8Array,
      },
      'i.html string p.png',
      'i.html string p.png',
    ],
    [
      'a feed and a map of the site',
      'b.html',
      {
        'i.html': '<base href="x/"><a href="../b.html">x</a>',
        'sitemap.xml': '<urlset><url><loc>b.html</loc></url></urlset>',
        'b.html': '',
      },
      'i.html a href b.html',
      'sitemap.xml sitemap loc b.html',
    ],
    ['what nobody can read', 'b.html', { 'a.xml': 'b.html', 'b.html': '' }],
    [
      'frames',
      'b.html',
      {
        'i.html': '<iframe src="a.html"></iframe>',
        'a.html': '<iframe src="b.html"></iframe>',
        'b.html': '',
      },
      'a.html iframe src b.html',
    ],
    [
      'a picture of an icon file',
      'p.png',
      {
        'i.html': '<img src="a.svg">',
        'a.svg': '<svg xmlns="http://www.w3.org/2000/svg"><image href="p.png"/></svg>',
        'p.png': ours['i/p.png'] as Uint8Array,
      },
      'a.svg image href p.png',
      'i.html by a.svg',
    ],
  ];
  for (const [what, path, files, ...said] of rows) {
    const { spots, pages } = whoOf(path, files);
    assert.deepEqual([...spots, ...pages], said, what);
  }
});
