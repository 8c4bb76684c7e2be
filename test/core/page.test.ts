import assert from 'node:assert/strict';
import { test } from 'node:test';
import { CravelError } from '../../src/core/errors.ts';
import { makeLike } from '../../src/core/page/make.ts';
import { pageFile, wordsFor } from '../../src/core/page/naming.ts';
import { navigationPart, withLink } from '../../src/core/page/navigation.ts';
import { openPage } from '../../src/core/page/page.ts';
import { partsOf } from '../../src/core/page/parts.ts';
import { textOf } from '../support/files.ts';
import { bytesOf } from '../support/site.ts';

test('a page goes where its path says, in the folder for pages, under a safe name', () => {
  const rows: readonly (readonly [wanted: string, folder: string | undefined, file: string | RegExp])[] = [
    ['timetable', undefined, 'timetable.html'],
    ['timetable.html', undefined, 'timetable.html'],
    ['timetable.htm', undefined, 'timetable.htm'],
    ['v1.2', undefined, 'v1.2.html'],
    ['piers/north', 'pages', 'pages/piers/north.html'],
    ['pages/north', 'pages', 'pages/north.html'],
    ['./north', 'pages', 'north.html'],
    ['/north', 'pages', 'pages/north.html'],
    ['piers/', undefined, 'piers/index.html'],
    ['North Pier', undefined, /North Pier is not a safe name.*\nUse this name instead: north-pier/],
    ['Piers/Nörd', undefined, /Use this name instead: piers\/nord/],
    ['../north', undefined, /is not a safe name/],
    ['', undefined, 'index.html'],
  ];
  for (const [wanted, folder, file] of rows) {
    if (typeof file === 'string') assert.equal(pageFile(wanted, folder), file, wanted);
    else
      assert.throws(
        () => pageFile(wanted, folder),
        (error) => error instanceof CravelError && file.test(error.message),
        wanted,
      );
  }
});

test('a page without words of its own gets words that no other page has', () => {
  const site = { title: 'Gullhaven Ferry', description: 'Over to the island.' };
  const rows: readonly (readonly [file: string, ...words: string[]])[] = [
    ['timetable.html', 'Timetable', 'Timetable · Gullhaven Ferry', 'Timetable. Over to the island.'],
    [
      'pages/piers/north-side.html',
      'North side',
      'North side · Piers · Gullhaven Ferry',
      'Piers, North side. Over to the island.',
    ],
    ['piers/index.html', 'Piers', 'Piers · Gullhaven Ferry', 'Piers. Over to the island.'],
  ];
  for (const [file, heading, title, description] of rows)
    assert.deepEqual(wordsFor(file, 'pages', site), { heading, title, description });
  assert.deepEqual(wordsFor('a.html', undefined, { title: '', description: '' }), {
    heading: 'A',
    title: 'A',
    description: 'A',
  });
});

const words = { title: '<T> & "t"', description: 'D & d', heading: 'H <h>' };

function made(model: string, file = 'x/new.html', from = 'index.html'): string {
  const bytes = makeLike(openPage(from, bytesOf(model)), file, words);
  return bytes === null ? 'null' : textOf(bytes);
}

test('a page made like another has its own words, no content, and references that lead where they led', () => {
  const T = '<title>&lt;T&gt; &amp; &quot;t&quot;</title>';
  const rows: readonly (readonly [what: string, model: string, page: string])[] = [
    [
      'words, references and an emptied main element',
      '<!doctype html>\n<title>Old</title>\n<meta name=description content=\'old\'>\n<link rel="stylesheet" href="css/a.css">\n<main class="m">\n  <h1>Old</h1>\n  <img src="gone.png">\n</main>\n<script src="a.js"></script>\n',
      `<!doctype html>\n${T}\n<meta name=description content='D &amp; d'>\n<link rel="stylesheet" href="../css/a.css">\n<main class="m">\n  <h1>H &lt;h&gt;</h1>\n</main>\n<script src="../a.js"></script>\n`,
    ],
    [
      'words that are missing',
      '<meta charset="utf-8">\n<main></main>',
      `<meta charset="utf-8">\n${T}\n<meta name="description" content="D &amp; d">\n<main>\n<h1>H &lt;h&gt;</h1>\n</main>`,
    ],
    [
      'words for other programs, and its own address',
      '<title>Old</title><meta name="description" content="o"><meta property="og:title" content="o"><meta property="og:description" content="o"><meta property="og:url" content="https://gullhaven.example/ferry/"><link rel=canonical href="https://gullhaven.example/ferry/index.html">',
      `${T}<meta name="description" content="D &amp; d"><meta property="og:title" content="&lt;T&gt; &amp; &quot;t&quot;"><meta property="og:description" content="D &amp; d"><meta property="og:url" content="https://gullhaven.example/ferry/x/new.html"><link rel=canonical href="https://gullhaven.example/ferry/x/new.html">`,
    ],
    [
      'a body without a main element keeps its furniture',
      '<title>a</title><meta name=description content=a><header><a href="#top">T</a></header>\n<h1>Old</h1>\n<p>old</p>\n<footer>f</footer>',
      `${T}<meta name=description content="D &amp; d"><header><a href="#top">T</a></header>\n<h1>H &lt;h&gt;</h1>\n<footer>f</footer>`,
    ],
    [
      'what a noscript holds is neither its head nor its content',
      '<title>a</title><noscript><meta name=description content=n><img src="i.png"><h1>n</h1></noscript><meta name=description content=a>\n<h1>Old</h1>\n<noscript><div><p>on</noscript>\n<p>old</p>',
      `${T}<noscript><meta name=description content=n><img src="../i.png"><h1>n</h1></noscript><meta name=description content="D &amp; d">\n<h1>H &lt;h&gt;</h1>\n<noscript><div><p>on</noscript>`,
    ],
    [
      'links to spots of the model, and the mark of the current page',
      '<title>a</title><meta name=description content=a><nav><a href="#about" aria-current="page">A</a><a href="#foot">F</a></nav><main><p id=about></main><footer id=foot></footer>',
      `${T}<meta name=description content="D &amp; d"><nav><a href="../index.html#about">A</a><a href="#foot">F</a></nav><main><h1>H &lt;h&gt;</h1></main><footer id=foot></footer>`,
    ],
  ];
  for (const [what, model, page] of rows) assert.equal(made(model), page, what);
  // A link that is never closed is made again by the parser for what follows, and has one tag.
  assert.match(
    made('<b><nav><a aria-current="page" href="b.html"></nav>text'),
    /<nav><a href="\.\.\/b\.html"><\/nav>/,
  );
  assert.equal(made('<base href="https://gullhaven.example/">'), 'null');
  assert.match(
    made('<main></main><a href="../a.html"><img src="i.png">', 'y/new.html', 'x/old.html'),
    /<a href="\.\.\/a\.html"><img src="\.\.\/x\/i\.png">/,
  );
});

test('a navigation learns a link in the manner of those that it has', () => {
  const rows: readonly (readonly [what: string, nav: string, after: string])[] = [
    [
      'list items',
      '\n<nav>\n<ul>\n  <li class="i" id="h"><a class="l" href="index.html" aria-current="page">Home</a></li>\n</ul>\n</nav>\n',
      '\n<nav>\n<ul>\n  <li class="i" id="h"><a class="l" href="index.html" aria-current="page">Home</a></li>\n  <li class="i"><a class="l" href="x/new.html">N &amp; n</a></li>\n</ul>\n</nav>\n',
    ],
    [
      'links in a row',
      '<nav><a href=a.html>A</a> | <a href=b.html>B</a></nav>',
      '<nav><a href=a.html>A</a> | <a href=b.html>B</a> | <a href=x/new.html>N &amp; n</a></nav>',
    ],
    [
      'one link',
      '<nav><a href="a.html">A</a></nav>',
      '<nav><a href="a.html">A</a> <a href="x/new.html">N &amp; n</a></nav>',
    ],
    ['none', '\n<nav>\n</nav>\n', '\n<nav>\n  <a href="x/new.html">N &amp; n</a>\n</nav>\n'],
    ['the link itself', '<nav><a href="x/new.html">Old</a></nav>', '<nav><a href="x/new.html">Old</a></nav>'],
  ];
  for (const [what, nav, after] of rows) {
    const markup = (inner: string) => `<body><!-- Part: top -->${inner}<!-- End of part: top --></body>`;
    const page = openPage('index.html', bytesOf(markup(nav)));
    const part = navigationPart(page, partsOf(page));
    assert.ok(part);
    const bytes = withLink(page, part, 'x/new.html', 'N & n');
    assert.equal(bytes === null ? markup(nav) : textOf(bytes), markup(after), what);
  }
});
