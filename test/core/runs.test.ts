/** Addresses in scripts: what the platform asks for counts from the page that runs the script; other strings are guesses. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { platformAddresses } from '../corpus/script-addresses.ts';
import { checkFiles, type Files } from '../support/site.ts';

const deep = {
  'index.html': '<script src="js/a.js"></script><a href="piers/north.html">x</a>',
  'piers/north.html': '<script src="../js/a.js"></script><a href="../index.html">x</a>',
};
const one = { 'index.html': '<script src="js/a.js"></script>' };
const pictures = { 'images/pier.svg': '', 'images/map.svg': '' };

const judged = new Set([
  'absent',
  'letter-case',
  'beyond-site',
  'lacks-index',
  'wrong-kind',
  'absent-anchor',
]);

/** `file:line grade rule <holder> written -> meant, on pages` */
function saidOf(files: Files): string[] {
  return checkFiles(files)
    .findings.filter(({ rule }) => judged.has(rule))
    .map(({ file, line, grade, rule, holder, written, mends, pages }) => {
      const meant = mends.map(({ sure, edits }) => ` ${sure ? '->' : '~>'} ${edits[0]?.text}`).join('');
      return `${file}:${line} ${grade} ${rule} ${holder?.name} ${written}${meant}${pages === null ? '' : ` on ${pages.join()}`}`;
    });
}

/** What a browser asks for only once somebody does something, or not at all. */
const unasked: typeof platformAddresses = [
  ['const a = document.createElement("a"); a.setAttribute("href", "gone.html")', 'absent href = gone.html'],
  ['navigator.serviceWorker.register("gone.js")', 'absent serviceWorker.register() gone.js'],
  ['CSS.paintWorklet.addModule("js/gone.js")', 'absent addModule() js/gone.js'],
  // An address, not a specifier.
  ['CSS.paintWorklet.addModule("js/a.js")'],
  [
    'new Image().src = x ? "pier.svg" : y || "map.svg"',
    'absent src = pier.svg -> images/pier.svg',
    'absent src = map.svg -> images/map.svg',
  ],
  [
    'fetch("one.json"); if (typeof require === "function") fetch("gone.json"); fetch("two.json")',
    'absent fetch() one.json',
    'absent fetch() two.json',
  ],
  ['window.open("gone.html")', 'absent open() gone.html'],
  ['new URL("gone.json", document.baseURI)', 'absent new URL() gone.json'],
  ['document.location.replace("./"); location.href = "mailto:a@b.example"; open("")'],
];

test('what a script asks the platform for is judged from the page that runs it', () => {
  for (const [code, ...said] of [...platformAddresses, ...unasked])
    assert.deepEqual(
      saidOf({ ...one, ...pictures, 'js/a.js': code }),
      said.map((line) => `js/a.js:1 broken ${line}`),
      code,
    );
});

const runs: readonly (readonly [name: string, files: Files, ...said: string[]])[] = [
  [
    'one page of two: every page asks for it',
    { ...deep, ...pictures, 'js/a.js': 'fetch("images/map.svg")' },
    'js/a.js:1 broken absent fetch() images/map.svg on piers/north.html',
  ],
  [
    'one page of two: only if a condition holds',
    { ...deep, ...pictures, 'js/a.js': 'if (x) fetch("images/map.svg")' },
    'js/a.js:1 fragile absent fetch() images/map.svg on piers/north.html',
  ],
  [
    'a function that runs at once, and one that the page runs when it is there',
    {
      ...deep,
      ...pictures,
      'js/a.js':
        '(function () { fetch("images/map.svg") })()\naddEventListener("load", () => { fetch("images/pier.svg") })\nfunction f() { fetch("images/map.svg") }',
    },
    'js/a.js:1 broken absent fetch() images/map.svg on piers/north.html',
    'js/a.js:2 broken absent fetch() images/pier.svg on piers/north.html',
    'js/a.js:3 fragile absent fetch() images/map.svg on piers/north.html',
  ],
  [
    'a constant, asked for only if a condition holds',
    { ...deep, ...pictures, 'js/a.js': 'const map = "images/map.svg"; if (x) fetch(map)' },
    'js/a.js:1 fragile absent fetch() images/map.svg on piers/north.html',
  ],
  [
    'on no page: no edit is right for pages of two depths',
    { ...deep, 'js/a.js': 'if (x) fetch("map.svg")', ...pictures },
    'js/a.js:1 broken absent fetch() map.svg ~> images/map.svg',
  ],
  ['from the root it holds for all', { ...deep, ...pictures, 'js/a.js': 'fetch("/images/map.svg")' }],
  [
    'by way of modules, and from a page with a base',
    {
      'index.html': '<script type=module src="js/m.js"></script>',
      'piers/a.html': '<base href="../"><script type=module src="js/m.js"></script>',
      'js/m.js': 'import "./a.js"',
      'js/a.js': 'fetch("images/map.svg"); fetch("map.svg")',
      ...pictures,
    },
    'js/a.js:1 broken absent fetch() map.svg -> images/map.svg',
  ],
  [
    'a worker starts from its own file, and so does what it imports',
    {
      'index.html': '<script>new Worker("js/w.js")</script>',
      'js/w.js': 'importScripts("b.js"); fetch("../images/map.svg"); fetch("images/map.svg")',
      'js/b.js': 'fetch("../images/pier.svg"); fetch("images/pier.svg"); new Worker("v.js")',
      'js/v.js': 'fetch("../images/gone.svg")',
      ...pictures,
    },
    'js/b.js:1 broken absent fetch() images/pier.svg -> ../images/pier.svg',
    'js/v.js:1 broken absent fetch() ../images/gone.svg',
    'js/w.js:1 broken absent fetch() images/map.svg -> ../images/map.svg',
  ],
  [
    'a script that a script puts in runs on the page as well',
    {
      ...one,
      'js/a.js': 'const s = document.createElement("script"); s.src = "js/b.js"',
      'js/b.js': 'fetch("b.json")',
    },
    'js/b.js:1 broken absent fetch() b.json',
  ],
  [
    'what an event handler of the page does',
    {
      'index.html':
        '<button onclick="location.href=&quot;gone.html&quot;; return false" ondrag=location="boats.html">x</button><p onclick="if (">',
      'boats.html': '<a href=index.html>x</a>',
    },
    'index.html:1 broken absent location.href = gone.html',
  ],
  [
    'pages of one folder, each with addresses of its own',
    {
      'a.html': '<script>fetch("one.json")</script>',
      'b.html': '<script>fetch("two.json")</script>',
      'index.html': '<base href="https://gullhaven.example/"><script>fetch("three.json")</script>',
    },
    'a.html:1 broken absent fetch() one.json',
    'b.html:1 broken absent fetch() two.json',
  ],
  [
    'pages of one folder, each with a script of its own, and one from elsewhere',
    {
      'a.html': '<script src="js/a.js"></script>',
      'b.html': '<link rel="stylesheet" href="b.css"><script src="js/b.js"></script>',
      'c.html': '<base href="https://gullhaven.example/">',
      'b.css': '',
      'js/a.js': 'fetch("one.json")',
      'js/b.js': 'fetch("two.json")',
    },
    'js/a.js:1 broken absent fetch() one.json',
    'js/b.js:1 broken absent fetch() two.json',
  ],
  [
    'pages of one folder, each with a worker of its own',
    {
      'a.html': '<script>new Worker("js/a.js")</script>',
      'b.html': '<script>new Worker("js/b.js")</script>',
      'js/a.js': 'fetch("one.json")',
      'js/b.js': 'fetch("two.json")',
    },
    'js/a.js:1 broken absent fetch() one.json',
    'js/b.js:1 broken absent fetch() two.json',
  ],
  [
    'pages of one folder, each with a map of its own, of which one lacks the name',
    {
      'a.html':
        '<script type="importmap">{"imports":{"tides":"./js/t.js"}}</script><script type="module" src="js/m.js"></script>',
      'b.html':
        '<script type="importmap">{"imports":{"fares":"./js/t.js"}}</script><script type="module" src="js/m.js"></script>',
      'js/m.js': 'import "tides"',
      'js/t.js': 'fetch("gone.json")',
    },
    'js/m.js:1 broken absent import tides on b.html',
    'js/t.js:1 broken absent fetch() gone.json',
  ],
  [
    'a map says where a folder of modules is',
    {
      'index.html':
        '<script type="importmap">{"imports":{"tides/":"./js/tides/"}}</script><script type="module">import "tides/t.js"; import "tides/gone.js"; import "bare.js"</script>',
      'js/tides/t.js': 'fetch("gone.json")',
      'bare.js': 'fetch("never.json")',
    },
    'index.html:1 broken absent import tides/gone.js',
    'index.html:1 broken absent import bare.js',
    'js/tides/t.js:1 broken absent fetch() gone.json',
  ],
  [
    'what a page shows in a frame, or leads to, starts from itself',
    {
      'index.html': `<iframe src="x/a.html"></iframe><button onclick="location.href='x/b.html'">b</button>`,
      'x/a.html': '<script>fetch("a.json")</script>',
      'x/b.html': '<script>fetch("a.json"); fetch("b.json")</script>',
      'x/a.json': '{}',
    },
    'x/b.html:1 broken absent fetch() b.json ~> a.json',
  ],
  [
    'a script that is named, and perhaps never run',
    { ...one, 'js/a.js': 'const later = "js/b.js"', 'js/b.js': 'fetch("gone.json")' },
  ],
  [
    'a script that a script puts in starts from the page, and a fragment leads nowhere else',
    {
      ...one,
      ...pictures,
      'js/a.js': 'const s = document.createElement("script"); s.src = "js/b.js#later"',
      'js/b.js': 'fetch("images/map.svg#north"); fetch("map.svg#north")',
    },
    'js/b.js:1 broken absent fetch() map.svg#north -> images/map.svg#north',
  ],
  [
    'a script does not mean itself, unless by its name',
    { ...one, 'js/a.js': 'fetch("a.js"); fetch("js/A.js")' },
    'js/a.js:1 broken absent fetch() a.js',
    'js/a.js:1 broken letter-case fetch() js/A.js -> js/a.js',
  ],
  [
    'on pages of two folders one edit is right',
    {
      'index.html': '',
      'piers/a.html': '<script src="../js/a.js"></script>',
      'ports/a.html': '<script src="../js/a.js"></script>',
      'js/a.js': 'fetch("../image/map.svg")',
      ...pictures,
    },
    'js/a.js:1 broken absent fetch() ../image/map.svg -> ../images/map.svg',
  ],
  [
    'no page runs it',
    { 'index.html': '', 'js/a.js': 'fetch("gone.json")', 'b.html': '<a href="js/a.js">x</a>' },
  ],
  ['a library', { 'index.html': '<script src="lib/a.js"></script>', 'lib/a.js': 'fetch("gone.json")' }],
];

const before = (amount: number) =>
  Array.from({ length: amount }, (_none, at) => `go("folder${at}/" + x)`).join(';');

/** A script js/a.js, of a page in the root unless `files` says otherwise. */
const guesses: readonly (readonly [code: string, files: Files, ...said: string[]])[] = [
  ['const p = ["images/peir.svg"]', one, 'fragile absent string images/peir.svg ~> images/pier.svg'],
  ['const p = "img/pier.svg"', one, 'fragile absent string img/pier.svg ~> images/pier.svg'],
  ['load("Images/pier.svg")', one, 'fragile letter-case string Images/pier.svg ~> images/pier.svg'],
  [
    '$("#x").attr("src", "images/Pier.svg")',
    one,
    'fragile letter-case string images/Pier.svg ~> images/pier.svg',
  ],
  ['const p = "images/lighthouse.svg"', one],
  ['const p = "pier.svg"', one],
  ['const p = "images/pier.svg"', deep],
  // A name, then an address: on each page that runs it.
  ['this.load.image("pier", "images/pier.svg")', one],
  ['this.load.image("pier", "pier.svg")', one],
  [
    'this.load.image("pier", "images/peir.svg")',
    one,
    'fragile absent string images/peir.svg ~> images/pier.svg',
  ],
  [
    'this.load.audio("pier", ["images/peir.svg"])',
    one,
    'fragile absent string images/peir.svg ~> images/pier.svg',
  ],
  [
    'this.load.image("pier", "images/pier.svg")',
    deep,
    'fragile absent string images/pier.svg on piers/north.html',
  ],
  ['$("#x").load("images/pier.svg")', deep, 'fragile absent string images/pier.svg on piers/north.html'],
  [
    'axios.get("images/peir.svg"); m.get("images/peir.svg")',
    one,
    'fragile absent string images/peir.svg ~> images/pier.svg',
  ],
  // What is put in front of it, and by what, is known or not.
  ['this.load.setBaseURL(x); this.load.image("pier", "pier/pier.svg")', one],
  ['const p = "images/"; load(p + x); load("a", "Pier.svg")', one],
  ['load("images/peir.svg" + x); load(x + "images/peir.svg")', one],
  ['function load(p) { go(root + p) } load("img/pier.svg")', one],
  // biome-ignore lint/suspicious/noTemplateCurlyInString: it is the script's
  ['function load(p) { go(`${base}${p}`) } load("img/pier.svg")', one],
  ['if (x === "images/peir.svg" || x.endsWith("img/pier.svg")) y()', one],
  ['console.log("images/peir.svg", "no file images/peir.svg")', one],
  // No browser comes by here.
  ['if (typeof exports === "object") { p = "img/pier.svg" } else p = "images/pier.svg"', one],
  ['if (typeof module !== "undefined" && module.exports) p = "img/pier.svg"', one],
  [
    'if (typeof window !== "undefined") p = "img/pier.svg"',
    one,
    'fragile absent string img/pier.svg ~> images/pier.svg',
  ],
  [
    'if (typeof module === "undefined") p = "img/pier.svg"',
    one,
    'fragile absent string img/pier.svg ~> images/pier.svg',
  ],
  ['const p = "css/a.css"', { ...one, 'css/b.svg': '' }],
  // From the script itself, where nothing loads it.
  ['const p = "../images/pier.svg"', one],
  ['const p = "img/boat.svg"', { ...one, 'js/img/boat.svg': '' }],
  [
    'this.load.image("boat", "img/boat.svg")',
    { ...one, 'js/img/boat.svg': '' },
    'fragile absent string img/boat.svg ~> js/img/boat.svg',
  ],
  // By what the script puts in front of paths, of which there may be too many.
  ['go("assets/" + x); const p = "img/pier.svg"', { ...one, 'assets/img/pier.svg': '' }],
  [`${before(50)}; const p = "img/pier.svg"`, one, 'fragile absent string img/pier.svg ~> images/pier.svg'],
  [`${before(51)}; const p = "img/pier.svg"`, one],
  // Near a file from one page, and near none from the other.
  ['const p = "../images/peir.svg"', deep, 'fragile absent string ../images/peir.svg ~> ../images/pier.svg'],
];

test('from page to page a script may hold or fail; each finding names the pages where it does not hold', () => {
  for (const [name, files, ...said] of runs) assert.deepEqual(saidOf(files), said, name);
});

test('it is said from where an address was looked for, what lacks a name, and what else holds', () => {
  const module = (code: string) => `<script type="module">${code}</script>`;
  const map = '<script type="importmap">{"imports":{"tides":"./t.js","fares/":"./f/"}}</script>';
  const rows: readonly (readonly [files: Files, message: string])[] = [
    [
      { ...one, 'js/a.js': 'fetch("gone.json")' },
      "there is no file gone.json in the site's root, as seen from index.html",
    ],
    [
      { 'index.html': '<script>fetch("gone.json")</script>' },
      "there is no file gone.json in the site's root",
    ],
    [
      { ...deep, ...pictures, 'js/a.js': 'fetch("images/map.svg")' },
      'there is no folder images in piers, as seen from piers/north.html; on other pages it holds',
    ],
    [
      { 'index.html': module('import "tides"') },
      'no import map of the page names it, and without one only addresses that start with ./, ../ or / name a file',
    ],
    [
      {
        'a.html': map + module('import "./m.js"'),
        'b.html': module('import "./m.js"'),
        'm.js': 'import "tides"',
        't.js': '',
      },
      'no import map of b.html names it, and without one only addresses that start with ./, ../ or / name a file',
    ],
    [
      { 'index.html': map + module('import "fares/gone.js"'), 't.js': '', 'f/a.js': '' },
      'there is no file gone.js in f',
    ],
  ];
  for (const [files, message] of rows)
    assert.deepEqual(
      checkFiles(files).findings.flatMap((one) => (judged.has(one.rule) ? one.message : [])),
      [message],
      JSON.stringify(files),
    );
});

test('a string that is nearly the path of a file is told as a guess, and no other', () => {
  for (const [code, files, ...said] of guesses)
    assert.deepEqual(
      saidOf({ ...files, ...pictures, 'js/a.js': code }),
      said.map((line) => `js/a.js:1 ${line}`),
      `${code} ${Object.keys(files)}`,
    );
});

test('what is told of an address in a script says from where it is seen', () => {
  const rows: readonly (readonly [what: string, files: Files, ...said: string[]])[] = [
    [
      'from a page of another folder',
      { 'index.html': '<script src="js/a.js"></script>', 'js/a.js': 'fetch("gone.json")' },
      "js/a.js:8 broken absent gone.json: there is no file gone.json in the site's root, as seen from index.html",
    ],
    [
      'from a page of its folder',
      { 'index.html': '<script src="a.js"></script>', 'a.js': 'fetch("gone.json")' },
      "a.js:8 broken absent gone.json: there is no file gone.json in the site's root",
    ],
    [
      'from the page itself',
      { 'x/index.html': '<script>fetch("gone.json")</script>' },
      'x/index.html:16 broken absent gone.json: there is no file gone.json in x',
    ],
    [
      'from a base',
      { 'index.html': '<base href="x/"><script>fetch("gone.json")</script>' },
      'index.html:32 broken absent gone.json: there is no folder x/',
    ],
    [
      'from the first of two pages',
      {
        'x/b.html': '<script src="../a.js"></script>',
        'x/a.html': '<script src="../a.js"></script>',
        'a.js': 'fetch("gone.json")',
      },
      'a.js:8 broken absent gone.json: there is no file gone.json in x, as seen from x/a.html',
    ],
    [
      'from pages of two folders',
      {
        'y/b.html': '<script src="../a.js"></script>',
        'x/a.html': '<script src="../a.js"></script>',
        'a.js': 'fetch("gone.json")',
      },
      'a.js:8 broken absent gone.json: there is no file gone.json in x, as seen from x/a.html',
    ],
    [
      'from one page of two',
      {
        'b.html': '<script src="a.js"></script>',
        'x/a.html': '<script src="../a.js"></script>',
        'a.js': 'fetch("one.json")',
        'one.json': '{}',
      },
      'a.js:8 broken absent one.json: there is no file one.json in x, as seen from x/a.html; on other pages it holds on x/a.html',
    ],
    [
      'from a worker',
      {
        'index.html': '<script>new Worker("js/w.js")</script>',
        'js/w.js': 'fetch("gone.json"); fetch("index.json")',
        'js/index.json': '{}',
      },
      'js/w.js:8 broken absent gone.json: there is no file gone.json in js',
    ],
    [
      'from a worker that a worker starts',
      {
        'index.html': '<script>new Worker("js/w.js")</script>',
        'js/w.js': 'new Worker("v.js")',
        'js/v.js': 'importScripts("gone.js")',
      },
      'js/v.js:16 broken absent gone.js: there is no file gone.js in js',
    ],
    [
      'from a module worker',
      {
        'index.html': '<script>new Worker("w.js", { type: "module" })</script>',
        'w.js': 'import "tide"; import "./gone.js"',
      },
      'w.js:9 broken absent tide: no import map is there for workers, and without one only addresses that start with ./, ../ or / name a file',
      "w.js:24 broken absent ./gone.js: there is no file gone.js in the site's root",
    ],
    [
      'a bare specifier of the page',
      { 'index.html': '<script type="module">import "tide"</script>' },
      'index.html:31 broken absent tide: no import map of the page names it, and without one only addresses that start with ./, ../ or / name a file',
    ],
    [
      'a bare specifier of a file',
      { 'index.html': '<script type="module" src="m.js"></script>', 'm.js': 'import "tide"' },
      'm.js:9 broken absent tide: no import map of index.html names it, and without one only addresses that start with ./, ../ or / name a file',
    ],
    [
      'a bare specifier, mapped to nothing',
      {
        'index.html':
          '<script type="importmap">{"imports":{"tide":"./gone.js"}}</script><script type="module">import "tide"</script>',
      },
      "index.html:46 broken absent ./gone.js: there is no file gone.js in the site's root",
    ],
    [
      'a bare specifier, mapped by a prefix to nothing',
      {
        'index.html':
          '<script type="importmap">{"imports":{"t/":"./js/"}}</script><script type="module">import "t/gone.js"</script>',
        'js/a.js': '',
      },
      'index.html:91 broken absent t/gone.js: there is no file gone.js in js',
    ],
    [
      'a bare specifier of a file, mapped by a prefix to nothing',
      {
        'index.html':
          '<script type="importmap">{"imports":{"t/":"./js/"}}</script><script type="module" src="m.js"></script>',
        'm.js': 'import "t/gone.js"; import "t/Tides.js"',
        'js/tides.js': '',
      },
      'm.js:9 broken absent t/gone.js: there is no file gone.js in js',
      'm.js:29 broken letter-case t/Tides.js: there is no file Tides.js in js; it is spelled tides.js',
    ],
    [
      'on one page with a map, and on one without',
      {
        'index.html':
          '<script type="importmap">{"imports":{"t":"./m.js"}}</script><script type="module" src="n.js"></script>',
        'b.html': '<script type="module" src="n.js"></script>',
        'n.js': 'import "t"',
        'm.js': '',
      },
      'n.js:9 broken absent t: no import map of b.html names it, and without one only addresses that start with ./, ../ or / name a file on b.html',
    ],
    [
      'a string that is nearly the path of a file',
      {
        'index.html': '<script src="js/a.js"></script>',
        'js/a.js': 'const one = "images/peir.svg";',
        'images/pier.svg': '',
      },
      'js/a.js:14 fragile absent images/peir.svg ~> images/pier.svg: there is no file peir.svg in images, as seen from index.html',
    ],
    [
      'a string that is one from the folder of its script',
      {
        'index.html': '<script src="js/a.js"></script>',
        'js/a.js': 'const one = "one.svg";',
        'js/one.svg': '',
        'images/one.svg': '',
      },
    ],
    [
      'a string that is one with what is put in front',
      {
        'index.html': '<script src="js/a.js"></script>',
        'js/a.js': 'const all = ["pier.svg"]; show("images/" + all[0])',
        'images/pier.svg': '',
      },
    ],
    [
      'a string of which nobody knows what is put in front',
      {
        'index.html': '<script src="js/a.js"></script>',
        'js/a.js': 'const all = ["peir.svg"]; show(base + all[0])',
        'pier.svg': '',
      },
    ],
    [
      'a string that loads something',
      {
        'index.html': '<script src="js/a.js"></script>',
        'js/a.js': '$("nav").load("peir.html")',
        'pier.html': '',
      },
      "js/a.js:16 fragile absent peir.html ~> pier.html: there is no file peir.html in the site's root, as seen from index.html",
    ],
    [
      'a string that loads something on one page of two',
      {
        'index.html': '<script src="js/a.js"></script>',
        'x/b.html': '<script src="../js/a.js"></script>',
        'js/a.js': '$("nav").load("pier.html")',
        'pier.html': '',
      },
    ],
    [
      'itself in other letters',
      { 'index.html': '<script src="js/a.js"></script>', 'js/a.js': 'fetch("js/A.js"); fetch("js/b.js")' },
      'js/a.js:8 broken letter-case js/A.js -> js/a.js: there is no file A.js in js; it is spelled a.js, as seen from index.html',
      'js/a.js:26 broken absent js/b.js: there is no file b.js in js, as seen from index.html',
    ],
  ];
  for (const [what, files, ...said] of rows) {
    const findings = checkFiles(files).findings.filter(({ rule }) => judged.has(rule));
    const told = findings.map(({ file, column, grade, rule, written, message, mends, pages }) => {
      const meant = mends.map(({ sure, edits }) => ` ${sure ? '->' : '~>'} ${edits[0]?.text}`).join('');
      return `${file}:${column} ${grade} ${rule} ${written}${meant}: ${message}${pages === null ? '' : ` on ${pages.join()}`}`;
    });
    assert.deepEqual(told, said, what);
  }
});
