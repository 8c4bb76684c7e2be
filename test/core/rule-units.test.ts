/** Rules by themselves, at their edges: what they say of facts that are made up. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { causesOf } from '../../src/core/judge/causes.ts';
import { type GradeSettings, gradedBy, isUnheeded, unreached } from '../../src/core/judge/grading.ts';
import type { PageRecord, SiteFacts } from '../../src/core/judge/rule.ts';
import { filler } from '../../src/core/judge/rules/filler.ts';
import { oddOneOut } from '../../src/core/judge/rules/odd-one-out.ts';
import { wrongPlace } from '../../src/core/judge/rules/wrong-place.ts';
import { AT_START } from '../../src/core/read/lines.ts';
import type { Kind } from '../../src/core/read/reading.ts';
import type { Finding } from '../../src/core/report.ts';
import type { Places } from '../../src/core/site/places.ts';
import { checkFiles, type Files } from '../support/site.ts';

interface MadeUp extends Partial<Omit<PageRecord, 'loads' | 'navigation'>> {
  readonly file: string;
  readonly loads?: readonly string[];
  readonly navigation?: readonly string[];
  /** What it leads to, and what its broken references were meant for. */
  readonly ways?: readonly string[];
}

function factsOf(
  pages: readonly MadeUp[],
  kinds: Readonly<Record<string, Kind>> = {},
  samples: readonly string[] = [],
): SiteFacts {
  const records = pages.map(
    (page): PageRecord => ({
      title: null,
      description: null,
      leadsTo: [],
      marksParts: false,
      samples: [],
      ...page,
      loads: new Map((page.loads ?? []).map((path) => [path, kinds[path] ?? 'stylesheet'])),
      navigation: new Set(page.navigation ?? []),
    }),
  );
  const ways = new Map(pages.map(({ file, ways: own = [] }) => [file, own]));
  return {
    pages: new Map(records.map((record) => [record.file, record])),
    samples,
    loadedAs: new Map(Object.entries(kinds)),
    waysFrom: (file: string) => ways.get(file) ?? [],
  } as unknown as SiteFacts;
}

const named = (amount: number, make: (name: string, index: number) => Partial<MadeUp>) =>
  Array.from({ length: amount }, (_none, index): MadeUp => {
    const file = index === 0 ? 'index.html' : `p${index}.html`;
    return { file, ...make(file, index) };
  });

test('a page that lacks what the others load, or a way that theirs have, is told where there are enough of them', () => {
  const lacks = (amount: number, path: string, kind: Kind) =>
    factsOf(
      named(amount, (_name, index) => ({ loads: index === 1 ? [] : [path] })),
      { [path]: kind },
    );
  const menu = (
    amount: number,
    own: (name: string, index: number) => Partial<MadeUp>,
    ways = ['a.html', 'b.html', 'c.html'],
  ) => factsOf(named(amount, (name, index) => ({ navigation: ways, ...own(name, index) })));
  const oneOf = (index: number, change: Partial<MadeUp>) => (_name: string, at: number) =>
    at === index ? change : {};
  const short = ['a.html', 'b.html'];
  const all = ['index.html', 'p1.html', 'p2.html', 'p3.html'];
  const rows: readonly (readonly [what: string, facts: SiteFacts, told: readonly string[]])[] = [
    ['three pages', lacks(3, 'a.css', 'stylesheet'), []],
    ['four pages', lacks(4, 'a.css', 'stylesheet'), ['p1.html a.css']],
    ['a script, nine pages', lacks(9, 'a.js', 'script'), []],
    ['a script, ten pages', lacks(10, 'a.js', 'script'), ['p1.html a.js']],
    ['an image, ten pages', lacks(10, 'a.png', 'image'), []],
    [
      'two of ten lack it',
      factsOf(
        named(10, (_name, index) => ({ loads: index < 2 ? [] : ['a.css'] })),
        { 'a.css': 'stylesheet' },
      ),
      [],
    ],
    [
      'it was meant',
      factsOf(
        named(4, (_name, index) => (index === 1 ? { ways: ['a.css'] } : { loads: ['a.css'] })),
        { 'a.css': 'stylesheet' },
      ),
      [],
    ],
    ['a way', menu(4, oneOf(2, { navigation: short })), ['p2.html c.html']],
    [
      'three navigations are too few',
      menu(4, (_name, index) => ({ 1: { navigation: [] }, 2: { navigation: short } })[index] ?? {}),
      [],
    ],
    [
      'a page without one does not count',
      menu(5, (_name, index) => ({ 1: { navigation: [] }, 2: { navigation: short } })[index] ?? {}),
      ['p2.html c.html'],
    ],
    ['of two ways that it lacks, it is another one', menu(4, oneOf(2, { navigation: ['a.html'] })), []],
    ['two lack it', menu(4, (_name, index) => (index < 2 ? { navigation: short } : {})), []],
    ['one has a way more', menu(4, oneOf(2, { navigation: ['a.html', 'b.html', 'c.html', 'd.html'] })), []],
    ['nothing else is common', menu(4, oneOf(2, { navigation: ['q.html'] }), ['a.html']), []],
    ['a part is held to its master', menu(4, oneOf(2, { navigation: short, marksParts: true })), []],
    ['its own entry', factsOf(named(4, (name) => ({ navigation: all.filter((path) => path !== name) }))), []],
    [
      'a page itself says nothing of what others lack',
      factsOf(
        named(4, (name, index) => ({
          navigation: index < 2 ? all.filter((path) => path !== 'p3.html') : [...all, name],
        })),
      ),
      [],
    ],
    [
      'a broken reference was meant for it',
      menu(4, oneOf(2, { navigation: short, leadsTo: short, ways: [...short, 'c.html'] })),
      [],
    ],
    [
      'the page leads there elsewhere',
      menu(
        4,
        oneOf(2, { navigation: short, leadsTo: [...short, 'c.html'], ways: [...short, 'c.html', 'x.html'] }),
      ),
      ['p2.html c.html'],
    ],
    [
      'its other ways were meant for others',
      menu(4, oneOf(2, { navigation: short, leadsTo: short, ways: [...short, 'x.html'] })),
      ['p2.html c.html'],
    ],
  ];
  for (const [what, facts, told] of rows)
    assert.deepEqual(
      oddOneOut.judgeSite(facts).map(({ file, target }) => `${file} ${target}`),
      told,
      what,
    );
  const [load] = oddOneOut.judgeSite(lacks(4, 'a.css', 'stylesheet'));
  assert.equal(load?.message, '3 of 4 pages load a.css, and this one does not');
});

test("a starter's text is told once the first has been replaced, and shown as far as it is short", () => {
  const sixty = 'x'.repeat(60);
  const rows: readonly (readonly [
    texts: readonly (readonly number[])[],
    samples: readonly string[],
    told: readonly string[],
  ])[] = [
    [[[0]], ['One', 'Two'], ["“One” is still the starter's"]],
    [[[0, 1]], ['One', 'Two'], []],
    [[[]], ['One', 'Two'], []],
    [[[], [1]], ['One', 'Two'], ["“Two” is still the starter's"]],
    [[[0, 1]], ['One', 'Two', 'Three'], ["“One” is still the starter's, and so is 1 more text of this page"]],
    [
      [[2, 0, 1]],
      ['One', 'Two', 'Three', 'Four'],
      ["“Three” is still the starter's, and so are 2 more texts of this page"],
    ],
    [[[0]], [sixty, 'Two'], [`“${sixty}” is still the starter's`]],
    [[[0]], [`${sixty}y`, 'Two'], [`“${sixty}…” is still the starter's`]],
  ];
  for (const [texts, samples, told] of rows) {
    const pages = texts.map(
      (own, index): MadeUp => ({
        file: `p${index}.html`,
        samples: own.map((text) => ({ text, offset: 7, length: 3 })),
      }),
    );
    const found = filler.judgeSite(factsOf(pages, {}, samples));
    assert.deepEqual(
      found.map(({ message }) => message),
      told,
    );
    for (const { offset, length } of found) assert.deepEqual([offset, length], [7, 3]);
  }
});

test('files of a kind are told where they lie in none of their homes, with the command that moves them', () => {
  const judge = (places: Places, loadedAs: Readonly<Record<string, Kind>>) =>
    wrongPlace
      .judgeSite({ site: { places }, loadedAs: new Map(Object.entries(loadedAs)) } as unknown as SiteFacts)
      .map(({ file, message }) => `${file}: ${message}`);
  const told = ['a.css: styles live in css/ here'];
  assert.deepEqual(judge({ styles: 'css' }, { 'a.css': 'stylesheet' }), told);
  assert.deepEqual(
    judge({ styles: 'css', images: 'images', libraries: 'lib' }, { 'a.css': 'stylesheet' }),
    told,
  );
  for (const [places, path] of [
    [{ styles: 'css' }, 'css/a.css'],
    [{ styles: '.' }, 'x/a.css'],
    [{ styles: 'css', libraries: 'lib' }, 'lib/x/a.css'],
    [{ styles: 'css', images: 'images' }, 'images/a.css'],
    [{ fonts: 'fonts' }, 'a.css'],
  ] as const)
    assert.deepEqual(judge(places, { [path]: 'stylesheet' }), [], path);
  assert.deepEqual(judge({ fonts: 'fonts' }, { 'a.woff2': 'font', 'a.js': 'script' }), [
    'a.woff2: fonts live in fonts/ here',
  ]);
  const after = (file: string, message: string) =>
    wrongPlace.next?.after({ file, kind: null, target: null, message }) ?? null;
  assert.equal(after('a.css', 'styles live in css/ here'), 'cravel move a.css css/');
  assert.equal(after('a b.css', 'styles live in css/ here'), null);
  assert.equal(after('a.css', 'styles live in my css/ here'), null);
  assert.equal(after('a.css', 'styles live in css/ here, mostly'), null);
});

const finding: Finding = {
  rule: 'absent',
  grade: 'broken',
  file: 'a.html',
  ...AT_START,
  offset: 0,
  length: 0,
  holder: null,
  written: 'x.js',
  kind: 'script',
  target: 'x.js',
  message: 'm',
  reached: true,
  pages: null,
  walk: [],
  order: null,
  mends: [],
};

test('settings change the grade of what a rule finds, but never raise what was lowered for a reason of its own', () => {
  const rows: readonly (readonly [settings: GradeSettings, found: Partial<Finding>, grade: string | null])[] =
    [
      [{}, {}, 'broken'],
      [{ absent: 'silent' }, {}, null],
      [{ absent: 'untidy' }, {}, 'untidy'],
      [{ absent: 'broken' }, {}, 'broken'],
      [{ absent: 'broken' }, { grade: 'fragile' }, 'fragile'],
      [{ absent: 'fragile' }, { grade: 'fragile' }, 'fragile'],
      [{ absent: 'untidy' }, { grade: 'fragile' }, 'untidy'],
      [{ absent: 'broken' }, { grade: 'untidy', reached: false }, 'untidy'],
      [{ unused: 'broken' }, { rule: 'unused', grade: 'untidy', reached: false }, 'broken'],
      [{ unused: 'broken' }, { rule: 'unused', grade: 'untidy' }, 'broken'],
      [{ 'letter-case': 'untidy' }, {}, 'broken'],
    ];
  for (const [settings, found, grade] of rows) {
    const [one] = gradedBy(settings, [{ ...finding, ...found }]);
    assert.equal(one?.grade ?? null, grade, JSON.stringify([settings, found]));
  }
  assert.equal(isUnheeded({ ...finding, reached: false }), true);
  assert.equal(isUnheeded(finding), false);
  assert.equal(isUnheeded({ ...finding, rule: 'unused', reached: false }), false);
});

test('what no page loads is untidy, and modules that are written for bundlers are told as that', () => {
  const rows: readonly (readonly [found: Partial<Finding>, isForBundlers: boolean, grade: string])[] = [
    [{ kind: 'module', written: './x' }, true, 'untidy'],
    [{ kind: 'module', written: './x?y=a.b' }, true, 'untidy'],
    [{ kind: 'module', written: 'x.js' }, true, 'untidy'],
    [{ kind: 'module', written: './x.js' }, false, 'untidy'],
    [{ kind: 'module', written: './x.js?v=2' }, false, 'untidy'],
    [{ kind: 'module', written: './x.js#a/b' }, false, 'untidy'],
    [{ kind: 'script', written: './x' }, false, 'untidy'],
    [{ kind: 'module', written: './x', rule: 'letter-case' }, false, 'untidy'],
    [{ rule: 'twin-names', grade: 'fragile' }, false, 'fragile'],
  ];
  for (const [found, isForBundlers, grade] of rows) {
    const one = unreached({ ...finding, ...found });
    assert.equal(/bundler/.test(one?.message ?? ''), isForBundlers, JSON.stringify(found));
    assert.deepEqual([one?.grade, one?.reached], [grade, false], JSON.stringify(found));
  }
});

test('findings have one cause where one change would settle them', () => {
  const step = (name: string, found: boolean, kind: 'from' | 'into' | 'file' = 'into') => ({
    step: kind,
    name,
    found,
  });
  const lost = (folder: string, name: string): Partial<Finding> => ({
    target: `${folder}/${name}`,
    walk: [step('/', true, 'from'), step(`${folder}/`, false), step(name, false, 'file')],
  });
  const rows: readonly (readonly [
    what: string,
    one: Partial<Finding>,
    other: Partial<Finding>,
    isOne: boolean,
  ])[] = [
    ['a folder that is not there', lost('x', 'a.js'), lost('x', 'b.js'), true],
    ['two folders', lost('x', 'a.js'), lost('y', 'a.js'), false],
    [
      'files of a folder that is there',
      { target: 'x/a.js', walk: [step('/', true, 'from'), step('x/', true), step('a.js', false, 'file')] },
      { target: 'x/b.js', walk: [step('/', true, 'from'), step('x/', true), step('b.js', false, 'file')] },
      false,
    ],
    ['one target', { written: 'x.js' }, { written: '../x.js', file: 'p/a.html' }, true],
    [
      'a fragment is no other target',
      { target: null, written: 'x#a' },
      { target: null, written: 'x#b' },
      true,
    ],
    [
      'but of spots it is',
      { rule: 'absent-anchor', target: 'p.html', written: 'p.html#a' },
      { rule: 'absent-anchor', target: 'p.html', written: 'p.html#b' },
      false,
    ],
    ['in a file that no page loads', {}, { reached: false }, false],
    ['of another grade', {}, { grade: 'untidy' }, false],
    [
      'of a rule that has one cause',
      { rule: 'insecure', target: 'a' },
      { rule: 'insecure', target: 'b' },
      true,
    ],
  ];
  for (const [what, one, other, isOne] of rows) {
    const causes = causesOf(
      [
        { ...finding, ...one },
        { ...finding, ...other },
      ],
      { pagesOf: () => 1 },
    );
    assert.equal(causes.length, isOne ? 1 : 2, what);
  }
  // By harm: what is heeded first, then what the whole page needs, then by pages.
  const order = causesOf(
    [
      { ...finding, kind: 'page', target: 'way' },
      { ...finding, kind: 'image', target: 'seen' },
      { ...finding, target: 'needed' },
      { ...finding, target: 'unheeded', reached: false },
      { ...finding, rule: 'absent-anchor', kind: 'anchor', target: 'spot' },
      { ...finding, kind: null, target: 'whole' },
    ],
    { pagesOf: () => 1 },
  );
  assert.deepEqual(
    order.map(({ findings: [{ target }] }) => target),
    ['needed', 'whole', 'seen', 'way', 'spot', 'unheeded'],
  );
  const byPages = causesOf(
    [
      { ...finding, target: 'few' },
      { ...finding, target: 'many', file: 'b.html' },
      { ...finding, target: 'many', file: 'c.html' },
    ],
    { pagesOf: (files) => files.size },
  );
  assert.deepEqual(
    byPages.map(({ pages }) => pages),
    [2, 1],
  );
});

test('addresses that only some hosts answer are told, each with what every host answers', () => {
  const site: Files = { 'piers/index.html': '', 'timetable.html': '', 'a/b.html': '', 'p.svg': '' };
  const rows: readonly (readonly [markup: string, says: string | null, mend?: string])[] = [
    ['<a href="piers">', 'a folder is addressed with a slash at the end', 'piers/'],
    ['<iframe src="piers"></iframe>', 'a folder is addressed with a slash at the end', 'piers/'],
    ['<a href="timetable">', 'only some hosts add .html by themselves', 'timetable.html'],
    ['<a href="a//b.html">', 'not every host takes two slashes for one', 'a/b.html'],
    ['<a href="timetable.html?u=a//b">', null],
    ['<a href="timetable.html#a//b">', null],
    ['<a href="piers/">', null],
    ['<a href="./">', null],
    ['<img src="p.svg">', null],
  ];
  for (const [markup, says, mend] of rows) {
    const { findings } = checkFiles({
      ...site,
      'index.html': `<!doctype html><title>x</title><body>${markup}`,
    });
    const [told] = findings.filter(({ rule }) => rule === 'host-dependent');
    assert.equal(told?.message ?? null, says, markup);
    if (mend !== undefined)
      assert.deepEqual([told?.mends[0]?.sure, told?.mends[0]?.edits[0]?.text], [true, mend], markup);
  }
  const frame = checkFiles({ ...site, 'index.html': '<iframe src="timetable"></iframe><img src="piers">' });
  assert.deepEqual(
    frame.findings.filter(({ rule }) => rule === 'host-dependent'),
    [],
  );
});

test('an address that lacks its scheme, and a host that is none, is told with what was meant', () => {
  const rows: readonly (readonly [markup: string, title: string | null])[] = [
    ['<a href="www.gullhaven.example">', 'write https://www.gullhaven.example'],
    ['<a href="www.gullhaven.example/a b">', null],
    ['<img src="www.gullhaven.example/p.png">', 'write https://www.gullhaven.example/p.png'],
    ['<a href="crew@gullhaven.example">', 'write mailto:crew@gullhaven.example'],
    ['<a href="crew@gullhaven.example?subject=x">', 'write mailto:crew@gullhaven.example?subject=x'],
    ['<a href="see crew@gullhaven.example">', null],
    ['<img src="crew@gullhaven.example">', null],
    ['<a href="crew@gullhaven">', null],
  ];
  for (const [markup, title] of rows) {
    const { findings } = checkFiles({ 'index.html': `<!doctype html><title>x</title><body>${markup}` });
    const [told] = findings.filter(({ rule }) => rule === 'absent');
    assert.equal(told?.mends[0]?.title ?? null, title, markup);
    if (title !== null) assert.equal(told?.mends[0]?.sure, true, markup);
  }
});
