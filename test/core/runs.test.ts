/** Addresses in scripts: what the platform asks for counts from the page that runs the script; other strings are guesses. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { platformAddresses } from '../corpus/script-addresses.ts';
import { casesOf } from '../support/cases.ts';
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

test('from page to page a script may hold or fail; each finding names the pages where it does not hold', () => {
  for (const { what, files, said } of casesOf('addresses-run')) assert.deepEqual(saidOf(files), said, what);
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

test('a string that is nearly the path of a file is told as a guess, and no other', () => {
  for (const [code, files, ...said] of guesses)
    assert.deepEqual(
      saidOf({ ...files, ...pictures, 'js/a.js': code }),
      said.map((line) => `js/a.js:1 ${line}`),
      `${code} ${Object.keys(files)}`,
    );
});

test('what is told of an address in a script says from where it is seen', () => {
  for (const { what, files, said } of casesOf('addresses-seen')) {
    const findings = checkFiles(files).findings.filter(({ rule }) => judged.has(rule));
    const told = findings.map(({ file, column, grade, rule, written, message, mends, pages }) => {
      const meant = mends.map(({ sure, edits }) => ` ${sure ? '->' : '~>'} ${edits[0]?.text}`).join('');
      return `${file}:${column} ${grade} ${rule} ${written}${meant}: ${message}${pages === null ? '' : ` on ${pages.join()}`}`;
    });
    assert.deepEqual(told, said, what);
  }
});
