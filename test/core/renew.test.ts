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
/** Sites of some of these paths, each with some of these contents, and what becomes of them step by step. */
function changing(paths: readonly string[], contents: readonly (string | Uint8Array)[]) {
  const state = fc
    .uniqueArray(fc.tuple(fc.constantFrom(...paths), fc.constantFrom(...contents)), {
      selector: ([path]) => path,
    })
    .map((entries): Files => Object.fromEntries(entries));
  const step = fc.tuple(fc.constantFrom(...paths), fc.option(fc.constantFrom(...contents), { nil: null }));
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
  '',
];

/** A check that goes on from state to state says of each what a new one says. */
function goesOn(paths: readonly string[], contents: readonly (string | Uint8Array)[]): void {
  fc.assert(
    fc.property(changing(paths, contents), ([first, changes]) => {
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
    { numRuns: Number(process.env.CRAVEL_MADE_UP ?? 200) },
  );
}

test('whatever changes, a check that goes on says what a new one says', () => goesOn(paths, contents));

test('whatever becomes of scripts, a check that goes on says what a new one says', () =>
  goesOn(['index.html', 'a.html', 'nav.html', 'js/l.js', 'js/u.js', 'js/w.js', 'js/d.json'], scripts));

test('only what a change touches is taken again', () => {
  const files: Files = {
    'index.html': '<a href=a.html#x>a</a><img src=i/p.png>',
    'a.html': '<p id=x>x</p><a href=index.html>i</a>',
    'b.html': '<a href=c.html>c</a>',
    'd.html': '<a href=a.html>a</a>',
    'i/p.png': png,
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
