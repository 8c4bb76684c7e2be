/** What runs soon after the page is there: reactions of promises, and the classes of custom elements. */
import type { OrderCase } from './load-order-cases.ts';

const run = (code: string) => `<script>\n${code}\n</script>\n`;
const define = (body: string, tag = 'tide-box') =>
  run(`customElements.define("${tag}", class extends HTMLElement {\n${body}\n});`);

const rows: readonly (readonly [about: string, markup: string])[] = [
  ['what a promise calls', run('Promise.resolve(1).then(() => {\nmissing(); });')],
  ['twice', run('Promise.resolve(1).then(() => 1).then(() => {\nmissing(); });')],
  [
    'a file that is fetched',
    run('fetch("d.json").then((answer) => answer.json()).then((data) => {\ndraw(data); });'),
  ],
  [
    'a file that is fetched, and drawn by a later script',
    run('fetch("d.json").then((r) => r.json()).then((data) => draw(data));') + run('function draw() {}'),
  ],
  [
    'with a catch',
    run('fetch("d.json").then((answer) => answer.json()).then((data) => { draw(data); }).catch(() => {});'),
  ],
  ['with a second function', run('Promise.resolve(1).then(() => { missing(); }).then(null, () => {});')],
  ['finally', run('Promise.resolve(1).finally(() => {\nmissing(); });')],
  ['a promise that nobody keeps', run('new Promise(() => {}).then(() => { missing(); });')],
  [
    'behind a wait',
    run(
      'async function load() {\nconst answer = await fetch("d.json");\nconst data = await answer.json();\ndraw(data);\n}\nload();',
    ),
  ],
  [
    'behind a wait, caught',
    run(
      'async function load() {\ntry { const answer = await fetch("d.json"); draw(await answer.json()); } catch {}\n}\nload();',
    ),
  ],
  [
    'behind a wait that may not come back',
    run(
      'async function load() {\nawait new Promise((done) => { document.onclick = done; });\ndraw();\n}\nload();',
    ),
  ],
  [
    'an element of the page',
    `${run('Promise.resolve(1).then(() => {\ndocument.getElementById("none").hidden = true; });')}`,
  ],
  ['a class for what the page has', `<tide-box></tide-box>${define('connectedCallback() {\nmissing(); }')}`],
  ['a class for what comes later', `${define('connectedCallback() {\nmissing(); }')}<tide-box></tide-box>`],
  ['a class for what the page has not', define('connectedCallback() { missing(); }')],
  ['its constructor', `<tide-box></tide-box>${define('constructor() { super();\nmissing(); }')}`],
  ['its other methods', `<tide-box></tide-box>${define('show() { missing(); }')}`],
  [
    'a method that it calls',
    `<tide-box></tide-box>${define('connectedCallback() { this.show(); }\nshow() {\nmissing(); }')}`,
  ],
  [
    'a listener that it adds',
    `<tide-box></tide-box>${define('connectedCallback() { this.addEventListener("x", () => missing()); }')}`,
  ],
  [
    'a class for what a template has',
    `<template><tide-box></tide-box></template>${define('connectedCallback() { missing(); }')}`,
  ],
];

export const afterLoadCases: readonly OrderCase[] = rows.map(([about, markup]) => ({
  about: `after load: ${about}`,
  markup,
  files: { 'd.json': '{}' },
}));
