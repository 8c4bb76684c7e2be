/** Scripts that parse, but not as what they are loaded as, are told once, with what loads them right. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { bytesOf, checkFiles, type Files } from '../support/site.ts';

const page = (body: string) => `<!doctype html><html lang="en"><title>Gullhaven Ferry</title>${body}`;
const script = (attributes: string, code = '') => `<script ${attributes}>${code}</script>`;
const MODULE =
  'only a module may have import, export, and await outside of functions: say type="module"; nothing of this script is run';

/** Where, what, and the tags of the pages as they are with the mend. */
function told(files: Files): readonly string[] {
  return checkFiles(files)
    .findings.filter(({ rule }) => rule === 'does-not-parse' || rule === 'nobody-makes' || rule === 'twice')
    .flatMap(({ file, line, column, endColumn, grade, message, mends }) => [
      `${file}:${line}:${column}-${endColumn} ${grade} ${message}`,
      ...mends.flatMap(({ sure, title, edits }) => [
        `${sure ? 'sure' : 'guess'}: ${title}`,
        ...edits.map(({ file: path, start, end, text }) => {
          const bytes = bytesOf(files[path] ?? '');
          const [before, after] = [bytes.subarray(0, start), bytes.subarray(end)].map((part) =>
            new TextDecoder().decode(part),
          );
          const tag = /<script[^>]*>/.exec(
            `${before?.slice((before ?? '').lastIndexOf('<script'))}${text}${after}`,
          );
          return `${path}: ${tag?.[0] ?? `${before}${text}${after}`}`;
        }),
      ]),
    ]);
}

const utf16 = (text: string) => new Uint8Array(Buffer.from(`\uFEFF${text}`, 'utf16le'));

const rows: readonly (readonly [what: string, files: Files, ...said: string[]])[] = [
  ...(
    [
      ['new Worker("m.js")', 'new Worker("m.js", { type: "module" })'],
      ['new Worker("m.js", { type: "module" })', 'new Worker("m.js")'],
    ] as const
  ).map(
    ([one, other]) =>
      [
        'a worker that pages start in both ways',
        {
          'index.html': page(script('', one)),
          'b.html': page(script('', other)),
          'm.js': 'import "./c.js"',
          'c.js': '',
        },
        'm.js:1:1-2 broken only a module may have import, export, and await outside of functions: start the worker with { type: "module" }; nothing of this script is run',
      ] as const,
  ),
  [
    'a worker that is started as a module alone',
    {
      'index.html': page(script('', 'new Worker("m.js", { type: "module" })')),
      'm.js': 'import "./c.js"',
      'c.js': '',
    },
  ],
  [
    'a module that is imported and started as a worker, of which nothing is run',
    {
      'index.html': page(script('type="module"', 'import("./m.js"); new Worker("m.js", { type: "module" })')),
      'm.js': 'with (tide) {}',
    },
    "m.js:1:1-2 broken 'with' in strict mode: nothing of this script is run",
  ],
  [
    'what is imported and is no script',
    {
      'index.html': page(script('', 'import("./d.json", { with: { type: "json" } }); import("./a.css")')),
      'd.json': '{"a": 1}',
      'a.css': '@import "x.css"; a {}',
    },
  ],
  [
    'code beside a source that is not there is ignored, whatever it is',
    { 'index.html': page(script('src="gone.js"', 'import "./x.js"')) },
  ],
  [
    'a module as a classic script, on two pages',
    {
      'index.html': page(script('src="a.js"')),
      'x/b.html': page(script('defer type="text/javascript" src="../a.js"')),
      'x/c.html': page(script('type="module" src="../a.js"')),
      'a.js': 'let boats = 1;\nimport "./c.js";',
      'c.js': 'export let c = 1',
    },
    `a.js:2:1-2 broken ${MODULE}`,
    'sure: load a.js with type="module"',
    'index.html: <script src="a.js" type="module">',
    'x/b.html: <script defer type="module" src="../a.js">',
  ],
  [
    'code of pages, each for itself, and a file by another finding',
    {
      'index.html': page(`${script('', 'import "./c.js"')}\n${script('', 'let a;\nawait a')}`),
      'b.html': page(script('', 'import "./c.js"')),
      'c.js': '',
    },
    `b.html:1:71-72 broken ${MODULE}`,
    'sure: load it with type="module"',
    'b.html: <script  type="module">',
    `index.html:1:71-72 broken ${MODULE}`,
    'sure: load it with type="module"',
    'index.html: <script  type="module">',
    `index.html:3:7-8 broken ${MODULE}`,
    'sure: load it with type="module"',
    'index.html: <script  type="module">',
  ],
  [
    'a classic script as a module, in UTF-16, and on a page that loads it right',
    {
      'index.html': page(script('type="module" src="a.js"')),
      'b.html': page(script('src="a.js"')),
      'a.js': utf16('// é\nwith (Math) max;'),
    },
    "a.js:2:1-2 broken 'with' in strict mode: nothing of this script is run",
  ],
  [
    'what a module imports, whatever imports that',
    {
      'index.html': page(script('type="module" src="a.js"')),
      'a.js': 'import "./b.js"',
      'b.js': 'var b = 010;',
    },
    'b.js:1:9-10 broken invalid number: nothing of this script is run',
  ],
  [
    'a module by its name, and code of a page that says so, once each',
    {
      'index.html': page(
        `${script('type="module" src="a.mjs"')}${script('type="module"', '\nvar a = 010;')}`,
      ),
      'a.mjs': 'var a = 010;',
    },
    'a.mjs:1:9-10 broken invalid number: nothing of this script is run',
    'index.html:2:9-10 broken invalid number: nothing of this script is run',
  ],
  ...(
    [
      ['new Worker("w.js")', 'script'],
      ['new SharedWorker("w.js", "tides")', 'script'],
      ['navigator.serviceWorker.register("w.js", { scope: "./" })', 'script'],
      ['new Worker("w.js", { type: "classic" }); new Worker("w.js", { type: "module" })', 'script'],
      ['new Worker("w.js", { type: "module" })', 'module'],
      ['navigator.serviceWorker.register("w.js", { "type": "module" })', 'module'],
      ['new Worker("v.js")', 'script'],
      // Nobody can tell.
      ['new Worker("w.js", window.options)', 'module'],
      ['new Worker("w.js", { ...window.options })', 'module'],
      ['new Worker("w.js", { type: window.kind })', 'module'],
    ] as const
  ).flatMap(([code, goal]): (readonly [what: string, files: Files, ...said: string[]])[] => {
    const files = { 'index.html': page(script('', code)), 'v.js': 'new Worker("w.js")' };
    const start = MODULE.replace('say type="module"', 'start the worker with { type: "module" }');
    return [
      [code, { ...files, 'w.js': 'export {}' }, ...(goal === 'script' ? [`w.js:1:1-2 broken ${start}`] : [])],
      [
        code,
        { ...files, 'w.js': 'var a = 010;' },
        ...(goal === 'module' ? ['w.js:1:9-10 broken invalid number: nothing of this script is run'] : []),
      ],
    ];
  }),
  [
    'a worker that a module starts from itself, and one that a page runs as well',
    {
      'index.html': page(script('type="module" src="js/a.js"') + script('defer src="js/w.js"')),
      'js/a.js': 'new Worker(new URL("w.js", import.meta.url))',
      'js/w.js': 'export {}',
    },
    `js/w.js:1:1-2 broken ${MODULE}`,
    'sure: load js/w.js with type="module"',
    'index.html: <script defer src="js/w.js" type="module">',
  ],
  [
    'the name of a file does not say how it is run',
    { 'index.html': page(script('defer src="a.mjs"')), 'a.mjs': 'with (Math) max;' },
  ],
  [
    'what parses in no way, once',
    {
      'index.html': page(
        `${script('type="module" src="a.js"')}${script('src="b.js"')}${script('', 'let a = ;')}${script('src="c.js"')}`,
      ),
      'a.js': 'let a = ;',
      'b.js': 'import "./a.js"; let b = ;',
      'c.js': 'function boats() { await fetch("boats.json") }',
    },
    'a.js:1:9-10 broken unexpected token: nothing of this script is run',
    'b.js:1:26-27 broken unexpected token: nothing of this script is run',
    'c.js:1:26-27 broken await works only in a function that is async: nothing of this script is run',
    'index.html:1:149-150 broken unexpected token: nothing of this script is run',
  ],
  [
    'what would run, and cannot have what it imports, is told by that',
    {
      'index.html': page(script('type="module" src="a.js"')),
      'a.js': 'import { tide } from "./b.js"',
      'b.js': 'export let tides = 1',
    },
    'a.js:1:10-14 broken b.js exports no tide, so neither is run; tides was probably meant',
    'guess: write tides as tide',
    'a.js: import { tides as tide } from "./b.js"',
  ],
  [
    'other hosts, and what is not there',
    {
      'index.html': page(
        `${script('type="module" src="https://gullhaven.example/a.js"')}${script('src="none.js"')}`,
      ),
    },
  ],
  [
    'a page whose tag is written as no other, so that not all pages can be mended',
    {
      'index.html': page(script('src="a.js"')),
      'b.html': page('<script src="a.js">'),
      'a.js': 'import "./c.js"',
      'c.js': '',
    },
    `a.js:1:1-2 broken ${MODULE}`,
    'sure: load a.js with type="module"',
    'index.html: <script src="a.js" type="module">',
  ],
  [
    'a module that a module imports while it runs, by code of a page and by files',
    {
      'index.html': page(script('type=module', 'import("./a.js"); if (location.hash) import("./b.js");')),
      'x.html': page(script('src=u.js')),
      'u.js': 'function late() { import("./c.js") }',
      'a.js': 'var x = 010;',
      'b.js': 'import "./d.js"',
      'c.js': 'with (x) y;',
      'd.js': 'arguments = 1;',
    },
    'a.js:1:9-10 broken invalid number: nothing of this script is run',
    "c.js:1:1-2 broken 'with' in strict mode: nothing of this script is run",
    'd.js:1:1-2 broken assigning to arguments in strict mode: nothing of this script is run',
  ],
  [
    'what is loaded ahead as a module, and runs as a script',
    {
      'index.html': page(`<link rel=modulepreload href=a.js>${script('defer src=a.js')}`),
      'a.js': 'var x = 010;',
    },
  ],
  [
    'what is imported as a module, and run as a script as well',
    {
      'index.html': page(script('defer src=a.js') + script('type=module', 'import("./a.js")')),
      'a.js': 'var x = 010;',
    },
    'a.js:1:9-10 broken invalid number: nothing of this script is run',
  ],
];

test('a script that is loaded as what it is not is told once, where it fails, and loaded right by the mend', () => {
  for (const [what, files, ...said] of rows) assert.deepEqual(told(files), said, what);
});
