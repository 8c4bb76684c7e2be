import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { readCss } from '../../src/core/read/css.ts';
import { readHtml } from '../../src/core/read/html.ts';
import { offsetsIn, positionsIn } from '../../src/core/read/lines.ts';
import { inWords } from '../../src/show/holder.ts';
import { bytesOf } from '../support/site.ts';

type Row = readonly [source: string, ...expected: string[]];

/** Each reference as `kind holder address`. */
const html: readonly Row[] = [
  ['<script src=a.js></script>', 'script script src a.js'],
  ['<script type=module src="a.js"></script>', 'module script src a.js'],
  ['<LINK REL="Stylesheet" HREF="a.css">', 'stylesheet link href a.css'],
  ['<link rel="shortcut icon" href="a.ico">', 'icon link href a.ico'],
  ['<link rel=manifest href=a.webmanifest>', 'manifest link href a.webmanifest'],
  ['<link rel=preconnect href=a>'],
  ['<a href="a.html#b">', 'page a href a.html#b'],
  ["<a href='#b'>", 'anchor a href #b'],
  ['<a href=a.zip download>', 'download a href a.zip'],
  [
    '<img src=a.png srcset="b.png 1x, c.png 2x">',
    'image img src a.png',
    'image img srcset b.png',
    'image img srcset c.png',
  ],
  [
    '<img srcset="a,b.png 1x,,c.png(x, y) 2x, d.png,">',
    'image img srcset a,b.png',
    'image img srcset c.png(x',
    'image img srcset y)',
    'image img srcset d.png',
  ],
  [
    '<video src=a.mp4 poster=a.jpg><source src=b.mp4></video>',
    'media video src a.mp4',
    'image video poster a.jpg',
    'media source src b.mp4',
  ],
  ['<iframe src=a.html></iframe><audio src=a.mp3>', 'frame iframe src a.html', 'media audio src a.mp3'],
  ['<img src="  a b.png\n">', 'image img src a b.png'],
  ['<img src="a&amp;b&#x2e;png">', 'image img src a&b.png'],
  ['<img src=a.png src=b.png>', 'image img src a.png'],
  ['<img/src=a.png/>', 'image img src a.png/'],
  ['<img alt=">" src=a.png>', 'image img src a.png'],
  ['<img =src=a src=b>', 'image img src b'],
  ['<!-- <img src=a.png> --><img src=b.png>', 'image img src b.png'],
  ['<!--><img src=a.png>', 'image img src a.png'],
  ['<!--->-><img src=a.png>', 'image img src a.png'],
  ['<!-- --!><img src=a.png>', 'image img src a.png'],
  ['<?php <img src=a.png> ?>'],
  ['</ <img src=a.png>'],
  ['<textarea><img src=a.png></textarea><img src=b.png>', 'image img src b.png'],
  ['<title><img src=a></title x=">"><img src=b>', 'image img src b'],
  ['<script>"<img src=a.png>"</script><img src=b.png>', 'image img src b.png'],
  ['<script><!--<script></script><img src=a>--></script><img src=b>', 'image img src b'],
  ['<script><!--<script>--></script><img src=a>', 'image img src a'],
  ['<style>p{background:url(a.png)}</style>', 'image url() a.png'],
  ['<svg><style/><image/></svg><img src=a>', 'image img src a'],
  ['<svg><![CDATA[<img src=a>]]></svg><img src=b>', 'image img src b'],
  ['<![CDATA[<img src=a>]]><img src=b>', 'image img src b'],
  ['<plaintext><img src=a>'],
  ['<img src="a.png'],
  ['<img src=a.png'],
  ['<img src=>', 'image img src '],
];

const css: readonly Row[] = [
  ['@import "a.css";', 'stylesheet @import a.css'],
  ['@import url(a.css) layer(x) screen;', 'stylesheet @import a.css'],
  ["@IMPORT url( 'a.css' );", 'stylesheet @import a.css'],
  ['@import "a.css" supports(background: url(b.png));', 'stylesheet @import a.css', 'image url() b.png'],
  ['p { background: URL( a.png ) }', 'image url() a.png'],
  ['p { background: u\\72l(a.png) }', 'image url() a.png'],
  ['p { background: url("a\\"b.png") url(c\\).png) }', 'image url() a"b.png', 'image url() c).png'],
  [
    '@font-face { src: url(a.woff2) format("woff2"), url(b.woff) }',
    'font url() a.woff2',
    'font url() b.woff',
  ],
  [
    '@font-face { font-family: x; src: url(a.woff2) } p { background: url(b.png) }',
    'font url() a.woff2',
    'image url() b.png',
  ],
  ['@namespace url(http://www.w3.org/1999/xhtml); p{fill:url(a.svg#b)}', 'image url() a.svg#b'],
  ['p { fill: url(#local) }'],
  ['/* url(a.png) */ p { content: "url(b.png)" }'],
  ['p { background: myurl(a.png) 1url(b.png) }'],
  ['p { background: url(a b.png) url(c.png) }', 'image url() c.png'],
  ['p { background: url(a.png', 'image url() a.png'],
  ['p { background: url("a.png\n) } q { background: url(b.png) }', 'image url() b.png'],
];

for (const [name, read, rows] of [
  ['HTML', readHtml, html],
  ['CSS', readCss, css],
] as const) {
  test(`${name}: every reference is read as a browser reads it`, () => {
    for (const [source, ...expected] of rows) {
      const found = read(bytesOf(source)).references.map(
        ({ kind, holder, written }) => `${kind} ${inWords(holder)} ${written}`,
      );
      assert.deepEqual(found, expected, source);
    }
  });
}

test('offset and length are those of the address text in the file', () => {
  const sources = [
    '<p>é</p>\n<img src=" ü&amp;.png ">',
    '<style>ä{b:url( "x.png" )}</style>',
    '<img srcset="é.png 1x, b.png">',
  ];
  const spans = sources.flatMap((source) =>
    readHtml(bytesOf(source)).references.map(({ offset, length }) =>
      new TextDecoder().decode(bytesOf(source).subarray(offset, offset + length)),
    ),
  );
  assert.deepEqual(spans, ['ü&amp;.png', 'x.png', 'é.png', 'b.png']);
});

test('a byte order mark is no text: what follows stands in the head', () => {
  const { references } = readHtml(bytesOf('\uFEFF<!doctype html><link rel=icon href=a><p><img src=b>'));
  assert.deepEqual(
    references.map(({ offset, standing }) => [offset, standing?.region]),
    [
      [38, 'head'],
      [52, 'body'],
    ],
  );
});

test('anchors are every id and every name of an a element; the first base with an href counts', () => {
  const reading = readHtml(
    bytesOf('<p id=a><a name="b&amp;c"><img name=d id=""><base><base href=x/><base href=y/>'),
  );
  assert.deepEqual([...reading.anchors], ['a', 'b&c']);
  assert.equal(reading.base, 'x/');
});

test('lines and columns are those that an editor shows', () => {
  fc.assert(
    fc.property(fc.array(fc.constantFrom('a', 'é', '😀', '\n', '\r\n', '\r')), fc.nat(), (parts, cut) => {
      const before = parts.slice(0, cut % (parts.length + 1)).join('');
      const after = parts.slice(cut % (parts.length + 1)).join('');
      if (before.endsWith('\r') && after.startsWith('\n')) return;
      const lines = before.split(/\r\n|\n|\r/);
      const [bytes, offset] = [bytesOf(before + after), bytesOf(before).length];
      const position = { line: lines.length, column: (lines.at(-1) as string).length + 1 };
      assert.deepEqual(positionsIn(bytes)(offset), position);
      assert.equal(offsetsIn(bytes)(position), offset);
    }),
  );
  // Behind the end of a line, and behind the last one.
  assert.equal(offsetsIn(bytesOf('a\nb'))({ line: 1, column: 9 }), 1);
  assert.equal(offsetsIn(bytesOf('a\nb'))({ line: 3, column: 1 }), 3);
  const wide = Uint8Array.from(Buffer.from('\uFEFFa\nbé', 'utf16le'));
  assert.equal(offsetsIn(wide, 'utf-16le')({ line: 2, column: 2 }), 8);
  assert.deepEqual(positionsIn(bytesOf('\uFEFFab'))(4), { line: 1, column: 2 });
});
