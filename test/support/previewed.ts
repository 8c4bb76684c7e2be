/** The built program's preview of a folder, for tests. */
import { connect } from 'node:net';
import type { TestContext } from 'node:test';
import { setTimeout } from 'node:timers/promises';
import { cravelRunning, type Running } from './program.ts';
import type { Files } from './site.ts';

export interface Previewed {
  readonly running: Running;
  /** Addresses, each with a slash at its end. */
  readonly deck: string;
  readonly site: string;
  readonly phone: string | null;
}

/** Starts a preview of `folder`, and leaves it running until the test is over at the latest. */
export async function previewOf(
  t: TestContext,
  folder: string,
  ...args: readonly string[]
): Promise<Previewed> {
  const running = cravelRunning(t, folder, 'preview', ...args);
  await running.noted(/Ctrl-C ends\.$/);
  let text = '';
  for (; !/^site .*\n/m.test(text); text += running.written()) await setTimeout(10);
  const named = (name: string) => new RegExp(`^${name} +(\\S+)$`, 'm').exec(text)?.[1] ?? null;
  return { running, deck: named('deck') as string, site: named('site') as string, phone: named('phone') };
}

/** Milliseconds after which no more is sent. */
const WAIT = 400;

/** All that a server answers to bytes that are sent to it as they stand. */
export function answerTo(address: string, request: string): Promise<string> {
  const { hostname, port } = new URL(address);
  return new Promise((done) => {
    const socket = connect(Number(port), hostname);
    let text = '';
    socket.setEncoding('latin1');
    socket.setTimeout(20_000, () => socket.destroy());
    socket.on('data', (piece) => {
      text += piece;
    });
    socket.on('error', () => {});
    socket.on('close', () => done(text));
    socket.write(request, 'latin1');
    // What is no request at all may be waited for.
    void setTimeout(WAIT).then(() => socket.end());
  });
}

export const svg = (width: number) =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="10"><rect width="9" height="9"/></svg>`;
export const html = (head: string, body: string) =>
  `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>Ferry</title><link rel="icon" href="data:,">${head}</head><body>${body}</body></html>`;

/** A site with one thing of each kind that takes no effect. */
export const idle: Files = {
  'index.html': html(
    '<link rel="stylesheet" href="css/idle.css"><link rel="stylesheet" href="css/works.css"><script src="js/throws.js" defer></script><script src="js/runs.js" defer></script>',
    `<h1>Ferry</h1><p class="wide">Wide</p><img src="images/pier.png" alt=""><img src="images/boat.svg" width="5" alt=""><img src="imges/boat.svg" alt="" id="lost">
    <script>console.warn('low tide'); document.body.append(Object.assign(document.createElement('img'), { src: 'https://elsewhere.example/x.png' }))</script>`,
  ),
  'about.html': html('<link rel="stylesheet" href="css/works.css">', '<em>About</em>'),
  'css/idle.css': '.nowhere { color: red } .never::before { color: blue }',
  'css/works.css':
    '@font-face { font-family: Unused; src: url(../fonts/unused.woff2) } h1:hover { color: teal } .wide { width: 600px } em { color: red } .lost b { color: red } @media (width > 1px) { h1 { & + p { color: green } } }',
  'fonts/unused.woff2': 'wOF2',
  'images/pier.png': '<!doctype html><p>Not an image</p>',
  'images/boat.svg': svg(20),
  'js/throws.js': 'var buoy = 1;\nlighthouse.shine();',
  'js/runs.js': 'var harbour = {}; let gull = 2;',
};
