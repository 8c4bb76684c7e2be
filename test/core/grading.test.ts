/** Which grade a finding has, whom it harms, and what settings may change of that. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { startCheck } from '../../src/core/check/check.ts';
import { type GradeSettings, gradesInWords, gradesOf } from '../../src/core/judge/grading.ts';
import { allRules } from '../../src/core/judge/index.ts';
import type { SiteReport } from '../../src/core/report.ts';
import { readSettings } from '../../src/core/settings/read.ts';
import { makeInventory } from '../../src/core/site/inventory.ts';
import { bytesOf, checkFiles, contentOptions, type Files, takeAll } from '../support/site.ts';

/** What is found in other files than pages: `file reached grade`. */
const besidePages = (files: Files) =>
  checkFiles(files)
    .findings.filter(({ file, rule }) => rule === 'absent' && !file.endsWith('.html'))
    .map(({ file, reached, grade }) => `${file} ${reached ? 'reached' : 'not reached'} ${grade}`);

test('what stands in a file that no page loads, by any chain, is untidy', () => {
  const bad = 'a{background:url(none.svg)}';
  const rows: readonly (readonly [files: Files, found: readonly string[]])[] = [
    [{ 'a.html': '<link rel=stylesheet href=a.css>', 'a.css': bad }, ['a.css reached broken']],
    [{ 'a.html': '', 'a.css': bad }, ['a.css not reached untidy']],
    // By way of others, and by the names that scripts hold.
    [
      { 'a.html': '<link rel=stylesheet href=a.css>', 'a.css': '@import "b.css";', 'b.css': bad },
      ['b.css reached broken'],
    ],
    [{ 'a.html': '', 'a.css': '@import "b.css";', 'b.css': bad }, ['b.css not reached untidy']],
    [{ 'a.html': '<script>load("css/b.css")</script>', 'css/b.css': bad }, ['css/b.css reached broken']],
    [
      { 'a.html': '<script src=a.js></script>', 'a.js': 'load("css/" + name)', 'css/d/b.css': bad },
      ['css/d/b.css reached broken'],
    ],
    [
      { 'a.html': '<a href=a.svg>map</a>', 'a.svg': '<svg><image href="none.png"/></svg>' },
      ['a.svg reached broken'],
    ],
    // What a page meant, and what hosts and search engines ask for by themselves.
    [{ 'a.html': '<link rel=stylesheet href=A.css>', 'a.css': bad }, ['a.css reached broken']],
    [
      { 'a.html': '', 'sitemap.xml': '<urlset><url><loc>none.html</loc></url></urlset>' },
      ['sitemap.xml reached broken'],
    ],
    [
      {
        'a.html':
          '<script type=importmap>{"imports":{"lib/":"./lib/"}}</script><script type=module>import "lib/m.js"</script>',
        'lib/m.js': 'import "./none.js"',
      },
      ['lib/m.js reached broken'],
    ],
    // Nobody can tell where a page could not be read, or there is none.
    [{ 'a.html': Uint8Array.of(0, 1), 'a.css': bad }, ['a.css reached broken']],
    [{ 'a.css': bad }, ['a.css reached broken']],
  ];
  for (const [files, found] of rows) assert.deepEqual(besidePages(files), found, JSON.stringify(files));
});

test('modules that no page loads, and that name others as bundlers let them, are one thing to be told', () => {
  const files: Files = {
    'index.html': '<script type="module" src="m.js"></script>',
    'm.js': 'import "./a/one"',
    'src/a.js': 'import "./a/one"; import { b } from "./b/two"; import "./none.js"',
    'src/x/b.js': 'export * from "../three?x"',
  };
  const { causes } = checkFiles(files);
  assert.deepEqual(
    causes.flatMap(({ rule, grade, findings, message }) =>
      rule === 'absent' ? [[grade, findings.length, message]] : [],
    ),
    [
      ['broken', 1, "there is no folder a in the site's root"],
      ['untidy', 3, 'written for a bundler: browsers find modules by their whole names alone'],
      ['untidy', 1, 'there is no file none.js in src'],
    ],
  );
});

test('a cause says how many pages it harms, however they come to its files', () => {
  const css = '<link rel=stylesheet href=a.css>';
  const { causes } = checkFiles({
    'a.html': `${css}<img src=none.svg>`,
    'b.html': css,
    'c.html': '<link rel=stylesheet href=b.css>',
    'd.html': '<p>',
    'a.css': 'a{background:url(none.svg)}',
    'b.css': '@import "a.css"; b{background:url(gone.svg)}',
    'e.css': 'e{background:url(lost.svg)}',
  });
  const pagesOf = (name: string) =>
    causes.find(({ findings }) => findings[0].rule === 'absent' && findings[0].written === name);
  assert.deepEqual(
    ['none.svg', 'gone.svg', 'lost.svg'].map((name) => {
      const { findings, files, pages, grade } = pagesOf(name) ?? { findings: [] };
      return [name, findings.length, files, pages, grade];
    }),
    [
      ['none.svg', 2, 2, 3, 'broken'],
      ['gone.svg', 1, 1, 1, 'broken'],
      ['lost.svg', 1, 1, 0, 'untidy'],
    ],
  );
});

test('a module that some pages have no import map for is told with those pages', () => {
  const map = '<script type=importmap>{"imports":{"sea":"./m.js"}}</script>';
  const run = '<script type=module src=run.js></script>';
  const report = (files: Files) =>
    checkFiles({ 'run.js': 'import "sea"', 'm.js': '', ...files })
      .findings.filter(({ rule }) => rule === 'absent')
      .map(({ file, written, pages }) => [file, written, pages]);
  assert.deepEqual(report({ 'a.html': map + run, 'b.html': run, 'c.html': run }), [
    ['run.js', 'sea', ['b.html', 'c.html']],
  ]);
  assert.deepEqual(report({ 'b.html': run, 'c.html': run }), [['run.js', 'sea', null]]);
  assert.deepEqual(report({ 'a.html': map + run }), []);
});

test('settings set the grade of a rule or silence it, and never raise what was lowered for a reason', () => {
  const files: Files = {
    'a.html': '<img src=none.svg><img src="b c.svg">',
    'a.css': 'a{background:url(gone.svg)}',
    'b c.svg': '<svg xmlns="http://www.w3.org/2000/svg"/>',
  };
  const read = (path: string) => bytesOf(files[path] ?? '');
  const report = (grades: GradeSettings): SiteReport => {
    const check = startCheck(makeInventory(Object.keys(files)), { ...contentOptions(read), grades });
    takeAll(check, read);
    return check.report('site', read);
  };
  const told = (grades: GradeSettings, rule: string) =>
    report(grades)
      .findings.filter((one) => one.rule === rule)
      .map(({ file, grade }) => `${file} ${grade}`);
  assert.deepEqual(told({}, 'absent'), ['a.css untidy', 'a.html broken']);
  assert.deepEqual(told({ absent: 'fragile' }, 'absent'), ['a.css untidy', 'a.html fragile']);
  assert.deepEqual(told({ absent: 'silent' }, 'absent'), []);
  assert.deepEqual(told({ 'needs-encoding': 'broken' }, 'needs-encoding'), ['a.html broken']);
  // That nothing refers to a file is true whether a page loads it or not.
  assert.deepEqual(told({ unused: 'broken' }, 'unused'), ['a.css broken']);
  assert.equal(report({ absent: 'fragile' }).counts.broken, 0);
});

test('settings that name a rule or a grade of before, or one that never was, are told what to write', () => {
  const rows: readonly (readonly [yaml: string, says: RegExp])[] = [
    ['grades: { no-index: broken }', /1:11: no-index is no rule; did you mean lacks-index\?/],
    ['grades: { no-effect: broken }', /no-effect is no rule; did you mean without-effect\?/],
    ['fail-on: [no-doctype]', /did you mean lacks-doctype\?/],
    ['accept: [{ rule: no-entry, because: x }]', /did you mean lacks-entry\?/],
    [
      'grades: { unused: off }',
      /1:11: off is no grade: write broken, fragile, misplaced, untidy or silent\./,
    ],
    ['grades: { zzzz: broken }', /zzzz is no rule\.\n/],
  ];
  for (const [yaml, says] of rows) assert.throws(() => readSettings(`${yaml}\n`), says, yaml);
});

test('every rule says which grades it may give, and when', () => {
  for (const rule of allRules) {
    const [own, ...milder] = gradesOf(rule);
    assert.equal(own.grade, rule.grade);
    for (const { when } of milder) assert.ok(when.length > 10, rule.name);
  }
  const words = (name: string) =>
    gradesInWords(gradesOf(allRules.find((rule) => rule.name === name) as never));
  assert.equal(
    words('absent'),
    'broken; fragile in a script, where a page may never ask for it; untidy in a file that no page of the site loads',
  );
  assert.equal(words('lacks-doctype'), 'untidy');
});
