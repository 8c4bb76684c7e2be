/** What a page loads, in which order, how, and what waits for it. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { startCheck } from '../../src/core/check/check.ts';
import { makeInventory } from '../../src/core/site/inventory.ts';
import { bytesOf, contentOptions, type Files, takeAll } from '../support/site.ts';

function loadsIn(files: Files, page = 'index.html') {
  const read = (path: string) => bytesOf(files[path] ?? '');
  const check = startCheck(makeInventory(Object.keys(files)), contentOptions(read));
  takeAll(check, read);
  return check.loads(page, {
    bytesOf: read,
    sizeOf: (path) => (path.endsWith('.mp4') ? null : read(path).length),
  });
}

/** `1 index.html:1:9 css/a.css 16 blocks rendering`: depth, spot, target, bytes and way. */
function told(files: Files, page?: string): string[] {
  return loadsIn(files, page).steps.map(({ depth, file, line, column, written, target, found, bytes, way }) =>
    [
      depth,
      `${file}:${line}:${column}`,
      target ?? written,
      found === true ? (bytes ?? '-') : found,
      way,
    ].join(' '),
  );
}

const rows: readonly (readonly [what: string, files: Files, ...said: string[]])[] = [
  [
    'stylesheets, by what they are for, and what they name',
    {
      'index.html': `<link rel=stylesheet href=a.css><link rel=stylesheet href=p.css media=" print"><link rel=stylesheet href=n.css media="not  screen">
<link rel=stylesheet href=w.css media="(width > 50em)"><link rel=stylesheet href=s.css media="screen and print"><link rel="alternate stylesheet" href=o.css title=o>
<link rel=preload as=style href=q.css><link rel=icon href=i.svg><link rel=manifest href=m.webmanifest><link rel=canonical href=c.html><link rel=next href=c.html>
<style>@import "in.css"; p { background: url(p.svg) }</style><p style="background: url(z.svg)">`,
      'a.css': '@import "b.css"; a { background: url(p.svg) } @font-face { src: url(f.woff2) }',
      'b.css': '@import "a.css"; a { background: url(gone.svg#x) }',
      'p.css': '@import "pp.css";',
      'n.css': '',
      'w.css': '',
      's.css': '',
      'o.css': '',
      'q.css': '',
      'in.css': '',
      'pp.css': 'a{}',
      'i.svg': '<svg/>',
      'p.svg': '<svg/>',
      'z.svg': '<svg/>',
      'f.woff2': 'x',
      'm.webmanifest': '{"icons":[{"src":"i.svg"}]}',
      'c.html': '',
    },
    '0 index.html:1:27 a.css 78 blocks rendering',
    '1 a.css:1:10 b.css 50 blocks rendering',
    '2 b.css:1:38 gone.svg#x false if used',
    '1 a.css:1:38 p.svg 6 if used',
    '1 a.css:1:69 f.woff2 1 if used',
    '0 index.html:1:59 p.css 17 if it applies',
    '1 p.css:1:10 pp.css 3 if it applies',
    '0 index.html:1:106 n.css 0 if it applies',
    '0 index.html:2:27 w.css 0 blocks rendering',
    '0 index.html:2:82 s.css 0 blocks rendering',
    '0 index.html:2:151 o.css 0 if it applies',
    '0 index.html:3:33 q.css 0 ahead',
    '0 index.html:3:59 i.svg 6 with the page',
    '0 index.html:3:89 m.webmanifest 27 with the page',
    '0 index.html:4:17 in.css 0 blocks rendering',
    '0 index.html:4:88 z.svg 6 if used',
  ],
  [
    'scripts, by when they run, and what they import',
    {
      'index.html': `<script src=a.js></script><script defer src=b.js></script><script async src=c.js></script><script type=module src=m.js></script><script type=module async src=n.js></script><script nomodule src=o.js></script><script src="//gullhaven.example/x.js"></script><p><noscript><img src=no.svg></noscript><template><img src=no.svg></template>
<script type=importmap>{"imports":{"tides":"./js/t.js"}}</script><script type=module>import "tides"; import "fares"; import("./late.js"); fetch("d.json"); if (x) fetch("e.json")</script><button onclick="location.href='c.html'"></button>`,
      'a.js': 'new Image().src = "p.svg"; document.querySelector("a").href = "c.html"',
      'b.js': '',
      'c.js': '',
      'o.js': '',
      'p.svg': '<svg/>',
      'no.svg': '<svg/>',
      'c.html': '',
      'late.js': '',
      'd.json': '{}',
      'e.json': '{}',
      'm.js': 'import "./mm.js"; export * from "./me.js"',
      'mm.js': 'import "./m.js"',
      'me.js': 'fetch("d.json")',
      'n.js': 'import "./nn.js"',
      'nn.js': '',
      'js/t.js': 'import "./u.js"',
      'js/u.js': '',
    },
    '0 index.html:1:13 a.js 70 blocks parsing',
    '1 a.js:1:20 p.svg 6 by script',
    '0 index.html:1:45 b.js 0 deferred',
    '0 index.html:1:77 c.js 0 async',
    '0 index.html:1:115 m.js 41 module',
    '1 m.js:1:9 mm.js 15 module',
    '1 m.js:1:34 me.js 15 module',
    '2 me.js:1:8 d.json 2 by script',
    '0 index.html:1:159 n.js 16 async',
    '1 n.js:1:9 nn.js 0 async',
    '0 index.html:1:221 //gullhaven.example/x.js elsewhere blocks parsing',
    '0 index.html:2:94 js/t.js 15 module',
    '1 js/t.js:1:9 js/u.js 0 module',
    '0 index.html:2:110 fares false module',
    '0 index.html:2:126 late.js 0 perhaps by script',
    '0 index.html:2:170 e.json 2 by script',
  ],
  [
    'pictures, media, frames and links',
    {
      'index.html': `<img src=a.svg srcset="b.svg 2x" alt=""><picture><source srcset=c.svg><img src=a.svg alt=""></picture><img src=d.svg loading=LAZY alt=""><link rel=preload as=image imagesrcset="e.svg 1x">
<video src=v.mp4 poster=f.svg></video><iframe src=x/in.html></iframe><iframe src=g.svg></iframe><object data=h.svg></object><a href=j.svg>j</a><meta property="og:image" content=k.svg><svg><image href=l.svg /></svg>`,
      'a.svg': '<svg/>',
      'b.svg': '<svg/>',
      'c.svg': '<svg/>',
      'd.svg': '<svg/>',
      'e.svg': '<svg/>',
      'f.svg': '<svg/>',
      'g.svg': '<svg><image href="j.svg"/></svg>',
      'h.svg': '<svg/>',
      'j.svg': '<svg/>',
      'k.svg': '<svg/>',
      'l.svg': '<svg/>',
      'v.mp4': 'x',
      'x/in.html': '<img src=n.svg><link rel=stylesheet href=in.css><script src=in.js></script>',
      'x/n.svg': '<svg/>',
      'x/in.css': '',
      'x/in.js': 'fetch("y.json")',
      'y.json': '{}',
      'x/y.json': '{}',
    },
    '0 index.html:1:10 a.svg 6 with the page',
    '0 index.html:1:24 b.svg 6 one of several',
    '0 index.html:1:65 c.svg 6 one of several',
    '0 index.html:1:112 d.svg 6 lazy',
    '0 index.html:1:178 e.svg 6 one of several',
    '0 index.html:2:12 v.mp4 - with the page',
    '0 index.html:2:25 f.svg 6 with the page',
    '0 index.html:2:51 x/in.html 75 with the page',
    '1 x/in.html:1:10 x/n.svg 6 with the page',
    '1 x/in.html:1:42 x/in.css 0 blocks rendering',
    '1 x/in.html:1:61 x/in.js 15 blocks parsing',
    '2 x/in.js:1:8 x/y.json 2 by script',
    '0 index.html:2:82 g.svg 32 with the page',
    '0 index.html:2:110 h.svg 6 with the page',
    '0 index.html:2:201 l.svg 6 with the page',
  ],
  [
    'what a frame and a worker ask for starts from themselves',
    {
      'index.html': `<script>new Worker("w/w.js"); fetch("a.json")</script><iframe src=x/in.html></iframe>`,
      'w/w.js': 'importScripts("v.js"); fetch("a.json")',
      'w/v.js': 'fetch("b.json")',
      'w/a.json': '{}',
      'w/b.json': '{}',
      'a.json': '{}',
      'x/in.html':
        '<script type=importmap>{"imports":{"tides":"./t.js"}}</script><style>@import "in.css";</style><script type=module>import "tides"</script>',
      'x/in.css': '',
      'x/t.js': 'fetch("c.json")',
      'x/c.json': '{}',
    },
    '0 index.html:1:21 w/w.js 38 by script',
    '1 w/w.js:1:16 w/v.js 15 by script',
    '2 w/v.js:1:8 w/b.json 2 by script',
    '1 w/w.js:1:31 w/a.json 2 by script',
    '0 index.html:1:38 a.json 2 by script',
    '0 index.html:1:67 x/in.html 137 with the page',
    '1 x/in.html:1:79 x/in.css 0 blocks rendering',
    '1 x/in.html:1:123 x/t.js 15 module',
    '2 x/t.js:1:8 x/c.json 2 by script',
  ],
  [
    'from a base, and from a page in a folder',
    {
      'x/index.html':
        '<base href="../y/"><img src=a.svg><link rel=stylesheet href=../css/a.css><script src=a.js></script>',
      'y/a.svg': '<svg/>',
      'y/a.js': 'fetch("b.json")',
      'y/b.json': '{}',
      'css/a.css': 'a{background:url(b.svg)}',
      'css/b.svg': '<svg/>',
    },
    '0 x/index.html:1:29 y/a.svg 6 with the page',
    '0 x/index.html:1:61 css/a.css 24 blocks rendering',
    '1 css/a.css:1:18 css/b.svg 6 if used',
    '0 x/index.html:1:86 y/a.js 15 blocks parsing',
    '1 y/a.js:1:8 y/b.json 2 by script',
  ],
];

test('what a page loads is told in the order in which a browser comes to it, and how', () => {
  for (const [what, files, ...said] of rows) {
    const page = 'index.html' in files ? 'index.html' : 'x/index.html';
    assert.deepEqual(told(files, page), said, what);
  }
});

test('what a browser waits for before it shows anything is counted, and the longest row of files that wait for each other', () => {
  const loads = loadsIn({
    'index.html':
      '<link rel=stylesheet href=a.css><script src=a.js></script><body><script src=b.js></script><iframe src=f.html></iframe><link rel=stylesheet media=print href=p.css><video src=v.mp4></video>',
    'a.css': '@import "b.css"; ',
    'b.css': 'a { background: url(p.svg) }',
    'p.svg': '<svg/>',
    'p.css': 'a { color: red }',
    'a.js': 'let a = 1;',
    'b.js': 'let bb = 1;',
    'f.html': '<link rel=stylesheet href=f.css>',
    'f.css': 'a { color: black }',
    'v.mp4': 'x',
  });
  const { page, bytes, chain, beforePaint, steps } = loads;
  assert.deepEqual([page, bytes], ['index.html', 187]);
  assert.equal(beforePaint, bytes + 17 + 28 + 10);
  assert.deepEqual(chain, ['index.html', 'a.css', 'b.css', 'p.svg']);
  assert.deepEqual(
    steps.map(({ step }) => step),
    steps.map((_step, at) => at + 1),
  );
  // A row of imports without an end is followed so far.
  const row: Record<string, string> = { 'index.html': '<link rel=stylesheet href=0.css>' };
  for (let at = 0; at < 300; at++) row[`${at}.css`] = `@import "${at + 1}.css";`;
  assert.equal(loadsIn(row).steps.length, 200);
});

/** `script runs goal; makes … perhaps …; needs … perhaps …; unknown` */
function scriptsIn(files: Files): string[] {
  return loadsIn(files).scripts.map(({ script, runs, goal, makes, mayMake, needs, mayNeed, unknown }) =>
    [
      `${script} ${runs} ${goal}`,
      `makes ${makes} perhaps ${mayMake}`,
      `needs ${needs.map(({ name, missing }) => (missing === null ? name : `${name} (${missing})`))} perhaps ${mayNeed}`,
      unknown,
    ].join('; '),
  );
}

const scripts: readonly (readonly [what: string, files: Files, ...said: string[]])[] = [
  [
    'of every kind',
    {
      'index.html': `<!doctype html><title>x</title><script src=u.js></script>
<script src=l.js></script><script defer src=gone.js></script><script src=b.js></script>
<script>var own = 1; own; Tideclock.start(); if (window.Piers) Piers.open(); addEventListener("load", () => { ready(own); });</script>
<script type=module src=m.js></script><script src=w.js></script><script async src="https://gullhaven.example/x.js"></script>`,
      'u.js': 'nowhere; Tideclock.start();',
      'l.js': 'var Tideclock = { start() {} }; var Tideclock; if (location.hash) window.Perhaps = 1;',
      'b.js': 'let = ;',
      'm.js': 'import { a } from "./n.js"; Tideclock; a;',
      'n.js': 'export const a = 1;',
      'w.js': 'eval(location.hash); try { Boats; } catch {}',
    },
    'u.js at-once script; makes  perhaps ; needs nowhere (nobody makes it),Tideclock perhaps ; ',
    'l.js at-once script; makes Tideclock,Perhaps perhaps ; needs  perhaps ; ',
    'b.js at-once script; makes  perhaps ; needs  perhaps ; does not run',
    'index.html:3 at-once script; makes own perhaps ; needs Tideclock perhaps Piers,ready; ',
    'w.js at-once script; makes  perhaps ; needs  perhaps ; not to be told',
    'gone.js deferred script; makes  perhaps ; needs  perhaps ; does not run',
    'n.js deferred module; makes  perhaps ; needs  perhaps ; ',
    'm.js deferred module; makes  perhaps ; needs Tideclock perhaps ; ',
    'https://gullhaven.example/x.js async script; makes  perhaps ; needs  perhaps ; another host',
  ],
  [
    'what is made later, by nobody, and by others',
    {
      'index.html':
        '<script src=u.js></script><script src=l.js></script><script>go(); Boats; Boats; later();</script><script>let = ;</script>',
      'u.js':
        'if (location.hash) Piers.open(); window.Ferry = 1; function go() { Ferry; Boats; } Tideclock.start(); Tideclock.stop(); go();',
      'l.js': 'var Tideclock = { start() {} }; function later() { return Sea; }',
    },
    'u.js at-once script; makes go,Ferry perhaps ; needs Tideclock (made later),Boats (nobody makes it) perhaps Piers; ',
    'l.js at-once script; makes Tideclock,later perhaps ; needs  perhaps ; ',
    'index.html:1 at-once script; makes  perhaps ; needs go,Boats,later perhaps ; ',
    'index.html:1 at-once script; makes  perhaps ; needs  perhaps ; does not run',
  ],
  [
    'that are modules, each once',
    {
      'index.html':
        '<script type=module src=m.js></script><script type=module src=n.js></script><script type=module src=m.js></script><script type=module>import "./m.js"</script>',
      'm.js': 'globalThis.Tide = 1; import "./n.js"',
      'n.js': 'globalThis.Ebb = 1;',
    },
    'n.js deferred module; makes Ebb perhaps ; needs  perhaps ; ',
    'm.js deferred module; makes Tide perhaps ; needs  perhaps ; ',
    'index.html:1 deferred module; makes  perhaps ; needs  perhaps ; ',
  ],
  [
    'that bring in what nobody can tell',
    {
      'index.html':
        '<script type=module>import "https://gullhaven.example/m.js"; Tide;</script><script src=a.js></script><script src=b.js async></script>',
      'a.js': 'for (const name in location) window[name] = 1;',
      'b.js': 'document.write("<script src=c.js></scr" + "ipt>"); Tide;',
    },
    'a.js at-once script; makes  perhaps ; needs  perhaps ; not to be told',
    'https://gullhaven.example/m.js deferred module; makes  perhaps ; needs  perhaps ; another host',
    'index.html:1 deferred module; makes  perhaps ; needs Tide perhaps ; ',
    'b.js async script; makes  perhaps ; needs Tide perhaps ; not to be told',
  ],
];

test('scripts are told in the order in which they run, with what they make and need', () => {
  for (const [what, files, ...said] of scripts) assert.deepEqual(scriptsIn(files), said, what);
});
