/** Visiting: whatever a host does wrong is told by name, and of a host that does all right nothing is. */
import assert from 'node:assert/strict';
import { createHash } from 'node:crypto';
import { readdirSync, readFileSync, statSync } from 'node:fs';
import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import { type TestContext, test } from 'node:test';
import { setTimeout } from 'node:timers/promises';
import { gzipSync } from 'node:zlib';
import { hostRules } from '../../src/core/judge/index.ts';
import type { Visit } from '../../src/core/judge/visit.ts';
import { mediaType } from '../../src/core/site/formats.ts';
import { differenceOf } from '../../src/core/visiting/difference.ts';
import { fileQuestion, otherQuestions } from '../../src/core/visiting/plan.ts';
import { reportOfVisit } from '../../src/core/visiting/report.ts';
import { visitHost } from '../../src/web/visit.ts';
import { cravel, cravelLater, cravelRunning } from '../support/program.ts';
import { bytesOf, type Files, temporaryFolder } from '../support/site.ts';

const head = (title: string) =>
  `<!doctype html>\n<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${title}</title><meta name="description" content="About ${title}."><link rel="stylesheet" href="/css/main.css"></head>\n<body>\n`;
const site: Files = {
  'cravel.yaml': 'published-at: https://gullhaven.example/\nleave-out: ["drafts/**"]\n',
  'index.html': `${head('Ferry')}<a href="fares.html">Fähre</a> <img src="images/pier.svg" alt=""><script src="js/tides.js"></script>\n</body></html>\n`,
  'fares.html': `${head('Fares')}<p>Two crowns.</p>\n<a href="index.html">Home</a></body></html>\n`,
  'css/main.css': '/* The ferry. */\nbody { color: teal }\np { margin: 0 }\n',
  'js/tides.js': 'var tides = [1, 2];\nvar more = 3;\n',
  'images/pier.svg': '<svg xmlns="http://www.w3.org/2000/svg"/>',
  'drafts/later.html': '<p>Later',
};

type Answer = (response: ServerResponse, content: Buffer, request: IncomingMessage) => void;

/** A host of what is in `files`, but for what `answers` says of some paths. Tells what it was asked for. */
async function hostOf(
  t: TestContext,
  files: ReadonlyMap<string, Buffer>,
  answers: Readonly<Record<string, Answer>>,
) {
  const asked: string[] = [];
  let [open, most] = [0, 0];
  const server = createServer((request, response) => {
    const path = decodeURIComponent((request.url ?? '').slice(1));
    asked.push(path);
    most = Math.max(most, ++open);
    response.on('close', () => open--);
    const file = path === '' ? 'index.html' : path;
    const content = files.get(file);
    const own = answers[path] ?? answers['*'];
    if (own !== undefined) return own(response, content ?? Buffer.alloc(0), request);
    if (content === undefined) return void response.writeHead(404).end('Not here.');
    response.writeHead(200, { 'content-type': mediaType(file) }).end(content);
  });
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  t.after(() => {
    server.closeAllConnections();
    server.close();
  });
  const { port } = server.address() as AddressInfo;
  return { address: `http://127.0.0.1:${port}/`, asked, most: () => most };
}

/** A project that was packed, and its files as they were. */
async function published(t: TestContext): Promise<{ root: string; files: Map<string, Buffer> }> {
  const folder = temporaryFolder(
    t,
    Object.fromEntries(Object.entries(site).map(([path, text]) => [`site/${path}`, text])),
  );
  const root = join(folder, 'site');
  const { code, stderr } = cravel(root, 'pack', '--to', '../packed');
  assert.equal(code, 0, stderr);
  const packed = join(folder, 'packed');
  const paths = readdirSync(packed, { recursive: true }).map(String).sort();
  const files = new Map(
    paths.flatMap((path) =>
      statSync(join(packed, path)).isFile() ? [[path, readFileSync(join(packed, path))] as const] : [],
    ),
  );
  return { root, files };
}

interface Told {
  readonly rule: string;
  readonly grade: string;
  readonly file: string;
  readonly message: string;
}

async function visited(
  root: string,
  address: string,
  ...more: readonly string[]
): Promise<{ code: number | null; told: Told[]; stderr: string }> {
  const { code, stdout, stderr } = await cravelLater(root, 'visit', address, '--as', 'json', ...more);
  assert.notEqual(stdout, '', stderr);
  return { code, told: JSON.parse(stdout).findings, stderr };
}

/** The same without the program around it. */
async function visitedHere(files: ReadonlyMap<string, Buffer>, address: string): Promise<readonly Told[]> {
  const toVisit = new Map(
    Array.from(files, ([file, content]) => {
      const hash = createHash('sha256').update(content).digest('hex');
      return [file, { file, bytes: content.length, hash, content: () => content }];
    }),
  );
  const [first, ...others] = otherQuestions(
    [...files.keys()],
    ['drafts/later.html'],
    address,
    'no-such-page',
  );
  assert.ok(first !== undefined);
  const questions = [first, ...Array.from(files.keys(), (file) => fileQuestion(file, address)), ...others];
  const { visits, unasked } = await visitHost(questions, {
    files: toVisit,
    known: new Map(),
    tell() {},
    signal: new AbortController().signal,
  });
  assert.equal(unasked.size, 0);
  return reportOfVisit(address, visits, [], { grades: {}, accept: [] }, () => true).findings;
}

const say =
  (status: number, headers: Record<string, string> = {}, body?: string | Buffer): Answer =>
  (response, content) =>
    void response.writeHead(status, headers).end(body ?? content);
const served =
  (type: string, change: (text: string) => string | Buffer): Answer =>
  (response, content) =>
    void response.writeHead(200, { 'content-type': type }).end(change(content.toString()));
const loginPage = '<!doctype html><form><input type="password"></form>';

test('each way in which a host goes wrong is told by name, and of one that does all right nothing is told', async (t) => {
  const { files } = await published(t);
  const rows: readonly (readonly [
    answers: Readonly<Record<string, Answer>>,
    ...told: (readonly [file: string, says: RegExp])[],
  ])[] = [
    [{}],
    [
      {
        'css/main.css': (response, content) =>
          void response
            .writeHead(200, { 'content-type': 'text/css', 'content-encoding': 'gzip' })
            .end(gzipSync(content)),
      },
    ],
    [{ 'js/tides.js': say(200, { 'content-type': 'application/javascript; charset=UTF-8' }) }],
    [{ 'fares.html': say(404) }, ['fares.html', /^broken not-published: the host answers 404/]],
    [{ 'fares.html': say(410) }, ['fares.html', /^broken not-published: the host answers 410/]],
    [
      { 'fares.html': (response) => void response.destroy() },
      ['fares.html', /^broken not-published: the host breaks off/],
    ],
    [
      { 'fares.html': say(302, { location: '/fares.html' }) },
      ['fares.html', /^broken not-published: the host sends on more than 20 times/],
    ],
    [
      { 'fares.html': say(302, { location: 'ftp://gullhaven.example/' }) },
      ['fares.html', /what is no web address/],
    ],
    [{ 'fares.html': say(401) }, ['fares.html', /^broken behind-login: the host answers 401/]],
    [
      { 'fares.html': say(200, { 'content-type': 'text/html' }, loginPage) },
      ['fares.html', /^broken behind-login: what comes is a page to log in/],
    ],
    [
      {
        'fares.html': say(302, { location: '/sso/login?to=fares' }),
        'sso/login?to=fares': say(200, { 'content-type': 'text/html' }, '<!doctype html><p>Who are you?'),
      },
      ['fares.html', /^broken behind-login: the host sends on to .*\/sso\/login\?to=fares, to log in there/],
    ],
    [
      {
        'fares.html': say(301, { location: '/fares' }),
        fares: (response) =>
          void response.writeHead(200, { 'content-type': 'text/html' }).end(files.get('fares.html')),
      },
      ['fares.html', /^untidy sent-on: the host sends on to .*\/fares$/],
    ],
    [
      { 'css/main.css': say(200, { 'content-type': 'text/plain' }) },
      ['css/main.css', /^broken wrong-type: it comes as text\/plain, and is text\/css/],
    ],
    [{ 'css/main.css': say(200) }, ['css/main.css', /^fragile wrong-type: no Content-Type/]],
    [
      { 'images/pier.svg': say(200, { 'content-type': 'text/xml' }) },
      ['images/pier.svg', /^broken wrong-type/],
    ],
    [
      { '': say(200, { 'content-type': 'text/html; charset=iso-8859-1' }) },
      ['index.html', /^broken wrong-type: it comes as iso-8859-1, and is written in utf-8/],
    ],
    [
      { 'css/main.css': served('text/css', (text) => text.slice(0, 20)) },
      ['css/main.css', /^broken served-otherwise: no more than 20 of its \d+ bytes/],
    ],
    [
      { 'js/tides.js': served('text/javascript', (text) => text.replaceAll('\n', '\r\n')) },
      ['js/tides.js', /^fragile served-otherwise: its line ends/],
    ],
    [
      { 'js/tides.js': served('text/javascript', (text) => `\uFEFF${text}`) },
      ['js/tides.js', /^fragile served-otherwise: a byte order mark/],
    ],
    [
      { '': served('text/html', (text) => Buffer.from(text.replace('utf-8', 'windows-1252'), 'latin1')) },
      ['index.html', /^fragile served-otherwise: the same text in another encoding, windows-1252/],
    ],
    [
      { '': served('text/html', (text) => text.replace('</body>', '<script>count()</script></body>')) },
      [
        'index.html',
        /^fragile served-otherwise: the host puts 24 characters into it, which begin with <script>count/,
      ],
    ],
    [
      {
        '': served('text/html', (text) =>
          text.replace('<head>', '<head><script>a()</script>').replace('</body>', '<img src=x></body>'),
        ),
      },
      ['index.html', /^fragile served-otherwise: the host puts 31 characters/],
    ],
    [
      { '': served('text/html', (text) => text.replace(/\n/g, '')) },
      ['index.html', /^fragile served-otherwise: the host rewrites it/],
    ],
    [
      { 'css/main.css': served('text/css', () => 'body { color: navy }') },
      ['css/main.css', /^broken served-otherwise: it differs: 20 bytes come/],
    ],
    [
      { 'images/pier.svg': say(200, { 'content-type': 'image/svg+xml' }, '<!doctype html><p>Sorry') },
      ['images/pier.svg', /^broken served-otherwise: a page comes in its place/],
    ],
    [
      { '.git/HEAD': say(200, {}, 'ref: refs/heads/main'), 'drafts/later.html': say(200, {}, 'later') },
      ['.git/HEAD', /^broken left-open/],
      ['drafts/later.html', /^broken left-open/],
    ],
    [
      {
        'CSS/MAIN.CSS': (response) =>
          void response.writeHead(200, { 'content-type': 'text/css' }).end(files.get('css/main.css')),
      },
      ['CSS/MAIN.CSS', /^untidy any-case/],
    ],
  ];
  for (const [answers, ...told] of rows) {
    const { address } = await hostOf(t, files, answers);
    const found = await visitedHere(files, address);
    const shown = JSON.stringify(found.map(({ rule, file, message }) => [rule, file, message]));
    assert.equal(found.length, told.length, `${told.join(' ')}: ${shown}`);
    for (const [index, [file, says]] of told.entries()) {
      const one = found[index] as Told;
      assert.equal(one.file, file, shown);
      assert.match(`${one.grade} ${one.rule}: ${one.message}`, says);
    }
  }
});

test('a host that answers whatever it is asked for is told once, and what is missing there all the same', async (t) => {
  const { root, files } = await published(t);
  files.delete('js/tides.js');
  const { address } = await hostOf(t, files, {
    '*': (response, content, request) => {
      const body =
        content.length > 0
          ? content
          : `<!doctype html><p>No ${decodeURIComponent(request.url ?? '').slice(1)} here.`;
      const type =
        content.length > 0
          ? mediaType(request.url === '/' ? 'index.html' : (request.url ?? ''))
          : 'text/html';
      response.writeHead(200, { 'content-type': type }).end(body);
    },
  });
  // Held to the folder, to an archive, and to what was packed last.
  assert.equal(cravel(root, 'pack', '--to', '../another.zip').code, 0);
  for (const packed of [['--packed', '../packed'], ['--packed', '../another.zip'], []]) {
    const { told, code } = await visited(root, address, ...packed);
    assert.equal(code, 1);
    assert.deepEqual(told.map(({ rule, file }) => [rule, file.replace(/^no-such-page-.*/, 'none')]).sort(), [
      ['answers-anything', 'none'],
      ['not-published', 'js/tides.js'],
    ]);
  }
  assert.match(cravel(root, 'visit', address, '--packed', '../none').stderr, /no folder and no \.zip/);
});

test('a host is asked gently, waited for where it says so, and a visit that was broken off goes on', async (t) => {
  const { root, files } = await published(t);
  let busy = 1;
  const slow = await hostOf(t, files, {
    'fares.html': (response, content) => {
      if (busy-- > 0) response.writeHead(503, { 'retry-after': '1' }).end();
      else response.writeHead(200, { 'content-type': 'text/html' }).end(content);
    },
  });
  const started = performance.now();
  // A password is for the host alone.
  const { told, stderr } = await visited(root, slow.address.replace('//', '//ida:secret@'));
  assert.deepEqual(told, []);
  assert.ok(!stderr.includes('secret'));
  assert.ok(performance.now() - started >= 1000);
  assert.ok(slow.most() <= 6);
  assert.equal(slow.asked.filter((path) => path === 'fares.html').length, 2);
  // Of a host that is not there one thing is told.
  const none = await cravelLater(root, 'visit', 'http://127.0.0.1:1/');
  assert.deepEqual([none.stdout, none.code], ['', 2]);
  assert.match(none.stderr, /could not be asked: no browser asks at that port/);
  // What was answered is not asked for again.
  let hangs = true;
  const frail = await hostOf(t, files, {
    'js/tides.js': (response, content) => {
      if (!hangs) response.writeHead(200, { 'content-type': 'text/javascript' }).end(content);
    },
  });
  const running = cravelRunning(t, root, 'visit', frail.address);
  while (!frail.asked.includes('js/tides.js') || frail.asked.length < 12) await setTimeout(20);
  await setTimeout(200);
  assert.equal(await running.end(), 130);
  hangs = false;
  frail.asked.length = 0;
  const second = await visited(root, frail.address);
  assert.deepEqual([second.told, second.code], [[], 0]);
  assert.match(second.stderr, /Going on where an earlier visit was broken off: \d+ answers/);
  assert.ok(frail.asked.includes('js/tides.js') && !frail.asked.includes('css/main.css'));
  frail.asked.length = 0;
  await visited(root, frail.address);
  assert.ok(frail.asked.includes('css/main.css'));
});

test('addresses without encryption and by another name are asked for where there may be such, and judged', () => {
  const asks = (base: string) =>
    otherQuestions(['a.html'], [], base, 'none').flatMap(({ asks: kind, address }) =>
      kind === 'plain-http' || kind === 'other-name' ? [address] : [],
    );
  assert.deepEqual(asks('https://gullhaven.example/ferry/'), [
    'http://gullhaven.example/ferry/',
    'https://www.gullhaven.example/ferry/',
  ]);
  assert.deepEqual(asks('http://www.gullhaven.example/'), ['http://gullhaven.example/']);
  assert.deepEqual(asks('http://a.b.gullhaven.example/'), []);
  assert.deepEqual(asks('http://127.0.0.1:80/'), []);
  assert.deepEqual(asks('http://localhost/'), []);
  const answer: Visit = {
    asks: 'plain-http',
    file: 'index.html',
    address: 'http://gullhaven.example/',
    failure: null,
    status: 200,
    type: 'text/html',
    movedTo: null,
    asksToLogIn: false,
    isAnything: false,
    difference: null,
    encoding: null,
  };
  const rows: readonly (readonly [changes: Partial<Visit>, rule: string | null])[] = [
    [{}, 'unsafe-way'],
    [{ movedTo: 'https://gullhaven.example/' }, null],
    [{ status: 0, failure: 'the host does not answer' }, null],
    [{ asks: 'other-name' }, 'two-names'],
    [{ asks: 'other-name', difference: { is: 'page' } }, 'two-names'],
    [{ asks: 'other-name', movedTo: 'https://gullhaven.example/' }, null],
    [{ asks: 'other-name', status: 404 }, null],
    [{ asks: 'letter-case', isAnything: true }, null],
    [{ asks: 'private', isAnything: true }, null],
  ];
  for (const [changes, rule] of rows) {
    const told = hostRules.find((one) => one.judgeVisit({ ...answer, ...changes }) !== null);
    assert.equal(told?.name ?? null, rule, JSON.stringify(changes));
  }
  // Every rule about hosts has a row in this file.
  const here = readFileSync(import.meta.filename, 'utf8');
  for (const { name } of hostRules) assert.match(here, new RegExp(`\\b${name}\\b`));
  assert.equal(differenceOf('a.png', bytesOf('abc'), bytesOf('abc')), null);
  assert.deepEqual(differenceOf('a.png', bytesOf('abc'), bytesOf('ab')), { is: 'cut', bytes: 2, of: 3 });
});
