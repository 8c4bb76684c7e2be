/** Fragments that no element of a page answers, and scripts that may. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { checkFiles, type Files } from '../support/site.ts';

const fragments = ['piers', '/fares', '!/fares', 'day=2', '?x#/2/3'] as const;
const told = (files: Files, fragment: string): string | null => {
  const report = checkFiles({ 'a.html': `<a href="b.html#${fragment}">b</a>`, ...files });
  const [finding] = report.findings.filter(({ rule }) => rule === 'absent-anchor');
  return finding?.grade ?? null;
};
const page = (code: string): Files => ({ 'b.html': `<p id="fares"><script>${code}</script>` });

test('a fragment that a script of the page reads may be a way; a plain name is fragile', () => {
  const reading = [
    'show(location.hash)',
    'const way = window.location; use(way.hash)',
    'let u; u = document.location; use(u.hash.slice(1))',
    'const { hash } = location; use(hash)',
    'use(new URL(location).hash)',
    'const u = new URL(document.URL); use(u.hash)',
    'use(location.href.split("#")[1])',
    'use(document.URL.replace(/^[^#]*#/, ""))',
    'const l = location; if (l.href.indexOf("#") > 0) use(1)',
    'addEventListener("hashchange", use)',
    '$(window).on("load hashchange", use)',
    'window.onhashchange = use',
    'document.querySelector("a").onclick = () => { if (location.hash) use() }',
  ];
  const others = [
    'location.hash = "x"; other.hash; use({ hash: 1 }); const { hash } = password',
    'location.href = "b.html"; use(location.href.split("?")); use(text.split("#"))',
    '// location.hash',
    'use("location.hash", "b.html#x")',
    'addEventListener("click", use)',
  ];
  for (const code of reading) {
    for (const one of fragments)
      assert.equal(told(page(code), one), one === 'piers' ? 'fragile' : null, code);
    // A near name is what was meant all the same.
    assert.equal(told(page(code), 'Fares'), 'broken', code);
  }
  for (const code of others) for (const one of fragments) assert.equal(told(page(code), one), 'broken', code);
});

test('it is read by any script that the page runs', () => {
  const way = 'use(location.hash)';
  const padding = `var x = [${'f(1),'.repeat(20_000)}];`;
  const rows: readonly (readonly [files: Files, plain: string | null, way: string | null])[] = [
    [{ 'b.html': '<script src="j.js"></script>', 'j.js': way }, 'fragile', null],
    [
      { 'b.html': '<script type="module" src="m.js"></script>', 'm.js': 'import "./j.js"', 'j.js': way },
      'fragile',
      null,
    ],
    [{ 'b.html': '<body onload="show(location.hash)">' }, 'fragile', null],
    [{ 'b.html': '<p>', 'j.js': way }, 'broken', 'broken'],
    // Of another host nobody can tell.
    [{ 'b.html': '<script src="https://tides.example/t.js"></script>' }, 'broken', null],
    // A library has code for much that nobody calls; who waits for another fragment is told.
    [{ 'b.html': '<script src="j.js"></script>', 'j.js': `${padding}${way}` }, 'broken', 'broken'],
    [
      { 'b.html': '<script src="j.js"></script>', 'j.js': `${padding}addEventListener("hashchange", use)` },
      'fragile',
      null,
    ],
  ];
  for (const [files, plain, ways] of rows) {
    const code = JSON.stringify(files).slice(0, 200);
    assert.equal(told(files, 'piers'), plain, code);
    assert.equal(told(files, '/piers'), ways, code);
  }
  const own = checkFiles({
    'b.html': '<a href="#/fares">f</a><a href="#none">n</a><script>use(location.hash)</script>',
  });
  assert.deepEqual(
    own.findings.flatMap(({ rule, written, grade }) =>
      rule === 'absent-anchor' ? `${written} ${grade}` : [],
    ),
    ['#none fragile'],
  );
});

test('ids that scripts of the page give are there', () => {
  const rows: readonly (readonly [code: string, grade: string | null])[] = [
    ['element.id = "piers"', null],
    ['element.setAttribute("id", `piers`)', null],
    ['$("<p>").attr("id", "piers")', null],
    ['$("<p>", { id: "piers" })', null],
    ['document.body.innerHTML = "<p class=a id=piers>"', null],
    [`document.body.innerHTML = \`<p id='piers'>\${x}</p>\``, null],
    [`document.body.innerHTML = \`<p id="pi\${x}">\``, null],
    ['element.id = "pi" + x', null],
    [`element.id = \`pier-\${x}\``, 'broken'],
    ['element.id = x', 'fragile'],
    ['element.setAttribute("id", x)', 'fragile'],
    ['use({ id: x })', 'broken'],
    ['use("piers", "data-id=piers", "<p data-id=piers>")', 'broken'],
    ['element.name = "piers"; if (element.id === "piers") use()', 'broken'],
  ];
  for (const [code, grade] of rows) assert.equal(told(page(code), 'piers'), grade, code);
});
