import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import type { SiteReport } from '../../src/core/report.ts';
import { LiveCheck } from '../support/live.ts';
import { sharesIn } from '../support/shares.ts';
import type { Files } from '../support/site.ts';

const coldReport = (files: Files): SiteReport => new LiveCheck({ files }).report();

const png = Uint8Array.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]);
const paths = [
  'index.html',
  'a.html',
  'b/index.html',
  'b/c.html',
  'css/a.css',
  'js/m.js',
  'i/p.png',
  'i/P.png',
];
const contents = [
  '<h1 id=x>x</h1><a href=a.html#x>a</a><a href=b/>b</a><script type=module src=js/m.js></script>',
  '<h2 id=y>y</h2><a href=index.html#X>i</a><a href=../a.html#y>a</a><img src=i/p.png><link rel=stylesheet href=css/a.css>',
  '<a href=b/c.html#x>c</a><a href=#z>z</a><img src=../i/p.png><a href=b>b</a><base href=b/><a href=#x>x</a>',
  '<!-- Part: nav --><nav><a href=a.html>a</a></nav><!-- End of part: nav --><title>Tides</title>',
  '<!-- Part: nav --><nav><a href=b/>b</a></nav><!-- End of part: nav --><p id=x><title>Tides</title>',
  '<script type=importmap>{"imports":{"k/":"./js/"}}</script><script type=module>import "k/m.js"; import "j"</script>',
  '@import "b.css"; a{background:url(../i/p.png)}',
  'import "k/n.js"; const tide = "i/P.png";',
  'const tide = "i/" + name;',
  png,
  '',
];
/** What may stand in each file. */
type Contents = Readonly<Record<string, readonly (string | Uint8Array)[]>>;

const anyOf = (paths: readonly string[], contents: readonly (string | Uint8Array)[]): Contents =>
  Object.fromEntries(paths.map((path) => [path, contents]));

/** Sites of some of these files, each with one of its contents, and what becomes of them step by step. */
function changing(contents: Contents) {
  const entries = Object.entries(contents);
  const file = fc.oneof(
    ...entries.map(([path, texts]) => fc.tuple(fc.constant(path), fc.constantFrom(...texts))),
  );
  const state = fc
    .uniqueArray(file, { selector: ([path]) => path })
    .map((chosen): Files => Object.fromEntries(chosen));
  const gone = fc.tuple(fc.constantFrom(...Object.keys(contents)), fc.constant(null));
  const step = fc.oneof({ weight: 5, arbitrary: file }, { weight: 1, arbitrary: gone });
  return fc.tuple(state, fc.array(fc.array(step, { maxLength: 3 }), { minLength: 1, maxLength: 5 }));
}

/** Pages whose scripts make and need what is there or not. */
const scripts = [
  '<script src=js/l.js></script><script src=js/u.js></script><p id=go>',
  '<script src=js/u.js></script><script src=js/l.js defer></script><button onclick="tide()">x</button>',
  '<script type=module src=js/u.js></script><script>tide();</script><p id=go><a href=a.html>a</a>',
  '<iframe srcdoc="<script src=js/u.js></script><p id=go>"></iframe><script src=js/l.js></script>',
  '<script>new Worker("js/w.js"); fetch("js/d.json")</script><a href=index.html>i</a>',
  '<script type=importmap>{"imports":{"tides":"./js/l.js"}}</script><script type=module>import { tide } from "tides"</script>',
  'Tideclock.start(); document.getElementById("go").hidden = true;',
  'var Tideclock = { start() {} }; function tide() {}',
  'export const tide = 1;',
  'importScripts("l.js"); tide(); fetch("d.json");',
  'document.body.append(Object.assign(document.createElement("p"), { id: "go" })); const l = "js/l.js";',
  '<script>fetch("nav.html").then((a) => a.text()).then((t) => { document.body.innerHTML = t })</script>',
  '<div data-include="nav.html"></div>',
  '<nav><a href=gone.html>g</a><img src=gone.svg><b id=go>',
  'let a = ;',
  'var tide = 010;',
  'import("./l.js");',
  '<script>import("./js/u.js")</script>',
  '',
];

/** A check that goes on from state to state says of each what a new one says. */
function goesOn(contents: Contents, runs = 100): void {
  fc.assert(
    fc.property(changing(contents), ([first, changes]) => {
      const live = new LiveCheck({ files: first });
      let files = first;
      for (const change of changes) {
        const after: Record<string, string | Uint8Array> = { ...files };
        for (const [path, text] of change) {
          if (text === null) delete after[path];
          else after[path] = text;
        }
        files = after;
        live.become({ files });
        assert.deepEqual(live.report(), coldReport(files));
      }
    }),
    { numRuns: Number(process.env.CRAVEL_MADE_UP ?? runs) },
  );
}

test('whatever changes, a check that goes on says what a new one says', () =>
  goesOn(anyOf(paths, contents), 200));

test('whatever becomes of scripts, a check that goes on says what a new one says', () =>
  goesOn(anyOf(['index.html', 'a.html', 'nav.html', 'js/l.js', 'js/u.js', 'js/w.js', 'js/d.json'], scripts)));

/** Pages that are called the same or not, at other places of their files. */
const titles = [
  '<title>Tides</title>',
  '\n<title>Tides</title>',
  '<title>Piers</title><meta name=description content=Tides>',
  '\n<title>Piers</title>\n<meta name=description content=Tides>',
  '<a href=a.html>a</a><a href=b.html>b</a><title>Tides</title>',
  '',
];

/** Pages with spots, ways to them, and scripts that make some. */
const spots = [
  '<a href=a.html#x>a</a><a href=#y>y</a>',
  '<p id=x><a href=index.html#y>i</a><a href=b/c.html#x>c</a>',
  '<p id=y><a href=#x>x</a><a href=../a.html#y>a</a>',
  '<p id=X><a href=index.html#x>i</a><script>show(location.hash)</script>',
  '<p id=y><script>document.body.append(Object.assign(document.createElement("p"), { id: "x" }))</script>',
  '<div data-include="nav.html"></div><a href=#x>x</a>',
  '<nav id=x>n</nav><a href=#y>y</a>',
  '<a href="a.html#x">x<p id=y><p class="',
  '',
];

test('whatever pages are called, a check that goes on says what a new one says', () =>
  goesOn(anyOf(['index.html', 'a.html', 'b.html'], titles)));

test('whatever becomes of spots, a check that goes on says what a new one says', () =>
  goesOn(anyOf(['index.html', 'a.html', 'b/c.html', 'nav.html'], spots)));

const scriptTags = (...paths: readonly string[]) =>
  paths.map((path) => `<script src=${path}></script>`).join('');

test('whatever scripts do about spots and elements, a check that goes on says what a new one says', () =>
  goesOn({
    'index.html': [
      `<a href=#x>x</a>${scriptTags('s.js')}`,
      `\n<a href=#x>x</a>\n${scriptTags('s.js')}`,
      `<a href=a.html#x>x</a>${scriptTags('s.js')}<p id=x>`,
      `<script src=s.js defer></script><p id=x>`,
    ],
    'a.html': [`${scriptTags('s.js')}<p id=x>`, scriptTags('s.js'), '<p id=y>'],
    's.js': [
      'show(location.hash)',
      'const p = document.createElement("p"); p.id = "x"; document.body.append(p)',
      'document.getElementById("x").hidden = true',
      'document.getElementById("y").hidden = true',
      'let a',
    ],
  }));

test('whatever scripts make and need, a check that goes on says what a new one says', () =>
  goesOn({
    'index.html': [
      scriptTags('u.js', 'l.js'),
      `\n${scriptTags('u.js', 'l.js')}`,
      `<head>\n<title>x</title>${scriptTags('u.js', 'l.js')}`,
      scriptTags('l.js', 'u.js'),
      scriptTags('u.js'),
      '<p onclick="tide()">',
    ],
    'a.html': [
      scriptTags('l.js', 'u.js'),
      `<iframe srcdoc="${scriptTags('u.js')}"></iframe>`,
      '<p onclick="tide()">x',
    ],
    'u.js': ['tide()', 'tied()', 'Boats.tide()', 'let a'],
    'l.js': ['function tide() {}', 'var tide', 'let = ;', 'Boats.tide = () => {}', 'var Boats = {}', ''],
    'm.js': ['function tide() {}', ''],
  }));

test('a script of a piece is judged again where it turns into another kind of file', () => {
  const piece = {
    'index.html': '<div data-include="nav.html"></div>',
    'nav.html': '<script src=u.js></script>',
  };
  const live = new LiveCheck({ files: { ...piece, 'u.js': '<script>let a</script>' } });
  const kinds = () => live.report().findings.filter(({ rule }) => rule === 'wrong-kind').length;
  assert.equal(kinds(), 1);
  live.become({ files: { ...piece, 'u.js': 'let a' } });
  assert.equal(kinds(), 0);
  // A piece that is gone, and one that is a page from now on.
  for (const files of [
    { 'index.html': piece['index.html'], 'u.js': 'let a' },
    { 'index.html': piece['index.html'], 'nav.html': '<!doctype html><title>a</title>' },
    { 'index.html': '<p>x</p>', 'nav.html': piece['nav.html'] },
  ]) {
    const other = new LiveCheck({ files: { ...piece, 'u.js': 'let a' } });
    other.report();
    other.become({ files });
    assert.deepEqual(other.report(), coldReport(files), JSON.stringify(files));
  }
});

test('what is said of a spot has its line and column as they are now', () => {
  const page = (blank: string) => `<!doctype html>${blank}<title>Piers</title><p>x`;
  const files = { 'index.html': page('\n'), 'a.html': page('\n'), 'b.html': '<title>Fares</title>' };
  for (const changed of ['index.html', 'a.html', 'b.html']) {
    const live = new LiveCheck({ files });
    assert.ok(live.report().findings.some(({ rule, line }) => rule === 'same-title' && line === 2));
    const after = { ...files, [changed]: page(' ') };
    live.become({ files: after });
    assert.deepEqual(live.report(), coldReport(after), changed);
  }
});

test('only what a change touches is taken again', () => {
  const files: Files = {
    'index.html': '<a href=a.html#x>a</a><img src=i/p.png>',
    'a.html': '<p id=x>x</p><a href=index.html>i</a>',
    'b.html': '<a href=c.html>c</a>',
    'd.html': '<a href=a.html>a</a>',
    'i/p.png': png,
  };
  const beside = {
    borders: new Set(['other/']),
    hidden: new Map([['.keep/', 'its name starts with a dot']]),
    deadLinks: new Map([['gone.svg', '../gone.svg']]),
  };
  const rows: readonly (readonly [Record<string, string | null>, string[]])[] = [
    [{}, []],
    [{ 'a.html': '<p id=y>y</p>' }, ['a.html']],
    // A reference to what was not there, and one that may have meant it.
    [{ 'c.html': '<p>c</p>' }, ['b.html', 'c.html']],
    [{ 'a.html': null }, ['index.html', 'b.html', 'd.html']],
    // A picture that is another one, and one that is none any more.
    [{ 'i/p.png': 'GIF89a' }, []],
    [{ 'i/p.png': '<html>' }, ['index.html']],
  ];
  for (const [change, expected] of rows) {
    const after = Object.fromEntries(
      Object.entries({ ...files, ...change }).filter(([, text]) => text !== null),
    ) as Files;
    const live = new LiveCheck({ files });
    assert.deepEqual(live.become({ files: after }), expected, JSON.stringify(change));
    assert.deepEqual(live.report(), coldReport(after));
    // What stands beside the files and stays as it was touches none.
    const still = new LiveCheck({ files, ...beside });
    assert.deepEqual(still.become({ files: after, ...beside }), expected, JSON.stringify(change));
  }
});

test('what is kept of a file is plain data, and a copy of it serves as well', () => {
  const files: Files = {
    'index.html': `<base href="./"><link rel=stylesheet href=a.css><a href=a.html#x>a</a><img src=none.png>
      <a href="https://tides.example/">t</a><script type=importmap>{"imports":{"tide":"./m.js"}}</script>
      <script type=module>import "tide"; import "pier"</script><iframe srcdoc="<img src=p.png>"></iframe>`,
    'a.html': '<p id=x><!-- Part: navigation --><a href=index.html#no>n</a><!-- End of part: navigation -->',
  };
  const shareOf = sharesIn([...Object.keys(files), 'a.css', 'm.js', 'p.png'], { isOnline: true });
  const copies = Object.keys(files).map((path) => {
    const share = shareOf(path, files[path] as string);
    const copy = structuredClone(share);
    assert.deepEqual(copy, share);
    return copy;
  });
  const [index, other] = copies;
  assert.deepEqual(
    [index?.suspected.length, index?.spots.length, index?.questions.length, index?.runAddresses.length],
    [2, 1, 1, 2],
  );
  assert.deepEqual([other?.leadsTo, other?.marksParts], [['index.html'], true]);
});
