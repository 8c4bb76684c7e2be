/** What a site can grow in: for each, files or words of any size, and what is done with them. */
import { createHash } from 'node:crypto';
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { cuts } from '../src/command/declarations.ts';
import { ChangedFiles } from '../src/core/change/files.ts';
import { startCheck } from '../src/core/check/check.ts';
import { type MappedPage, type SiteMap } from '../src/core/check/site-map.ts';
import { picker } from '../src/core/judge/pick.ts';
import type { Visit } from '../src/core/judge/visit.ts';
import { replaceInPage } from '../src/core/library/replace.ts';
import { shapeLibrary } from '../src/core/library/shape.ts';
import { loadOrder } from '../src/core/order/order.ts';
import { ScriptUses } from '../src/core/order/script-uses.ts';
import { CopiedFiles } from '../src/core/packing/copied-files.ts';
import { makeCopy } from '../src/core/packing/pack.ts';
import { newPlace } from '../src/core/packing/rebase.ts';
import { makeLike } from '../src/core/page/make.ts';
import { openPage } from '../src/core/page/page.ts';
import { fillParts } from '../src/core/page/sync.ts';
import { wire, wireAll } from '../src/core/page/wire.ts';
import { readFile } from '../src/core/read/read.ts';
import type { Report, SiteReport } from '../src/core/report.ts';
import { sift } from '../src/core/settings/accept.ts';
import { readSettings } from '../src/core/settings/read.ts';
import { Library, Settings } from '../src/core/settings/settings.ts';
import { globMatcher } from '../src/core/site/globs.ts';
import { makeInventory } from '../src/core/site/inventory.ts';
import { keepProject } from '../src/core/starter/keep.ts';
import { differenceOf } from '../src/core/visiting/difference.ts';
import { reportOfVisit } from '../src/core/visiting/report.ts';
import { ProjectCheck } from '../src/disk/check.ts';
import { digestOf } from '../src/disk/digest.ts';
import { hashOfAll } from '../src/disk/standing.ts';
import { changeAsDiff } from '../src/show/diff.ts';
import { reportAsPage } from '../src/show/html.ts';
import { reportAsJson, reportAsLines } from '../src/show/json.ts';
import { reportAsJunit } from '../src/show/junit.ts';
import { mapAsDot } from '../src/show/map/data.ts';
import { mapAsPage } from '../src/show/map/html.ts';
import { mapAsSvg } from '../src/show/map/svg.ts';
import { paintFor } from '../src/show/paint.ts';
import { reportAsSarif } from '../src/show/sarif.ts';
import { reportAsText } from '../src/show/text.ts';

export interface Row {
  readonly name: string;
  /** The smallest size, and the largest that makes sense. */
  readonly size: number;
  readonly most?: number;
  prepare(size: number): Promise<() => unknown> | (() => unknown);
}

type Files = Readonly<Record<string, string | Uint8Array>>;

const bytesOf = (content: string | Uint8Array) =>
  typeof content === 'string' ? new TextEncoder().encode(content) : content;
const times = (amount: number, make: (index: number) => string) =>
  Array.from({ length: amount }, (_, index) => make(index)).join('');
const each = (amount: number, make: (index: number) => readonly [string, string]): Files =>
  Object.fromEntries(Array.from({ length: amount }, (_, index) => make(index)));

function check(files: Files): SiteReport {
  const content = new Map(Object.entries(files).map(([path, text]) => [path, bytesOf(text)]));
  const read = (path: string) => content.get(path) ?? new Uint8Array();
  const one = startCheck(makeInventory(content.keys()), {
    headOf: read,
    digestOf: (path, algorithm) => createHash(algorithm).update(read(path)).digest('base64'),
  });
  for (const path of one.wanted) one.take(path, read(path));
  return one.report('site', read);
}

/** A whole check of files in memory. */
const checking = (name: string, size: number, files: (size: number) => Files): Row => ({
  name: `check: ${name}`,
  size,
  prepare(amount) {
    const made = Object.fromEntries(
      Object.entries(files(amount)).map(([path, text]) => [path, bytesOf(text)]),
    );
    return () => check(made);
  },
});

const reading = (path: string, name: string, size: number, text: (size: number) => string): Row => ({
  name: `read: ${name}`,
  size,
  prepare(amount) {
    const bytes = bytesOf(text(amount));
    return () => readFile(path, bytes);
  },
});

/** A whole check of a folder of the disk. */
const onDisk = (
  name: string,
  size: number,
  most: number,
  lay: (root: string, size: number) => void,
): Row => ({
  name: `disk: ${name}`,
  size,
  most,
  prepare(amount) {
    const root = mkdtempSync(join(tmpdir(), 'cravel-growth-'));
    process.on('exit', () => rmSync(root, { recursive: true, force: true }));
    lay(root, amount);
    return () => new ProjectCheck(root).look();
  },
});

/** A report with many findings, of files of one line each. */
const showing = (name: string, show: (report: Report) => unknown): Row => ({
  name: `show: ${name}`,
  size: 2000,
  prepare(amount) {
    const report = check({
      ...each(amount / 20, (index) => [
        `p/${index}.html`,
        times(20, (at) => `<img src="x${index}-${at}.png">`),
      ]),
    });
    return () => show({ cravel: 2, sites: [report] });
  },
});

const drain = (pieces: Iterable<string>) => {
  let length = 0;
  for (const piece of pieces) length += piece.length;
  return length;
};
const plain = paintFor({}, {});
const head = '<!doctype html><html lang="en"><meta charset="utf-8"><title>Ferry</title>';

const working = (name: string, size: number, prepare: (size: number) => () => unknown): Row => ({
  name,
  size,
  prepare,
});
const integrityOf = (text: string) => `sha384-${createHash('sha384').update(text).digest('base64')}`;

interface Packed {
  readonly files: Files;
  readonly libraries?: Record<string, Library>;
}

const packing = (name: string, size: number, site: (size: number) => Packed): Row =>
  working(`pack: ${name}`, size, (n) => {
    const { files, libraries = {} } = site(n);
    const settings = Object.assign(new Settings(), { libraries });
    return () =>
      makeCopy({
        files: new CopiedFiles(Object.keys(files), (path) => bytesOf(files[path] ?? '')),
        settings,
        used: new Set(),
        published: null,
        at: newPlace('https://g.example/ferry/'),
        shrinker: null,
        namedByContent: true,
        digestOf,
        hashOf: hashOfAll,
      });
  });

const visitOf = (file: string): Visit => ({
  asks: 'file',
  file,
  address: `https://g.example/${file}`,
  encoding: null,
  failure: null,
  status: 404,
  type: '',
  movedTo: null,
  asksToLogIn: false,
  isAnything: false,
  difference: null,
});

function siteMapWith(n: number, how: 'pages in folders' | 'pages of one folder' | 'pages in a row'): SiteMap {
  const fileOf = (at: number) =>
    at === 0 ? 'index.html' : how === 'pages in folders' ? `f${at % 50}/p${at}.html` : `p${at}.html`;
  const pages = Array.from({ length: n }, (_none, at): MappedPage => {
    const from = how === 'pages in a row' ? at - 1 : Math.floor((at - 1) / 20);
    return {
      file: fileOf(at),
      title: `Page ${at}`,
      clicks: how === 'pages in a row' ? at : Math.ceil(Math.log(at + 1) / Math.log(20)),
      from: at === 0 ? null : fileOf(from),
      leadsTo: [fileOf((at * 7) % n), fileOf((at * 3) % n)],
      loads: new Map([['a.css', 'stylesheet']]),
      broken: at % 100 === 0 ? ['lost.html'] : [],
    };
  });
  const sizes = new Map([...pages.map(({ file }) => [file, 5000] as const), ['a.css', 700]]);
  return { entry: 'index.html', pages, sizes, unused: [], twins: [] };
}

const noLibraries = {
  order: loadOrder({}, undefined),
  scriptsGo: undefined,
  provided: [],
  scripts: new ScriptUses(() => null),
  areBuilds: () => false,
  swaps: true,
};

export const rows: readonly Row[] = [
  // One line with many findings.
  checking('one line of references, HTML', 3000, (n) => ({
    'index.html': head + times(n, (at) => `<img src="x${at}.png">`),
  })),
  checking('one line of references, letters beyond ASCII', 3000, (n) => ({
    'index.html': head + times(n, (at) => `é<img src="x${at}.png">`),
  })),
  checking('one line of references, Shift_JIS', 3000, (n) => ({
    'index.html': Buffer.from(
      `<meta charset=shift_jis>${times(n, (at) => `\x83\x83 <img src="x${at}.png">`)}`,
      'latin1',
    ),
  })),
  checking('one line of references, UTF-16', 3000, (n) => ({
    'index.html': Buffer.from(`\uFEFF${head}${times(n, (at) => `é<img src="x${at}.png">`)}`, 'utf16le'),
  })),
  checking('one line of references, CSS', 3000, (n) => ({
    'index.html': head,
    'a.css': times(n, (at) => `a{background:url(x${at}.png)}`),
  })),
  checking('one line of references, style attribute', 3000, (n) => ({
    'index.html': `${head}<p style="${times(n, (at) => `background:url(x${at}.png);`)}">`,
  })),
  checking('one line of references, SVG', 3000, (n) => ({
    'index.html': head,
    'a.svg': `<svg>${times(n, (at) => `<image href="é${at}.png"/>`)}</svg>`,
  })),
  checking('one line of references, sitemap', 3000, (n) => ({
    'index.html': head,
    'sitemap.xml': `<urlset>${times(n, (at) => `<url><loc>x${at}.html</loc></url>`)}</urlset>`,
  })),
  checking('one line of references, manifest', 3000, (n) => ({
    'index.html': head,
    'a.webmanifest': `{"icons":[${times(n, (at) => `{"src":"x${at}.png"},`)}{"src":"y.png"}]}`,
  })),
  checking('one line of references, srcset', 3000, (n) => ({
    'index.html': `${head}<img srcset="${times(n, (at) => `x${at}.png ${at}w, `)}y.png 1w">`,
  })),
  checking('one line of references, script', 3000, (n) => ({
    'index.html': head,
    'a.js': times(n, (at) => `fetch("x${at}.json");`),
  })),
  checking('one line of imports', 3000, (n) => ({
    'index.html': `${head}<script type=module src=a.js></script>`,
    'a.js': times(n, (at) => `import "./x${at}.js";`),
  })),
  // Spots.
  checking('absent spots of a page of many ids', 1500, (n) => ({
    'index.html': head + times(n, (at) => `<a href="b.html#X${at}">x</a>`),
    'b.html': head + times(n, (at) => `<p id="y${at}">`),
  })),
  checking('absent spots of the page itself', 1500, (n) => ({
    'index.html': head + times(n, (at) => `<a id="y${at}" href="#X${at}">x</a>`),
  })),
  // What was meant.
  checking('one name in many folders, references to a missing one', 800, (n) => ({
    'index.html': head + times(n, (at) => `<link rel="stylesheet" href="q${at}/style.css">`),
    ...each(n, (at) => [`f${at}/style.css`, 'b{}']),
  })),
  checking('many index pages, references to missing ones', 800, (n) => ({
    'index.html': head + times(n, (at) => `<a href="q${at}/s/index.html">x</a>`),
    ...each(n, (at) => [`f${at}/s/index.html`, head]),
  })),
  checking('near names in one folder, misspelt references', 800, (n) => ({
    'index.html': head + times(n, (at) => `<img src="pier-${String(at).padStart(6, '0')}x.svg">`),
    ...each(n, (at) => [
      `pier-${String(at).padStart(6, '0')}.svg`,
      '<svg xmlns="http://www.w3.org/2000/svg"/>',
    ]),
  })),
  checking('names of the same words, references to others', 800, (n) => ({
    'index.html': head + times(n, (at) => `<img src="old-pier-${at}-north.svg">`),
    ...each(n, (at) => [`pier-north-${at}.svg`, '<svg xmlns="http://www.w3.org/2000/svg"/>']),
  })),
  checking('names in other letter case', 800, (n) => ({
    'index.html': head + times(n, (at) => `<img src="Pier${at}.svg">`),
    ...each(n, (at) => [`pier${at}.svg`, '<svg xmlns="http://www.w3.org/2000/svg"/>']),
  })),
  // Pages and files.
  checking('pages that link to each other', 400, (n) =>
    each(n, (at) => [
      at === 0 ? 'index.html' : `p${at}.html`,
      `${head}<a href="p${at + 1}.html">x</a><a href="index.html#top">y</a>`,
    ]),
  ),
  checking('pages in many folders, a navigation each', 400, (n) =>
    each(n, (at) => [
      `d${at % 50}/p${at}.html`,
      head + times(30, (link) => `<a href="../d${link}/p${link}.html">x</a>`),
    ]),
  ),
  checking('files that nothing refers to', 4000, (n) => ({
    'index.html': head,
    ...each(n, (at) => [`images/a${at}.txt`, '']),
  })),
  checking('pages with the same title', 400, (n) =>
    each(n, (at) => [`p${at}.html`, `${head}<meta name=description content="x">`]),
  ),
  checking('references to other hosts', 3000, (n) => ({
    'index.html': head + times(n, (at) => `<a href="https://gullhaven.example/${at}">x</a>`),
  })),
  checking('pages whose copy of a part differs', 300, (n) => ({
    'index.html': `${head}<!-- Part: nav --><nav><a href="index.html">x</a></nav><!-- End of part: nav -->`,
    ...each(n, (at) => [`p${at}.html`, `${head}<!-- Part: nav --><nav></nav><!-- End of part: nav -->`]),
  })),
  checking('parts on two pages', 300, (n) => ({
    'index.html':
      head + times(n, (at) => `<!-- Part: p${at} --><a href="x.html">x</a><!-- End of part: p${at} -->`),
    'b.html':
      head + times(n, (at) => `<!-- Part: p${at} --><a href="y.html">x</a><!-- End of part: p${at} -->`),
  })),
  checking('a script of many addresses, and many pages that run it', 200, (n) => ({
    'js/a.js': times(n, (at) => `fetch("d${at}.json"); x.load("d", "e${at}/a.png"); y("f${at}/a.png");`),
    ...each(n, (at) => [`p${at}.html`, `${head}<script src="js/a.js"></script>`]),
  })),
  checking('a script of many folders and of many paths', 200, (n) => ({
    'a.html': `${head}<script src="a.js"></script>`,
    'a.js': times(n, (at) => `x("d${at}/" + y); z("e${at}/a.png");`),
  })),
  checking('an import map of many scopes', 500, (n) => ({
    'index.html': `${head}<script type=importmap>{"scopes":{${times(n, (at) => `"/s${at}/":{"x":"/y.js"},`)}"/z/":{}}}</script>${times(n, (at) => `<script type=module src="s${at}/a.js"></script>`)}`,
    ...each(n, (at) => [`s${at}/a.js`, 'import "x"; import "w";']),
  })),
  checking('an import map of many prefixes', 500, (n) => ({
    'index.html': `${head}<script type=importmap>{"imports":{${times(n, (at) => `"s${at}/":"/y/",`)}"/z/":"/"}}</script><script type=module>${times(n, (at) => `import "s${at}/q.js";`)}</script>`,
  })),
  // Long addresses.
  ...(
    [
      ['spaces inside', (n: number) => `a${' '.repeat(n)}b`],
      ['steps', (n: number) => 'a/'.repeat(n)],
      ['steps out', (n: number) => '../'.repeat(n)],
      ['steps in and out', (n: number) => 'a/../'.repeat(n)],
      ['steps in, then out', (n: number) => 'a/'.repeat(n) + '../'.repeat(n)],
      ['file:', (n: number) => `file:///${'a/'.repeat(n)}`],
      ['a drive', (n: number) => `c:\\${'a\\'.repeat(n)}`],
      ['backslashes', (n: number) => 'a\\'.repeat(n)],
      ['escapes', (n: number) => '%61'.repeat(n)],
      ['question marks', (n: number) => 'a?'.repeat(n)],
      ['number signs', (n: number) => 'a#'.repeat(n)],
      ['slashes', (n: number) => `a${'/'.repeat(n)}b`],
    ] as const
  ).map(([name, address]) =>
    checking(`an address of many ${name}`, 20_000, (n) => {
      const text = address(n);
      const quoted = text.replaceAll('\\', '\\\\');
      return {
        'index.html': `${head}<img src="${text}"><a href="${text}">x</a>`,
        'a.css': `a{background:url("${quoted}")} @import "${quoted}";`,
        'a.js': `import "./${quoted}"; fetch("${quoted}"); import "${quoted}";`,
      };
    }),
  ),
  // Markup.
  ...(
    [
      ['<a>', '<a href=x>'],
      ['<b>', '<b>'],
      ['<b class>', '<b class=x>'],
      ['<a> and <div>', '<a href=x><div>'],
      ['<nobr>', '<nobr>'],
      ['<p><b>', '<p><b>'],
      ['<div>', '<div>'],
      ['</x>', '</x>'],
      ['<x></y>', '<x></y>'],
      ['<table>', '<table>'],
      ['<svg>', '<svg><g>'],
      ['<template>', '<template>'],
      ['<select>', '<select><option>'],
    ] as const
  ).map(([name, markup]) =>
    reading('a.html', `HTML of many ${name}`, 20_000, (n) => head + markup.repeat(n)),
  ),
  // What people leave open, and what they write wrong: whole checks, since it is told.
  ...(
    [
      ['media types of no device', '<link rel=stylesheet href=a.css media=sreen>\n'],
      [
        'misspelt types',
        '<link rel=stylesheet href=a.css type=text/cs><script type=text/javscript></script>\n',
      ],
      ['misspelt elements', '<scrpt src=a.js></scrpt>\n'],
      ['misspelt attributes', '<img scr=a.png>\n'],
      ['links without rel', '<link href=a.css>\n'],
      ['scripts that close themselves', '<script src=a.js/><script src="a.js" />\n<p>x</p></script>\n'],
      ['quotes left open', '<a href="a.html>x</a> <a href="a.html">y</a>\n'],
      ['tags left open', '<p <a href="a.html">y</a>\n'],
      ['comments in comments', '<!-- <p>x</p> <!-- y --> <p>z</p>\n'],
      ['comments in comments, closed again', '<!-- <p>x</p> <!-- y --> -->\n'],
      ['titles left open', '<title>a\n<meta name=x></title>\n'],
      ['scripts left open', '<script>f();\n<p>x</p>\n<script>g();</script>\n'],
      ['styles left open', '<style>a{color:red}\n<p>x</p></style>\n'],
      ['text areas left open', '<textarea>a\n<textarea>b</textarea>\n'],
    ] as const
  ).map(([name, markup]) =>
    checking(`${name} in a page`, 1000, (n) => ({ 'index.html': head + markup.repeat(n), 'a.css': 'a{}' })),
  ),
  ...(
    [
      ['comments left open', '/* a{} /* b */ c{color:red}\n'],
      ['comments closed again', '/* a{} /* b */ c{color:red} */\n'],
      ['strings left open', 'a{content:"x\n}\n'],
      ['braces left open', 'a{\nb{color:red}\n'],
      ['braces that close nothing', 'a{}} b{color:red}\n'],
      ['curly quotes', 'a{background:url(“a.png”)}\n'],
      ['tags', '<style>\na{color:red}\n</style>\n'],
      ['imports left open', '@import "b.css"\na{color:red}\n'],
      ['late imports', 'a{} @import "b.css";\n'],
    ] as const
  ).map(([name, css]) =>
    checking(`${name} in a stylesheet`, 1000, (n) => ({
      'index.html': `${head}<link rel="stylesheet" href="a.css">`,
      'a.css': css.repeat(n),
    })),
  ),
  checking('scripts that each need what the last one makes', 500, (size) => ({
    'index.html': times(size, (index) => `<script src="s${index}.js"></script>`),
    ...each(size, (index) => [`s${index}.js`, `var a${index} = ${index === 0 ? 1 : `a${index - 1}`};`]),
  })),
  checking('scripts of a head', 500, (size) => ({
    'index.html': `<head>${times(size, (index) => `<script src="s${index}.js"></script>`)}</head>`,
    ...each(size, (index) => [`s${index}.js`, `var a${index} = 1;`]),
  })),
  checking('names that nobody makes', 500, (size) => ({
    'index.html': times(size, (index) => `<script src="s${index}.js"></script>`),
    ...each(size, (index) => [`s${index}.js`, `missing${index}.x;`]),
  })),
  checking('event handlers that call nothing', 2000, (size) => ({
    'index.html': times(size, (index) => `<button onclick="go${index}()">x</button>`),
  })),
  checking('functions that call each other', 2000, (size) => ({
    'index.html': '<script src="a.js"></script>',
    'a.js': `${times(size, (index) => `function f${index}(a) { return f${(index + 1) % size}(a); }\n`)}f0(1);`,
  })),
  checking('modules that import each other', 500, (size) => ({
    'index.html': '<script type="module" src="m0.js"></script>',
    ...each(size, (index) => [`m${index}.js`, index + 1 < size ? `import './m${index + 1}.js';` : 'let a;']),
  })),
  checking('pages that lack what one script looks for', 200, (size) => ({
    'a.js': 'addEventListener("load", () => { document.querySelector(".none").hidden = true; });',
    ...each(size, (index) => [
      `p${index}.html`,
      `<title>p</title>${times(50, (at) => `<p class="c${at}">`)}<script src="a.js"></script>`,
    ]),
  })),
  checking('one page whose script looks for all of its elements', 500, (size) => ({
    'index.html': `<title>p</title>${times(size, (at) => `<p class="c${at}">`)}<script src="a.js"></script>`,
    'a.js': `addEventListener("load", () => { ${times(size, (at) => `document.querySelector(".c${at}").hidden = true;`)} });`,
  })),
  checking('scripts of one page that each look for what is not there', 500, (size) => ({
    'index.html': `<title>p</title>${times(size, (at) => `<script>document.getElementById("x${at}").hidden = true;</script>`)}`,
  })),
  checking('links to spots of a page whose script gives ids', 1000, (size) => ({
    'index.html': `<title>p</title>${times(size, (at) => `<a href="#s${at}">`)}<script src="a.js"></script>`,
    'a.js': times(size, (at) => `e.id = "t${at}-" + n;`),
  })),
  checking('members of a library that scripts call and others add', 200, (size) => ({
    'index.html': `<title>p</title><script src="l.js"></script>${times(size, (at) => `<script>if (x) L.m${at}(); try { L.m${at}(); } catch {}</script>`)}`,
    'l.js': 'var L = {};',
    ...each(size, (index) => [`p${index}.js`, `L.m${index} = function () {};`]),
  })),
  checking('pieces that pages put in', 200, (size) => ({
    'index.html': `<title>p</title><script>${times(size, (at) => `fetch("p${at}.html");`)}</script>`,
    ...each(size, (index) => [`p${index}.html`, `<p id="s${index}"><img src="a.png">`]),
    'a.png': '',
  })),
  checking('pages that load by chains of stylesheets', 200, (n) => ({
    ...each(n, (at) => [`p/${at}.html`, `${head}<link rel="stylesheet" href="../c/${at}.css">`]),
    ...each(n, (at) => [`c/${at}.css`, `@import "${at + 1}.css"; a{background:url(x${at}.png)}`]),
  })),
  reading('a.svg', 'SVG nested', 20_000, (n) => '<g>'.repeat(n)),
  reading('a.svg', 'SVG, closing tags of other names', 20_000, (n) => '<g>'.repeat(n) + '</h>'.repeat(n)),
  reading(
    'sitemap.xml',
    'XML, closing tags of other names',
    20_000,
    (n) => '<g>'.repeat(n) + '</h>'.repeat(n),
  ),
  reading(
    'feed.xml',
    'a feed, closing tags of other names',
    20_000,
    (n) => `<rss>${'<g>'.repeat(n)}${'</h>'.repeat(n)}`,
  ),
  reading(
    'a.svg',
    'SVG, attributes beyond ASCII',
    5000,
    (n) => `<svg>${times(n, (at) => `<image id="é${at}" href="é.png"/>`)}</svg>`,
  ),
  reading(
    'a.svg',
    'SVG, one element of many attributes',
    5000,
    (n) => `<svg ${times(n, (at) => `a${at}="x" `)}/>`,
  ),
  reading('a.js', 'a script of strings', 20_000, (n) => `var a=[${'"a.png",'.repeat(n)}1]`),
  reading('a.js', 'a sum of strings', 400, (n) => `var a=${'"a"+'.repeat(n)}"b.png"`),
  reading('a.js', 'calls in a script', 5000, (n) => `import "./a.js";${'f("é",{a:[1]});'.repeat(n)}`),
  reading(
    'a.webmanifest',
    'JSON of many keys',
    10_000,
    (n) => `{${times(n, (at) => `"k${at}":{"a":"é"},`)}"z":1}`,
  ),
  reading('a.css', 'CSS of many rules', 10_000, (n) => '.é{color:red;background:url(a.png)}'.repeat(n)),
  reading(
    'a.html',
    'HTML of many inline scripts',
    2000,
    (n) => head + '<script>fetch("a.json")</script>'.repeat(n),
  ),
  // Settings.
  working('settings: unknown keys', 500, (n) => {
    const text = times(n, (at) => `key${at}: 1\n`);
    return () => attempt(() => readSettings(text));
  }),
  working('settings: aliases', 500, (n) => {
    const text = `accept:\n${times(n, (at) => `  - &a${at} { rule: absent, because: x }\n`)}${times(n, (at) => `  - *a${at}\n`)}`;
    return () => attempt(() => readSettings(text));
  }),
  working('settings: libraries', 300, (n) => {
    const text = `libraries:\n${times(n, (at) => `  l${at}: { folder: lib/l${at}, needs: [l${Math.max(0, at - 1)}] }\n`)}`;
    return () => loadOrder(readSettings(text).libraries, 'lib');
  }),
  working('settings: wrong libraries', 300, (n) => {
    const text = `libraries:\n${times(n, (at) => `  l${at}: { folder: ../l${at} }\n`)}`;
    return () => attempt(() => readSettings(text));
  }),
  working('settings: what is accepted', 500, (n) => {
    const { findings } = check({ 'index.html': head + times(n, (at) => `<img src="x${at}.png">`) });
    const accept = Array.from({ length: n }, (_, at) => ({
      rule: 'absent',
      written: `y${at}.png`,
      because: 'x',
    }));
    return () => sift(findings, accept);
  }),
  working('--only with many names', 5000, (n) => {
    const names = Array.from({ length: n }, () => 'absent');
    return () => picker(names);
  }),
  working('a pattern of stars, a long name', 1000, (n) => {
    const matches = globMatcher(['*a'.repeat(10)]);
    return () => Array.from({ length: 20 }, () => matches(`${'a'.repeat(n)}b`));
  }),
  working('a pattern of folders, a long path', 1000, (n) => {
    const matches = globMatcher(['**/*a*/'.repeat(6)]);
    return () => Array.from({ length: 20 }, () => matches(`${'ba/'.repeat(n)}b`));
  }),
  // Changes.
  ...(['é', 'e'] as const).flatMap((letter) => [
    working(`page --like a page of many paragraphs (${letter})`, 500, (n) => {
      const page = bytesOf(
        `${head}<body>${times(n, (at) => `<p id="p${at}">${letter}<a href="a.html">x</a></p>\n`)}`,
      );
      return () =>
        makeLike(openPage('index.html', page), 'd/new.html', { title: 'x', description: 'y', heading: 'z' });
    }),
    working(`page --like a page with a main element (${letter})`, 500, (n) => {
      const page = bytesOf(
        `${head}<body><nav>${times(n, () => `<a href="a.html">${letter}</a>\n`)}</nav><main>${times(n, () => `<p>${letter}</p>`)}</main>`,
      );
      return () =>
        makeLike(openPage('index.html', page), 'd/new.html', { title: 'x', description: 'y', heading: 'z' });
    }),
  ]),
  working('parts copied to a page', 200, (n) => {
    const part = (at: number, to: string) =>
      `<!-- Part: p${at} --><a href="${to}">x</a><!-- End of part: p${at} -->`;
    const files = {
      'index.html': head + times(n, (at) => part(at, 'x.html')),
      'd/b.html': head + times(n, (at) => part(at, 'y.html')),
    };
    return () =>
      fillParts(
        new ChangedFiles(Object.keys(files), (path) => bytesOf(files[path as 'index.html'])),
        'index.html',
        Object.keys(files),
      );
  }),
  working('a part copied to many pages', 200, (n) => {
    const files: Files = {
      'index.html': `${head}<!-- Part: nav --><nav><a href="index.html">x</a></nav><!-- End of part: nav -->`,
      ...each(n, (at) => [`d/p${at}.html`, `${head}<!-- Part: nav --><!-- End of part: nav -->`]),
    };
    return () =>
      fillParts(
        new ChangedFiles(Object.keys(files), (path) => bytesOf(files[path] as string)),
        'index.html',
        Object.keys(files),
      );
  }),
  working('wire into a page of many elements', 3000, (n) => {
    const page = bytesOf(`${head}${times(n, (at) => `<script src="a${at}.js"></script>`)}`);
    return () => wire(openPage('index.html', page), { kind: 'script', path: 'x.js' }, noLibraries);
  }),
  working('wire many files into a page', 60, (n) => {
    const page = bytesOf(`${head}<body></body></html>`);
    const wirings = Array.from({ length: n }, (_, at) => ({
      kind: 'stylesheet' as const,
      path: `a${at}.css`,
    }));
    return () => wireAll(openPage('index.html', page), wirings, noLibraries);
  }),
  working('a hosted address put in place many times', 2000, (n) => {
    const page = bytesOf(`${head}${'<img src="https://gullhaven.example/a.png">'.repeat(n)}`);
    return () =>
      replaceInPage(openPage('index.html', page), {
        address: 'https://gullhaven.example/a.png',
        files: new Map(),
        digest: () => '',
        fileFor: () => 'a.png',
      });
  }),
  working('a diff of files that differ in every line', 500, (n) => {
    const [before, after] = ['a', 'b'].map((word) => bytesOf(times(n, (at) => `${word}${at}\n`))) as [
      Uint8Array,
      Uint8Array,
    ];
    return () => changeAsDiff({ title: 'x', files: [{ path: 'a.html', before, after }], folders: [] }, plain);
  }),
  working('a library of many files', 300, (n) => {
    const files = new Map(
      Array.from({ length: n }, (_, at) => [`dist/a${at}.js`, bytesOf(`var A${at}=1;`)] as const),
    );
    return () => shapeLibrary(files, { name: 'buoys', wish: null, wanted: [], provided: [] });
  }),
  working('a library of stylesheets that say the same in part', 150, (n) => {
    const files = new Map(
      Array.from({ length: n }, (_, at) => [`dist/a${at}.css`, bytesOf(`.a${at}{top:0}.b{left:0}`)] as const),
    );
    return () => shapeLibrary(files, { name: 'buoys', wish: null, wanted: [], provided: [] });
  }),
  working('a library of modules in a row', 300, (n) => {
    const files = new Map(
      Array.from({ length: n }, (_, at) => [`dist/a${at}.js`, bytesOf(`import "./a${at + 1}.js";`)] as const),
    );
    return () => shapeLibrary(files, { name: 'buoys', wish: null, wanted: [], provided: [] });
  }),
  working('a starter kept, a blank in many places', 2000, (n) => {
    const files = new Map([
      ['index.html', bytesOf(`${head}${times(n, (at) => `<a href="p${at}.html">Ferry</a>\n`)}`)],
    ]);
    return () => keepProject(files, [{ text: 'Ferry', blank: 'title' }], new Settings(), 'x');
  }),
  // The copy that is published, what its host serves, and the map.
  packing('pages for a sub-path, named by content', 300, (n) => ({
    files: {
      'css/a.css': 'b { color: red }',
      ...each(n, (at) => [
        at === 0 ? 'index.html' : `p/${at}.html`,
        `${head}<link rel="stylesheet" href="/css/a.css"><a href="/p/${(at + 1) % n}.html">x</a>`,
      ]),
    },
  })),
  packing('stylesheets that import each other in a row', 300, (n) => ({
    files: {
      'index.html': `${head}<link rel="stylesheet" href="a0.css">`,
      ...each(n, (at) => [`a${at}.css`, `@import "a${(at + 1) % n}.css";`]),
    },
  })),
  packing('libraries with two builds, and integrity values', 100, (n) => ({
    files: {
      'index.html':
        head +
        times(n, (at) => `<script src="lib/${at}/a.js" integrity="${integrityOf('var a;')}"></script>`),
      ...each(n, (at) => [`lib/${at}/a.js`, 'var a;']),
      ...each(n, (at) => [`lib/${at}/a.min.js`, 'var a']),
    },
    libraries: Object.fromEntries(
      Array.from({ length: n }, (_none, at) => [
        `l${at}`,
        Object.assign(new Library(), { folder: `lib/${at}`, release: { 'a.js': 'a.min.js' } }),
      ]),
    ),
  })),
  working('visit: a text with code put in', 20_000, (n) => {
    const own = `${head}${times(n, () => '<p>x</p>\n')}`;
    const served = bytesOf(
      own.replace('<p>', '<script>a()</script><p>').replace(/<p>x<\/p>\n$/, '<img src=x><p>x</p>\n'),
    );
    return () => differenceOf('a.html', bytesOf(own), served);
  }),
  working('visit: files that the host does not have', 2000, (n) => {
    const visits = Array.from({ length: n }, (_none, at) => visitOf(`p/${at}.html`));
    return () => reportOfVisit('https://g.example/', visits, [], { grades: {}, accept: [] }, () => true);
  }),
  ...(['pages in folders', 'pages of one folder', 'pages in a row'] as const).map((name) =>
    working(`map: ${name}`, 1000, (n) => {
      const map = siteMapWith(n, name);
      return () => [mapAsSvg(map, 'x'), drain(mapAsPage(map, 'x')), drain(mapAsDot(map, 'x'))];
    }),
  ),
  // Reports.
  ...cuts.map((by) =>
    showing(`text by ${by}`, (report) =>
      reportAsText(report, { by, paint: plain, columns: 100, most: Number.POSITIVE_INFINITY }),
    ),
  ),
  showing('JSON', (report) => drain(reportAsJson(report))),
  showing('ndjson', (report) => drain(reportAsLines(report))),
  showing('SARIF', (report) => drain(reportAsSarif(report))),
  showing('JUnit', (report) => drain(reportAsJunit(report, () => true))),
  showing('HTML', (report) => drain(reportAsPage(report, [{ name: 'x', lineOf: () => 'x' }]))),
  // Folders of the disk.
  onDisk('files in one folder', 300, 100_000, (root, n) => {
    for (let at = 0; at < n; at++) writeFileSync(join(root, `p${at}.html`), head);
  }),
  // Deeper, what the system takes to walk from the root to each file outgrows all else: that is the depth's square.
  onDisk('folders in each other', 50, 800, (root, n) => {
    mkdirSync(join(root, 'd/'.repeat(n)), { recursive: true });
    for (let at = 0; at < n; at++) writeFileSync(join(root, 'd/'.repeat(at), 'a.html'), head);
  }),
  onDisk('folders in each other, broken references', 50, 800, (root, n) => {
    mkdirSync(join(root, 'd/'.repeat(n)), { recursive: true });
    for (let at = 0; at < n; at++)
      writeFileSync(
        join(root, 'd/'.repeat(at), 'a.html'),
        `${head}<img src="b.png"><a href="c/a.html">x</a>`,
      );
  }),
];

function attempt(work: () => unknown): void {
  try {
    work();
  } catch {
    // What is wrong is told; how long that takes is the point.
  }
}
