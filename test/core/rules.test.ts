import assert from 'node:assert/strict';
import { createHash } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { test } from 'node:test';
import { allRules, hostRules } from '../../src/core/judge/index.ts';
import type { Answer } from '../../src/core/judge/rule.ts';
import { type Grade, grades } from '../../src/core/report.ts';
import { inWords } from '../../src/show/holder.ts';
import { ruleAsPage, rulesAsPage } from '../../src/show/rules.ts';
import { swallowing } from '../corpus/swallowed-cases.ts';
import { projectFolder } from '../support/program.ts';
import { brokenIn, checkFiles, type Files, mended, samples } from '../support/site.ts';

/** A page that no rule has anything to say of, with more in its head and body. */
function page(body: string, head = '', title = 'Gullhaven Ferry'): string {
  const facts = `<meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${title}</title><meta name="description" content="About ${title}">`;
  return `<!doctype html><html lang="en"><head>${facts}${head}</head><body>${body}</body></html>`;
}

const site = (body: string, others: Files = {}, head = ''): Files => ({
  'index.html': page(body, head),
  ...others,
});
/** Five pages that lead to each other as `ways` says. */
const withMenu = (ways: (file: string) => readonly string[]): Files =>
  Object.fromEntries(
    ['index', 'a', 'b', 'c', 'd'].map((name) => {
      const links = ways(`${name}.html`).map((to) => `<a href="${to}.html">${to}</a>`);
      return [`${name}.html`, page(`<nav>${links.join('')}</nav><a href="a.html">a</a>`, '', `Page ${name}`)];
    }),
  );
const pages = (amount: number, head: (index: number) => string): Files =>
  Object.fromEntries(
    Array.from({ length: amount }, (_none, index) => [
      index === 0 ? 'index.html' : `p${index}.html`,
      page(`<a href="p${index + 1 < amount ? index + 1 : 1}.html">n</a>`, head(index), `Page ${index}`),
    ]),
  );

/** What a rule finds (what holds it, and what was meant) in a site, and a site much like it that is sound. */
type Row = readonly [wrong: Files, spot: string, meant: string | null, right: Files];

const rows: Readonly<Record<string, readonly Row[]>> = {
  absent: [
    [
      site('<img src="p.svg">', { 'images/p.svg': '' }),
      'img src',
      'images/p.svg',
      site('<img src="images/p.svg">', { 'images/p.svg': '' }),
    ],
    ...['http://images/p.svg', 'HTTPS://images/p.svg', '//images/p.svg', 'http://p.svg'].map(
      (address): Row => [
        { 'x/a.html': page(`<img src="${address}">`), 'images/p.svg': '', 'x/p.svg': '' },
        'img src',
        address === 'http://p.svg' ? 'p.svg' : '../images/p.svg',
        site('<a href="http://images/q.svg">q</a><a href="https://g.example/images/p.svg">p</a>', {
          'images/p.svg': '',
        }),
      ],
    ),
  ],
  'letter-case': [
    [
      site('<img src="P.svg">', { 'p.svg': '' }),
      'img src',
      'p.svg',
      site('<img src="p.svg">', { 'p.svg': '' }),
    ],
  ],
  'nothing-in-it': [
    [
      site('', { 'a.css': ' \n' }, '<link rel="stylesheet" href="a.css">'),
      'file',
      null,
      site('', { 'a.css': '/* to come */' }, '<link rel="stylesheet" href="a.css">'),
    ],
    // What nobody loads is told as that.
    [
      site('<script src="a.js"></script>', { 'a.js': '\uFEFF' }),
      'file',
      null,
      site('<p>js/a.js</p>', { 'a.js': '' }),
    ],
    [
      site('<script> </script>'),
      'script',
      null,
      site(`<script type="text/template"></script><template><script></script></template>
        <script scr="a.js" defer></script><script type="importmap"></script><script async></script>`),
    ],
  ],
  'lacks-index': [
    [
      site('<a href="x/">', { 'x/a.html': page('', '', 'A') }),
      'a href',
      'x/a.html',
      site('<a href="x/">', { 'x/index.html': page('', '', 'A') }),
    ],
  ],
  'absent-anchor': [
    [site('<a href="#B">x</a><p id="b">'), 'a href', '#b', site('<a href="#b">x</a><p id="b">')],
  ],
  'beyond-site': [
    [
      site('<img src="../p.svg">', { 'p.svg': '' }),
      'img src',
      'p.svg',
      site('<img src="p.svg">', { 'p.svg': '' }),
    ],
  ],
  'local-disk': [
    [
      site('<img src="C:\\ferry\\images\\p.svg">', { 'images/p.svg': '' }),
      'img src',
      'images/p.svg',
      site('<img src="images/p.svg">', { 'images/p.svg': '' }),
    ],
    [
      site('<img src="file:///home/ida/ferry/p.svg">', { 'p.svg': '' }),
      'img src',
      'p.svg',
      site('<a href="mailto:a@gullhaven.example">x</a>'),
    ],
  ],
  'does-not-parse': [
    [
      site('<script src="a.js"></script>', { 'a.js': "fetch('a.json'; start();" }),
      '',
      null,
      site('<script src="a.js"></script>', { 'a.js': "console.log('a.js');" }),
    ],
    [
      site('', { 'm.webmanifest': '{"icons": [],}' }, '<link rel="manifest" href="m.webmanifest">'),
      '',
      null,
      site('', { 'm.webmanifest': '{"icons": []}' }, '<link rel="manifest" href="m.webmanifest">'),
    ],
    // Data that a script asks for.
    [
      site('<script>fetch("d.json");</script>', { 'd.json': '{"a": 1,}' }),
      '',
      null,
      site('<script>fetch("d.json");</script>', { 'd.json': '\uFEFF{"a": 1}', 'e.json': '{,}' }),
    ],
    // It parses, but not as what the page takes it for.
    [
      site('<script src="a.js"></script>', { 'a.js': "import './b.js';", 'b.js': '' }),
      '',
      ' type="module"',
      site('<script type="module" src="a.js"></script>', { 'a.js': "import './b.js';", 'b.js': 'let b;' }),
    ],
    [
      site('<script type="module" src="a.js"></script>', { 'a.js': 'with (document) title;' }),
      '',
      null,
      site('<script src="a.js"></script>', { 'a.js': 'with (document) title;' }),
    ],
  ],
  'before-its-library': [
    [
      site('\n<script src="u.js"></script>\n<script src="l.js"></script>\n', {
        'l.js': 'var Tideclock = {};',
        'u.js': 'Tideclock.x;',
      }),
      'name',
      '<script src="l.js"></script>\n',
      site('<script src="l.js"></script>\n<script src="u.js"></script>\n', {
        'l.js': 'var Tideclock = {};',
        'u.js': 'Tideclock.x;',
      }),
    ],
    // Where the tags may stay, one waits for the other.
    [
      site(
        '<script src="u.js"></script>',
        { 'l.js': 'var Tide = 1;', 'u.js': 'Tide;' },
        '<script defer src="l.js"></script>',
      ),
      'name',
      ' defer',
      site(
        '<script defer src="u.js"></script>',
        { 'l.js': 'var Tide = 1;', 'u.js': 'Tide;' },
        '<script defer src="l.js"></script>',
      ),
    ],
    [
      site('<script>Tide;</script>', { 'l.js': 'var Tide = 1;' }, '<script defer src="l.js"></script>'),
      'name',
      '',
      site(
        '<script type="module">Tide;</script>',
        { 'l.js': 'var Tide = 1;' },
        '<script defer src="l.js"></script>',
      ),
    ],
    // Nothing waits for what is async.
    [
      site('<script>Tide;</script>', { 'l.js': 'var Tide = 1;' }, '<script async src="l.js"></script>'),
      'name',
      '',
      site(
        '<script>addEventListener("load", () => Tide);</script>',
        { 'l.js': 'var Tide = 1;' },
        '<script async src="l.js"></script>',
      ),
    ],
    // The later one is on another host.
    [
      site('<script>$("p").hide();</script><script src="https://a.example/jquery.min.js"></script>'),
      'name',
      null,
      site('<script src="https://a.example/jquery.min.js"></script><script>$("p").hide();</script>'),
    ],
  ],
  'library-left-out': [
    [
      site('<script src="u.js"></script>', { 'l.js': 'var Tideclock = {};', 'u.js': 'Tideclock.x;' }),
      'name',
      '<script src="l.js"></script>',
      site('<script src="l.js"></script><script src="u.js"></script>', {
        'l.js': 'var Tideclock = {};',
        'u.js': 'Tideclock.x;',
      }),
    ],
  ],
  'nobody-makes': [
    [
      site('<script src="u.js"></script>', { 'u.js': 'docment.title;' }),
      'name',
      'document',
      site('<script src="u.js"></script>', { 'u.js': 'document.title;' }),
    ],
    [
      site('<script>require("tides");</script>'),
      'name',
      null,
      site('<script>if (typeof require === "function") require("tides");</script>'),
    ],
    [
      site('<script type="module">import { opnPier } from "./a.js"; opnPier();</script>', {
        'a.js': 'export const openPier = () => 1;',
      }),
      'name',
      'openPier as opnPier',
      site('<script type="module">import { openPier } from "./a.js"; openPier();</script>', {
        'a.js': 'export const openPier = () => 1;',
      }),
    ],
  ],
  'calls-nothing': [
    [
      site('<button onclick="strat()">x</button><script>function start() {}</script>'),
      'button onclick',
      'start',
      site('<button onclick="start()">x</button><script>function start() {}</script>'),
    ],
  ],
  empty: [
    [site('<img src alt="">'), 'img src', null, site('<a href>x</a><iframe></iframe><img alt="">')],
    [site('<script src></script>'), 'script src', null, site('<script>let a;</script>')],
    [
      site('<iframe srcdoc="<img src=\'\' alt>"></iframe>'),
      'srcdoc img src',
      null,
      site('<iframe src="b.html" srcdoc=""></iframe>', { 'b.html': page('') }),
    ],
    [site('<script src=""></script>'), 'script src', null, site('<a href="">x</a><form action=""></form>')],
  ],
  'without-effect': [
    [
      site('', { 'a.css': '' }, '<link href="a.css">'),
      'link href',
      'rel="stylesheet" ',
      site('', { 'a.css': '' }, '<link rel="stylesheet" href="a.css">'),
    ],
    [
      site('<script type="text/javascrip" src="a.js"></script>', { 'a.js': '' }),
      'script type',
      'text/javascript',
      site(
        '<script type="text/javascript" src="a.js"></script><script type="text/template" src="a.js"></script>',
        { 'a.js': '' },
      ),
    ],
    [
      site('<img scr="p.svg">', { 'p.svg': '' }),
      'img scr',
      'src',
      site('<img src="p.svg">', { 'p.svg': '' }),
    ],
    [
      site('<script defer> </script>'),
      'script',
      null,
      site('<script defer src="a.js"></script><script async>go()</script><script></script>', { 'a.js': '' }),
    ],
    [
      site('<script type="module" async></script>'),
      'script',
      null,
      site('<template><script defer></script></template><script defer type="text/template"></script>'),
    ],
    ...(
      [
        [
          '<link rel="stylesheet">',
          'link rel',
          null,
          '<link rel="canonical"><link rel="preload" as="image" imagesrcset="p.svg 1x">',
        ],
        ['<link rel="icon" sizes="any">', 'link rel', null, '<link rel="icon" href="p.svg">'],
        [
          '<link rel="stylesheet" href:"a.css">',
          'link href:"a.css"',
          'href="a.css"',
          '<link rel="stylesheet" href="a.css">',
        ],
        ['<scirpt src="a.js"></scirpt>', 'scirpt src', null, '<my-script src="a.js"></my-script>'],
        ['<lnik rel="stylesheet" href="a.css">', 'lnik href', 'link', '<svg><lnik href="a.css"></svg>'],
        ['<imge src="p.svg">', 'imge src', 'img', '<image src="p.svg"><imges src="p.svg"><imge alt="x">'],
        [
          '<script type="text/js">let b;</script>',
          'script type',
          'text/javascript',
          '<script type="text/typescript">let b;</script>',
        ],
        [
          '<script type="moduel" src="a.js"></script>',
          'script type',
          'module',
          '<script type="module" src="a.js"></script>',
        ],
        [
          '<script type="text/javascript; charset=utf-8">let b;</script>',
          'script type',
          'text/javascript',
          '<script type="text/javascript">let b;</script>',
        ],
        [
          '<link rel="stylesheet" type="text/js" href="a.css">',
          'link type',
          'text/css',
          '<link rel="stylesheet" type="text/less" href="a.css">',
        ],
        [
          '<link rel="stylesheet" media="printt" href="a.css">',
          'link media',
          'print',
          '<link rel="stylesheet" media="printt, (min-width: 1px)" href="a.css">',
        ],
        [
          '<style media="only screan and (width > 9px)">a{}</style>',
          'style media',
          'screen',
          '<style media="not mobile">a{}</style>',
        ],
        [
          '<link rel="stylesheet" media="mobile" href="a.css">',
          'link media',
          null,
          '<link rel="stylesheet" media="handheld" href="a.css">',
        ],
        [
          '<link rel="stylesheet" disabled href="a.css">',
          'link disabled',
          null,
          '<link rel="stylesheet" disabled href="a.css"><script>let b;</script>',
        ],
        [
          '<script nomodule src="a.js"></script>',
          'script nomodule',
          null,
          '<script nomodule src="a.js"></script><script type="module" src="a.js"></script>',
        ],
        ['<link href="a.html">', 'link href', null, '<link rev="made" href="index.html">'],
      ] as const
    ).map(([wrong, holder, meant, right]) => {
      const files = { 'a.css': 'a{}', 'a.js': 'let a;', 'p.svg': '' };
      return [site('', files, wrong), holder, meant, site('', files, right)] as const;
    }),
    [
      site('', { 'a.css': 'a{}' }, '<link rel="stylsheet" href="a.css">'),
      'link href',
      'stylesheet',
      site('', { 'a.css': 'a{}' }, '<link rel="author" href="a.css">'),
    ],
    [
      site('', { 'a.css': '@import b.css;', 'b.css': '' }, '<link rel="stylesheet" href="a.css">'),
      '@import',
      null,
      site(
        '',
        { 'a.css': '@import url(b.css); @layer a;', 'b.css': '' },
        '<link rel="stylesheet" href="a.css">',
      ),
    ],
    [
      site(
        '',
        { 'a.css': 'a{b:c} d{e:\u201cf\u201c}'.replace('f\u201c', 'f') },
        '<link rel="stylesheet" href="a.css">',
      ),
      'quote',
      null,
      site('', { 'a.css': 'a{content:"\u201c";/* \u201d */}' }, '<link rel="stylesheet" href="a.css">'),
    ],
    [
      site('', { 'a.css': 'b{} @import "b.css";', 'b.css': '' }, '<link rel="stylesheet" href="a.css">'),
      '@import',
      null,
      site('', { 'a.css': '@import "b.css"; b{}', 'b.css': '' }),
    ],
  ],
  'wrong-kind': [
    [
      site('<img src="p.png">', { 'p.png': '<!doctype html><title>Not found</title>' }),
      'img src',
      null,
      site('<img src="p.png">', { 'p.png': '' }),
    ],
    [
      site('<script src="a.js"></script>', { 'a.js': '<html><body>404' }),
      'script src',
      null,
      site('<script src="a.js"></script>', { 'a.js': 'let a;' }),
    ],
    [
      site('', { 'a.txt': 'b{}' }, '<link rel="stylesheet" href="a.txt">'),
      'link href',
      null,
      site('', { 'a.css': 'b{}' }, '<link rel="stylesheet" href="a.css">'),
    ],
  ],
  swallowed: [
    ...swallowing.map(
      ([wrong, holder, meant, right]) =>
        [
          {
            'index.html': page('').replace('</body></html>', wrong),
            'a.html': '',
            'a.js': 'let a;',
            'p.svg': '',
          },
          holder,
          meant,
          {
            'index.html': page('').replace('</body></html>', right),
            'a.html': '',
            'a.js': 'let a;',
            'p.svg': '',
          },
        ] as const,
    ),
    [
      {
        'index.html': '<!doctype html><title>Boats\n<link rel="stylesheet" href="a.css"><p>x',
        'a.css': 'a{}',
      },
      'title',
      '</title>',
      { 'index.html': '<!doctype html><title>The <b> element</title><p>x' },
    ],
    ...(
      [
        ['a{}\n/* b\nb{}', 'comment', 'a{}\n/* b */\n/*/ b /*/'],
        ['/* b\nb{}\n/* c */ c{}', 'comment', '/* b{} /* c */ c{} */'],
        ['a{b:"c}\n', 'string', 'a{b:"c\\\nd"}'],
        ['a{b:c\nd{e:f}\n', 'block', 'a{b:c;\n  & d{e:f}\n'],
        ['@media print{\n  a{}\nb{c:d}\n', 'block', '@media print{\n  a{}\n  b{c:d}\n'],
        ['a{}} b{}', 'block', 'a{}}\n/* end */'],
        ['*/} b{}', 'block', '*/}'],
        ['@import "b.css"\na{}', '@import', '@import "b.css"'],
        ['<style>a{}</style>', 'markup', '<!-- a{} -->'],
      ] as const
    ).map(
      ([wrong, holder, right]) =>
        [
          site('', { 'a.css': wrong, 'b.css': 'b{}' }, '<link rel="stylesheet" href="a.css">'),
          holder,
          null,
          site('', { 'a.css': right, 'b.css': 'b{}' }, '<link rel="stylesheet" href="a.css">'),
        ] as const,
    ),
  ],
  'this-machine': [
    [
      site('<img src="http://localhost:8080/p.svg">'),
      'img src',
      null,
      site('<img src="https://gullhaven.example/p.svg">'),
    ],
  ],
  insecure: [
    [
      site('<img src="http://gullhaven.example/p.png">'),
      'img src',
      'https:',
      site('<a href="http://gullhaven.example/">x</a>'),
    ],
    [
      site('<script src="//gullhaven.example/a.js"></script>'),
      'script src',
      'https:',
      site('<script src="https://gullhaven.example/a.js"></script>'),
    ],
  ],
  'from-root': [
    [
      { ...site('<a href="x/a.html">x</a>'), 'x/a.html': page('<img src="/p.svg">', '', 'A'), 'p.svg': '' },
      'img src',
      '../p.svg',
      { ...site('<a href="x/a.html">x</a>'), 'x/a.html': page('<img src="../p.svg">', '', 'A'), 'p.svg': '' },
    ],
  ],
  backslash: [
    [
      site('<img src="images\\p.svg">', { 'images/p.svg': '' }),
      'img src',
      'images/p.svg',
      site('<img src="images/p.svg?a\\b">', { 'images/p.svg': '' }),
    ],
  ],
  'needs-encoding': [
    [
      site('<img src="a b.svg">', { 'a b.svg': '' }),
      'img src',
      'a%20b.svg',
      site('<img src="a%20b.svg">', { 'a b.svg': '' }),
    ],
    [
      site('<img src="é.svg">', { 'é.svg': '' }),
      'img src',
      '%C3%A9.svg',
      site('<a href="#é">x</a><p id="é">'),
    ],
    [
      site('<img src="100%.svg">', { '100%.svg': '' }),
      'img src',
      '100%25.svg',
      site('<img src="100%25.svg">', { '100%.svg': '' }),
    ],
  ],
  'host-dependent': [
    [
      site('<img src="images//p.svg">', { 'images/p.svg': '' }),
      'img src',
      'images/p.svg',
      site('<img src="images/p.svg">', { 'images/p.svg': '' }),
    ],
    [
      site('<a href="x">x</a>', { 'x/index.html': page('', '', 'X') }),
      'a href',
      'x/',
      site('<a href="x/">x</a>', { 'x/index.html': page('', '', 'X') }),
    ],
    [
      site('<a href="a">x</a>', { 'a.html': page('', '', 'A') }),
      'a href',
      'a.html',
      site('<a href="a.html">x</a>', { 'a.html': page('', '', 'A') }),
    ],
  ],
  'twin-names': [
    [
      site('<img src="p.svg"><img src="P.svg">', { 'p.svg': '', 'P.svg': '' }),
      'file',
      null,
      site('<img src="p.svg">', { 'p.svg': '' }),
    ],
  ],
  'late-stylesheet': [
    [
      site('<link rel="stylesheet" href="a.css">', { 'a.css': '' }),
      'link href',
      null,
      site('', { 'a.css': '' }, '<link rel="stylesheet" href="a.css">'),
    ],
  ],
  'blocking-script': [
    [
      site('', { 'a.js': '' }, '<script src="a.js"></script>'),
      'script src',
      null,
      site(
        '',
        { 'a.js': '', 'b.mjs': '' },
        '<script src="a.js" defer></script><script type="module" src="b.mjs"></script>',
      ),
    ],
  ],
  twice: [
    [
      site('<script src="j.js"></script><script src="j.min.js"></script>', {
        'j.js': 'let a;',
        'j.min.js': 'let a',
      }),
      'script src',
      null,
      site('<script src="j.js"></script><script src="k.min.js"></script>', {
        'j.js': 'let a;',
        'j.min.js': 'let a',
        'k.min.js': 'let k',
      }),
    ],
    [
      site(
        '',
        { 'a-min.css': 'a{}', 'a.css': 'a{}' },
        '<link rel="stylesheet" href="a-min.css"><link rel="stylesheet" href="a.css">',
      ),
      'link href',
      null,
      site(
        '',
        { 'a.css': 'a{}', 'a.min.css': 'a{}' },
        '<link rel="preload" as="style" href="a.css"><link rel="stylesheet" href="a.css">',
      ),
    ],
    [
      site('<iframe srcdoc="<script src=a.js></script><script src=a.js></script>"></iframe>', { 'a.js': '' }),
      'srcdoc script src',
      null,
      // Each is a document of its own.
      site(
        '<script src="a.js"></script><iframe srcdoc="<script src=a.js></script>"></iframe><iframe srcdoc="<script src=a.js></script>"></iframe>',
        { 'a.js': '' },
      ),
    ],
    [
      site('<script src="a.js"></script><script src="a.js"></script>', { 'a.js': '' }),
      'script src',
      null,
      site('<img src="a.svg"><img src="a.svg">', { 'a.svg': '' }),
    ],
    [
      site(
        '',
        { 'a.css': 'a{}' },
        '<link rel="stylesheet" href="a.css"><link rel="stylesheet" href="./a.css">',
      ),
      'link href',
      null,
      // To load ahead is not to load twice, and a module runs once, however many import it.
      site(
        '<script type="module">import "./a.mjs"</script><script type="module">import "./a.mjs"</script>',
        { 'a.css': 'a{}', 'a.mjs': '' },
        '<link rel="preload" as="style" href="a.css"><link rel="modulepreload" href="a.mjs"><link rel="stylesheet" href="a.css">',
      ),
    ],
  ],
  'src-and-code': [
    [
      site('<script src="a.js">let b;</script>', { 'a.js': '' }),
      'script',
      null,
      site('<script src="a.js">\n</script><script>let b;</script>', { 'a.js': '' }),
    ],
  ],
  'wrong-place': [
    [
      site(
        '',
        { 'css/a.css': '', 'b.css': '' },
        '<link rel="stylesheet" href="css/a.css"><link rel="stylesheet" href="b.css">',
      ),
      'file',
      null,
      site('', { 'css/a.css': '' }, '<link rel="stylesheet" href="css/a.css">'),
    ],
  ],
  'late-charset': [
    [
      {
        'index.html': page('').replace(
          '<meta charset="utf-8">',
          `<!--${'x'.repeat(1100)}--><meta charset="utf-8">`,
        ),
      },
      'meta charset',
      null,
      site(''),
    ],
  ],
  'any-depth': [
    [
      { ...site(''), '404.html': page('<a href="index.html">home</a><a href="#top">top</a>', '', 'Lost') },
      'a href',
      null,
      {
        ...site(''),
        '404.html': page('<a href="/index.html">home</a>', '', 'Lost'),
        '500.html': page('<a href="index.html">home</a>', '<base href="/">', 'Out of order'),
        '4040.html': page('<a href="index.html">home</a>', '', 'Isle 4040'),
      },
    ],
  ],
  'late-base': [
    [
      site('', { 'a.css': '', 'x/b.svg': '' }, '<link rel="stylesheet" href="a.css"><base href="x/">'),
      'base href',
      null,
      site('<img src="b.svg">', { 'x/b.svg': '' }, '<base href="x/">'),
    ],
  ],
  'placeholder-title': [
    [{ 'index.html': page('', '', 'Untitled Document') }, 'title', null, site('')],
    [{ 'index.html': page('').replace(/<title>.*<\/title>/, '') }, 'title', null, site('')],
  ],
  'same-title': [
    [
      { ...site('<a href="a.html">'), 'a.html': page('') },
      'title',
      null,
      { ...site('<a href="a.html">'), 'a.html': page('', '', 'A') },
    ],
  ],
  'same-description': [
    [
      { ...site('<a href="a.html">'), 'a.html': page('').replace('<title>Gull', '<title>Other') },
      'meta description',
      null,
      { ...site('<a href="a.html">'), 'a.html': page('', '', 'A') },
    ],
  ],
  'lacks-description': [
    [
      { 'index.html': page('').replace(/<meta name="description"[^>]*>/, '') },
      'meta description',
      null,
      site(''),
    ],
  ],
  'lacks-language': [[{ 'index.html': page('').replace(' lang="en"', '') }, 'html lang', null, site('')]],
  'lacks-viewport': [
    [{ 'index.html': page('').replace(/<meta name="viewport"[^>]*>/, '') }, 'meta viewport', null, site('')],
  ],
  'lacks-charset': [
    [
      { 'index.html': page('').replace('<meta charset="utf-8">', '') },
      'meta charset',
      null,
      { 'index.html': `\uFEFF${page('').replace('<meta charset="utf-8">', '')}` },
    ],
  ],
  'lacks-doctype': [[{ 'index.html': page('').replace('<!doctype html>', '') }, 'doctype', null, site('')]],
  filler: [
    [site(`<p>${samples[1]}</p>`), 'file', null, site(`<p>${samples[0]}</p><p>${samples[1]}</p>`)],
    [site(`<p>${samples[0]}</p>`), 'file', null, site('<p>Six crossings a day.</p>')],
  ],
  'file-name': [
    [
      site('<img src="North%20Pier.svg">', { 'North Pier.svg': '' }),
      'file',
      null,
      site('<img src="north-pier.svg">', { 'north-pier.svg': '', LICENSE: '' }),
    ],
    [
      site('<img src="a.svg.svg">', { 'a.svg.svg': '' }),
      'file',
      null,
      site('<img src="a.min.svg">', { 'a.min.svg': '' }),
    ],
  ],
  'lacks-entry': [[{ 'home.html': page('') }, 'file', null, site('')]],
  'before-its-element': [
    [
      site(
        '<button id="go">go</button>',
        { 'a.js': 'document.getElementById("go").click();' },
        '<script src="a.js"></script>',
      ),
      'element',
      ' defer',
      site(
        '<button id="go">go</button>',
        { 'a.js': 'document.getElementById("go").click();' },
        '<script src="a.js" defer></script>',
      ),
    ],
  ],
  'element-left-out': [
    [
      site('<button id="tickets">go</button><script>document.querySelector("#tikets").click();</script>'),
      'element',
      '#tickets',
      site('<button id="tickets">go</button><script>document.querySelector("#tickets").click();</script>'),
    ],
  ],
  'generator-source': [
    [
      site('<a href="a.html">a</a>', { 'a.html': `---\ntitle: A\n---\n${page('', '', 'A')}` }),
      'file',
      null,
      site('<a href="a.html">a</a>', { 'a.html': page('<p>{% block fares %}</p>', '', 'A') }),
    ],
  ],
  unused: [
    [
      site('', { 'old.svg': '' }),
      'file',
      null,
      site('<script>const a = "old.svg";</script>', { 'old.svg': '', 'robots.txt': '' }),
    ],
    [
      site('<script>const a = "./" + "b/";</script>', { 'i/old.svg': '' }),
      'file',
      null,
      // Names that a script puts together, from its own folder or from the page's.
      site(`<script src="js/a.js"></script><script>b = \`m/t-\${n}.svg\`</script>`, {
        'js/a.js': 'a.src = "i/" + n + ".svg"; b.src = "../k/l/" + n;',
        'i/old.svg': '',
        'k/l/o.svg': '',
        'm/t-1.svg': '',
      }),
    ],
  ],
  unreached: [
    [
      site('', { 'a.html': page('', '', 'A') }),
      'file',
      null,
      { ...site('<a href="a.html">'), 'a.html': page('', '', 'A'), '404.html': page('', '', 'Not here') },
    ],
  ],
  'odd-one-out': [
    // Of few pages one alone, by its stylesheet.
    [
      { ...pages(4, (index) => (index === 2 ? '' : '<link rel="stylesheet" href="a.css">')), 'a.css': 'a{}' },
      'file',
      null,
      { ...pages(4, (index) => (index > 1 ? '' : '<link rel="stylesheet" href="a.css">')), 'a.css': 'a{}' },
    ],
    [
      { ...pages(4, (index) => (index === 2 ? '' : '<link rel="stylesheet" href="a.css">')), 'a.css': 'a{}' },
      'file',
      null,
      { ...pages(4, (index) => (index === 2 ? '' : '<script defer src="a.js"></script>')), 'a.js': 'let a;' },
    ],
    // Copies of one navigation, and one that was left behind.
    [
      withMenu((file) => (file === 'c.html' ? ['index', 'a', 'b', 'c'] : ['index', 'a', 'b', 'c', 'd'])),
      'file',
      null,
      withMenu((file) => ['index', 'a', 'b', 'c', 'd'].filter((name) => `${name}.html` !== file)),
    ],
    // A page that leads elsewhere altogether has no such navigation; of two links nobody knows.
    [
      withMenu((file) => (file === 'd.html' ? ['index', 'b', 'c'] : ['index', 'a', 'b', 'c', 'd'])),
      'file',
      null,
      {
        ...withMenu((file) => (file === 'd.html' ? ['index'] : ['index', 'a', 'b', 'c', 'd'])),
      },
    ],
    // What it names wrong was meant.
    [
      { ...pages(5, (index) => (index === 2 ? '' : '<link rel="stylesheet" href="a.css">')), 'a.css': 'a{}' },
      'file',
      null,
      {
        ...pages(5, (index) => `<link rel="stylesheet" href="${index === 2 ? 'A' : 'a'}.css">`),
        'a.css': 'a{}',
      },
    ],
    [
      { ...pages(12, (index) => (index === 5 ? '' : '<link rel="stylesheet" href="a.css">')), 'a.css': '' },
      'file',
      null,
      { ...pages(12, () => '<link rel="stylesheet" href="a.css">'), 'a.css': '' },
    ],
  ],
  'inline-code': [
    [site(`<script>${'let a;'.repeat(1000)}</script>`), 'script', null, site('<script>let a;</script>')],
  ],
  'part-drift': [
    [
      {
        ...site('<!-- Part: a -->x<!-- End of part: a --><a href="b.html">'),
        'b.html': page('<!-- Part: a -->y<!-- End of part: a -->', '', 'B'),
      },
      'part a',
      null,
      {
        ...site('<!-- Part: a -->x<!-- End of part: a --><a href="b.html">'),
        'b.html': page('<!-- Part: a -->x<!-- End of part: a -->', '', 'B'),
      },
    ],
  ],
  altered: [
    [
      site('', { 'js/a.js': 'let a;' }, '<script defer src="js/a.js" integrity="sha384-AAAA"></script>'),
      'script src',
      null,
      site(
        '',
        { 'js/a.js': 'let a;' },
        `<script defer src="js/a.js" integrity="sha256-${createHash('sha256').update('let a;').digest('base64')}"></script>`,
      ),
    ],
    [
      site('<script src="https://a.example/lib.js" integrity="sha256-AAAA" crossorigin></script>'),
      'script src',
      null,
      site('<script src="https://a.example/lib.js" integrity="sha256-BBBB" crossorigin></script>'),
    ],
  ],
  'not-served': [
    [
      site('<a href="https://a.example/gone#x">x</a>'),
      'a href',
      null,
      site('<a href="https://a.example/">x</a>'),
    ],
    [
      site('<img src="//a.example/gone">'),
      'img src',
      null,
      // What is sent to is not asked for.
      site(`<form action="https://a.example/gone"></form>
        <iframe srcdoc="<form action='https://a.example/gone'></form>"></iframe>`),
    ],
  ],
  'moved-away': [
    [
      site('<a href="https://a.example/old#day">x</a>'),
      'a href',
      'https://a.example/new?a=1&amp;b=2#day',
      site('<a href="https://a.example/new?a=1&amp;b=2#day">x</a>'),
    ],
    [
      site('<a href="https://a.example/now">x</a>'),
      'a href',
      null,
      site('<a href="https://a.example/">x</a>'),
    ],
  ],
};

const served: Answer = { failure: null, moved: null, mismatches: new Set(), unasked: null, isOurs: false };
const answers: ReadonlyMap<string, Answer> = new Map<string, Answer>([
  ['https://a.example/', served],
  ['https://a.example/gone', { ...served, failure: 'the host answers 404 Not Found' }],
  ['https://a.example/old', { ...served, moved: { to: 'https://a.example/new?a=1&b=2', isForGood: true } }],
  ['https://a.example/now', { ...served, moved: { to: 'https://a.example/soon', isForGood: false } }],
  ['https://a.example/lib.js', { ...served, mismatches: new Set(['sha256-AAAA']) }],
]);

test('every rule finds what is wrong, says what was meant, and leaves what is right alone', () => {
  // What a host says has its rows in the tests of visits.
  const here = allRules.filter((rule) => !hostRules.some(({ name }) => name === rule.name));
  assert.deepEqual(Object.keys(rows).sort(), here.map(({ name }) => name).sort());
  for (const [rule, cases] of Object.entries(rows)) {
    for (const [wrong, holder, meant, right] of cases) {
      const shown = `${rule}: ${JSON.stringify(wrong).slice(0, 600)}`;
      const found = checkFiles(wrong, answers).findings.filter((finding) => finding.rule === rule);
      assert.equal(found.length, 1, shown);
      assert.equal(inWords(found[0]?.holder ?? null), holder, shown);
      assert.equal(found[0]?.mends[0]?.edits[0]?.text ?? null, meant, shown);
      const sound = checkFiles(right, answers).findings.filter((finding) => finding.rule === rule);
      assert.deepEqual(sound, [], `${rule}, right: ${JSON.stringify(right).slice(0, 600)}`);
      if (meant !== null && found[0]) {
        const left = checkFiles(mended(wrong, found[0]), answers).findings.filter(
          (finding) => finding.rule === rule,
        );
        assert.deepEqual(left, [], `mended ${shown}`);
        assert.deepEqual(
          brokenIn(mended(wrong, found[0])).findings,
          [],
          `nothing broken by the mend of ${shown}`,
        );
      }
    }
  }
});

test('every rule says what a visitor suffers, with an example of it and one put right', () => {
  for (const { name, grade, summary, suffers, wrong, right } of allRules) {
    assert.ok(grades.includes(grade as Grade), name);
    for (const text of [summary, suffers, wrong, right]) assert.ok(text.length > 3, `${name}: ${text}`);
    assert.match(suffers, /\.$/, name);
  }
});

test('the docs say of every rule what its facts say', () => {
  const folder = join(projectFolder, 'docs/rules');
  const expected = new Map(allRules.map((rule) => [`${rule.name}.md`, ruleAsPage(rule)]));
  expected.set('README.md', rulesAsPage(allRules));
  assert.deepEqual(readdirSync(folder).sort(), [...expected.keys()].sort(), 'npm run docs');
  for (const [name, text] of expected)
    assert.equal(readFileSync(join(folder, name), 'utf8'), text, `npm run docs: ${name}`);
});

test('a page that is well made, and the site around it, is not blamed for anything', () => {
  const files = site('<a href="a.html">a</a><script src="js/a.js"></script>', {
    'a.html': page('<a href="index.html#top">home</a>', '', 'A'),
    'js/a.js': 'let a;',
  });
  assert.deepEqual(checkFiles(files).findings, []);
});
