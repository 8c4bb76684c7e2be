/** Whatever stands in the pages of a site, each mend settles what it is offered for. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { addressRules } from '../../src/core/judge/index.ts';
import type { Finding } from '../../src/core/report.ts';
import { publishedAt } from '../../src/core/resolve/published.ts';
import { checkFiles, type Files, isSettled, mendedBy } from '../support/site.ts';

const beside: Files = {
  'l.js': 'globalThis.Tideclock = { start() {} };',
  'u.js': 'Tideclock.start();',
  'p.js': 'Tideclock.plug = () => {}; globalThis.Piers = {};',
  'v.js': 'Piers.x; Tideclock.plug();',
  'm.mjs': 'import { a } from "./n.mjs"; globalThis.Later = a;',
  'n.mjs': 'export const a = 1;',
  'e.js': 'document.getElementById("go").hidden = true;',
  'x.js': 'Later.y;',
  'b.js': 'let q = ;',
  'i.js': 'import "./n.mjs";',
  'a.css': '',
};
const sources = [...Object.keys(beside).filter((path) => !path.endsWith('css')), 'gone.js', 'L.js', './l.js'];
const loaded = fc
  .tuple(
    fc.constantFrom('', 'defer ', 'async ', 'type=module ', 'type=module async '),
    fc.constantFrom(...sources),
  )
  .map(([attributes, source]) => `<script ${attributes}src=${source}></script>`);
const written = fc.constantFrom(
  '<script>Tideclock.start();</script>',
  '<script>var Tideclok = {};</script>',
  '<script>\nPiers.open();\n</script>\n',
  '<script>import "./n.mjs"</script>',
  '<script type=module>import "./m.mjs";</script>',
  '<script>new Worker("u.js")</script>',
  '<button onclick="Tideclock.start()">x</button>',
  '<p id=go>',
  '<script>document.querySelector("#go").hidden = 1</script>',
  '<iframe srcdoc="<script src=u.js></script><script src=l.js></script>"></iframe>',
  '<iframe srcdoc=\'<script src="l.js"></script><p id=go><script>Tideclock.start()</script>\'></iframe>',
  '<img src=Gone.png>',
  '<img src="%">',
  '<a href="#go">g</a>',
  '<template><p id=go></template>',
  '<noscript><link rel=stylesheet href=a.css></noscript>',
  '<link rel=stylesheet href=A.css>',
  '<style>a{background:url(gone.svg)}</style>',
);
const parts = fc.array(fc.oneof(loaded, written), { maxLength: 4 }).map((all) => all.join('\n'));
const page = fc
  .tuple(parts, parts)
  .map(
    ([head, body]) =>
      `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Gullhaven Ferry</title>${head}</head><body>\n${body}</body></html>`,
  );

test('whatever stands in the pages of a site, each mend settles what it is offered for', () => {
  fc.assert(
    fc.property(page, page, (one, other) => {
      const files: Files = { ...beside, 'index.html': one, 'b.html': other };
      const { findings } = checkFiles(files);
      for (const finding of findings)
        for (const mend of finding.mends)
          assert.ok(isSettled(files, findings, finding, mend), `${finding.message}: ${mend.title}`);
    }),
    { numRuns: Number(process.env.CRAVEL_MADE_UP ?? 100) },
  );
});

const svg = '<svg xmlns="http://www.w3.org/2000/svg"/>';
const around: Files = {
  'images/pier.svg': svg,
  'images/North Pier.svg': svg,
  'images/a%b.svg': svg,
  'images/q?1#2.svg': svg,
  'images/möwe.svg': svg,
  'images/a&copy;b.svg': svg,
  "x/it's.svg": svg,
  'x/a&copy.html': '<!doctype html><title>&amp;</title><p id=day>',
  'tides.svg': svg,
  'x/index.html': '<!doctype html><title>X</title><p id=day><p id="a b"><p id="é">',
  'x/fares.html': '<!doctype html><title>Fares</title><p id=dogs>',
  'x/y/tides.svg': svg,
};
const step = fc.constantFrom(
  'images',
  'Images',
  'x',
  'X',
  'y',
  '..',
  '.',
  '',
  'gone',
  '%69mages',
  'images ',
  'é',
);
const name = fc.constantFrom(
  ...[
    'pier.svg',
    'Pier.SVG',
    'peir.svg',
    'pier.png',
    'pier',
    'North Pier.svg',
    'North%20Pier.svg',
    'north-pier.svg',
  ],
  ...[
    'a%b.svg',
    'a%25b.svg',
    'q?1#2.svg',
    'q%3F1%232.svg',
    'möwe.svg',
    'm%C3%B6we.svg',
    'moewe.svg',
    'm\u006f\u0308we.svg',
  ],
  ...[
    'tides.svg',
    'tide.svg',
    'A&amp;copy;b.svg',
    'a&copy;b.svg',
    'a&amp;copy.html',
    'A&copy.html',
    'its.svg',
    'It&#39;s.svg',
    'fares.html',
    'fares',
    'fares.htm',
    'Fares.html',
    'index.html',
    'index.htm',
    '',
    '.',
  ],
);
const start = fc.constantFrom(
  ...[
    '',
    '',
    '',
    '',
    './',
    '../',
    '/',
    '\\',
    '//',
    ' ',
    'http:',
    'http://',
    'http://localhost/',
    '//127.0.0.1:80/',
  ],
  ...['file:///C:/site/', 'C:\\site\\', 'www.gullhaven.example/', 'https://gullhaven.example//'],
  ...['/ferry/', 'https://gullhaven.example/ferry/', '//gullhaven.example/'],
);
const tail = fc.constantFrom(
  '',
  '',
  '',
  '?v=1',
  '?a b',
  '?%zz&x=é',
  '#day',
  '#Day',
  '#dogs',
  '#a b',
  '#é',
  '?x#gone',
  '#',
  '?',
  ' ',
  '\t',
);
const slash = fc.constantFrom('/', '/', '/', '//', '\\');
const address = fc
  .tuple(start, fc.array(fc.tuple(step, slash), { maxLength: 2 }), name, tail)
  .map(([lead, steps, last, end]) => lead + steps.map((one) => one.join('')).join('') + last + end);
type Hold = (address: string) => string;
const escaped = (one: string) => one.replaceAll('\\', '\\\\').replaceAll('\t', '\\t');
const holder: fc.Arbitrary<Hold> = fc.constantFrom<Hold[]>(
  (one) => `<img src="${one}" alt>`,
  (one) => `<a href='${one}'>x</a>`,
  (one) => `<link rel=stylesheet href="${one}">`,
  (one) => `<style>a { background: url("${escaped(one)}") }</style>`,
  (one) => `<script>fetch("${escaped(one)}")</script>`,
  (one) => `<script type=module>import "${escaped(one)}"</script>`,
  (one) => `<iframe srcdoc='<img src="${one}" alt>'></iframe>`,
  (one) => `<img srcset="${one} 2x" alt>`,
);
const paged = (all: readonly [Hold, string][]) =>
  `<!doctype html><title>Gullhaven Ferry</title>${all.map(([hold, one]) => hold(one)).join('\n')}`;

/** A page, a script that a page of another folder runs, and a stylesheet. */
const carriers: Readonly<Record<string, (body: readonly [Hold, string][]) => Files>> = {
  'a page': (all) => ({ 'index.html': paged(all) }),
  'a page in a folder': (all) => ({ 'x/b.html': paged(all) }),
  'a page with a base': (all) => ({ 'x/b.html': `<base href="../images/">${paged(all)}` }),
  'a page with a base from the root': (all) => ({ 'b.html': `<base href="/x/">${paged(all)}` }),
  'a page with a base elsewhere': (all) => ({ 'b.html': `<base href="https://h.example/">${paged(all)}` }),
  'a script': (all) => ({
    'x/b.html': '<!doctype html><title>Gullhaven Ferry</title><script src="../js/a.js"></script>',
    'js/a.js': all.map(([, one]) => `fetch("${escaped(one)}");`).join('\n'),
  }),
  'a stylesheet': (all) => ({
    'index.html': '<!doctype html><title>Gullhaven Ferry</title><link rel=stylesheet href=css/a.css>',
    'css/a.css': all.map(([, one]) => `a { background: url("${escaped(one)}") }`).join('\n'),
  }),
};
const published = fc.constantFrom(null, 'https://gullhaven.example/', 'https://gullhaven.example/ferry/');

/** What rules say of the way to a file, not of the file. */
const ofAddresses: ReadonlySet<string> = new Set(
  addressRules.map(({ name }) => name).filter((name) => name !== 'wrong-kind' && name !== 'from-root'),
);

test('whatever address stands in a file, each mend settles what it is offered for', () => {
  fc.assert(
    fc.property(
      fc.array(fc.tuple(holder, address), { minLength: 1, maxLength: 3 }),
      fc.constantFrom(...Object.keys(carriers)),
      published,
      (all, carrier, host) => {
        const files: Files = { ...around, ...carriers[carrier]?.(all) };
        const options = { published: publishedAt(host ?? '') };
        const { findings } = checkFiles(files, null, options);
        for (const finding of findings)
          for (const mend of finding.mends) {
            const what = `${finding.rule} ${finding.written}: ${mend.title}`;
            assert.ok(isSettled(files, findings, finding, mend, options), what);
            if (!mend.sure) continue;
            const after = checkFiles(mendedBy(files, mend), null, options).findings;
            const there = (one: Finding) => ofAddresses.has(one.rule) && one.offset === mend.edits[0]?.start;
            const before = findings.filter((one) => there(one) && one !== finding).map(({ rule }) => rule);
            const brought = after.filter((one) => there(one) && !before.includes(one.rule));
            assert.deepEqual(
              brought.map(({ rule, written }) => `${rule} ${written}`),
              [],
              what,
            );
          }
      },
    ),
    { numRuns: Number(process.env.CRAVEL_MADE_UP ?? 300) },
  );
});
