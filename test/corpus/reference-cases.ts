/**
 * Cases of references that a browser loads with a page: markup for a page at `cases/<n>/index.html`. The files that
 * exist are those of `files`; everything else is decided by the browser.
 */
import { createHash } from 'node:crypto';

const SVG = '<svg xmlns="http://www.w3.org/2000/svg" width="8" height="8"><circle id="dot" r="4"/></svg>';
const sha256 = (text: string) => createHash('sha256').update(text).digest('base64');
const PNG = Buffer.from(
  'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
  'base64',
);

/** Files beside the cases, from the site's root. */
export const files: Readonly<Record<string, string | Uint8Array>> = {
  'index.html': '<!doctype html><title>Cases</title>',
  'p.svg': SVG,
  'p.png': PNG,
  'a b.svg': SVG,
  'é.svg': SVG,
  '100%.svg': SVG,
  'a+b.svg': SVG,
  "it's.svg": SVG,
  'a&b.svg': SVG,
  'UPPER.svg': SVG,
  'page.png': '<!doctype html><title>Not found</title>',
  'empty.png': '',
  'css/a.css': 'b { background: url(../p.svg); }',
  'css/import.css': '@import "a.css"; @import url(gone.css);',
  'css/bad.css': 'body { background: url(images/gone.svg); }',
  'css/deep/b.css': '@import "../a.css";',
  'js/a.js': 'window.a = 1;',
  'js/m.mjs': 'import "./n.mjs"; export {};',
  'js/n.mjs': 'export {};',
  'js/bad.mjs': 'import "./gone.mjs";',
  'js/fetch.js': '',
  'js/scoped.mjs': 'import "inner";',
  'js/lost.mjs': 'import "inner";',
  'js/prefixed.mjs': 'import "tides/n.mjs"; import "tides/gone.mjs";',
  'frame/index.html': '<!doctype html><title>Frame</title><p>framed',
  'frame/other.html': '<!doctype html><title>Other</title><img src="../p.svg">',
  'sub/index.html': '<!doctype html><title>Sub</title>',
};

/** What each address leads to is written as from a case's folder, `cases/<n>/`. */
const addresses = [
  '../../p.svg',
  '../../gone.svg',
  '../../P.svg',
  '../../upper.svg',
  '../../UPPER.svg',
  './../../p.svg',
  '../..//p.svg',
  '../../x/../p.svg',
  '../../p.svg?v=1',
  '../../p.svg#dot',
  '../../gone.svg?v=1',
  '../../%70.svg',
  '../../p%2Esvg',
  '../../a b.svg',
  '../../a%20b.svg',
  '../../a+b.svg',
  '../../a%2Bb.svg',
  '../../é.svg',
  '../../%C3%A9.svg',
  '../../%c3%a9.svg',
  '../../100%.svg',
  '../../100%25.svg',
  "../../it's.svg",
  '../../a&amp;b.svg',
  '../../a&b.svg',
  '..\\..\\p.svg',
  '../../p.svg ',
  ' ../../p.svg',
  '../../p.sv\ng',
  '../../p.svg\t',
  'p.svg',
  'sub/p.svg',
  '../p.svg',
  '../../p.png',
  '../.././/p.svg',
  '../../css/../p.svg',
  '../../p.svg/',
  '../../sub/../p.svg',
  '../../%2e%2e/p.svg',
  '../../p.SVG',
  '../../gone/',
  '../../p.svg;v=1',
  '../../p.svg%3Fv',
  '&#46;./../p.svg',
  '../../p&period;svg',
  '../../p.svg&#x3F;a',
] as const;

export interface Case {
  /** Elements for the head and the body. */
  readonly head: string;
  readonly body: string;
}

const quoted = (address: string) => (address.includes('"') ? `'${address}'` : `"${address}"`);
const inBody = (body: string): Case => ({ head: '', body });
const inHead = (head: string): Case => ({ head, body: '' });

/** One case a line; the first ones take every address in an image. */
export const cases: readonly Case[] = [
  ...addresses.map((address) => inBody(`<img alt="" src=${quoted(address)}>`)),
  ...addresses
    .slice(0, 24)
    .map((address) =>
      inBody(
        `<div style="background: url('${address.replaceAll("'", '%27').replaceAll('\\', '\\\\').replaceAll('\n', '')}')">x</div>`,
      ),
    ),
  ...[
    '../../css/a.css',
    '../../css/gone.css',
    '../../css/import.css',
    '../../css/bad.css',
    '../../css/deep/b.css',
    '../../css/A.css',
    '../../css',
    '../../css/a.css?x',
  ].map((address) => inHead(`<link rel="stylesheet" href="${address}">`)),
  ...[
    '../../js/a.js',
    '../../js/gone.js',
    '../../js/A.js',
    '../../js/a.js?x',
    'a.js',
    '../../js/a.js#x',
    '../../js/',
  ].map((address) => inBody(`<script src="${address}"></script>`)),
  ...['../../js/m.mjs', '../../js/gone.mjs', '../../js/bad.mjs', '../../js/n.mjs', 'm.mjs'].map((address) =>
    inBody(`<script type="module" src="${address}"></script>`),
  ),
  ...[
    '../../frame/',
    '../../frame/index.html',
    '../../frame/other.html',
    '../../frame/gone.html',
    '../../gone/',
  ].map((address) => inBody(`<iframe src="${address}"></iframe>`)),
  inBody('<img alt="" srcset="../../p.svg 1x, ../../gone.svg 2x">'),
  inBody('<img alt="" srcset="../../gone.svg 1x">'),
  inBody('<img alt="" srcset="../../p.png 1x" src="../../p.png">'),
  inBody(
    '<picture><source srcset="../../p.svg" type="image/svg+xml"><img alt="" src="../../p.png"></picture>',
  ),
  inBody('<picture><source srcset="../../gone.svg"><img alt="" src="../../p.png"></picture>'),
  inBody('<input type="image" alt="" src="../../p.svg">'),
  inBody('<input type="image" alt="" src="../../gone.svg">'),
  inBody('<object data="../../p.svg" type="image/svg+xml"></object>'),
  inBody('<object data="../../gone.svg" type="image/svg+xml"></object>'),
  inBody('<embed src="../../p.svg" type="image/svg+xml">'),
  inBody('<embed src="../../gone.svg" type="image/svg+xml">'),
  inBody('<video poster="../../p.svg"></video>'),
  inBody('<video poster="../../gone.svg"></video>'),
  inBody('<table background="../../p.svg"><tr><td>x</table>'),
  inBody('<table background="../../gone.svg"><tr><td>x</table>'),
  inBody('<table><tr><td background="../../gone.svg">x</table>'),
  inBody('<svg width="8" height="8"><image href="../../p.svg" width="8" height="8"/></svg>'),
  inBody('<svg width="8" height="8"><image href="../../gone.svg" width="8" height="8"/></svg>'),
  inBody('<svg width="8" height="8"><image xlink:href="../../gone2.svg" width="8" height="8"/></svg>'),
  inBody('<svg width="8" height="8"><use href="../../p.svg#dot"/></svg>'),
  inBody('<svg width="8" height="8"><symbol id="s"></symbol><use href="#s"/><use xlink:href="#s"/></svg>'),
  inBody('<svg width="8" height="8"><linearGradient id="s"/><linearGradient href="#s"/></svg>'),
  inBody('<svg width="8" height="8"><use href="../../gone.svg#dot"/></svg>'),
  inBody('<iframe srcdoc="&lt;img src=../../p.svg>"></iframe>'),
  inBody('<iframe srcdoc="&lt;img src=../../gone.svg>"></iframe>'),
  inBody('<div style="background: url(../../p.svg)">x</div>'),
  inBody('<div style=\'background: url("../../gone.svg")\'>x</div>'),
  inBody('<div style="background: url(../../gone\\2e svg)">x</div>'),
  inBody('<div style="background-image: image-set(&quot;../../gone.svg&quot; 1x)">x</div>'),
  inBody('<ul style="list-style-image: url(../../gone.svg)"><li>x</ul>'),
  inHead('<style>body { background: url(../../p.svg) }</style>'),
  inHead('<style>body { background: url(../../gone.svg) }</style>'),
  inHead('<style>@import "../../css/a.css";</style>'),
  inHead('<style>@import "../../css/gone.css";</style>'),
  inHead('<style>@import url(../../css/gone.css) screen;</style>'),
  inHead('<style>/* url(../../gone.svg) */ b::before { content: "url(../../gone.svg)" }</style>'),
  inHead('<style>body { background: url("#local") }</style>'),
  inHead('<base href="../../"><link rel="stylesheet" href="css/a.css">'),
  inHead('<base href="../../css/"><link rel="stylesheet" href="a.css">'),
  inHead('<base href="../../"><link rel="stylesheet" href="../../css/a.css">'),
  { head: '<base href="../../css/">', body: '<img alt="" src="p.svg">' },
  { head: '<base href="../../css/x.html">', body: '<img alt="" src="../p.svg">' },
  { head: '<base target="_blank"><base href="../../">', body: '<img alt="" src="p.svg">' },
  inHead('<link rel="icon" href="../../p.svg"><link rel="STYLESHEET" href="../../css/gone.css">'),
  inHead('<link rel="alternate stylesheet" title="x" href="../../css/gone.css">'),
  inHead('<link rel="preload" as="image" href="../../gone.svg">'),
  inHead('<link rel="modulepreload" href="../../js/gone.mjs">'),
  inHead('<script>/* <img src="../../gone.svg"> */</script>'),
  inBody('<!-- <img alt="" src="../../gone.svg"> -->'),
  // What a template holds is loaded when a script copies it: the check reports it, no browser asks for it here.
  inBody('<template><img alt="" src="../../p.svg"></template>'),
  inBody('<textarea><img alt="" src="../../gone.svg"></textarea>'),
  inBody('<xmp><img alt="" src="../../gone.svg"></xmp>'),
  inBody('<p title=\'<img alt="" src="../../gone.svg">\'>x'),
  inBody('<IMG ALT="" SRC="../../gone.svg">'),
  inBody("<img alt='' src='../../gone.svg'>"),
  inBody('<img alt="" src=../../gone.svg>'),
  inBody('<img alt="" src = "../../gone.svg" >'),
  inBody('<img alt="" src="../../p.svg" src="../../gone.svg">'),
  inBody('<img alt="" src="../../gone.svg" src="../../p.svg">'),
  inBody('<image src="../../gone.svg">'),
  inBody('<script type="text/plain" src="../../js/gone.js"></script>'),
  inBody('<script type="TEXT/JavaScript" src="../../js/gone.js"></script>'),
  inBody('<script src="../../js/gone.js">alert(1)</script>'),
  inBody('<script type="module">import "../../js/n.mjs";</script>'),
  inBody('<script type="module">import "../../js/gone.mjs";</script>'),
  inBody('<script type="module">import("../../js/gone.mjs").catch(() => {});</script>'),
  inBody(
    '<script type="importmap">{"imports":{"tide":"../../js/n.mjs","js/":"../../js/"}}</script><script type="module">import "tide";</script>',
  ),
  inBody(
    '<script type="importmap">{"imports":{"tide":"../../js/n.mjs","js/":"../../js/"}}</script><script type="module">import "js/n.mjs";</script>',
  ),
  inBody(
    '<script type="importmap">{"imports":{"tide":"../../js/n.mjs","js/":"../../js/"}}</script><script type="module">import "js/gone.mjs";</script>',
  ),
  inBody(
    '<script type="importmap">{"imports":{"tide":"../../js/n.mjs","gone":"../../js/gone.mjs","js/":"../../js/"}}</script><script type="module">import "gone";</script>',
  ),
  // What a module of its own imports by name is a matter of the page that runs it. Modules that the page's source names
  // may be fetched, and their imports looked up, before the map is read: these are named by code.
  inBody(
    '<script type="importmap">{"imports":{"inner":"../../js/a.js"},"scopes":{"../../js/":{"inner":"../../js/n.mjs"}}}</script><script type="module">import "../../js/scoped.mjs";</script>',
  ),
  inBody(
    '<script type="importmap">{"imports":{"inner":"../../js/n.mjs"},"scopes":{"../../js/":{"inner":"../../js/none.mjs"}}}</script><script type="module">import "../../js/lost.mjs";</script>',
  ),
  inBody(
    '<script type="importmap">{"imports":{"tides/":"../../js/"}}</script><script type="module">import "../../js/prefixed.mjs";</script>',
  ),
  inBody(`<script src="../../js/a.js" integrity="sha256-${sha256('window.a = 1;')}"></script>`),
  inBody('<script src="../../js/a.js" integrity="sha256-AAAA"></script>'),
  inBody(
    `<script src="../../js/a.js" integrity="sha512-AAAA sha256-${sha256('window.a = 1;')} md5-AAAA"></script>`,
  ),
  inBody('<script src="../../js/a.js" integrity="md5-AAAA"></script>'),
  inHead('<link rel="stylesheet" href="../../css/a.css" integrity="sha384-AAAA">'),
  inBody('<script>fetch("../../p.svg")</script>'),
  inBody('<script>fetch("../../gone.json").catch(() => {})</script>'),
  inBody('<img alt="" src="data:image/png;base64,iVBORw0KGgo=">'),
  inBody('<img alt="" src="../../page.png">'),
  inBody('<img alt="" src="../../empty.png">'),
  inBody('<img alt="" src="#dot">'),
  inBody('<p>Nothing is loaded here.</p>'),
];
