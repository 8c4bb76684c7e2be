/**
 * `npm run bench -- --hostile`: files made to hang a reader, at 1 to 16 MB. Linear growth doubles the time with
 * the size; the last column is the time a byte at 16 MB over that at 1 MB.
 */
import { readFile } from '../src/core/read/read.ts';

const MEGABYTE = 1_000_000;
const SIZES = [1, 2, 4, 8, 16];

/** A file of about `size` bytes: `head`, then `body` over and over, then `tail`. */
interface Hostile {
  readonly path: string;
  readonly head?: string;
  readonly body: string;
  readonly tail?: string;
}

const hostiles: readonly Hostile[] = [
  { path: 'a.html', body: '<' },
  { path: 'a.html', body: '</' },
  { path: 'a.html', body: '<a' },
  { path: 'a.html', body: '<a ' },
  { path: 'a.html', body: '<!--' },
  { path: 'a.html', body: '<!--', tail: '-->' },
  { path: 'a.html', body: '--!', head: '<!--' },
  { path: 'a.html', body: '<!' },
  { path: 'a.html', head: '<a href="', body: 'x' },
  { path: 'a.html', head: '<a href="', body: 'x', tail: '">' },
  { path: 'a.html', head: '<a href="', body: '&amp;', tail: '">' },
  { path: 'a.html', head: '<img srcset="', body: 'a 1x,', tail: '">' },
  { path: 'a.html', head: '<img srcset="', body: ',(&amp;', tail: '">' },
  { path: 'a.html', head: '<p style="', body: 'url(&quot;', tail: '">' },
  { path: 'a.html', head: '<a', body: ' b=c', tail: '>' },
  { path: 'a.html', body: '<a href=b id=c>' },
  { path: 'a.html', body: '<div>' },
  { path: 'a.html', body: '<b>' },
  { path: 'a.html', body: '<p><b><i>' },
  { path: 'a.html', head: '<template></template>', body: '<div>' },
  { path: 'a.html', head: '<template></template>', body: '<x></y>' },
  { path: 'a.html', head: '<template></template>', body: '<a><p>' },
  { path: 'a.html', head: '<template></template>', body: '<b a><b c><i><div></b>' },
  { path: 'a.html', head: '<template></template>', body: '<table><tr><td>' },
  { path: 'a.html', body: '<template>' },
  { path: 'a.html', body: '<noscript>' },
  { path: 'a.html', body: '<noscript><p></noscript>' },
  { path: 'a.html', body: '<svg><desc>' },
  { path: 'a.html', body: '<svg><g>' },
  { path: 'a.html', body: '<math><mi>' },
  { path: 'a.html', body: '<select><option>' },
  { path: 'a.html', head: '<script>', body: '<!--<script>' },
  { path: 'a.html', head: '<script>', body: '</script' },
  { path: 'a.html', head: '<title>', body: '</titl' },
  { path: 'a.html', body: '<iframe srcdoc="' },
  { path: 'a.html', head: '<svg>', body: '<![CDATA[' },
  { path: 'a.html', body: '\0' },
  { path: 'a.html', body: 'é&#x' },
  { path: 'a.html', head: '<meta charset=shift_jis>', body: '\u0083' },
  { path: 'a.css', body: 'url(' },
  { path: 'a.css', body: 'url(a ' },
  { path: 'a.css', body: '\\' },
  { path: 'a.css', body: '"' },
  { path: 'a.css', body: '/*' },
  { path: 'a.css', body: '(' },
  { path: 'a.css', body: '@import ' },
  { path: 'a.css', body: 'é' },
  { path: 'a.js', head: 'fetch(', body: '(' },
  { path: 'a.js', head: 'fetch(', body: '[[' },
  { path: 'a.js', head: 'fetch("a");', body: 'a+' },
  { path: 'a.js', head: 'fetch("a");', body: '"a.png",', tail: '1' },
  { path: 'a.js', body: "'a" },
  { path: 'a.svg', body: '<g>' },
  { path: 'a.svg', body: '<a href="' },
  { path: 'sitemap.xml', head: '<urlset>', body: '<loc>a</loc>' },
  { path: 'a.webmanifest', body: '[' },
];

console.log(`${'file'.padEnd(44)}${SIZES.map((size) => `${size} MB`.padStart(9)).join('')}   growth\n`);
for (const hostile of hostiles) {
  const times = SIZES.map((size) => fastest(hostile, size * MEGABYTE));
  const { path, head = '', body, tail = '' } = hostile;
  const name = `${path} ${JSON.stringify(`${head}${body}…${tail}`)}`.slice(0, 43);
  const growth = (times.at(-1) as number) / 16 / (times[0] as number);
  console.log(
    `${name.padEnd(44)}${times.map((time) => `${time.toFixed(0)} ms`.padStart(9)).join('')}   ${growth.toFixed(2)}`,
  );
}

/** Processor milliseconds for the fastest of three readings. */
function fastest({ path, head = '', body, tail = '' }: Hostile, size: number): number {
  const bytes = Buffer.from(head + body.repeat(Math.ceil(size / body.length)) + tail, 'latin1');
  let best = Number.POSITIVE_INFINITY;
  for (let round = 0; round < 3; round++) {
    const started = process.cpuUsage();
    readFile(path, bytes);
    const { user, system } = process.cpuUsage(started);
    best = Math.min(best, (user + system) / 1000);
  }
  return best;
}
