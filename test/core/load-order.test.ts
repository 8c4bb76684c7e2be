/** What is said of the order in which pages run their scripts, and what puts it right. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { startCheck } from '../../src/core/check/check.ts';
import type { StatedLibraries } from '../../src/core/check/script-files.ts';
import type { Finding } from '../../src/core/report.ts';
import { makeInventory } from '../../src/core/site/inventory.ts';
import { orderOfTwo } from '../corpus/order-of-two.ts';
import {
  bytesOf,
  checkFiles,
  contentOptions,
  type Files,
  mended,
  oneAtATime,
  takeAll,
} from '../support/site.ts';

const RULES = /^(?:does-not-parse|before-its-library|library-left-out|nobody-makes|calls-nothing)$/;

function toldOf(files: Files, libraries: StatedLibraries = {}): readonly Finding[] {
  const read = (path: string) => bytesOf(files[path] ?? '');
  const check = startCheck(makeInventory(Object.keys(files)), { ...contentOptions(read), libraries });
  takeAll(check, read);
  return check.report('site', oneAtATime(read)).findings.filter(({ rule }) => RULES.test(rule));
}

const lib = 'var Tideclock = { start() {} };';
const use = 'Tideclock.start();';

test('tags are moved, left to wait or put in, and all else stays as it is', () => {
  const rows: readonly (readonly [about: string, before: string, after: string, title: string])[] = [
    [
      'whole lines',
      '<p>é\n  <script src="u.js"></script>\n  <script src="l.js"></script>\n<p>',
      '<p>é\n  <script src="l.js"></script>\n  <script src="u.js"></script>\n<p>',
      'move l.js before u.js',
    ],
    [
      'lines of Windows',
      '<p>\r\n<script src="u.js"></script>\r\n<script src="l.js"></script>\r\n',
      '<p>\r\n<script src="l.js"></script>\r\n<script src="u.js"></script>\r\n',
      'move l.js before u.js',
    ],
    [
      'in one line',
      '<script src="u.js"></script><p>x</p><script src="l.js"></script>',
      '<script src="l.js"></script><script src="u.js"></script><p>x</p>',
      'move l.js before u.js',
    ],
    [
      'code of the page',
      '<p>\n<SCRIPT>\nTideclock.start();\n</SCRIPT >\n<p>x</p>\n<script src=l.js></script>\n',
      '<p>\n<script src=l.js></script>\n<SCRIPT>\nTideclock.start();\n</SCRIPT >\n<p>x</p>\n',
      'move l.js before index.html:2',
    ],
    [
      'deferred ones',
      '\n<script defer src="u.js"></script>\n<script defer src="l.js"></script>\n',
      '\n<script defer src="l.js"></script>\n<script defer src="u.js"></script>\n',
      'move l.js before u.js',
    ],
    [
      'the user waits as well',
      '<script src="l.js" defer></script><script src="u.js"></script>',
      '<script src="l.js" defer></script><script src="u.js" defer></script>',
      'defer u.js as well',
    ],
    [
      'or the library does not',
      '<script src="l.js" defer></script><script>Tideclock.start();</script>',
      '<script src="l.js"></script><script>Tideclock.start();</script>',
      'load l.js without defer',
    ],
    [
      'what nobody waits for',
      '<script src="l.js" async></script><script src="u.js" defer></script>',
      '<script src="l.js" defer></script><script src="u.js" defer></script>',
      'defer l.js instead of async',
    ],
    [
      'a user that nobody waits for',
      '<p>\n<script async="" src="u.js"></script>\n<script defer src="l.js"></script>\n',
      '<p>\n<script defer src="l.js"></script>\n<script defer src="u.js"></script>\n',
      'defer u.js instead of async, behind l.js',
    ],
    [
      'what was left out',
      '<p>\n    <script defer src="u.js"></script>\n',
      '<p>\n    <script src="l.js" defer></script>\n    <script defer src="u.js"></script>\n',
      'load l.js before u.js',
    ],
  ];
  for (const [about, before, after, title] of rows) {
    const files: Files = { 'index.html': before, 'u.js': use, 'l.js': lib };
    const [finding, ...others] = toldOf(files);
    assert.ok(finding !== undefined && others.length === 0, about);
    assert.equal(finding.mends[0]?.title ?? '', title, about);
    const changed = mended(files, finding);
    assert.equal(changed['index.html'], after, about);
    if (title !== '') assert.deepEqual(toldOf(changed), [], about);
  }
});

test('however two scripts are loaded, it is told where the one may come too early, and mended where one step does', () => {
  const code: Files = { 'l.js': 'globalThis.Tideclock = { start() {} };', 'u.js': use };
  const ways: Readonly<Record<string, (path: string) => string>> = {
    'at once': (path) => `<script src=${path}></script>`,
    defer: (path) => `<script defer src=${path}></script>`,
    async: (path) => `<script async src=${path}></script>`,
    'async defer': (path) => `<script async defer src=${path}></script>`,
    module: (path) => `<script type=module src=${path}></script>`,
    'module defer': (path) => `<script type=module defer src=${path}></script>`,
    'async module': (path) => `<script type=module async src=${path}></script>`,
    code: (path) => `<script>${code[path]}</script>`,
    'module code': (path) => `<script type=module>${code[path]}</script>`,
  };
  const told: string[] = [];
  for (const [user, using] of Object.entries(ways))
    for (const [maker, making] of Object.entries(ways))
      for (const isUserFirst of [true, false]) {
        const tags = [using('u.js'), making('l.js')];
        const files = { ...code, 'index.html': (isUserFirst ? tags : tags.reverse()).join('') };
        const what = `${user} | ${maker} | ${isUserFirst ? 'user' : 'maker'} first`;
        for (const finding of toldOf(files)) {
          const [mend] = finding.mends;
          told.push(`${what} | ${mend?.title ?? '-'}`);
          assert.equal(finding.rule, 'before-its-library', what);
          // What is parsed before the tag of the other runs before that, for certain.
          const isBefore = isUserFirst && (user === 'at once' || user === 'code');
          const isChance = user.startsWith('async') || (maker.startsWith('async') && !isBefore);
          assert.equal(finding.grade, isChance ? 'fragile' : 'broken', what);
          if (mend !== undefined) assert.deepEqual(toldOf(mended(files, finding)), [], what);
        }
      }
  assert.deepEqual(told, orderOfTwo.trim().split('\n'));
});

test('a mend of one page is one of all that fail alike, and those alone are named', () => {
  const bad = '<script src="u.js"></script><script src="l.js"></script>';
  const good = '<script src="l.js"></script><script src="u.js"></script>';
  const files: Files = {
    'index.html': good,
    'a.html': bad,
    'b.html': bad,
    'c.html': '<p>x</p>',
    'u.js': use,
    'l.js': lib,
  };
  const [finding, ...others] = toldOf(files);
  assert.ok(finding !== undefined && others.length === 0);
  assert.deepEqual(
    [finding.file, finding.pages, finding.order, finding.target],
    ['u.js', ['a.html', 'b.html'], { is: ['u.js', 'l.js'], should: ['l.js', 'u.js'] }, 'l.js'],
  );
  assert.deepEqual(toldOf(mended(files, finding)), []);
  const everywhere = toldOf({ ...files, 'index.html': bad });
  assert.deepEqual(
    everywhere.map(({ pages }) => pages),
    [null],
  );
});

test('what one page loads too late and another one not at all is told as each', () => {
  const told = toldOf({
    'index.html': '<script src="u.js"></script><script src="l.js"></script>',
    'a.html': '<script src="u.js"></script>',
    'u.js': use,
    'l.js': lib,
  });
  assert.deepEqual(
    told.map(({ rule, pages, mends }) => [rule, pages, mends.length]),
    [
      ['library-left-out', ['a.html'], 1],
      ['before-its-library', ['index.html'], 1],
    ],
  );
});

test('what a missing script may have made is one finding, whatever its address is on each page', () => {
  const told = toldOf({
    'index.html': '<script src="gone/l.js"></script><script src="u.js"></script>',
    'piers/a.html': '<script src="../gone/l.js"></script><script src="../u.js"></script>',
    'u.js': use,
  });
  assert.deepEqual(
    told.map(({ rule, file, pages }) => [rule, file, pages]),
    [['nobody-makes', 'u.js', null]],
  );
});

test('a name that only another page makes may be meant', () => {
  const [first] = toldOf({
    'index.html': '<script src="l.js"></script>',
    'a.html': '<script>Tideclok.start();</script>',
    'l.js': lib,
  });
  assert.match(
    first?.message ?? '',
    /^nothing that the page runs makes Tideclok; Tideclock was probably meant$/,
  );
});

test('what may not be declared again is told, with the script that declared it', () => {
  const rows: readonly (readonly [markup: string, said: RegExp | null])[] = [
    ['<script src=a.js></script><script>let a;</script>', /^a\.js has declared a already, and it may not be/],
    ['<script>let a;</script><script>var a;</script>', /^index\.html:1 has declared a already/],
    ['<script>let location;</script>', /^every browser has declared location already/],
    ['<script>var a;</script><script>var a;</script>', null],
    ['<script src=a.js></script><script type=module>let a;</script>', null],
    ['<script src=none.js></script><script>let a;</script>', null],
  ];
  for (const [markup, said] of rows) {
    const told = toldOf({ 'index.html': markup, 'a.js': 'const a = 1;' });
    if (said === null) assert.deepEqual(told, [], markup);
    else assert.match(told[0]?.message ?? '', said, markup);
  }
});

test('what is said of a name that is missing', () => {
  const rows: readonly (readonly [markup: string, files: Files, said: RegExp])[] = [
    ['<script src=u.js></script>', {}, /^nothing that the page runs makes Tideclock$/],
    [
      '<script src=u.js></script><script src=x.js></script>',
      {},
      /makes Tideclock: x\.js, which may, is not there$/,
    ],
    [
      '<script src=x.js></script><script src=tideclock.js></script><script src=u.js></script>',
      {},
      /: tideclock\.js, which may,/,
    ],
    [
      '<script src=l.js></script><script src=u.js></script>',
      { 'l.js': 'var Tideclock = {;' },
      /: l\.js would, and does not/,
    ],
    [
      '<script src=l.js></script><script src=u.js></script>',
      { 'l.js': 'nope();\nwindow.Tideclock = {}' },
      /: l\.js would, and does not/,
    ],
    [
      '<script type=module src=l.js></script><script defer src=u.js></script>',
      { 'l.js': lib },
      /: l\.js is a module and keeps its Tideclock/,
    ],
    [
      '<script src=l.js></script><script src=u.js></script>',
      { 'l.js': 'var TideClock;' },
      /; TideClock was probably meant$/,
    ],
    ['<script src=u.js></script>', { 'l.js': lib }, /; l\.js does, and the page does not load it$/],
    // Of two that make it the readable one, of two copies the one that lies higher up.
    ['<script src=u.js></script>', { 'l.min.js': lib, 'l.js': lib, 'a/l.js': lib }, /; l\.js does,/],
    // What only servers run is none.
    ['<script src=u.js></script>', { 'l.js': `${lib} module.exports = Tideclock;` }, /makes Tideclock$/],
    [
      '<script>let a = Ferry; class Ferry {}</script>',
      {},
      /^Ferry is used here, and made only further down in index\.html:1$/,
    ],
    [
      '<script>addEventListener("load", () => Tideclock.x);</script>',
      {},
      /^it is needed once the page is there, and nothing that the page runs makes Tideclock$/,
    ],
    ['<script>require("x");</script>', {}, /^no browser has require: .* for servers/],
    [
      '<script async src=l.js></script><script src=u.js></script>',
      { 'l.js': lib },
      /^Tideclock is there only if l\.js, which makes it, comes in time/,
    ],
    [
      '<script src=u.js></script><script src="https://a.example/tideclock.js"></script><script src="https://a.example/b.js"></script>',
      {},
      /^nothing that runs before makes Tideclock; https:\/\/a\.example\/tideclock\.js runs only after it$/,
    ],
    [
      '<button onclick="Tideclock.start()">x</button>',
      { 'l.js': lib },
      /^no script of the page makes Tideclock; l\.js does,/,
    ],
    [
      '<button onclick="Tideclok.start()">x</button><script src=l.js></script>',
      { 'l.js': lib },
      /; Tideclock was probably meant$/,
    ],
  ];
  for (const [markup, files, said] of rows) {
    const told = toldOf({ 'index.html': markup, 'u.js': use, ...files });
    assert.match(told.at(-1)?.message ?? '', said, markup);
  }
});

test('nothing is said where a script that nobody knows may have made the name', () => {
  const rows: readonly (readonly [markup: string, files?: Files])[] = [
    ['<script src="https://a.example/x.js"></script><script src=u.js></script>'],
    ['<script src="https://a.example/x.js" async></script><script src=u.js></script>'],
    ['<script type=module>import "https://a.example/x.js";</script><script defer src=u.js></script>'],
    [
      '<script src=l.js></script><script src=u.js></script>',
      { 'l.js': 'const s = document.createElement("script"); s.src = "x.js"; document.head.append(s);' },
    ],
    ['<script src=l.js></script><script src=u.js></script>', { 'l.js': 'eval(location.hash);' }],
    [
      '<script src=l.js></script><script src=u.js></script>',
      { 'l.js': 'Object.assign(window, JSON.parse(localStorage.x));' },
    ],
    [
      '<script src=l.js></script><script src=u.js></script>',
      { 'l.js': 'for (const name of Object.keys(localStorage)) window[name] = 1;' },
    ],
    [
      '<script src=l.js></script><script>start(window);</script><script src=u.js></script>',
      {
        'l.js':
          'const all = { a: 1 }; function start(where) { for (const name in localStorage) where[name] = all; }',
      },
    ],
    [
      '<script src=l.js></script><script src=m.js></script><script src=u.js></script>',
      {
        'l.js': 'function define() {} define.amd = {};',
        'm.js':
          '(function (f) { if (typeof define === "function" && define.amd) define(f); else f(); })(function () {});',
      },
    ],
    // A library that was not followed through and through.
    [
      '<script src=l.js></script><script src=u.js></script>',
      {
        'l.js':
          `function install(where) { where.Tideclock = 1; }\n${'let a;'.repeat(1)}${'a = 1;'.repeat(12_000)}`.replace(
            'let a;',
            'var a;',
          ),
      },
    ],
    // An element is there by its id, and by the name of a form.
    ['<p id=Tideclock></p><script src=u.js></script>', { 'u.js': 'Tideclock.remove();' }],
    ['<form name="Tideclock"></form><script src=u.js></script>', { 'u.js': 'Tideclock.submit();' }],
  ];
  for (const [markup, files = {}] of rows)
    assert.deepEqual(toldOf({ 'index.html': markup, 'u.js': use, ...files }), [], markup);
});

test('a document in srcdoc is a page in small, with names of its own', () => {
  const files = { 'use.js': 'make();', 'make.js': 'function make() {}' };
  const made = '<script src=make.js></script>';
  // What is told, with what stands there in the file.
  const rows: readonly (readonly [markup: string, said: readonly string[]])[] = [
    [`<iframe srcdoc="${made}<script>make();</script>"></iframe>`, []],
    [`${made}<iframe srcdoc="<script>make();</script>"></iframe>`, ['library-left-out make: make']],
    [`<iframe srcdoc="${made}"></iframe><script>make();</script>`, ['library-left-out make: make']],
    [
      `<iframe srcdoc='<script src="use.js"></script>${made}'></iframe>`,
      ['use.js before-its-library make: make'],
    ],
    // Exact behind character references, and where one is written with one.
    [
      '<iframe srcdoc="<p id=&quot;no&quot;></p><script>f(&quot;&eacute;&quot;); sail();</script>"></iframe>',
      ['nobody-makes f: f'],
    ],
    ['<iframe srcdoc="&lt;script>x&#97;y();&lt;/script>"></iframe>', ['nobody-makes xay: x&#97;y']],
    ['<iframe srcdoc="<button onclick=sail()>"></iframe>', ['calls-nothing sail: sail']],
    [
      `<iframe srcdoc="<script>document.getElementById('board').focus()</script><p id=board>"></iframe>`,
      ["before-its-element #board: document.getElementById('board')"],
    ],
    // One that holds another.
    [
      `<iframe srcdoc="${made}<iframe srcdoc='<script>make()</script>'></iframe>"></iframe>`,
      ['library-left-out make: make'],
    ],
    [
      '<iframe sandbox="allow-scripts" srcdoc="<script>sail()</script>"></iframe>',
      ['nobody-makes sail: sail'],
    ],
    // What does not run, and what its page reaches into.
    ['<iframe sandbox srcdoc="<script>sail()</script>"></iframe>', []],
    ['<template><iframe srcdoc="<script>sail()</script>"></iframe></template>', []],
    ['<iframe srcdoc="<script>sail()</script>"></iframe><script>frames[0].sail = () => 1;</script>', []],
  ];
  for (const [markup, said] of rows) {
    const { findings } = checkFiles({ 'index.html': markup, ...files });
    const told = findings.filter(({ rule }) => /-makes$|^library-|^before-|^calls-|^element-/.test(rule));
    const all: Files = { 'index.html': markup, ...files };
    assert.deepEqual(
      told.map(({ file, rule, written, offset, length }) => {
        const there = (all[file] as string).slice(offset, offset + length);
        return `${file === 'index.html' ? '' : `${file} `}${rule} ${written}: ${there}`;
      }),
      said,
      markup,
    );
  }
});

test('a worker is a page in small, with names of its own', () => {
  const start = "new Worker('w.js');";
  const rows: readonly (readonly [files: Files, said: readonly string[]])[] = [
    [
      {
        'w.js': 'self.x = 1; x; onmessage = () => missing(); importScripts("v.js"); make();',
        'v.js': 'function make() {}',
      },
      [],
    ],
    [{ 'w.js': 'make();' }, ['w.js:1 nobody-makes make']],
    [{ 'w.js': 'window.x = 1;' }, ['w.js:1 nobody-makes window']],
    [{ 'w.js': 'document.title;' }, ['w.js:1 nobody-makes document']],
    [{ 'w.js': 'typeof window; globalThis.y = 1; y; caches; skipWaiting;' }, []],
    [{ 'w.js': 'importScripts("v.js");', 'v.js': 'make();' }, ['v.js:1 nobody-makes make']],
    [{ 'w.js': 'importScripts("https://tides.example/t.js"); make();' }, []],
    [{ 'w.js': 'importScripts(self.name); make();' }, []],
    [{ 'w.js': 'importScripts("none.js"); make();' }, []],
    [{ 'w.js': 'new Worker("v.js");', 'v.js': 'make();' }, ['v.js:1 nobody-makes make']],
    // What the page makes is not there, and what a worker makes is not there on the page.
    [{ 'w.js': 'ofPage();', 'p.js': 'function ofPage() {}' }, ['w.js:1 library-left-out ofPage']],
  ];
  for (const [files, said] of rows) {
    const own = 'p.js' in files ? '<script src=p.js></script>' : '';
    const { findings } = checkFiles({ 'index.html': `${own}<script>${start}</script>`, ...files });
    const told = findings.filter(({ rule }) => /-makes$|^library|^before/.test(rule));
    assert.deepEqual(
      told.map(({ file, line, rule, written }) => `${file}:${line} ${rule} ${written}`),
      said,
      JSON.stringify(files),
    );
  }
  assert.deepEqual(
    toldOf({
      'index.html': `<script>${start}</script><script src=u.js></script>`,
      'u.js': use,
      'w.js': 'var Tideclock = {};',
    }).length,
    1,
  );
});

test('of several files that may make a name the likeliest is told first, and up to three are offered', () => {
  const made = Object.fromEntries(
    ['lib/deep/t.js', 'lib/b.js', 'lib/a.js', 'lib/a.min.js', 'lib/abc.js'].map((path) => [path, lib]),
  );
  const [finding, ...others] = toldOf({ 'index.html': '<script src=u.js></script>', 'u.js': use, ...made });
  assert.ok(finding !== undefined && others.length === 0);
  assert.match(finding.message, /^nothing that the page runs makes Tideclock; lib\/a\.js does/);
  assert.deepEqual(
    finding.mends.map(({ title, sure }) => [title, sure]),
    ['lib/a.js', 'lib/b.js', 'lib/abc.js'].map((path) => [`load ${path} before u.js`, false]),
  );
});

test('what a library may make, as far as its text says, is missed only before it', () => {
  const long = ` // ${'x'.repeat(60_000)}\n`;
  const library = `(function () { function later() { window.Tideclock = {}; } })();${long}`;
  const plugin = `(function () { function later($) { $.fn.tides = function () {}; } })();${long}`;
  const files = {
    'big.js': library,
    'u.js': use,
    'base.js': 'var jQuery = function () { return jQuery.fn; }; jQuery.fn = {}; var $ = jQuery;',
    'tides.js': '$.fn.tides = function () {};',
    'plugin.js': plugin,
  };
  const rows: readonly (readonly [tags: readonly string[], code: string, said: readonly string[]])[] = [
    [['big.js', 'u.js'], '', []],
    [['u.js', 'big.js'], '', ['nobody-makes Tideclock']],
    [['big.js'], 'Tideclok.start();', ['nobody-makes Tideclok']],
    [['base.js', 'plugin.js'], '$().tides();', []],
    [['plugin.js', 'base.js'], '$().tides();', []],
    [['base.js'], '$().tides();', ['library-left-out $(…).tides']],
  ];
  for (const [tags, code, said] of rows) {
    const markup = `${tags.map((path) => `<script src=${path}></script>`).join('')}<script>${code}</script>`;
    const told = toldOf({ 'index.html': markup, ...files });
    assert.deepEqual(
      told.map(({ rule, written }) => `${rule} ${written}`),
      said,
      markup,
    );
  }
});

test('what a module passes on it gives, and what nobody can tell is not missed', () => {
  const rows: readonly (readonly [code: string, files: Files, said: string | null])[] = [
    ['{ a }', { 'b.js': 'export * from "./c.js"', 'c.js': 'export const a = 1' }, null],
    [
      '{ a }',
      { 'b.js': 'export * from "./c.js"', 'c.js': 'export const z = 1' },
      'b.js exports no a, so neither is run',
    ],
    [
      '{ tide }',
      { 'b.js': 'export * from "./c.js"', 'c.js': 'export const tides = 1' },
      'b.js exports no tide, so neither is run; tides was probably meant',
    ],
    ['{ a }', { 'b.js': 'export * from "https://gullhaven.example/c.js"' }, null],
    [
      '{ a }',
      { 'b.js': 'export * from "./b.js"; export const z = 1' },
      'b.js exports no a, so neither is run',
    ],
    [
      '{ a }',
      { 'b.js': 'export * from "./c.js"', 'c.js': 'export * from "./b.js"; export const a = 1' },
      null,
    ],
    [
      'd',
      { 'b.js': 'export * from "./c.js"', 'c.js': 'export default 1' },
      'b.js exports no default, so neither is run',
    ],
    ['{ a }', { 'b.js': 'export * from "./gone.js"' }, null],
    ['{ a }', {}, null],
    ['* as all', { 'b.js': '' }, null],
    ['{ a }', { 'b.js': 'export const z = 1', 'c.js': '' }, 'b.js exports no a, so neither is run'],
  ];
  for (const [names, files, said] of rows) {
    const markup = `<script type=module>import ${names} from "./b.js"</script>`;
    const told = toldOf({ 'index.html': markup, ...files });
    assert.deepEqual(
      told.map(({ message }) => message),
      said === null ? [] : [said],
      `${names} ${JSON.stringify(files)}`,
    );
  }
});

test('what the settings state of a library is so', () => {
  const library = {
    folder: 'lib',
    scripts: ['t.js'],
    release: { 't.js': 't.min.js' },
    provides: [],
    needs: [],
  };
  const base = { ...library, scripts: ['b.js'], release: {} };
  const files: Files = { 'lib/t.js': 'let a;', 'lib/t.min.js': 'let a', 'lib/b.js': 'let b;', 'u.js': use };
  const rows: readonly (readonly [markup: string, libraries: StatedLibraries, said: RegExp | null])[] = [
    [
      '<script src=lib/t.js></script><script src=u.js></script>',
      { t: { ...library, provides: ['Tideclock'] } },
      null,
    ],
    [
      '<script src=lib/t.min.js></script><script src=u.js></script>',
      { t: { ...library, provides: ['Tideclock'] } },
      null,
    ],
    [
      '<script src=https://a.example/t.min.js?v=2#x></script><script src=u.js></script>',
      { t: { ...library, provides: ['Tideclock'] } },
      null,
    ],
    // It is known, and makes nothing else; of another one nobody can tell.
    [
      '<script src=https://a.example/t.min.js></script><script>Piers.open();</script>',
      { t: { ...library, provides: ['Tideclock'] } },
      /^nothing that the page runs makes Piers/,
    ],
    [
      '<script src=https://a.example/other.js></script><script>Piers.open();</script>',
      { t: { ...library, provides: ['Tideclock'] } },
      null,
    ],
    [
      '<script src=u.js></script>',
      { t: { ...library, provides: ['Tideclock'] } },
      /; lib\/t\.js does, and the page/,
    ],
    [
      '<script src=u.js></script><script src=lib/t.js></script>',
      { t: { ...library, provides: ['Tideclock'] } },
      /lib\/t\.js, which makes it, runs only after u\.js/,
    ],
    [
      '<script src=lib/t.js></script>',
      { t: { ...library, needs: ['b'] }, b: base },
      /^t needs b by the settings, and the page does not load it$/,
    ],
    [
      '<script src=lib/t.js></script><script src=lib/b.js></script>',
      { t: { ...library, needs: ['b'] }, b: base },
      /^t needs b by the settings, and lib\/b\.js runs only after lib\/t\.js$/,
    ],
    [
      '<script src=lib/b.js></script><script src=lib/t.js></script>',
      { t: { ...library, needs: ['b'] }, b: base },
      null,
    ],
    [
      '<script src=lib/t.js></script>',
      { t: { ...library, needs: ['s'] }, s: { ...base, scripts: [] } },
      null,
    ],
  ];
  for (const [markup, libraries, said] of rows) {
    const told = toldOf({ 'index.html': markup, ...files }, libraries);
    assert.equal(told.length, said === null ? 0 : 1, `${markup} ${told.map(({ message }) => message)}`);
    if (said === null) continue;
    assert.match(told[0]?.message ?? '', said, markup);
    const [mend] = told[0]?.mends ?? [];
    if (mend)
      assert.deepEqual(toldOf(mended({ 'index.html': markup, ...files }, told[0] as Finding), libraries), []);
  }
});
