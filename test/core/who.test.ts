/** Every spot that refers to a file, and the pages that get it by way of others. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { startCheck } from '../../src/core/check/check.ts';
import { makeInventory } from '../../src/core/site/inventory.ts';
import { inWords } from '../../src/show/holder.ts';
import { bytesOf, contentOptions, type Files, oneAtATime, takeAll } from '../support/site.ts';

const files: Files = {
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

function whoOf(path: string): { spots: string[]; pages: string[] } {
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
