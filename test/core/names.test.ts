/** Names that scripts and handlers miss: where, by which element, in which order, and which file makes them. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { nearestName } from '../../src/core/check/near-name.ts';
import { checkFiles, type Files } from '../support/site.ts';

const RULES = /^(?:before-its-library|library-left-out|nobody-makes|calls-nothing)$/;

/** `file:line:column-endColumn grade rule holder written | message | target | is > should | mends`, what is empty left out. */
function told(files: Files): string[] {
  return checkFiles(files)
    .findings.filter(({ rule }) => RULES.test(rule))
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
