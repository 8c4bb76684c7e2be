import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { CravelError } from '../../src/core/errors.ts';
import { outlineOf } from '../../src/core/page/outline.ts';
import { openPage } from '../../src/core/page/page.ts';
import { mastersOf, partsOf } from '../../src/core/page/parts.ts';
import { fillParts, markPart, takePart } from '../../src/core/page/sync.ts';
import { contentOf, filesOf, textOf } from '../support/files.ts';
import { bytesOf, checkFiles, type Files } from '../support/site.ts';

const part = (inner: string, name = 'nav') => `<!-- Part: ${name} -->${inner}<!-- End of part: ${name} -->`;

/** What a check finds broken or out of step. */
function driftIn(files: Files) {
  return checkFiles(files).findings.filter(({ rule, grade }) => rule === 'part-drift' || grade === 'broken');
}

/** What becomes of the copy in a page, where the entry page's part is `inner`. */
function copied(inner: string, file: string, rest = ''): string {
  const site = filesOf({ 'index.html': part(inner), [file]: part('old') + rest });
  fillParts(site, 'index.html', ['index.html', file]);
  const page = openPage(file, site.read(file));
  const [own] = partsOf(page);
  assert.ok(own);
  return page.text(own.innerStart, own.innerEnd);
}

test('a part is copied byte for byte, but for its references and the mark of the current page', () => {
  const rows: readonly (readonly [what: string, inner: string, file: string, copy: string, rest?: string])[] =
    [
      ['in the same folder', '<a  href=a.html>\tx</a>', 'b.html', '<a  href=a.html>\tx</a>'],
      ['one folder down', '<a href="a.html">', 'piers/b.html', '<a href="../a.html">'],
      ['to the folder itself', "<a href='piers/a.html'>", 'piers/b.html', "<a href='a.html'>"],
      ['to a folder', '<a href="piers/">', 'piers/b.html', '<a href="./">'],
      ['to the home folder', '<a href="./">', 'piers/b.html', '<a href="../">'],
      ['query and fragment', '<a href="a.html?q=1&amp;r#s">', 'x/b.html', '<a href="../a.html?q=1&amp;r#s">'],
      [
        'images, styles and sets',
        '<img src=i.png srcset="i.png 1x, j.png 2x" style="background:url(k.png)">',
        'x/b.html',
        '<img src=../i.png srcset="../i.png 1x, ../j.png 2x" style="background:url(../k.png)">',
      ],
      [
        'from the root, other hosts and mail',
        '<a href="/a"><a href="https://gullhaven.example/"><a href="mailto:a@gullhaven.example">',
        'x/b.html',
        '<a href="/a"><a href="https://gullhaven.example/"><a href="mailto:a@gullhaven.example">',
      ],
      ['the top of the page', '<a href="#top"><a href="#">', 'x/b.html', '<a href="#top"><a href="#">'],
      [
        'a spot that the other page has too',
        '<a href="#main">',
        'x/b.html',
        '<a href="#main">',
        '<main id=main>',
      ],
      [
        'a spot that only the entry page has',
        '<a href="#about">',
        'x/b.html',
        '<a href="../index.html#about">',
      ],
      ['a spot of the part itself', '<p id=p><a href="#p">', 'x/b.html', '<p id=p><a href="#p">'],
      [
        'the mark moves to the link of the page',
        '<nav><a href="index.html" aria-current="page">H</a><a href="b.html">B</a></nav>',
        'b.html',
        '<nav><a href="index.html">H</a><a href="b.html" aria-current="page">B</a></nav>',
      ],
      [
        'the mark of an index page',
        "<nav><a aria-current='page' href=./>H</a> <a href='x/'>X</a></nav>",
        'x/index.html',
        '<nav><a href=../>H</a> <a href=\'./\' aria-current="page">X</a></nav>',
      ],
      [
        'no mark outside of a navigation',
        '<a href="b.html"></a><nav><a href="c.html"></nav>',
        'b.html',
        '<a href="b.html"></a><nav><a href="c.html"></nav>',
      ],
      [
        'no mark on a link to a spot',
        '<nav><a href="b.html#x"></nav>',
        'b.html',
        '<nav><a href="b.html#x"></nav>',
      ],
      [
        'letters beyond ASCII',
        '<a href="fähre.html">Fähre ⛴</a>',
        'x/b.html',
        '<a href="../f%C3%A4hre.html">Fähre ⛴</a>',
      ],
      ['a base of its own', '<a href="a.html">', 'x/b.html', '<a href="a.html">', '<base href="../">'],
    ];
  for (const [what, inner, file, copy, rest] of rows) assert.equal(copied(inner, file, rest), copy, what);
  const site = filesOf({ 'index.html': part('\n<p>\n'), 'b.html': `<p>\r\n${part('old')}` });
  fillParts(site, 'index.html', ['b.html']);
  assert.equal(
    textOf(site.read('b.html')),
    `<p>\r\n${part('\r\n<p>\r\n')}`,
    'lines end as the page ends them',
  );
});

const path = fc
  .array(fc.constantFrom('a', 'b', 'c'), { minLength: 1, maxLength: 4 })
  .map((steps) => `${steps.join('/')}.html`);

test('whatever a part refers to, its copies refer to the same, and filling again changes nothing', () => {
  fc.assert(
    fc.property(
      fc.uniqueArray(path, { minLength: 1, maxLength: 5 }),
      fc.array(path, { maxLength: 6 }),
      (pages, links) => {
        const inner = `<nav>${links.map((link) => `<a href="${link}">x</a>`).join('\n')}</nav>`;
        const content = Object.fromEntries([...pages, ...links].map((file) => [file, part('')]));
        const site = filesOf({ ...content, 'index.html': part(inner) });
        const all = site.paths();
        fillParts(site, 'index.html', all);
        const once = contentOf(site);
        // Nothing absent, nothing out of step.
        assert.deepEqual(driftIn(once), []);
        assert.deepEqual(fillParts(filesOf(once), 'index.html', all), []);
        for (const file of all) {
          const marks = once[file]?.match(/aria-current/g)?.length ?? 0;
          assert.equal(marks, links.filter((link) => link === file).length);
        }
      },
    ),
    { numRuns: 100 },
  );
});

test('copies in other encodings hold the same text, and are in step', () => {
  const encode = {
    'windows-1252': (text: string) => Uint8Array.from(text, (unit) => unit.charCodeAt(0)),
    'utf-16le': (text: string) =>
      new Uint8Array([
        0xff,
        0xfe,
        ...new Uint8Array(Uint16Array.from(text, (unit) => unit.charCodeAt(0)).buffer),
      ]),
  };
  for (const [label, bytes] of Object.entries(encode)) {
    const site = filesOf({
      'index.html': part('<a href="a.html">Fähre ⛴ 渡</a>'),
      'x/old.html': bytes(`<meta charset="${label}"><p>Grüße ${part('alt')}`),
      'a.html': '',
    });
    assert.deepEqual(fillParts(site, 'index.html', ['x/old.html']), ['x/old.html']);
    const page = openPage('x/old.html', site.read('x/old.html'));
    const copy = label === 'utf-16le' ? 'Fähre ⛴ 渡' : 'F&#228;hre &#9972; &#28193;';
    assert.equal(
      page.text(0, page.source.bytes.length).replace('\uFEFF', ''),
      `<meta charset="${label}"><p>Grüße ${part(`<a href="../a.html">${copy}</a>`)}`,
    );
    assert.deepEqual(fillParts(site, 'index.html', ['x/old.html']), []);
    const content = Object.fromEntries(site.paths().map((path) => [path, site.read(path)]));
    assert.deepEqual(driftIn(content), []);
  }
});

test('marks that do not pair up are told with their place', () => {
  const rows: readonly (readonly [page: string, problem: RegExp])[] = [
    [
      '<p>\n <!-- Part: a -->',
      /^a\.html 2:2: the part a has no end\.\nMark where it ends: <!-- End of part: a -->/,
    ],
    ['<!-- end of part: a -->', /1:1: the part a ends here, and does not begin before/],
    ['<!-- Part: a --><!-- Part: b -->', /1:17: the part b begins inside the part a/],
    [part('', 'a') + part('', 'a'), /the part a is there twice/],
    ['<!-- Part: a_b -->', /a_b is no name for a part/],
    ['<!-- Part: a --><!-- End of part: b -->', /the part b ends here/],
  ];
  for (const [page, problem] of rows) {
    assert.throws(
      () => partsOf(openPage('a.html', bytesOf(page))),
      (error) => error instanceof CravelError && problem.test(error.message),
      page,
    );
  }
  assert.deepEqual(
    partsOf(openPage('a.html', bytesOf('<!--PART:a-->x<!--end of PART: A-->'))).map(({ name }) => name),
    ['a'],
  );
});

test('the check tells which copies drifted, and leaves those in step alone', () => {
  const nav = '<nav><a href="index.html" aria-current="page">H</a></nav>';
  const findings = driftIn({
    'index.html': `<!doctype html>\n${part(nav)}`,
    'good.html': part('<nav><a href="index.html">H</a></nav>'),
    'x/good.html': part('<nav><a href="../index.html">H</a></nav>'),
    'x/bad.html': `<p>\n${part('<nav><a href="../index.html">Home</a></nav>')}`,
    'open.html': '<!-- Part: nav -->',
    'other.html': part('', 'unknown'),
  });
  assert.deepEqual(
    findings.map(({ rule, grade, file, line, column, message }) => [
      rule,
      grade,
      file,
      line,
      column,
      message,
    ]),
    [
      [
        'part-drift',
        'untidy',
        'open.html',
        1,
        1,
        'the part nav has no end: mark where it ends: <!-- End of part: nav -->',
      ],
      [
        'part-drift',
        'untidy',
        'x/bad.html',
        2,
        1,
        'this copy of the part nav differs from the one in index.html',
      ],
    ],
  );
});

test('a page without a part gets it: marked where it stands, put at its place, or left alone where it differs', () => {
  const entry = `<body>\n<header>\n${part('\n<nav class="menu"><a href="a.html">A</a></nav>\n')}\n</header>\n<main>x</main>\n${part('\n<footer>f</footer>\n', 'foot')}\n<script></script>\n</body>`;
  const rows: readonly (readonly [
    what: string,
    page: string,
    outcome: string | null,
    after: string,
    replaces?: boolean,
  ])[] = [
    [
      'the same',
      '<body>\n<nav class="menu"><a href="a.html">A</a></nav>\n<main></main>',
      'marked',
      `<body>\n${part('\n<nav class="menu"><a href="a.html">A</a></nav>\n')}\n<main></main>`,
    ],
    ['a different one', '<body>\n<nav class="menu">B</nav>', 'differs', '<body>\n<nav class="menu">B</nav>'],
    [
      'a different one, to be replaced',
      '<body>\n<nav class="menu">B</nav>',
      'replaced',
      `<body>\n${part('\n<nav class="menu"><a href="a.html">A</a></nav>\n')}`,
      true,
    ],
    [
      'none',
      '<body>\n  <main>\n  </main>\n</body>',
      'added',
      `<body>\n  ${part('\n<nav class="menu"><a href="a.html">A</a></nav>\n  ')}\n  <main>\n  </main>\n</body>`,
    ],
    ['one that is marked', part(''), null, part('')],
  ];
  const model = outlineOf(openPage('index.html', bytesOf(entry)));
  const [navMaster, footMaster] = mastersOf(model.page).values();
  assert.ok(navMaster && footMaster);
  for (const [what, page, outcome, after, replaces = false] of rows) {
    const site = filesOf({ 'index.html': entry, 'b.html': page });
    assert.equal(takePart(site, model, navMaster, 'b.html', replaces), outcome, what);
    assert.equal(textOf(site.read('b.html')), after, what);
  }
  const site = filesOf({ 'b.html': '<main>\n</main>\n<script src=a.js></script>' });
  takePart(site, model, footMaster, 'b.html', false);
  takePart(site, model, navMaster, 'b.html', false);
  assert.match(
    textOf(site.read('b.html')),
    /^<!-- Part: nav -->[\s\S]*<main>[\s\S]*<\/main>\n<!-- Part: foot -->[\s\S]*<script/,
  );
});

test('an element is marked as a part where one selector finds it', () => {
  const page = openPage('index.html', bytesOf('<body>\n  <nav id="m">x</nav>\n  <p><p>'));
  assert.equal(
    textOf(markPart(page, 'menu', 'body > #m') as Uint8Array),
    '<body>\n  <!-- Part: menu -->\n  <nav id="m">x</nav>\n  <!-- End of part: menu -->\n  <p><p>',
  );
  assert.equal(markPart(page, 'menu', 'aside'), 'none');
  assert.equal(markPart(page, 'menu', 'p'), 2);
  assert.throws(() => markPart(page, 'menu', 'nav['), /nav\[ is not a CSS selector/);
});
