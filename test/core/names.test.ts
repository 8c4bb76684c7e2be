/** Names that scripts and handlers miss: where, by which element, in which order, and which file makes them. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { nearestName } from '../../src/core/check/near-name.ts';
import { checkFiles, type Files } from '../support/site.ts';

const RULES = /^(?:before-its-library|library-left-out|nobody-makes|calls-nothing)$/;

/** `file:line:column-endColumn grade rule holder written | message | target | is > should | mends`, what is empty left out. */
function told(files: Files): string[] {
  return checkFiles(files)
    .findings.filter(({ rule, written }) => RULES.test(rule) || (rule === 'does-not-parse' && written !== ''))
    .map((finding) => {
      const { file, line, column, endColumn, grade, rule, written, message, target, order, mends } = finding;
      const { element = '', name = '' } = finding.holder ?? {};
      return [
        `${file}:${line}:${column}-${endColumn} ${grade} ${rule} ${element} ${name} ${written}`.replace(
          / +/g,
          ' ',
        ),
        message,
        ...(target === null ? [] : [`makes it: ${target}`]),
        ...(order === null ? [] : [`${order.is.join(' ')} > ${order.should.join(' ')}`]),
        ...mends.map(({ sure, title }) => (sure ? title : `perhaps ${title}`)),
      ].join(' | ');
    });
}

const s = (...paths: readonly string[]) => paths.map((path) => `<script src=${path}></script>`).join('');
const lib = 'var Tideclock = { start() {} };';
const use = 'Tideclock.start();';
const far = `<p>${'x'.repeat(3000)}</p>`;

const between = (amount: number): Files => {
  const others = [...'abcdefg'].slice(0, amount).map((name) => `${name}.js`);
  const empty = Object.fromEntries(others.map((path) => [path, '']));
  return { 'index.html': s('u.js', ...others, 'l.js'), 'u.js': use, 'l.js': lib, ...empty };
};

const rows: readonly (readonly [what: string, files: Files, ...said: string[]])[] = [
  [
    'a handler',
    { 'index.html': `${far}<button  onclick = "Tideclock.start()">x</button>` },
    'index.html:1:3028-3037 broken calls-nothing button onclick Tideclock | no script of the page makes Tideclock',
  ],
  [
    'a handler in single quotes, and one without',
    { 'index.html': `<p onmouseover='tide()'><a href=x onfocus=boat()>` },
    'index.html:1:17-21 broken calls-nothing p onmouseover tide | no script of the page makes tide',
    'index.html:1:43-47 broken calls-nothing a onfocus boat | no script of the page makes boat',
  ],
  [
    'a handler with a character reference',
    { 'index.html': `<p title="b" onclick="tide(&quot;x&quot;)">` },
    'index.html:1:23-42 broken calls-nothing p onclick tide | no script of the page makes tide',
  ],
  [
    'a handler of which some file makes the name',
    { 'index.html': '<BODY ONLOAD="Tideclock.start()">', 'l.js': lib },
    'index.html:1:15-24 broken calls-nothing body onload Tideclock | no script of the page makes Tideclock; l.js does, and the page does not load it | makes it: l.js',
  ],
  [
    'a handler of a page with scripts',
    { 'index.html': `<button onclick="Tideclock.start()">x</button>${s('x.js')}`, 'x.js': '1', 'l.js': lib },
    'index.html:1:18-27 broken calls-nothing button onclick Tideclock | no script of the page makes Tideclock; l.js does, and the page does not load it | makes it: l.js | load l.js before the scripts of the page',
  ],
  [
    'with scripts between',
    { 'index.html': s('u.js', 'a.js', 'b.js', 'l.js'), 'u.js': use, 'l.js': lib, 'a.js': '', 'b.js': '' },
    'u.js:1:1-10 broken before-its-library name Tideclock | Tideclock is not there yet: l.js, which makes it, runs only after u.js | makes it: l.js | u.js a.js b.js l.js > l.js u.js a.js b.js | move l.js before u.js',
  ],
  [
    'with six between',
    between(6),
    'u.js:1:1-10 broken before-its-library name Tideclock | Tideclock is not there yet: l.js, which makes it, runs only after u.js | makes it: l.js | u.js a.js b.js c.js d.js e.js f.js l.js > l.js u.js a.js b.js c.js d.js e.js f.js | move l.js before u.js',
  ],
  [
    'with seven between',
    between(7),
    'u.js:1:1-10 broken before-its-library name Tideclock | Tideclock is not there yet: l.js, which makes it, runs only after u.js | makes it: l.js | u.js l.js > l.js u.js | move l.js before u.js',
  ],
  [
    'by the first of two that make it',
    { 'index.html': s('u.js', 'm.js', 'l.js'), 'u.js': use, 'l.js': lib, 'm.js': lib },
    'u.js:1:1-10 broken before-its-library name Tideclock | Tideclock is not there yet: m.js, which makes it, runs only after u.js | makes it: m.js | u.js m.js > m.js u.js | move m.js before u.js',
  ],
  [
    'by code of the page',
    { 'index.html': `${s('u.js')}\n<script>${lib}</script>`, 'u.js': use },
    'u.js:1:1-10 broken before-its-library name Tideclock | Tideclock is not there yet: index.html:2, which makes it, runs only after u.js | u.js index.html:2 > index.html:2 u.js | move index.html:2 before u.js',
  ],
  [
    'by itself, further down',
    { 'index.html': s('u.js'), 'u.js': `${use}\nlet Tideclock = { start() {} };` },
    'u.js:1:1-10 broken before-its-library name Tideclock | Tideclock is used here, and made only further down in u.js',
  ],
  [
    'by a script that stops before',
    {
      'index.html': s('m.js', 'u.js'),
      'm.js': `nowhere.go(); ${lib.replace('var', 'window.x = 1; globalThis.Tideclock =').replace('Tideclock = Tideclock', 'Tideclock')}`,
      'u.js': use,
    },
    'm.js:1:1-8 broken nobody-makes name nowhere | nothing that the page runs makes nowhere',
    'u.js:1:1-10 broken nobody-makes name Tideclock | nothing that the page runs makes Tideclock: m.js would, and does not come so far',
  ],
  [
    'in a script that does not parse',
    { 'index.html': s('m.js', 'u.js'), 'm.js': `${lib} let = ;`, 'u.js': use },
    'u.js:1:1-10 broken nobody-makes name Tideclock | nothing that the page runs makes Tideclock: m.js would, and does not come so far',
  ],
  [
    'in a module of a file, and of the page',
    {
      'index.html': `<script type=module src=m.js></script><script defer src=u.js></script><script type=module>let Piers = 1;</script><script defer src=v.js></script>`,
      'm.js': 'const Tideclock = 1;',
      'u.js': use,
      'v.js': 'Piers.open();',
    },
    'u.js:1:1-10 broken nobody-makes name Tideclock | nothing that the page runs makes Tideclock: m.js is a module and keeps its Tideclock to itself',
    'v.js:1:1-6 broken nobody-makes name Piers | nothing that the page runs makes Piers: the script of the page is a module and keeps its Piers to itself',
  ],
  [
    'by the only script of another host, behind it',
    { 'index.html': `${s('u.js')}<script src="https://gullhaven.example/x.js"></script>`, 'u.js': use },
    'u.js:1:1-10 broken before-its-library name Tideclock | nothing that runs before makes Tideclock; https://gullhaven.example/x.js runs only after it',
  ],
  [
    'by one of two scripts of other hosts',
    {
      'index.html': `${s('u.js')}<script src="https://gullhaven.example/x.js"></script><script src="https://gullhaven.example/tideclock.min.js?v=1"></script>`,
      'u.js': use,
    },
    'u.js:1:1-10 broken before-its-library name Tideclock | nothing that runs before makes Tideclock; https://gullhaven.example/tideclock.min.js?v=1 runs only after it',
  ],
  [
    'by none of two scripts of other hosts',
    {
      'index.html': `${s('u.js')}<script src="https://gullhaven.example/x.js"></script><script src="https://gullhaven.example/y.js"></script>`,
      'u.js': use,
    },
    'u.js:1:1-10 broken nobody-makes name Tideclock | nothing that the page runs makes Tideclock',
  ],
  [
    'by one of two scripts that are not there',
    {
      'index.html': `<script src="x.js"></script><script src="lib/tideclock.js#a"></script>${s('u.js')}`,
      'u.js': use,
    },
    'u.js:1:1-10 broken nobody-makes name Tideclock | nothing that the page runs makes Tideclock: lib/tideclock.js#a, which may, is not there',
  ],
  [
    'by names that hosts are known for',
    {
      'index.html': `<script src="gone/x.js"></script><script src="gone/jquery-3.min.js"></script>${s('u.js')}`,
      'u.js': '$("p");',
    },
    'u.js:1:1-2 broken nobody-makes name $ | nothing that the page runs makes $: gone/jquery-3.min.js, which may, is not there',
  ],
  [
    'misspelt, near a name of browsers',
    { 'index.html': s('u.js'), 'u.js': 'docment.title;' },
    'u.js:1:1-8 broken nobody-makes name docment | nothing that the page runs makes docment; document was probably meant | perhaps write document',
  ],
  [
    'misspelt, near a name of another page',
    {
      'index.html': s('u.js'),
      'a.html': s('p.js'),
      'p.js': 'var PiersOfTheNorth = 1;',
      'u.js': 'PiersOfTheNorh;',
    },
    'u.js:1:1-15 broken nobody-makes name PiersOfTheNorh | nothing that the page runs makes PiersOfTheNorh; PiersOfTheNorth was probably meant | perhaps write PiersOfTheNorth',
  ],
  [
    'misspelt, near a name of the page, and of another one',
    {
      'index.html': s('l.js', 'u.js'),
      'a.html': s('p.js'),
      'l.js': lib,
      'p.js': 'var Tideclocks = 1;',
      'u.js': 'Tideclok.start();',
    },
    'u.js:1:1-9 broken nobody-makes name Tideclok | nothing that the page runs makes Tideclok; Tideclock was probably meant | perhaps write Tideclock',
  ],
  [
    'written for servers',
    { 'index.html': s('u.js'), 'u.js': 'module.exports = 1;' },
    'u.js:1:1-7 broken nobody-makes name module | no browser has module: this script is written for servers; pages need its build for browsers',
  ],
  [
    'in a worker',
    { 'index.html': '<script>new Worker("w.js")</script>', 'w.js': use, 'l.js': lib },
    'w.js:1:1-10 broken library-left-out name Tideclock | nothing that the worker runs makes Tideclock; l.js does, and the worker does not load it',
  ],
  [
    'in srcdoc',
    { 'index.html': `<iframe srcdoc="${s('u.js')}"></iframe>`, 'u.js': use, 'l.js': lib },
    'u.js:1:1-10 broken library-left-out name Tideclock | nothing that the document in srcdoc runs makes Tideclock; l.js does, and the document in srcdoc does not load it',
  ],
  [
    'in a page with a base elsewhere, and in UTF-16',
    {
      'index.html': `<base href="https://gullhaven.example/">${s('u.js')}<script>Tideclock.start()</script>`,
      'b.html': new Uint8Array(
        Buffer.from(`\uFEFF<script>\nTideclock.start()</script>${s('l.js')}`, 'utf16le'),
      ),
      'l.js': lib,
    },
    'b.html:2:1-10 broken before-its-library name Tideclock | Tideclock is not there yet: l.js, which makes it, runs only after b.html:1 | makes it: l.js | b.html:1 l.js > l.js b.html:1',
  ],
  [
    'on two pages, where one tag is not written as usual',
    {
      'index.html': s('u.js', 'l.js'),
      'b.html': '<script src=u.js></script><script src=l.js>',
      'u.js': use,
      'l.js': lib,
    },
    'u.js:1:1-10 broken before-its-library name Tideclock | Tideclock is not there yet: l.js, which makes it, runs only after u.js | makes it: l.js | u.js l.js > l.js u.js | move l.js before u.js',
  ],
  [
    'what would come too early then',
    {
      'index.html': `${s('u.js', 'p.js', 'l.js')}`,
      'u.js': use,
      'p.js': 'var Piers = 1;',
      'l.js': 'Piers; var Tideclock = { start() {} };',
    },
    'u.js:1:1-10 broken before-its-library name Tideclock | Tideclock is not there yet: l.js, which makes it, runs only after u.js | makes it: l.js | u.js p.js l.js > l.js u.js p.js',
  ],
  [
    'in srcdoc, too early',
    { 'index.html': `<p>\n<iframe srcdoc="${s('u.js', 'l.js')}"></iframe>`, 'u.js': use, 'l.js': lib },
    'u.js:1:1-10 broken before-its-library name Tideclock | Tideclock is not there yet: l.js, which makes it, runs only after u.js | makes it: l.js | u.js l.js > l.js u.js | move l.js before u.js',
  ],
  [
    'in srcdoc with character references',
    {
      'index.html': `<iframe srcdoc="&lt;script>\nTideclock.start()&lt;/script>${s('l.js')}"></iframe>`,
      'l.js': lib,
    },
    'index.html:2:1-10 broken before-its-library name Tideclock | Tideclock is not there yet: l.js, which makes it, runs only after index.html:1 | makes it: l.js | index.html:1 l.js > l.js index.html:1 | move l.js before index.html:1',
  ],
  [
    'misspelt in srcdoc',
    {
      'index.html': `<iframe srcdoc="${s('l.js')}<script>\nTideclok.start()</script>"></iframe>`,
      'l.js': lib,
    },
    'index.html:2:1-9 broken nobody-makes name Tideclok | nothing that the document in srcdoc runs makes Tideclok; Tideclock was probably meant | perhaps write Tideclock',
  ],
  [
    'a handler in srcdoc, and in srcdoc within',
    {
      'index.html': `<iframe srcdoc="<p onclick='tide()'><iframe srcdoc='<p onclick=boat()>'></iframe>"></iframe>`,
    },
    'index.html:1:29-33 broken calls-nothing p onclick tide | no script of the document in srcdoc makes tide',
    'index.html:1:64-68 broken calls-nothing p onclick boat | no script of the document in srcdoc makes boat',
  ],
  [
    'a map of a srcdoc document',
    {
      'index.html': `<iframe srcdoc='<script type=importmap>{"imports":{"m":"./m.js"}}</script><script type=module>import "m"; Piers.open()</script>'></iframe>`,
      'm.js': 'globalThis.Boats = 1',
    },
    'index.html:1:107-112 broken nobody-makes name Piers | nothing that the document in srcdoc runs makes Piers',
  ],
  [
    'on a page, and in srcdoc of another one',
    {
      'index.html': s('u.js', 'l.js'),
      'b.html': `<iframe srcdoc="${s('u.js', 'l.js')}"></iframe>`,
      'c.html': s('l.js', 'u.js'),
      'u.js': use,
      'l.js': lib,
    },
    'u.js:1:1-10 broken before-its-library name Tideclock | Tideclock is not there yet: l.js, which makes it, runs only after u.js | makes it: l.js | u.js l.js > l.js u.js | move l.js before u.js',
  ],
  [
    'in two documents of one page, of which one is right',
    {
      'index.html': `<iframe srcdoc="${s('u.js', 'l.js')}"></iframe><iframe srcdoc="${s('l.js', 'u.js')}"></iframe>`,
      'u.js': use,
      'l.js': lib,
    },
    'u.js:1:1-10 broken before-its-library name Tideclock | Tideclock is not there yet: l.js, which makes it, runs only after u.js | makes it: l.js | u.js l.js > l.js u.js | move l.js before u.js',
  ],
  [
    'on two pages, of which one cannot be mended',
    {
      'index.html': s('u.js', 'l.js'),
      'b.html': new Uint8Array(Buffer.from(`\uFEFF${s('u.js', 'l.js')}`, 'utf16le')),
      'u.js': use,
      'l.js': lib,
    },
    'u.js:1:1-10 broken before-its-library name Tideclock | Tideclock is not there yet: l.js, which makes it, runs only after u.js | makes it: l.js | u.js l.js > l.js u.js',
  ],
  [
    'made by a file of the site, on a page whose addresses count from elsewhere',
    {
      'index.html': '<base href="https://gullhaven.example/"><script>Tideclock.start()</script>',
      'l.js': lib,
    },
    'index.html:1:49-58 broken library-left-out name Tideclock | nothing that the page runs makes Tideclock; l.js does, and the page does not load it | makes it: l.js',
  ],
  [
    'made by three files, and by four',
    { 'index.html': s('u.js'), 'u.js': use, 'a.js': lib, 'b.js': lib, 'x/c.js': lib, 'd.min.js': lib },
    'u.js:1:1-10 broken library-left-out name Tideclock | nothing that the page runs makes Tideclock; a.js does, and the page does not load it | makes it: a.js | perhaps load a.js before u.js | perhaps load b.js before u.js | perhaps load d.min.js before u.js',
  ],
  [
    'a form, by its name, of which the first counts',
    { 'index.html': `<form name=tide></form>${s('u.js')}<form name=tide></form>`, 'u.js': 'tide.submit()' },
  ],
  [
    'a form that comes later',
    { 'index.html': `${s('u.js')}<form name="tide"></form>`, 'u.js': 'tide.submit()' },
    'u.js:1:1-5 broken nobody-makes name tide | nothing that the page runs makes tide',
  ],
  [
    'an element by its id, written with character references',
    { 'index.html': `<p id="t&#105;de">${s('u.js')}`, 'u.js': 'tide.hidden = true' },
  ],
  [
    'an anchor by its name is no name',
    { 'index.html': `<a name="tide">x</a>${s('u.js')}`, 'u.js': 'tide.hidden = true' },
    'u.js:1:1-5 broken nobody-makes name tide | nothing that the page runs makes tide',
  ],
  [
    'a field of a form, in a handler',
    { 'index.html': '<form><input name=tide><button onclick="tide.focus()">x</button></form>' },
  ],
  [
    'in a module, and nearly another name',
    {
      'index.html': `<script type=module src=m.js></script>${s('l.js')}<script defer src=u.js></script>`,
      'm.js': 'const Tideclok = 1;',
      'l.js': lib,
      'u.js': 'Tideclok.start()',
    },
    'u.js:1:1-9 broken nobody-makes name Tideclok | nothing that the page runs makes Tideclok: m.js is a module and keeps its Tideclok to itself',
  ],
  [
    'by two that come later, in the order in which they run',
    {
      'index.html': `${s('u.js')}<script defer src=m.js></script>${s('l.js')}`,
      'u.js': use,
      'm.js': lib,
      'l.js': lib,
    },
    'u.js:1:1-10 broken before-its-library name Tideclock | Tideclock is not there yet: l.js, which makes it, runs only after u.js | makes it: l.js | u.js l.js > l.js u.js | move l.js before u.js',
  ],
  [
    'behind code of the page that does not parse',
    { 'index.html': `<script>let = ;</script>${s('u.js')}`, 'u.js': use },
    'u.js:1:1-10 broken nobody-makes name Tideclock | nothing that the page runs makes Tideclock',
  ],
  [
    'behind code of the page that does not parse, and a file that is not there',
    { 'index.html': `<script>let = ;</script>${s('gone.js', 'u.js')}`, 'u.js': use },
    'u.js:1:1-10 broken nobody-makes name Tideclock | nothing that the page runs makes Tideclock: gone.js, which may, is not there',
  ],
  [
    'declared where browsers have it',
    { 'index.html': s('u.js'), 'u.js': 'let location = 1;' },
    'u.js:1:5-13 broken does-not-parse name location | every browser has declared location already, and it may not be declared again: nothing of this script is run until one has another name',
  ],
  [
    'declared twice',
    {
      'index.html': s('l.js', 'u.js'),
      'u.js': 'let Tideclock = 2; let Piers = 3;',
      'l.js': 'const Tideclock = 1;',
    },
    'u.js:1:5-14 broken does-not-parse name Tideclock | l.js has declared Tideclock already, and it may not be declared again: nothing of this script is run until one has another name',
  ],
  [
    'declared twice, once by code of the page',
    { 'index.html': `<script>const Tideclock = 1;</script>${s('u.js')}`, 'u.js': 'class Tideclock {}' },
    'u.js:1:7-16 broken does-not-parse name Tideclock | index.html:1 has declared Tideclock already, and it may not be declared again: nothing of this script is run until one has another name',
  ],
  [
    'by a script that nobody waits for, and one further down',
    {
      'index.html': `<script async src=l.js></script>${s('u.js', 'm.js')}`,
      'u.js': use,
      'l.js': lib,
      'm.js': lib,
    },
    'u.js:1:1-10 fragile before-its-library name Tideclock | Tideclock is there only if l.js, which makes it, comes in time: nothing waits for a script with async | makes it: l.js | u.js m.js l.js > l.js u.js m.js | load l.js without async',
  ],
  [
    'what a module imports and nobody exports',
    {
      'index.html':
        '<script type=module>import { tide } from "./m.js"; import { ebb as neap } from "./m.js"; tide(neap)</script>',
      'm.js': 'export const tides = 1, flow = 2;',
    },
    'index.html:1:30-34 broken nobody-makes name tide | m.js exports no tide, so neither is run; tides was probably meant | makes it: m.js | perhaps write tides as tide',
    'index.html:1:61-64 broken nobody-makes name ebb | m.js exports no ebb, so neither is run | makes it: m.js',
  ],
  [
    'what a module gives on and nobody exports',
    {
      'index.html': '<script type=module src=u.js></script>',
      'u.js': 'export { tide } from "./m.js"; import tides from "./m.js"',
      'm.js': 'export * from "./n.js"',
      'n.js': 'export const tied = 1',
    },
    'u.js:1:10-14 broken nobody-makes name tide | m.js exports no tide, so neither is run; tied was probably meant | makes it: m.js | perhaps write tied as tide',
    'u.js:1:39-44 broken nobody-makes name default | m.js exports no default, so neither is run | makes it: m.js',
  ],
  [
    'members that a file of the site would give',
    {
      'index.html': s('b.js', 'u.js'),
      'b.js': 'var Boats = {};',
      'u.js': 'Boats.tide()',
      'l.js': 'Boats.tide = function () {};',
    },
    'u.js:1:7-11 broken library-left-out name Boats.tide | nothing that the page runs adds Boats.tide; l.js does, and the page does not load it | makes it: l.js | load l.js before u.js',
  ],
  [
    'members that come later',
    {
      'index.html': s('b.js', 'u.js', 'l.js'),
      'b.js': 'var Boats = {};',
      'u.js': 'Boats.tide()',
      'l.js': 'Boats.tide = function () {};',
    },
    'u.js:1:7-11 broken before-its-library name Boats.tide | Boats.tide is not there yet: l.js, which adds it, runs only after u.js | makes it: l.js | u.js l.js > l.js u.js | move l.js before u.js',
  ],
  [
    'members that nobody is known to give',
    { 'index.html': s('b.js', 'u.js'), 'b.js': 'var Boats = {};', 'u.js': 'Boats.tide()' },
  ],
  [
    'once the page is there',
    { 'index.html': s('u.js'), 'u.js': 'addEventListener("load", () => Tideclock.start())', 'l.js': lib },
    'u.js:1:32-41 broken library-left-out name Tideclock | it is needed once the page is there, and nothing that the page runs makes Tideclock; l.js does, and the page does not load it | makes it: l.js | load l.js before u.js',
  ],
  [
    'once the page is there, by a script further down',
    {
      'index.html': s('u.js', 'l.js'),
      'u.js': 'addEventListener("load", () => Tideclock.start())',
      'l.js': lib,
    },
  ],
  [
    'in a function that a script further down calls',
    {
      'index.html': s('u.js', 'x.js', 'l.js'),
      'u.js': 'function go() { Tideclock.start() }',
      'x.js': 'go()',
      'l.js': lib,
    },
    'u.js:1:17-26 broken before-its-library name Tideclock | Tideclock is not there yet: l.js, which makes it, runs only after u.js | makes it: l.js | x.js l.js > l.js x.js | move l.js before x.js',
  ],
  [
    'made by a script in UTF-16',
    {
      'index.html': s('l.js', 'u.js'),
      'l.js': new Uint8Array(Buffer.from(`\uFEFF${lib}`, 'utf16le')),
      'u.js': use,
    },
  ],
  [
    'members that another script only mentions',
    {
      'index.html': s('b.js', 'x.js', 'u.js'),
      'b.js': 'var Boats = {};',
      'x.js': '// the tide\nlet tide;',
      'u.js': 'Boats.tide()',
      'l.js': 'Boats.tide = () => {};',
    },
    'u.js:1:7-11 broken library-left-out name Boats.tide | nothing that the page runs adds Boats.tide; l.js does, and the page does not load it | makes it: l.js | load l.js before u.js',
  ],
  [
    'members that the script itself adds, later',
    {
      'index.html': s('b.js', 'u.js'),
      'b.js': 'var Boats = {};',
      'u.js': 'Boats.tide(); Boats.tide = () => {};',
    },
  ],
  [
    'members of what code of the page makes',
    {
      'index.html': `<script>var Boats = {};</script>${s('u.js', 'l.js')}`,
      'u.js': 'Boats.tide()',
      'l.js': 'Boats.tide = () => {};',
    },
    'u.js:1:7-11 broken before-its-library name Boats.tide | Boats.tide is not there yet: l.js, which adds it, runs only after u.js | makes it: l.js | u.js l.js > l.js u.js | move l.js before u.js',
  ],
  [
    'what a module imports, and nobody exports anything like it',
    {
      'index.html': '<script type=module>import { harbour } from "./m.js"; harbour()</script>',
      'm.js': 'export const tides = 1',
    },
    'index.html:1:30-37 broken nobody-makes name harbour | m.js exports no harbour, so neither is run | makes it: m.js',
  ],
  [
    'by a script that is not there, and by a file of the site',
    { 'index.html': `<script src="lib/tideclock.js"></script>${s('u.js')}`, 'u.js': use, 'l.js': lib },
    'u.js:1:1-10 broken nobody-makes name Tideclock | nothing that the page runs makes Tideclock: lib/tideclock.js, which may, is not there | makes it: l.js',
  ],
  [
    'on two pages, of which the second cannot be mended',
    {
      'a.html': s('u.js', 'l.js'),
      'b.html': new Uint8Array(Buffer.from(`\uFEFF${s('u.js', 'l.js')}`, 'utf16le')),
      'u.js': use,
      'l.js': lib,
    },
    'u.js:1:1-10 broken before-its-library name Tideclock | Tideclock is not there yet: l.js, which makes it, runs only after u.js | makes it: l.js | u.js l.js > l.js u.js',
  ],
  [
    'by a module with a defer that does nothing, in code of the page',
    {
      'index.html': '<script type=module defer src=l.js></script><script>Tideclock.start()</script>',
      'l.js': 'globalThis.Tideclock = { start() {} }',
    },
    'index.html:1:53-62 broken before-its-library name Tideclock | Tideclock is not there yet: l.js, which makes it, runs only after index.html:1 | makes it: l.js | index.html:1 l.js > l.js index.html:1',
  ],
  [
    'by a module with async, in code of the page',
    {
      'index.html': '<script type=module async src=l.js></script><script>Tideclock.start()</script>',
      'l.js': 'globalThis.Tideclock = { start() {} }',
    },
    'index.html:1:53-62 fragile before-its-library name Tideclock | Tideclock is there only if l.js, which makes it, comes in time: nothing waits for a script with async | makes it: l.js | index.html:1 l.js > l.js index.html:1',
  ],
  [
    'by a script with both, in code of the page',
    { 'index.html': '<script async defer src=l.js></script><script>Tideclock.start()</script>', 'l.js': lib },
    'index.html:1:47-56 fragile before-its-library name Tideclock | Tideclock is there only if l.js, which makes it, comes in time: nothing waits for a script with async | makes it: l.js | index.html:1 l.js > l.js index.html:1',
  ],
  [
    'made by a file that would stop before',
    { 'index.html': s('u.js'), 'u.js': use, 'l.js': `Piers.open(); ${lib}` },
    'u.js:1:1-10 broken library-left-out name Tideclock | nothing that the page runs makes Tideclock; l.js does, and the page does not load it | makes it: l.js',
  ],
  [
    'made by a file of the site, and nearly another name',
    {
      'index.html': s('l.js', 'u.js'),
      'l.js': lib,
      'm.js': 'var Tideclok = { start() {} };',
      'u.js': 'Tideclok.start()',
    },
    'u.js:1:1-9 broken library-left-out name Tideclok | nothing that the page runs makes Tideclok; m.js does, and the page does not load it | makes it: m.js | load m.js before u.js',
  ],
  [
    'in workers that bring in each other',
    {
      'index.html': '<script>new Worker("w.js")</script>',
      'w.js': 'importScripts("x.js", "y.js", "x.js"); tide()',
      'x.js': 'importScripts("y.js"); function tide() {}',
      'y.js': 'importScripts("x.js", "w.js"); boat()',
    },
    'y.js:1:32-36 broken nobody-makes name boat | nothing that the worker runs makes boat',
  ],
  [
    'in a worker that brings in what is not there, and from elsewhere',
    {
      'index.html': '<script>new Worker("w.js"); new Worker("v.js")</script>',
      'w.js': 'importScripts("gone.js"); tide()',
      'v.js': 'importScripts("https://gullhaven.example/x.js"); tide()',
    },
  ],
  [
    'once the page is there, in a handler that a script sets',
    {
      'index.html': `<button id=go>x</button>${s('u.js')}`,
      'u.js': 'document.getElementById("go").onclick = () => tide();',
    },
  ],
];

test('a name that is missing is told with its place, its order, and what makes it', () => {
  for (const [what, files, ...said] of rows) assert.deepEqual(told(files), said, what);
});

test('the one name that is nearly the same is the one that was meant', () => {
  const rows: readonly (readonly [wanted: string, names: readonly string[], meant: string | null])[] = [
    ['tideClock', ['tideclock'], 'tideclock'],
    ['tideclok', ['tideclock', 'boats'], 'tideclock'],
    ['tidecolck', ['tideclock'], 'tideclock'],
    ['tideclcks', ['tideclock'], 'tideclock'],
    ['tideclcksx', ['tideclock'], null],
    ['tdclock', ['tideclock'], 'tideclock'],
    ['dclock', ['tideclock'], null],
    // Of names that are as near, none.
    ['tideclok', ['tideclock', 'tidecloak'], null],
    ['tideclok', ['tidecloak', 'tideclock', 'Tideclok'], 'Tideclok'],
    ['tideclok', ['Tideclok', 'tidecloak'], 'Tideclok'],
    ['tideclok', ['Tideclok', 'TIDECLOK'], null],
    ['tideclck', ['tidecluck', 'tideclocks'], 'tidecluck'],
    // Short names are near to everything; of those that are not long, one slip.
    ['tide', ['tides'], 'tides'],
    ['tide', ['tid'], 'tid'],
    ['tide', ['ti'], null],
    ['tid', ['tide'], null],
    ['boats1', ['boat'], null],
    ['harbor', ['harbur'], 'harbur'],
    ['harbor', ['hurbur'], null],
    ['harbors', ['hurburs'], 'hurburs'],
    ['tide', ['tide'], null],
    ['tide', [], null],
  ];
  assert.deepEqual(
    rows.map(([wanted, names]) => [wanted, names, nearestName(wanted, names)]),
    rows,
  );
});
