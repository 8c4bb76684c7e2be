import assert from 'node:assert/strict';
import { test } from 'node:test';
import { type Finding } from '../../src/core/report.ts';
import { inWords } from '../../src/show/holder.ts';
import { brokenIn, checkFiles, type Files, mended } from '../support/site.ts';

/** Sites with one reference each that does not hold: the rule, the walk's failing step, what was meant. */
const rows: readonly (readonly [files: Files, rule: string, stop: string, meant: string | null])[] = [
  [{ 'a.html': '<img src=pier.svg>' }, 'absent', 'pier.svg', null],
  [{ 'css/a.css': 'p{b:url(images/p.svg)}', 'images/p.svg': '' }, 'absent', 'images/', '../images/p.svg'],
  [{ 'x/a.html': '<img src=p.svg>', 'p.svg': '' }, 'absent', 'p.svg', '../p.svg'],
  [{ 'x/a.html': '<img src=/q/p.svg>', 'x/q/p.svg': '' }, 'absent', 'q/', 'q/p.svg'],
  [{ 'a.html': '<img src="x/p.svg?v=1#f">', 'p.svg': '' }, 'absent', 'x/', 'p.svg?v=1#f'],
  [{ 'a.html': '<img src="x/a b.svg">', 'a b.svg': '' }, 'absent', 'x/', 'a%20b.svg'],
  [{ 'a.html': '<a href=x/b.html?a=1&b=2>', 'b.html': '' }, 'absent', 'x/', 'b.html?a=1&amp;b=2'],
  [{ 'a.html': '<base href=y/><img src=p.svg>', 'p.svg': '', 'y/q.svg': '' }, 'absent', 'p.svg', '../p.svg'],
  [
    { 'a.html': '<img src=x/lighthuose.svg>', 'x/lighthouse.svg': '' },
    'absent',
    'lighthuose.svg',
    'x/lighthouse.svg',
  ],
  [{ 'a.html': '<img src=pier.jpg>', 'pier.svg': '' }, 'absent', 'pier.jpg', 'pier.svg'],
  [{ 'a.html': '<script src=lib/t.min.js></script>', 'lib/t.js': '' }, 'absent', 't.min.js', 'lib/t.js'],
  [{ 'a.html': '<img src=Pier.svg>', 'pier.svg': '' }, 'letter-case', 'Pier.svg', 'pier.svg'],
  [{ 'a.html': '<img src=Q/p.svg>', 'q/p.svg': '' }, 'letter-case', 'Q/', 'q/p.svg'],
  [
    { 'a.html': '<img src="cafe\u0301.svg">', 'caf\u00e9.svg': '' },
    'letter-case',
    'cafe\u0301.svg',
    'caf%C3%A9.svg',
  ],
  [{ 'a.html': '<script type=module>import "tide"</script>' }, 'absent', '', null],
  [
    {
      'a.html':
        '<script type=importmap>{"imports":{"t/":"./lib/"}}</script><script type=module>import "t/a.js"</script>',
      'lib/b.js': '',
    },
    'absent',
    'a.js',
    './lib/b.js',
  ],
  [{ 'a.html': '<img src=../p.svg>', 'i/p.svg': '' }, 'beyond-site', '..', 'i/p.svg'],
  [{ 'a.html': '<a href=x/>', 'x/p.svg': '' }, 'lacks-index', 'index.html', null],
  [{ 'a.html': '<a href=x>', 'x/b.html': '' }, 'lacks-index', 'index.html', 'x/b.html'],
  [{ 'a.html': '<a href=#b>' }, 'absent-anchor', '', null],
  [{ 'a.html': '<a href=b.html#C>', 'b.html': '<p id=c>' }, 'absent-anchor', '', 'b.html#c'],
  [{ 'a.html': '<a href=x/#c>', 'x/index.html': '' }, 'absent-anchor', '', null],
];

test('a reference that does not hold is found by its rule, with its walk and what was meant', () => {
  for (const [files, rule, stop, meant] of rows) {
    const { findings } = brokenIn(files);
    const row = JSON.stringify(files);
    assert.equal(findings.length, 1, row);
    const [finding] = findings;
    assert.ok(finding);
    assert.equal(finding.rule, rule, row);
    assert.equal(finding.walk.find(({ found }) => !found)?.name ?? '', stop, row);
    assert.equal(finding.mends[0]?.edits[0]?.text ?? null, meant, row);
    if (meant !== null) assert.equal(brokenIn(mended(files, finding)).findings.length, 0, `mended ${row}`);
  }
});

test('every format that is read is judged, and mended in its own syntax', () => {
  const formats: readonly (readonly [files: Files, spot: string, meant: string | null])[] = [
    [{ 'a.js': 'import "./x/b.js"', 'b.js': '' }, 'a.js import', './b.js'],
    [{ 'js/a.mjs': 'export * from "./c.js"', 'lib/c.js': '' }, 'js/a.mjs export from', '../lib/c.js'],
    [{ 'a.html': '<script type=module>import("./x.js")</script>' }, 'a.html import()', null],
    [{ 'a.html': '<script>fetch("x/b.json")</script>', 'b.json': '' }, 'a.html fetch()', 'b.json'],
    [
      { 'a.html': '<script type=importmap>{"imports":{"t":"./x/t.js"}}</script>', 'lib/t.js': '' },
      'a.html importmap imports',
      './lib/t.js',
    ],
    [{ 'a.html': '<p style="background:url(&quot;x/p.png&quot;)">', 'p.png': '' }, 'a.html url()', 'p.png'],
    [
      { 'a.html': "<iframe srcdoc='<img src=x/p.png>'></iframe>", 'p.png': '' },
      'a.html srcdoc img src',
      'p.png',
    ],
    [
      { 'a.html': '<meta http-equiv=refresh content="0; url=B.html">', 'b.html': '' },
      'a.html meta refresh',
      'b.html',
    ],
    [
      { 'images/a.svg': '<svg><image href="x/p.png"/></svg>', 'p.png': '' },
      'images/a.svg image href',
      '../p.png',
    ],
    [
      { 'site.webmanifest': '{"icons":[{"src":"Icon.png"}]}', 'icon.png': '' },
      'site.webmanifest manifest icons.src',
      'icon.png',
    ],
    [
      { 'sitemap.xml': '<urlset><url><loc>B.html</loc></url></urlset>', 'b.html': '' },
      'sitemap.xml sitemap loc',
      'b.html',
    ],
  ];
  for (const [files, spot, meant] of formats) {
    const [finding, ...more] = brokenIn(files).findings;
    assert.ok(finding && more.length === 0, JSON.stringify(files));
    assert.equal(`${finding.file} ${inWords(finding.holder)}`, spot);
    assert.equal(finding.mends[0]?.edits[0]?.text ?? null, meant, spot);
    if (meant !== null) assert.deepEqual(brokenIn(mended(files, finding)).findings, [], `mended ${spot}`);
  }
});

test('what cannot be judged from a file alone is not blamed', () => {
  const sound: readonly Files[] = [
    { 'a.js': 'import "tideclock"; import("#internal")' },
    { 'a.css': '@namespace url(none); p { fill: url(#local) }' },
    { 'a.svg': '<svg><use href="#local"/><path id="local"/></svg>' },
    {
      'a.html':
        '<svg><symbol id=s></symbol><use href="#s"/><textPath xlink:href="#s"/><feImage href="#s"/></svg>',
    },
  ];
  for (const files of sound) assert.deepEqual(brokenIn(files).findings, [], JSON.stringify(files));
});

test('a page in another encoding is judged, and its findings stand where editors show them', () => {
  const text = '<p>Fähre</p>\r\n<p>é<img src="Müwe.png">';
  const bytes = new Uint8Array(Buffer.from(`\uFEFF${text}`, 'utf16le'));
  const { findings, unread } = brokenIn({ 'a.html': bytes, 'müwe.png': '' });
  assert.deepEqual([findings.length, unread], [1, []]);
  const { rule, line, column, offset, length, written } = findings[0] as (typeof findings)[number];
  assert.deepEqual(
    { rule, line, column, written },
    { rule: 'letter-case', line: 2, column: 15, written: 'Müwe.png' },
  );
  assert.equal(Buffer.from(bytes.subarray(offset, offset + length)).toString('utf16le'), 'Müwe.png');
});

test('references that hold are not blamed', () => {
  const sound: readonly Files[] = [
    { 'a.html': '<a href="">x</a><a href="#">x</a><a href="#top">x</a><a href="#TOP">x</a>' },
    { 'a.html': '<a href="b.html?x=1#y">', 'b.html': '<p id=y>' },
    { 'a.html': '<a href="#caf%C3%A9"><p id="café">' },
    { 'a.html': '<a href="#a%20b"><p id="a%20b">' },
    { 'a.html': '<a href="#x:~:text=pier"><p id=x>' },
    { 'a.html': '<a href="b.html#:~:text=pier">', 'b.html': '' },
    { 'a.html': '<a href="x/">a</a><a href="x">b</a><a href="x/#y">c</a>', 'x/index.html': '<a name=y>' },
    { 'x/a.html': '<a href="..">a</a><a href="/">b</a>', 'index.html': '' },
    { 'a.html': '<video src="a.mp4#t=10">', 'a.mp4': '' },
    { 'a.html': '<img src="https://gullhaven.example/a.png"><a href="mailto:crew@gullhaven.example">' },
    { 'a.html': '<img src="a%20b.png">', 'a b.png': '' },
    { 'a.html': '<!-- <img src=a.png> --><p title="<img src=b.png>">' },
  ];
  for (const files of sound) assert.deepEqual(brokenIn(files).findings, [], JSON.stringify(files));
});

test('a mend is sure only when one answer makes sense, and never leads nowhere', () => {
  const sure = (files: Files) => brokenIn(files).findings[0]?.mends.map((mend) => mend.sure);
  assert.deepEqual(sure({ 'a.html': '<img src=x/p.svg>', 'y/p.svg': '' }), [true]);
  assert.deepEqual(sure({ 'a.html': '<img src=x/p.svg>', 'y/p.svg': '', 'z/p.svg': '' }), [false, false]);
  assert.deepEqual(sure({ 'a.html': '<img src=x/p.svg>', 'y/x/p.svg': '', 'z/p.svg': '' }), [true, false]);
  assert.deepEqual(sure({ 'a.html': '<a href=x/index.html>', 'y/index.html': '' }), []);
  assert.deepEqual(
    sure({ 'a.html': '<a href=x/b.html#c>', 'y/b.html': '' }),
    [],
    'the page lacks the anchor',
  );
  assert.deepEqual(sure({ 'a.html': '<img src=A.svg>', 'a.svg': '', 'x/A.svg': '' }), [true]);
});

test('a name that is nearly right, or was changed by a word, is told', () => {
  const rows: readonly (readonly [written: string, there: readonly string[], meant: readonly string[]])[] = [
    ['harbuor.svg', ['harbour.svg', 'pier.svg'], ['harbour.svg sure']],
    ['harbours.svg', ['harbour.svg'], ['harbour.svg sure']],
    // Another number is another picture, another letter another name.
    ['boat-2.svg', ['boat-1.svg'], ['boat-1.svg']],
    ['tideclock-1.0.2.svg', ['tideclock-1.0.3.svg'], ['tideclock-1.0.3.svg sure']],
    ['ab.webp', ['ac.webp'], ['ac.webp']],
    ['harbours.svg', ['harbour.svg', 'harbourl.svg'], ['harbour.svg', 'harbourl.svg']],
    ['pier.png', ['pier.svg', 'pier.txt'], ['pier.svg sure']],
    ['old-fulmar.svg', ['fulmar.svg', 'kittiwake.svg'], ['fulmar.svg']],
    ['fulmar.svg', ['fulmar-2024_wide.svg', 'fulmars-nest.svg'], ['fulmar-2024_wide.svg']],
    ['old-fulmar.svg', ['fulmar.png', 'sea-old.svg'], []],
    ['a-b.svg', ['a.svg', 'b.svg'], ['a.svg', 'b.svg']],
    ['map-b.svg', ['map.svg', 'map-c-d-e.svg'], ['map.svg']],
    ['tides.min.js', ['tides.js', 'old/other.js'], ['tides.js']],
  ];
  for (const [written, there, meant] of rows) {
    const files = Object.fromEntries(there.map((name) => [name, '']));
    const { findings } = brokenIn({ 'a.html': `<a href="${written}">`, ...files });
    const mends = findings[0]?.mends.map(({ sure, target }) => `${target}${sure ? ' sure' : ''}`);
    assert.deepEqual(mends, meant, written);
  }
});

test('a cause is one missing target, however many references name it', () => {
  const { causes, counts } = brokenIn({
    'a.html': '<img src=p.svg><img src=p.svg><a href=#x>',
    'b/c.html': '<img src=../p.svg>',
  });
  assert.equal(counts.broken, 4);
  assert.deepEqual(
    causes.map(({ findings, files, pages }) => [findings.length, files, pages]),
    [
      [3, 2, 2],
      [1, 1, 1],
    ],
  );
  // What leads to one folder outside has one cause; what was plainly meant has its own.
  const outside = brokenIn({
    'a.html': '<a href=../docs/b.html><a href=../docs/c.html><a href=../other/c.html><img src=../p.svg>',
    'd/e.html': '<a href=../../docs/f.html>',
    'i/p.svg': '',
  });
  assert.deepEqual(
    outside.causes.map(({ findings }) => findings.map(({ written }) => written)),
    [['../p.svg'], ['../docs/b.html', '../docs/c.html', '../../docs/f.html'], ['../other/c.html']],
  );
});

test('what is said over and over is mended at each of its spots', () => {
  const links = '<img src="q/p.svg"><script src="//gull.example/x.js"></script><img src="a b.svg">';
  const files = {
    'a.html': links + links,
    'b.html': `<p>${links}`,
    'c/d.html': links,
    'i/p.svg': '<svg/>',
    'a b.svg': '<svg/>',
  };
  const mendable = (site: Files) => checkFiles(site).findings.filter(({ mends }) => mends.length > 0);
  const told = (findings: readonly Finding[]) => findings.map(({ rule, file }) => `${rule} ${file}`);
  const findings = mendable(files);
  assert.equal(findings.length, 12);
  for (const finding of findings) {
    const others = findings.filter((other) => other !== finding);
    assert.deepEqual(told(mendable(mended(files, finding))), told(others));
  }
});

test('a finding says exactly where it stands', () => {
  const { findings } = brokenIn({ 'a.html': '\uFEFF<!doctype html>\r\n<p>é😀<img src="a b.png">\n' });
  const { line, column, offset, length, holder = null, kind, written, target } = findings[0] ?? {};
  assert.deepEqual(
    { line, column, offset, length, holder: inWords(holder), kind, written, target },
    {
      line: 2,
      column: 17,
      offset: 39,
      length: 7,
      holder: 'img src',
      kind: 'image',
      written: 'a b.png',
      target: 'a b.png',
    },
  );
});

test('menus are compared where people may have written them by hand', () => {
  const site = (amount: number): Files =>
    Object.fromEntries(
      Array.from({ length: amount }, (_none, at) => [
        `${at === 0 ? 'index' : `p${at}`}.html`,
        `<!doctype html><nav><a href="index.html">Home</a><a href="p2.html">Boats</a><a href="p3.html">Piers</a>${at === 5 ? '' : `<a href="p1.html">Fares</a>`}</nav>`,
      ]),
    );
  const odd = (amount: number) =>
    checkFiles(site(amount)).findings.flatMap(({ rule, file }) => (rule === 'odd-one-out' ? file : []));
  assert.deepEqual([odd(8), odd(500), odd(501)], [['p5.html'], ['p5.html'], []]);
});
