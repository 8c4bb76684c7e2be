/** `look` tells what a real browser did not get and what took no effect, and holds it against the check. */
import assert from 'node:assert/strict';
import { cpSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { test } from 'node:test';
import { lookAsText } from '../../src/serve/look/as-text.ts';
import { judgeOpened } from '../../src/serve/look/look.ts';
import type { Opened } from '../../src/serve/look/open-page.ts';
import type { PageAbout } from '../../src/serve/messages.ts';
import { paintFor } from '../../src/show/paint.ts';
import { browserProgram } from '../support/browser.ts';
import { html, idle, svg } from '../support/previewed.ts';
import { cravel, projectFolder } from '../support/program.ts';
import { type Files, temporaryFolder } from '../support/site.ts';

const look = (folder: string, ...args: readonly string[]) =>
  cravel(folder, 'look', '--browser', browserProgram, ...args);

/** Each line of the text by itself, without what stands before and between. */
const words = (text: string) => text.replace(/\s+/g, ' ');

/** A page, what is told of it by its first words, and the exit code. */
const rows: readonly (readonly [what: string, files: Files, code: number, says: readonly RegExp[]])[] = [
  [
    'one thing of each kind',
    idle,
    1,
    [
      /did not arrive imges\/boat\.svg 404 the check tells of it: absent on index\.html/,
      /threw js\/throws\.js 2 Uncaught ReferenceError: lighthouse is not defined the check tells of it: nobody-makes/,
      /no image images\/pier\.png what came is no image the check tells of it: wrong-kind/,
      /not used Unused declared, and nothing is set in it on none of the pages that have it/,
      /no effect css\/idle\.css none of its 2 rules match anything/,
      /over the edge p\.wide by \d+ px at 320, by \d+ px at 390 on index\.html/,
      /2 pages looked at: 1 file did not arrive, 1 file not what was wanted, 1 exception, 2 without effect, 1 page wider than a window\./,
    ],
  ],
  [
    'what the check cannot know',
    {
      'index.html': html(
        '<meta http-equiv="Content-Security-Policy" content="img-src \'self\'"><script>const n = "bo" + "at"; addEventListener("load", () => { document.body.append(Object.assign(new Image(), { src: n + ".svg" }), Object.assign(new Image(), { src: "data:image/png;base64,AAAA" })); })</script>',
        '<p>x</p>',
      ),
    },
    1,
    [
      /did not arrive boat\.svg 404 the check calls it sound/,
      /blocked .*img-src .*the check calls it sound/,
      /2 of these the check calls sound/,
    ],
  ],
  [
    'a page that goes elsewhere by itself, and one that asks',
    {
      'index.html': html('', '<script>confirm("Sail?"); alert("Aye")</script><p>x</p>'),
      'old.html': html('<meta http-equiv="refresh" content="0; url=index.html">', '<p>x</p>'),
    },
    0,
    [/2 pages looked at: everything arrived/],
  ],
  [
    'text that is wider than its box, told once',
    {
      'index.html': html(
        '',
        `<main><p class="word">${'x'.repeat(90)}</p><div class="lines" style="white-space: nowrap">${'a '.repeat(160)}<br>${'b '.repeat(160)}<br></div></main>`,
      ),
    },
    0,
    [
      /over the edge main > p\.word by \d+ px at 320, by \d+ px at 390(?:, by \d+ px at \d+)* on index\.html/,
      /over the edge main > div\.lines by \d+ px at 320, by \d+ px at 390(?:, by \d+ px at \d+)* on index\.html/,
      /everything arrived and took effect; 1 page wider than a window\./,
    ],
  ],
  [
    'what scrolls by itself',
    { 'index.html': html('', `<pre style="overflow: auto">${'a '.repeat(400)}</pre>`) },
    0,
    [/^1 page looked at: everything arrived and took effect\.\s*$/],
  ],
  [
    'nothing wrong',
    { 'index.html': html('', '<img src="boat.svg" alt="">'), 'boat.svg': svg(3) },
    0,
    [/^1 page looked at: everything arrived and took effect\.\s*$/],
  ],
];

test('what fails and what takes no effect is told, page by page, with what the check says of it', (t) => {
  for (const [what, files, code, says] of rows) {
    const answer = look(temporaryFolder(t, files));
    assert.equal(answer.code, code, `${what}: ${answer.stdout}${answer.stderr}`);
    for (const pattern of says) assert.match(words(answer.stdout), pattern, what);
  }
});

test('pages are named as people do, pictures come in each width, other hosts are not asked, and JSON says the same', (t) => {
  const folder = temporaryFolder(t, {
    'cravel.yaml': 'published-at: https://gullhaven.example/ferry/\n',
    'index.html': html('<script src="https://elsewhere.example/a.js"></script>', '<p>x</p>'),
    'piers/index.html': html('', '<p style="width: 900px">x</p>'),
  });
  const answer = look(folder, 'piers', 'index.html', '--pictures', 'out', '--as', 'json');
  assert.equal(answer.code, 0, answer.stderr);
  const { pages } = JSON.parse(answer.stdout);
  assert.deepEqual(
    pages.map(({ page }: { page: string }) => page),
    ['piers/index.html', 'index.html'],
  );
  assert.deepEqual(pages[1].elsewhere, ['https://elsewhere.example/a.js']);
  assert.match(answer.stderr, /1 address of another host was not asked for.*--online asks/);
  assert.match(answer.stderr, /8 pictures in out\./);
  for (const width of [320, 390, 768, 1280]) {
    const png = readFileSync(join(folder, `out/index-${width}.png`));
    assert.equal(png.readUInt32BE(16), width);
  }
  assert.equal(look(folder, 'gone.html').code, 2);
  // Names are taken from the folder that somebody works in.
  const within = JSON.parse(look(join(folder, 'piers'), 'index.html', '--as', 'json').stdout);
  assert.deepEqual(
    within.pages.map(({ page }: { page: string }) => page),
    ['piers/index.html'],
  );
});

test('the demo site is sound in a browser, too; without one it is said where to get one', (t) => {
  const demo = temporaryFolder(t);
  cpSync(join(projectFolder, 'demo/gullhaven'), demo, { recursive: true });
  const answer = look(demo);
  assert.equal(answer.code, 0, answer.stdout + answer.stderr);
  const rows = [
    ['no/such/browser', /there is none at no\/such\/browser\.\nInstall Chromium, or name one with --browser/],
    [process.execPath, /cannot be used: .*\nName another one with --browser/],
  ] as const;
  for (const [browser, says] of rows) {
    const refused = cravel(demo, 'look', '--browser', browser);
    assert.equal(refused.code, 2);
    assert.match(refused.stderr, says);
  }
});

test('what the check tells of and the browser got all the same is said', () => {
  const finding = { rule: 'absent', grade: 'broken', file: 'index.html', line: 3, written: 'gone.svg' };
  const file = { written: 'gone.svg', namedBy: '/ferry/index.html', found: false, way: 'with the page' };
  const about = { path: 'index.html', files: [file], findings: [finding] } as unknown as PageAbout;
  const nothing = { loaded: [], styles: [], scripts: [], images: [], fonts: [], said: [] };
  const host = { origin: 'http://127.0.0.1:1', folder: '/ferry/' };
  const lookedWith = (...failed: Opened['failed']) =>
    judgeOpened(
      'index.html',
      { proof: nothing, failed, said: [], edges: [], elsewhere: [] } as unknown as Opened,
      about,
      host,
    );
  const arrived = lookedWith();
  assert.deepEqual(arrived.checkAlone, [
    { file: 'index.html', line: 3, written: 'gone.svg', rule: 'absent' },
  ]);
  assert.match(
    words(lookAsText({ pages: [arrived], idle: [] }, paintFor({}, {}), 80)),
    /^arrived gone\.svg the check tells of it all the same: absent, index\.html 3/,
  );
  const lost = lookedWith({ address: 'http://127.0.0.1:1/ferry/gone.svg', why: '404', isBlocked: false });
  assert.deepEqual(lost.checkAlone, []);
  assert.equal(lost.looks[0]?.rule, 'absent');
});
