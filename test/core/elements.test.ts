/** Elements that scripts use: told where they are not there yet, or not at all, with what puts it right. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { bytesOf, checkFiles, type Files, mended } from '../support/site.ts';

const RULES = /^(?:before-its-element|element-left-out|before-its-library|nobody-makes|does-not-parse)$/;
const toldOf = (files: Files) => checkFiles(files).findings.filter(({ rule }) => RULES.test(rule));

const page = (head: string, body: string) =>
  `<!doctype html><html lang="en"><head><title>Gullhaven Ferry</title>${head}</head>\n<body>${body}</body></html>`;

test('however a script is loaded, it is told where it may come too early for an element, and mended', () => {
  const use = 'document.getElementById("go").hidden = true;';
  const ways: Readonly<Record<string, string>> = {
    'at once': '<script src=u.js></script>',
    defer: '<script defer src=u.js></script>',
    async: '<script async src=u.js></script>',
    module: '<script type=module src=u.js></script>',
    'async module': '<script type=module async src=u.js></script>',
    code: `<script>${use}</script>`,
    'module code': `<script type=module>${use}</script>`,
  };
  const there = '<p id="go">';
  const places: Readonly<Record<string, (tag: string) => string>> = {
    'in the head': (tag) => page(tag, there),
    'before it': (tag) => page('', tag + there),
    'behind it': (tag) => page('', there + tag),
    'without it': (tag) => page('', tag),
  };
  const told: string[] = [];
  for (const [way, tag] of Object.entries(ways))
    for (const [place, put] of Object.entries(places)) {
      const files = { 'index.html': put(tag), 'u.js': use };
      for (const finding of toldOf(files)) {
        const [mend] = finding.mends;
        told.push(`${way} ${place}: ${finding.grade} ${finding.rule}, ${mend?.title ?? '-'}`);
        if (mend !== undefined) assert.deepEqual(toldOf(mended(files, finding)), [], `${way} ${place}`);
      }
    }
  assert.deepEqual(told, [
    'at once in the head: broken before-its-element, defer u.js',
    'at once before it: broken before-its-element, defer u.js',
    'at once without it: broken element-left-out, -',
    'defer without it: broken element-left-out, -',
    'async in the head: fragile before-its-element, defer u.js instead of async',
    'async before it: fragile before-its-element, defer u.js instead of async',
    'async without it: broken element-left-out, -',
    'module without it: broken element-left-out, -',
    'async module in the head: fragile before-its-element, load u.js without async',
    'async module before it: fragile before-its-element, load u.js without async',
    'async module without it: broken element-left-out, -',
    'code in the head: broken before-its-element, move index.html:1 to the end of the body',
    'code before it: broken before-its-element, move index.html:2 to the end of the body',
    'code without it: broken element-left-out, -',
    'module code without it: broken element-left-out, -',
  ]);
});

const u = '<script src=u.js></script>';
const utf16 = (text: string) => new Uint8Array(Buffer.from(`\uFEFF${text}`, 'utf16le'));

/** `file:line:column-endColumn rule message (pages) title -> what stands in the place of it` */
function shown(files: Files): string[] {
  return toldOf(files).map((finding) => {
    const { file, line, column, endColumn, rule, written, message, pages, mends } = finding;
    const edits = mends[0]?.edits.map((edit) => {
      const bytes = bytesOf(files[edit.file] ?? '');
      return `${edit.file} ${new TextDecoder().decode(bytes.subarray(edit.start, edit.end))}=>${edit.text}`;
    });
    return [
      `${file}:${line}:${column}-${endColumn} ${rule} ${written}`,
      message,
      ...(pages === null ? [] : [`on ${pages.join()}`]),
      ...mends.map(({ sure, title }) => (sure ? title : `perhaps ${title}`)),
      ...(edits ?? []),
    ].join(' | ');
  });
}

const rows: readonly (readonly [what: string, files: Files, ...said: string[]])[] = [
  [
    'an id that is nearly there',
    {
      'index.html': page('', `<p id="depth-panel">${u}`),
      'u.js': 'document.getElementById("depth-panl").hidden = true',
    },
    'u.js:1:1-38 element-left-out #depth-panl | no element of index.html is #depth-panl; #depth-panel was probably meant | perhaps write depth-panel | u.js depth-panl=>depth-panel',
  ],
  [
    'a class, in a selector',
    {
      'index.html': page('', `<p class="tide high">${u}`),
      'u.js': 'document.querySelector(".hihg").hidden = true',
    },
    'u.js:1:1-32 element-left-out .hihg | no element of index.html is .hihg; .high was probably meant | perhaps write .high | u.js .hihg=>.high',
  ],
  [
    'a class, of a list',
    {
      'index.html': page('', `<p class="tide">${u}`),
      'u.js': 'document.getElementsByClassName("tied")[0].hidden = true',
    },
    'u.js:1:1-43 element-left-out .tied | no element of index.html is .tied; .tide was probably meant | perhaps write tide | u.js tied=>tide',
  ],
  [
    'an id in a selector',
    {
      'index.html': page('', `<p id="timetable">${u}`),
      'u.js': 'document.querySelector("#timetabel").hidden = true',
    },
    'u.js:1:1-37 element-left-out #timetabel | no element of index.html is #timetabel; #timetable was probably meant | perhaps write #timetable | u.js #timetabel=>#timetable',
  ],
  [
    'more than one word',
    {
      'index.html': page('', `<p id="timetable">${u}`),
      'u.js': 'document.querySelector("main #timetabel").hidden = true',
    },
    'u.js:1:1-42 element-left-out main #timetabel | no element of index.html is main #timetabel',
  ],
  [
    'a word that no one wrote so',
    {
      'index.html': page('', `<p id="timetable">${u}`),
      'u.js': 'const id = "time" + "tabel";\ndocument.getElementById(id).hidden = true',
    },
    'u.js:2:1-28 element-left-out #timetabel | no element of index.html is #timetabel; #timetable was probably meant',
  ],
  [
    'on one page of two',
    {
      'index.html': page('', `<p id="go">${u}<a href="a.html">a</a>`),
      'a.html': page('', u),
      'u.js': 'document.getElementById("go").hidden = true',
    },
    'u.js:1:1-30 element-left-out #go | no element of a.html is #go; index.html has it: let the script ask first whether it is there | on a.html',
  ],
  [
    'too early on one page of two, and each with what comes later',
    {
      'index.html': page('', `${u}<p id="go">`),
      'a.html': page('', `<p id="go">${u}`),
      'u.js': 'document.getElementById("go").hidden = true',
    },
    'u.js:1:1-30 before-its-element #go | #go is not there yet: the page has it only further down, at index.html:2 | on index.html | defer u.js | index.html => defer',
  ],
  [
    'too early on two pages',
    {
      'index.html': page('', `${u}<p id="go">`),
      'a.html': page(u, `<p id="go">`),
      'u.js': 'document.getElementById("go").hidden = true',
    },
    'u.js:1:1-30 before-its-element #go | #go is not there yet: the page has it only further down, at a.html:2 | defer u.js | a.html => defer | index.html => defer',
  ],
  [
    'what others need at once is not deferred, but cannot stay',
    {
      'index.html': page('', `${u}<script>tide();</script><p id="go">`),
      'u.js': 'document.getElementById("go").hidden = true;\nfunction tide() {}',
    },
    'u.js:1:1-30 before-its-element #go | #go is not there yet: the page has it only further down, at index.html:2',
  ],
  [
    'code that others need stays',
    {
      'index.html': page(
        '',
        `<script>document.getElementById("go").hidden = true; function tide() {}</script><script>tide();</script><p id="go">`,
      ),
    },
    'index.html:2:15-44 before-its-element #go | #go is not there yet: the page has it only further down, at index.html:2',
  ],
  [
    'code in lines',
    {
      'index.html': page(
        '',
        `\n<script>\ndocument.getElementById("go").hidden = true;\n</script>\n<p id="go">\n`,
      ),
    },
    'index.html:4:1-30 before-its-element #go | #go is not there yet: the page has it only further down, at index.html:6 | move index.html:3 to the end of the body | index.html <script>\ndocument.getElementById("go").hidden = true;\n</script>\n=> | index.html =><script>\ndocument.getElementById("go").hidden = true;\n</script>\n',
  ],
  [
    'the body',
    { 'index.html': page('<script>document.body.hidden = true;</script>', '') },
    'index.html:1:76-89 before-its-element body | body is not there yet: the page has no body yet | move index.html:1 to the end of the body | index.html <script>document.body.hidden = true;</script>=> | index.html =><script>document.body.hidden = true;</script>',
  ],
  [
    'in UTF-16 nothing is moved',
    {
      'index.html': utf16(page('', `${u}<p id="go">`)),
      'u.js': 'document.getElementById("go").hidden = true',
    },
    'u.js:1:1-30 before-its-element #go | #go is not there yet: the page has it only further down, at index.html:2',
  ],
  [
    'scripts that make it, as far as anybody can tell',
    {
      'index.html': page('', u),
      'u.js': 'document.body.innerHTML = "<p id=go>"; document.getElementById("go").hidden = true',
    },
  ],
  [
    'what a template has',
    {
      'index.html': page('', `<template><p id="go"></template>${u}`),
      'u.js':
        'const t = document.querySelector("template"); document.body.append(t.content.cloneNode(true)); document.getElementById("go").hidden = true',
    },
  ],
  [
    'a template that nobody copies',
    {
      'index.html': page('', `<template><p id="go"></template>${u}`),
      'u.js': 'document.getElementById("go").hidden = true',
    },
    'u.js:1:1-30 element-left-out #go | no element of index.html is #go',
  ],
  [
    'another script names it',
    {
      'index.html': page('', `<script src=m.js></script>${u}`),
      'm.js': 'const p = document.createElement("p"); p.id = "go"; document.body.append(p)',
      'u.js': 'document.getElementById("go").hidden = true',
    },
  ],
  [
    'another script names it, later',
    {
      'index.html': page('', `${u}<script src=m.js></script>`),
      'm.js': 'const p = document.createElement("p"); p.id = "go"; document.body.append(p)',
      'u.js': 'document.getElementById("go").hidden = true',
    },
    'u.js:1:1-30 element-left-out #go | no element of index.html is #go',
  ],
  [
    'once the page is there',
    {
      'index.html': page(u, ''),
      'u.js': 'addEventListener("DOMContentLoaded", () => { document.getElementById("go").hidden = true })',
    },
    'u.js:1:46-75 element-left-out #go | it is needed once the page is there, and no element of index.html is #go',
  ],
  [
    'the body, by a script that nobody waits for',
    { 'index.html': page('<script async src=u.js></script>', '<p>'), 'u.js': 'document.body.hidden = true' },
    'u.js:1:1-14 before-its-element body | body is there only if u.js comes late enough: the page has no body yet, and nothing waits for a script with async | defer u.js instead of async | index.html  async=> defer',
  ],
  [
    'a class that another script writes',
    {
      'index.html': page('', `<script src=m.js></script>${u}`),
      'm.js': 'document.body.firstChild.className = "tide"',
      'u.js': 'document.querySelector(".tide").hidden = true',
    },
  ],
  [
    'two classes, however they are written',
    {
      'index.html': page('', `<p class="high  tide">${u}`),
      'u.js': 'document.getElementsByClassName(" tide  high ")[0].hidden = true',
    },
  ],
  [
    'two classes, one of them written by another script',
    {
      'index.html': page('', `<script src=m.js></script>${u}`),
      'm.js': 'document.body.firstChild.className = "high"',
      'u.js': 'document.getElementsByClassName("tide  high")[0].hidden = true',
    },
  ],
  [
    'the value of an attribute that another script writes',
    {
      'index.html': page('', `<script src=m.js></script>${u}`),
      'm.js': 'document.body.firstChild.dataset.tide = "spring"',
      'u.js': `document.querySelector('[data-tide="spring"]').hidden = true`,
    },
  ],
  [
    'the value of an attribute that nobody writes',
    {
      'index.html': page('', `<script src=m.js></script>${u}`),
      'm.js': 'document.body.firstChild.dataset.tide = "neap"',
      'u.js': `document.querySelector('[data-tide="spring"]').hidden = true`,
    },
    'u.js:1:1-47 element-left-out [data-tide="spring"] | no element of index.html is [data-tide="spring"]',
  ],
  [
    'an attribute without a value',
    { 'index.html': page('', u), 'u.js': 'document.querySelector("[inert]").hidden = true' },
    'u.js:1:1-34 element-left-out [inert] | no element of index.html is [inert]',
  ],
  [
    'a kind of element that another script makes',
    {
      'index.html': page('', `<script src=m.js></script>${u}`),
      'm.js': 'document.body.append(document.createElement("dialog"))',
      'u.js': 'document.querySelector("dialog").show()',
    },
  ],
  [
    'more of it than another script says',
    {
      'index.html': page('', `<script src=m.js></script>${u}`),
      'm.js': 'document.body.append(document.createElement("dialog"))',
      'u.js': 'document.querySelector("dialog.tide").show()',
    },
    'u.js:1:1-38 element-left-out dialog.tide | no element of index.html is dialog.tide',
  ],
  [
    'not all of it in a template',
    {
      'index.html': page('', `<template><p class="tide"></template>${u}`),
      'u.js':
        'document.body.append(document.querySelector("template").content.cloneNode(true)); document.querySelector(".tide.high").hidden = true',
    },
    'u.js:1:83-119 element-left-out .tide.high | no element of index.html is .tide.high',
  ],
  [
    'all of it in a template',
    {
      'index.html': page('', `<template><p class="tide high"></template>${u}`),
      'u.js':
        'document.body.append(document.querySelector("template").content.cloneNode(true)); document.querySelector(".tide.high").hidden = true',
    },
  ],
  [
    'in a piece that is put in, once that is there',
    {
      'index.html': page('', '<script src=n.js></script>'),
      'nav.html': '<nav id="go">',
      'n.js':
        'fetch("nav.html").then((a) => a.text()).then((t) => { document.body.append(t); document.getElementById("go").hidden = true })',
    },
  ],
  [
    'not in the piece that is put in',
    {
      'index.html': page('', '<script src=n.js></script>'),
      'nav.html': '<nav id="other">',
      'n.js':
        'fetch("nav.html").then((a) => a.text()).then((t) => { document.body.append(t) });\naddEventListener("load", () => { document.getElementById("go").hidden = true })',
    },
    'n.js:2:34-63 element-left-out #go | it is needed once the page is there, and no element of index.html is #go',
  ],
  [
    'in two scripts of one page, each for itself',
    {
      'index.html': page(
        '',
        '<script>document.getElementById("go").hidden = true</script><script>document.getElementById("go").hidden = true</script>',
      ),
    },
    'index.html:2:15-44 element-left-out #go | no element of index.html is #go',
    'index.html:2:75-104 element-left-out #go | no element of index.html is #go',
  ],
  [
    'in a function of another script',
    {
      'index.html': page('', `<script src=m.js></script>${u}<p id="go">`),
      'm.js': 'function hide() { document.getElementById("go").hidden = true }',
      'u.js': 'hide()',
    },
    'm.js:1:19-48 before-its-element #go | #go is not there yet: the page has it only further down, at index.html:2 | defer u.js | index.html => defer',
  ],
  [
    'in a function of another script, on a page without it',
    {
      'index.html': page('', `<script src=m.js></script><script>\nhide()</script>`),
      'm.js': 'function hide() { document.getElementById("depth-panl").hidden = true }',
    },
    'm.js:1:19-56 element-left-out #depth-panl | no element of index.html is #depth-panl',
  ],
  [
    'nearly there once the page is there',
    {
      'index.html': page(u, '<p id="depth-panel">'),
      'u.js': 'addEventListener("load", () => { document.getElementById("depth-panl").hidden = true })',
    },
    'u.js:1:34-71 element-left-out #depth-panl | it is needed once the page is there, and no element of index.html is #depth-panl; #depth-panel was probably meant | perhaps write depth-panel | u.js depth-panl=>depth-panel',
  ],
  [
    'there once the page is there',
    {
      'index.html': page(u, '<p id="go">'),
      'u.js': 'addEventListener("load", () => { document.getElementById("go").hidden = true })',
    },
  ],
  ['the body, in the body', { 'index.html': page('', '<script>document.body.hidden = true</script>') }],
  [
    'the body, deferred',
    { 'index.html': page('<script src=u.js defer></script>', ''), 'u.js': 'document.body.hidden = true' },
  ],
  [
    'the second of a kind',
    {
      'index.html': page('', `<p class="tide">${u}<p class="tide">`),
      'u.js': 'document.getElementsByClassName("tide")[1].hidden = true',
    },
    'u.js:1:1-43 before-its-element .tide (the 2.) | .tide (the 2.) is not there yet: the page has it only further down, at index.html:2 | defer u.js | index.html => defer',
  ],
  [
    'the third of a kind',
    {
      'index.html': page('', `<p class="tide">${u}<p class="tide">`),
      'u.js': 'document.getElementsByClassName("tide")[2].hidden = true',
    },
    'u.js:1:1-43 element-left-out .tide (the 3.) | no element of index.html is .tide (the 3.)',
  ],
  [
    'an id that some script begins',
    {
      'index.html': page('', `<script src=m.js></script>${u}`),
      'm.js':
        'for (let at = 0; at < 3; at++) { const p = document.createElement("p"); p.id = "go-" + at; document.body.append(p) }',
      'u.js': 'document.getElementById("go-1").hidden = true',
    },
  ],
  [
    'an id that some script begins otherwise',
    {
      'index.html': page('', `<script src=m.js></script>${u}`),
      'm.js':
        'for (let at = 0; at < 3; at++) { const p = document.createElement("p"); p.id = "to-" + at; document.body.append(p) }',
      'u.js': 'document.getElementById("go-1").hidden = true',
    },
    'u.js:1:1-32 element-left-out #go-1 | no element of index.html is #go-1',
  ],
  [
    'an id that any may be',
    {
      'index.html': page('', `<script src=m.js></script>${u}`),
      'm.js': 'const p = document.createElement("p"); p.id = location.search; document.body.append(p)',
      'u.js': 'document.getElementById("go").hidden = true',
    },
  ],
  [
    'a value with odd signs that a script says',
    {
      'index.html': page('', `<script src=m.js></script>${u}`),
      'm.js': 'document.body.firstChild.dataset.tide = "a.b/c"',
      'u.js': `document.querySelector('[data-tide="a.b/c"]').hidden = true`,
    },
  ],
  [
    'a value with odd signs that a script says as a part of more',
    {
      'index.html': page('', `<script src=m.js></script>${u}`),
      'm.js': 'document.body.firstChild.dataset.tide = "xa.b/c"',
      'u.js': `document.querySelector('[data-tide="a.b/c"]').hidden = true`,
    },
    'u.js:1:1-46 element-left-out [data-tide="a.b/c"] | no element of index.html is [data-tide="a.b/c"]',
  ],
  [
    'a value with odd signs that only looks alike',
    {
      'index.html': page('', `<script src=m.js></script>${u}`),
      'm.js': 'document.body.firstChild.dataset.tide = "axb/c"',
      'u.js': `document.querySelector('[data-tide="a.b/c"]').hidden = true`,
    },
    'u.js:1:1-46 element-left-out [data-tide="a.b/c"] | no element of index.html is [data-tide="a.b/c"]',
  ],
  [
    'a class that the script itself says elsewhere',
    {
      'index.html': page('', u),
      'u.js':
        'const names = ["tide", "high"]; const name = ".tide"; document.querySelector(name).hidden = true',
    },
  ],
  [
    'a class that the script itself says once more by a variable',
    {
      'index.html': page('', u),
      'u.js':
        'const name = ".tide"; document.querySelector(name).hidden = true; document.body.className = "tide"',
    },
  ],
  [
    'a class as a part of a word',
    {
      'index.html': page('', `<script src=m.js></script>${u}`),
      'm.js': 'document.body.className = "tide-high tides"',
      'u.js': 'document.querySelector(".tide").hidden = true',
    },
    'u.js:1:1-32 element-left-out .tide | no element of index.html is .tide',
  ],
  [
    'where it is not known what comes of another host',
    {
      'index.html': page('', `<script src="https://gullhaven.example/x.js"></script>${u}`),
      'u.js': 'document.getElementById("go").hidden = true',
    },
  ],
  [
    'markup that nobody sees before, once the page is there',
    {
      'index.html': page('', u),
      'u.js':
        'document.body.innerHTML = location.hash; addEventListener("load", () => { document.getElementById("go").hidden = true })',
    },
  ],
  [
    'markup that nobody sees before, at once',
    {
      'index.html': page('', u),
      'u.js': 'document.body.innerHTML = location.hash; document.getElementById("go").hidden = true',
    },
    'u.js:1:42-71 element-left-out #go | no element of index.html is #go',
  ],
  [
    'a script whose tag has no end',
    { 'index.html': page('', '<script src=u.js>'), 'u.js': 'document.getElementById("go").hidden = true' },
  ],
  [
    'in code, with several that come then',
    {
      'index.html': page(
        '',
        '<script>document.getElementById("go").hidden = true; document.getElementById("no").hidden = true</script><p id="go"><p id="no">',
      ),
    },
    'index.html:2:15-44 before-its-element #go | #go is not there yet: the page has it only further down, at index.html:2 | move index.html:2 to the end of the body | index.html <script>document.getElementById("go").hidden = true; document.getElementById("no").hidden = true</script>=> | index.html =><script>document.getElementById("go").hidden = true; document.getElementById("no").hidden = true</script>',
  ],
  [
    'of which one comes and one does not',
    {
      'index.html': page('', `${u}<p id="go">`),
      'u.js': 'document.getElementById("go").hidden = true; document.getElementById("no").hidden = true',
    },
    'u.js:1:1-30 before-its-element #go | #go is not there yet: the page has it only further down, at index.html:2 | defer u.js | index.html => defer',
  ],
  [
    'by a module',
    {
      'index.html': page('', '<script type=module src=u.js></script>'),
      'u.js': 'import "./m.js"',
      'm.js': 'document.getElementById("go").hidden = true',
    },
    'm.js:1:1-30 element-left-out #go | no element of index.html is #go',
  ],
  [
    'in UTF-16, by letters beyond ASCII',
    {
      'index.html': utf16(
        page(
          '',
          `é<p id="depth-panel">\n<script>document.getElementById("depth-panl").hidden = true</script>`,
        ),
      ),
    },
    'index.html:3:9-46 element-left-out #depth-panl | no element of index.html is #depth-panl; #depth-panel was probably meant | perhaps write depth-panel | index.html d\u0000e\u0000p\u0000t\u0000h\u0000-\u0000p\u0000a\u0000n\u0000l\u0000=>depth-panel',
  ],
  [
    'in srcdoc',
    {
      'index.html': page('', `<iframe srcdoc='<script src=u.js></script><p id="go">'></iframe>`),
      'u.js': 'document.getElementById("go").hidden = true',
    },
    'u.js:1:1-30 before-its-element #go | #go is not there yet: the page has it only further down, at index.html:2 | defer u.js | index.html => defer',
  ],
  [
    'in srcdoc, in code',
    {
      'index.html': page(
        '',
        `<iframe srcdoc='<script>document.getElementById("go").hidden = true</script><p id="go">'></iframe>`,
      ),
    },
    'index.html:2:31-60 before-its-element #go | #go is not there yet: the page has it only further down, at index.html:2',
  ],
  [
    'in srcdoc, on a page that reaches into it',
    {
      'index.html': page(
        '',
        `<iframe srcdoc='<script>document.getElementById("go").hidden = true</script>'></iframe><script>const one = frames[0]</script>`,
      ),
    },
  ],
  [
    'in srcdoc of two pages, of which one has it',
    {
      'index.html': page('', `<iframe srcdoc='<script src=u.js></script>'></iframe><a href="b.html">b</a>`),
      'b.html': page('', `<iframe srcdoc='<p id="go"><script src=u.js></script>'></iframe>`),
      'u.js': 'document.getElementById("go").hidden = true',
    },
    'u.js:1:1-30 element-left-out #go | no element of index.html is #go; b.html has it: let the script ask first whether it is there | on index.html',
  ],
  [
    'markup that one script of two puts in unseen, once the page is there',
    {
      'index.html': page('', `<script src=m.js></script>${u}`),
      'm.js': 'document.body.innerHTML = location.hash',
      'u.js': 'addEventListener("load", () => { document.getElementById("go").hidden = true })',
    },
  ],
  [
    'a class that begins as an id does',
    {
      'index.html': page('', `<script src=m.js></script>${u}`),
      'm.js': 'const p = document.createElement("p"); p.id = "ti" + location.hash; document.body.append(p)',
      'u.js': 'document.querySelector(".tide").hidden = true',
    },
    'u.js:1:1-32 element-left-out .tide | no element of index.html is .tide',
  ],
  [
    'an id in a selector that begins as one does',
    {
      'index.html': page('', `<script src=m.js></script>${u}`),
      'm.js': 'const p = document.createElement("p"); p.id = "ti" + location.hash; document.body.append(p)',
      'u.js': 'document.querySelector("p#tide").hidden = true',
    },
  ],
];

test('what is missing is told with its place, its pages, and what is nearly called so', () => {
  for (const [what, files, ...said] of rows) assert.deepEqual(shown(files), said, what);
});
