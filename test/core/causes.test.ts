/** Findings by their cause, and the command that settles each. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { checkFiles, type Files } from '../support/site.ts';

const image = '<svg xmlns="http://www.w3.org/2000/svg"/>';

/** The causes of a site as `rule findings files: command`, of the rules that are named. */
function causesOf(files: Files, rules: readonly string[]): string[] {
  return checkFiles(files)
    .causes.filter(({ rule }) => rules.includes(rule))
    .map(({ rule, findings, files: amount, mend }) => `${rule} ${findings.length} ${amount}: ${mend}`);
}

test('each cause names the command that settles all of it, where one is known', () => {
  const ADOPT = 'cravel adopt <folder, archive or address> --wire';
  const page = (markup: string) => ({ 'index.html': markup });
  const rows: readonly (readonly [rule: string, files: Files, command: string | null])[] = [
    // What is not there: a page is made, a library is taken in; of anything else nobody knows.
    ['absent', page('<a href="tides.html">'), 'cravel page ./tides.html'],
    ['absent', page('<iframe src="piers/tides.html">'), 'cravel page ./piers/tides.html'],
    ['absent', page('<a href="My%20Tides.html">'), null],
    ['absent', page('<a href="tides.pdf">'), null],
    ['absent', page('<img src="pier.svg">'), null],
    ['absent', page('<script src="js/tides.js"></script>'), null],
    ['absent', page('<img src="lib/pier.svg">'), null],
    ...['lib', 'libs', 'libraries', 'vendor', 'a/lib'].map((folder): [string, Files, string] => [
      'absent',
      page(`<script src="${folder}/x.js"></script>`),
      ADOPT,
    ]),
    ['absent', page('<script src="mylib/x.js"></script>'), null],
    ['absent', page('<script src="tide.min.js"></script>'), ADOPT],
    ['absent', page('<script src="tide-min.mjs" type=module></script>'), ADOPT],
    ['absent', page('<script src="tidemin.js"></script>'), null],
    ['absent', page('<script src="tide.min.js.txt"></script>'), null],
    ['absent', page('<link rel=stylesheet href="lib/x.css">'), ADOPT],
    ['lacks-index', { ...page('<a href="piers/">'), 'piers/a.svg': image }, 'cravel page ./piers/'],
    ['lacks-index', { ...page('<a href="My%20Piers/">'), 'My Piers/a.svg': image }, null],
    ['lacks-index', { 'a/b.html': '<a href="../">' }, null],
    // Edits, sure or not; where there is something better than one that is not, that.
    ['absent', { ...page('<img src="pier.svg">'), 'images/pier.svg': image }, 'cravel mend --only absent'],
    [
      'absent',
      { ...page('<img src="old-pier.svg"><img src=pier.svg>'), 'pier.svg': image },
      'cravel mend --guesses --only absent',
    ],
    ['letter-case', { ...page('<img src="Pier.svg">'), 'pier.svg': image }, 'cravel mend --only letter-case'],
    ['needs-encoding', { ...page('<img src="a b.svg">'), 'a b.svg': image }, 'cravel move --safe-names'],
    [
      'needs-encoding',
      { ...page('<img src="宿.svg">'), '宿.svg': image },
      'cravel mend --only needs-encoding',
    ],
    ['file-name', { ...page('<img src="a%20b.svg">'), 'a b.svg': image }, 'cravel move --safe-names'],
    // What a rule settles when it is to be done, and what only a person knows.
    ['lacks-viewport', page('<p>x'), 'cravel mend --only lacks-viewport'],
    ['lacks-description', page('<p>x'), 'cravel mend --guesses --only lacks-description'],
    ['lacks-language', page('<p>x'), 'cravel mend --guesses --only lacks-language'],
    [
      'blocking-script',
      { ...page('<head><script src=a.js></script></head>'), 'a.js': 'x = 1;' },
      'cravel mend --only blocking-script',
    ],
    [
      'blocking-script',
      { ...page('<head><script src=a.js></script></head>'), 'a.js': 'document.write("x");' },
      null,
    ],
    [
      'late-stylesheet',
      { ...page('<body><link rel=stylesheet href=a.css></body>'), 'a.css': 'b{}' },
      'cravel mend --only late-stylesheet',
    ],
    [
      'twice',
      { ...page('<script src=a.js></script><script src=a.js></script>'), 'a.js': 'x = 1;' },
      'cravel mend --only twice',
    ],
    ['inline-code', page(`<script>${'let a;'.repeat(1000)}</script>`), 'cravel lift'],
    [
      'wrong-place',
      {
        ...page('<link rel=stylesheet href=a.css><link rel=stylesheet href=css/b.css>'),
        'a.css': 'b{}',
        'css/b.css': 'b{}',
      },
      'cravel move a.css css/',
    ],
    // What was renamed by other means: a file, and a folder that is gone.
    [
      'absent',
      { ...page('<a href="boats.html">'), 'boat.html': '<p>x' },
      'cravel move --already boats.html boat.html',
    ],
    [
      'absent',
      { ...page('<a href="boats.html">'), 'boat.html': '<p>x', 'b.html': '<a href="boat.html">' },
      'cravel mend --only absent',
    ],
    [
      'absent',
      { ...page('<img src="images/a.svg"><img src="images/b.svg">'), 'img/a.svg': image, 'img/b.svg': image },
      'cravel move --already images img',
    ],
    [
      'absent',
      { ...page('<img src="images/a.svg"><img src="img/a.svg">'), 'img/a.svg': image },
      'cravel mend --only absent',
    ],
    [
      'absent',
      {
        ...page('<img src="images/a.svg"><img src="images/c.svg">'),
        'img/a.svg': image,
        'images/c.svg': image,
      },
      'cravel mend --only absent',
    ],
  ];
  for (const [rule, files, command] of rows) {
    const { causes } = checkFiles(files);
    const [first] = causes.filter((cause) => cause.rule === rule);
    assert.ok(first !== undefined, `${rule} ${JSON.stringify(files)}`);
    assert.equal(first.mend, command, JSON.stringify(files));
  }
});

test('what one change to the site would settle is one cause', () => {
  const rows: readonly (readonly [files: Files, ...causes: string[]])[] = [
    // A folder that is not there is one, whatever was wanted in it; a missing file is one wherever it is named.
    [{ 'index.html': '<img src="a/x.svg"><img src="a/b/y.svg"><img src="../c/z.svg">' }, 'absent 2 1: null'],
    [
      { 'index.html': '<img src="x.svg"><img src="y.svg">', 'b.html': '<img src="x.svg">' },
      'absent 2 2: null',
      'absent 1 1: null',
    ],
    [
      { 'p/index.html': '<img src="../a/x.svg">', 'p/b.html': '<img src="a/x.svg">' },
      'absent 1 1: null',
      'absent 1 1: null',
    ],
    [
      { 'a/index.html': '<img src="../q/x.svg">', 'b/index.html': '<img src="../q/y.svg">' },
      'absent 2 2: null',
    ],
    // Spots by their page and their name.
    [
      {
        'index.html': '<a href="#x">a</a><a href="b.html#x">b</a>',
        'b.html': '<a href="#x">c</a><a href="#y">d</a>',
      },
      'absent-anchor 2 2: null',
      'absent-anchor 1 1: null',
      'absent-anchor 1 1: null',
    ],
    // Of different commands none settles all.
    [{ 'index.html': '<img src="a/p.svg"><img src="a/q.svg">', 'p.svg': image }, 'absent 2 1: null'],
  ];
  for (const [files, ...causes] of rows)
    assert.deepEqual(causesOf(files, ['absent', 'absent-anchor']), causes, JSON.stringify(files));
});

test('causes come by harm: what the whole page needs, what is seen, ways, spots', () => {
  const files = {
    'index.html':
      '<a href="a.pdf" download>d</a><a href="#none">s</a><a href="no.html">w</a><img src="no.svg"><script src="no.js"></script><link rel=stylesheet href="no.css"><video src="no.mp4"></video>',
  };
  const written = checkFiles(files)
    .causes.filter(({ grade }) => grade === 'broken')
    .map(({ findings: [{ written: one }] }) => one);
  assert.deepEqual(written.slice(0, 2).sort(), ['no.css', 'no.js']);
  assert.deepEqual(written.slice(2, 4).sort(), ['no.mp4', 'no.svg']);
  assert.deepEqual(written.slice(4, 6).sort(), ['a.pdf', 'no.html']);
  assert.deepEqual(written.slice(6), ['#none']);
});
