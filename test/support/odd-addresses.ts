/** Addresses of every shape, right and wrong, in all that holds one. */
import fc from 'fast-check';
import type { Files } from './site.ts';

const svg = '<svg xmlns="http://www.w3.org/2000/svg"/>';
/** A site that odd addresses lead into. */
export const around: Files = {
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
type Written = readonly [hold: Hold, address: string];
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
const paged = (all: readonly Written[]) =>
  `<!doctype html><title>Gullhaven Ferry</title>${all.map(([hold, one]) => hold(one)).join('\n')}`;

/** A page, a script that a page of another folder runs, and a stylesheet. */
export const carriers: Readonly<Record<string, (body: readonly Written[]) => Files>> = {
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

/** An address as people write it, and what holds it. */
export const oddAddress: fc.Arbitrary<Written> = fc.tuple(holder, address);
