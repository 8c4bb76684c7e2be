/** The preview answers as a strict host does, to nobody but this machine, and with nothing but the site. */
import assert from 'node:assert/strict';
import { execFileSync } from 'node:child_process';
import { readdirSync, readFileSync, symlinkSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { test } from 'node:test';
import { readFile } from '../../src/core/read/read.ts';
import type { Finding } from '../../src/core/report.ts';
import { loadDemo, plant } from '../../src/disk/demo.ts';
import { asWritten } from '../../src/disk/disk-path.ts';
import { layOut } from '../../src/disk/lay-out.ts';
import { answerTo, previewOf } from '../support/previewed.ts';
import { cravel } from '../support/program.ts';
import { temporaryFolder } from '../support/site.ts';

const SECRET = 'nobody sees this';
const page =
  '<!doctype html><html lang="en"><head><title>Ferry</title></head><body><p>Tides</p></body></html>';

const files = {
  'outside.txt': SECRET,
  'site/cravel.yaml': `published-at: https://gullhaven.example/ferry/\nleave-out: [drafts/**]\n# ${SECRET}`,
  'site/index.html': page,
  'site/css/main.css': 'p { color: teal }',
  'site/piers/index.html': page,
  'site/fonts/a.woff2': 'x',
  'site/notes': 'plain',
  'site/sound.mp3': '0123456789',
  'site/long.mp3': 'x'.repeat(20_000_000),
  'site/a b%.html': page,
  'site/.well-known/security.txt': 'Contact: harbour',
  'site/.git/config': SECRET,
  'site/.htaccess': SECRET,
  'site/css/.hidden.css': SECRET,
  'site/drafts/new.html': SECRET,
  'site/old.html': '<!doctype html><meta charset="iso-8859-1"><p>',
};

/** What is asked for, and what comes: status, and a part of the head or the body. */
const answers: readonly (readonly [
  path: string,
  status: number,
  part?: RegExp | undefined,
  ask?: RequestInit,
])[] = [
  ['/ferry/', 200, /content-type: text\/html\n[\s\S]*added by cravel preview[\s\S]*Tides/],
  ['/ferry/index.html?x=1', 200, /Tides/],
  ['/ferry/piers/', 200, /Tides/],
  ['/ferry/piers?day=2', 301, /location: \/ferry\/piers\/\?day=2/],
  ['/ferry/css/main.css', 200, /content-type: text\/css\n[\s\S]*\np \{ color: teal \}$/],
  ['/ferry/fonts/a.woff2', 200, /content-type: font\/woff2/],
  ['/ferry/notes', 200, /content-type: application\/octet-stream/],
  ['/ferry/a%20b%25.html', 200, /Tides/],
  ['/ferry/.well-known/security.txt', 200, /harbour/],
  ['/ferry/css/Main.css', 404],
  ['/ferry/css/main.css/', 404],
  ['/ferry/css/', 404],
  ['/ferry/css', 404],
  ['/ferry', 404],
  ['/', 404],
  ['/index.html', 404],
  ['/ferry/cravel.yaml', 404],
  ['/ferry/.htaccess', 404],
  ['/ferry/.git/config', 404],
  ['/ferry/css/.hidden.css', 404],
  ['/ferry/drafts/new.html', 404],
  ['/ferry/way-out.txt', 404],
  ['/ferry/out/outside.txt', 404],
  ['/ferry/way-in.css', 200, /teal/],
  ['/ferry/to-hidden.txt', 404],
  ['/ferry/pipe', 404],
  [
    '/ferry/sound.mp3',
    206,
    /content-range: bytes 2-4\/10\n[\s\S]*\n234$/,
    { headers: { range: 'bytes=2-4' } },
  ],
  ['/ferry/sound.mp3', 416, undefined, { headers: { range: 'bytes=20-' } }],
  ['/ferry/', 405, /allow: GET, HEAD/, { method: 'POST' }],
  ['/ferry/css/main.css', 405, undefined, { method: 'OPTIONS' }],
  ['/ferry/old.html', 200, /<meta charset="iso-8859-1">/],
  ['/.cravel/page.js', 200, /content-type: text\/javascript/],
];

async function told(address: string, ask?: RequestInit): Promise<{ status: number; text: string }> {
  const answer = await fetch(address, { redirect: 'manual', ...ask });
  const head = Array.from(answer.headers, ([name, value]) => `${name}: ${value}\n`).join('');
  return { status: answer.status, text: head + (await answer.text()) };
}

function makeSite(t: Parameters<typeof temporaryFolder>[0]): string {
  const folder = temporaryFolder(t, files);
  const site = join(folder, 'site');
  symlinkSync('../outside.txt', join(site, 'way-out.txt'));
  symlinkSync('..', join(site, 'out'));
  symlinkSync('css/main.css', join(site, 'way-in.css'));
  symlinkSync('.git/config', join(site, 'to-hidden.txt'));
  execFileSync('mkfifo', [join(site, 'pipe')]);
  return site;
}

test('a site is served letter for letter as a strict host would, and nothing else is', async (t) => {
  const { site } = await previewOf(t, makeSite(t));
  assert.match(site, /^http:\/\/127\.0\.0\.1:\d+\/ferry\/$/);
  for (const [path, status, part = /^/, ask] of answers) {
    const { status: got, text } = await told(new URL(path, site).href, ask);
    assert.equal(got, status, path);
    assert.match(text, part, path);
    assert.doesNotMatch(text, new RegExp(`access-control|${SECRET}`, 'i'), path);
  }
  for (const path of ['', 'css/main.css']) {
    const tag = (await fetch(site + path)).headers.get('etag');
    const { host, pathname } = new URL(site + path);
    const request = `GET ${pathname} HTTP/1.1\r\nHost: ${host}\r\nIf-None-Match: ${tag}\r\nConnection: close\r\n\r\n`;
    assert.match(await answerTo(site, request), /^HTTP\/1\.1 304 [\s\S]*\r\n\r\n$/);
  }
  assert.equal((await told(site, { method: 'HEAD' })).status, 200);
});

/** Ways to what lies around a site, put in different words. */
function hostileRequests(host: string): string[] {
  const up = [
    '..',
    '.%2e',
    '%2e%2e',
    '%2E.',
    '..%2f',
    '..%5c',
    '..\\',
    '%c0%ae%c0%ae',
    '%252e%252e',
    '..;',
    '....//',
  ];
  const ends = ['outside.txt', 'site/.git/config', 'site/cravel.yaml', 'etc/passwd'];
  const paths = up.flatMap((step) =>
    [1, 2, 3, 6].flatMap((times) => ends.map((end) => `/ferry/${`${step}/`.repeat(times)}${end}`)),
  );
  const others = [
    '/ferry/.git/config%00.html',
    '/ferry/%00',
    '/ferry/css/main.css%00.git/config',
    '/ferry/.git%2fconfig',
    '/ferry/./.git/./config',
    '/ferry//.git//config',
    '/ferry/.GIT/config',
    '/ferry/css/../.git/config',
    '//ferry/.git/config',
    '///etc/passwd',
    '/ferry/C:/outside.txt',
    '/ferry/C:%5coutside.txt',
    '/ferry/\\\\..\\outside.txt',
    '/ferry/.git/config?.html',
    '/ferry/.git/config#.html',
    '/ferry/%2egit/config',
    '/.cravel/../outside.txt',
    '/.cravel/%2e%2e/outside.txt',
    'file:///etc/passwd',
    'http://127.0.0.1/etc/passwd',
    'http://evil.example/',
    '*',
    '',
    'outside.txt',
    '../outside.txt',
    '__proto__',
    'constructor',
    `/ferry/${'a/'.repeat(4000)}`,
    `/ferry/${'%2e%2e%2f'.repeat(1000)}etc/passwd`,
    '/ferry/way-out.txt',
    '/ferry/out/outside.txt',
    '/ferry/out/site/.git/config',
    '/ferry/pipe',
    '/ferry/to-hidden.txt',
  ];
  const plain = [...paths, ...others].map(
    (path) => `GET ${path} HTTP/1.1\r\nHost: ${host}\r\nConnection: close\r\n\r\n`,
  );
  const get = (heads: readonly string[]) =>
    `GET /ferry/index.html HTTP/1.1\r\n${heads.map((head) => `${head}\r\n`).join('')}Connection: close\r\n\r\n`;
  return [
    ...plain,
    ...[
      'evil.example',
      `evil.example:${host.split(':')[1]}`,
      '127.0.0.1',
      'localhost',
      `localhost.evil.example:${host.split(':')[1]}`,
      '',
      `${host}@evil.example`,
      `0.0.0.0:${host.split(':')[1]}`,
    ].map((name) => get([`Host: ${name}`])),
    get([]),
    get([`Host: ${host}`, 'Host: evil.example']),
    get([`Host: ${host}`, 'Range: bytes=0-99999999999999999999']),
    get([`Host: ${host}`, `X-Long: ${'x'.repeat(40_000)}`]),
    get([`Host: ${host}`, 'X-Original-URL: /.git/config', 'X-Rewrite-URL: /.git/config']),
    'GET /ferry/ HTTP/0.9\r\n\r\n',
    'GET /ferry/\r\n\r\n',
    '\0\0\0\0',
    'GET http://\r\n\r\n',
    `CONNECT ${host} HTTP/1.1\r\nHost: ${host}\r\n\r\n`,
    `TRACE /ferry/ HTTP/1.1\r\nHost: ${host}\r\n\r\n`,
    `GET /.cravel/news HTTP/1.1\r\nHost: ${host}\r\nConnection: Upgrade\r\nUpgrade: websocket\r\nSec-WebSocket-Version: 13\r\nSec-WebSocket-Key: AAAAAAAAAAAAAAAAAAAAAA==\r\nOrigin: http://evil.example\r\n\r\n`,
    `POST /ferry/ HTTP/1.1\r\nHost: ${host}\r\nContent-Length: 5\r\nTransfer-Encoding: chunked\r\n\r\n0\r\n\r\nGET /.git/config HTTP/1.1\r\n\r\n`,
  ];
}

test('no request gets a byte from outside of the site, nor anything by another name', async (t) => {
  const { site, deck } = await previewOf(t, makeSite(t));
  for (const address of [site, deck]) {
    const requests = hostileRequests(new URL(address).host);
    assert.ok(requests.length >= 200, `${requests.length}`);
    for (const request of requests) {
      const text = await answerTo(address, request);
      const shown = `${JSON.stringify(request.slice(0, 120))}: ${text.slice(0, 200)}`;
      assert.doesNotMatch(text, /nobody sees this|root:|daemon:/, shown);
      assert.doesNotMatch(text, /101 Switching/, shown);
      const isForAnother =
        /^GET \/ferry\/index\.html/.test(request) && !request.includes(`Host: ${new URL(address).host}\r\n`);
      if (isForAnother) assert.match(text, /^HTTP\/1\.1 40[03] /, shown);
    }
  }
  // A browser that goes away in the middle of a file.
  for (let leaves = 0; leaves < 5; leaves++) {
    const { body } = await fetch(`${site}long.mp3`);
    const reader = body?.getReader();
    assert.ok(((await reader?.read())?.value?.length ?? 0) > 0);
    await reader?.cancel();
  }
  // It goes on.
  assert.equal((await fetch(site)).status, 200);
});

test('two previews go on side by side, Ctrl-C leaves nothing, and a port that is taken is told', async (t) => {
  const folder = temporaryFolder(t, { 'index.html': page });
  const [one, other] = [await previewOf(t, folder), await previewOf(t, folder)];
  for (const { site, deck } of [one, other]) {
    assert.equal((await fetch(site)).status, 200);
    assert.equal((await fetch(deck)).status, 200);
  }
  const { port } = new URL(other.deck);
  const taken = cravel(folder, 'preview', '--port', port);
  assert.equal(taken.code, 2);
  assert.match(
    taken.stderr,
    new RegExp(`cannot listen at port ${port}: .*\\nChoose another one with --port`),
  );
  const rows: readonly (readonly [call: readonly string[], says: RegExp])[] = [
    [['nowhere'], /^There is no folder nowhere\.\n.*cravel scaffold/],
    [['index.html'], /^index\.html is a file, not a folder\.\n/],
    [['--port', '0'], /--port must be a port, such as 4700/],
    [['--port', '65535'], /--port must be at most 65534/],
  ];
  for (const [call, says] of rows) {
    const refused = cravel(folder, 'preview', ...call);
    assert.equal(refused.code, 2);
    assert.match(refused.stderr, says);
  }
  const stays = await fetch(one.site);
  writeFileSync(join(folder, 'index.html'), page.replace('Tides', 'Ebb'));
  assert.equal(await one.running.end(), 0);
  await stays.text().catch(() => '');
  await assert.rejects(fetch(one.site));
  await assert.rejects(fetch(one.deck));
  assert.match(await (await fetch(other.site)).text(), /Ebb/);
  assert.equal(await other.running.end(), 0);
});

test('what the deck can do is done for the deck alone', async (t) => {
  const broken = page.replace('<p>', '<img src="piers.svg" alt=""><img src="pier.sgv" alt="">');
  const folder = temporaryFolder(t, {
    'index.html': broken,
    'pier.svg': '<svg xmlns="http://www.w3.org/2000/svg"/>',
  });
  const { deck, site } = await previewOf(t, folder);
  const token = /cravel-token" content="([^"]+)"/.exec(await (await fetch(deck)).text())?.[1] as string;
  const origin = new URL(deck).origin;
  const ask = (path: string, headers: Record<string, string>, method = 'POST', body?: string) =>
    fetch(new URL(path, deck), { method, headers, ...(body === undefined ? {} : { body }) });
  const own = { 'x-cravel-deck': token, origin };
  const rows: readonly (readonly [headers: Record<string, string>, status: number])[] = [
    [{}, 403],
    [{ origin }, 403],
    [{ 'x-cravel-deck': token }, 403],
    [{ 'x-cravel-deck': `${token}x`, origin }, 403],
    [{ 'x-cravel-deck': token, origin: new URL(site).origin }, 403],
    [{ 'x-cravel-deck': token, origin: 'null' }, 403],
  ];
  for (const path of ['/mend', '/undo'])
    for (const [headers, status] of rows)
      assert.equal(
        (await ask(path, headers, 'POST', '{"keys":[]}')).status,
        status,
        JSON.stringify([path, headers]),
      );
  assert.equal((await ask('/about?page=index.html', {}, 'GET')).status, 403);
  assert.equal((await ask('/mend', own, 'GET')).status, 404);
  // What makes no sense changes nothing.
  for (const body of ['', '{', '[]', '{"keys":"x"}', '{"keys":[1]}', '{"keys":["x"]}'])
    assert.equal((await ask('/mend', own, 'POST', body)).status, 200, body);
  assert.equal((await ask('/undo', own)).status, 409);
  const about = (await (await ask('/about?page=index.html', own, 'GET')).json()) as {
    findings: { key: string; mends: { sure: boolean }[] }[];
  };
  const sure = about.findings.filter(({ mends }) => mends.some((mend) => mend.sure)).map(({ key }) => key);
  assert.equal(sure.length > 0, true);
  const done = (await (await ask('/mend', own, 'POST', JSON.stringify({ keys: sure }))).json()) as {
    notes: string[];
  };
  assert.match(done.notes.join('\n'), /^Mended \d finding/);
  const back = (await (await ask('/undo', own)).json()) as { notes: string[] };
  assert.deepEqual(back.notes, ['Taken back: mend from the preview.']);
  assert.match(await (await fetch(site)).text(), /pier\.sgv/);
});

test('what the preview does not serve is what the check calls broken', async (t) => {
  const demo = temporaryFolder(t);
  const folder = join(demo, 'site');
  await layOut(asWritten(folder), plant(loadDemo().layout, loadDemo().mistakes));
  const { site } = await previewOf(t, folder);
  const { findings, sites } = JSON.parse(cravel(folder, 'check', '--as', 'json').stdout);
  assert.equal(sites.length, 1);
  const isBroken = (file: string, offset: number) =>
    findings.some(
      (one: Finding) =>
        one.file === file && one.offset === offset && one.grade === 'broken' && ADDRESS.has(one.rule),
    );
  let asked = 0;
  for (const file of readdirSync(folder, { recursive: true }).map(String).sort()) {
    if (!/\.(?:html|css|js)$/.test(file)) continue;
    const reading = readFile(file, readFileSync(join(folder, file)));
    for (const { written, offset, kind, holder, standing } of reading?.references ?? []) {
      const address = new URL(
        written.trim() || '#',
        site + (holder.syntax === 'script' ? 'index.html' : file),
      );
      if (address.origin !== new URL(site).origin || kind === 'anchor' || standing?.inside != null) continue;
      asked++;
      const { status } = await fetch(address);
      assert.equal(status === 404, isBroken(file, offset), `${file} ${offset} ${written}: ${status}`);
    }
  }
  assert.ok(asked > 80, `${asked}`);
});

/** Rules that say of an address that nobody answers there. */
const ADDRESS: ReadonlySet<string> = new Set([
  'absent',
  'letter-case',
  'lacks-index',
  'beyond-site',
  'backslash',
]);
