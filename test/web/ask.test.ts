import assert from 'node:assert/strict';
import { createHash } from 'node:crypto';
import { once } from 'node:events';
import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import { type TestContext, test } from 'node:test';
import { setTimeout } from 'node:timers/promises';
import { askHosts } from '../../src/web/ask.ts';
import { cravelLater } from '../support/program.ts';
import { temporaryFolder } from '../support/site.ts';

type Handler = (request: IncomingMessage, response: ServerResponse) => void | Promise<void>;

/** A host on loopback, up to the end of the test; its origin. */
async function host(t: TestContext, handler: Handler): Promise<string> {
  const server: Server = createServer((request, response) => void handler(request, response));
  server.listen(0, '127.0.0.1');
  await once(server, 'listening');
  t.after(() => {
    server.closeAllConnections();
    server.close();
  });
  return `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
}

const question = (address: string, ...integrities: string[]) => ({ address, integrities });
const code = 'let tide;';
const sha384 = `sha384-${createHash('sha384').update(code).digest('base64')}`;

test('hosts are asked by HEAD, then by GET, and their answers are told apart', async (t) => {
  const asked: string[] = [];
  const redirects: Readonly<Record<string, readonly [number, string]>> = {
    '/old': [301, '/new#tide'],
    '/older': [308, '/old'],
    '/for-now': [302, '/new'],
    '/round': [307, '/round'],
    '/out': [301, 'mailto:ferry@gullhaven.example'],
    '/lost': [301, '/none'],
  };
  const statuses: Readonly<Record<string, number>> = { '/none': 404, '/shy': 403, '/broken': 500 };
  const origin = await host(t, ({ url = '', method }, response) => {
    asked.push(`${method} ${url}`);
    const [status, location] = redirects[url] ?? [];
    if (status !== undefined) response.writeHead(status, { location }).end();
    else if (url === '/get-only' && method === 'HEAD') response.writeHead(405).end();
    else response.writeHead(statuses[url] ?? 200).end(code);
  });
  const rows: readonly (readonly [
    path: string,
    failure: string | null,
    moved: string | null,
    unasked?: string,
  ])[] = [
    ['/new', null, null],
    ['/get-only', null, null],
    ['/none', 'the host answers 404 Not Found', null],
    ['/shy', null, null, 'the host answers 403 Forbidden'],
    ['/broken', 'the host answers 500 Internal Server Error', null],
    ['/old', null, 'true /new'],
    ['/older', null, 'true /new'],
    ['/for-now', null, 'false /new'],
    ['/round', 'the host sends on more than 20 times', null],
    ['/out', 'the host sends on to what is no web address: mailto:ferry@gullhaven.example', null],
    ['/lost', `the host sends on to ${origin}/none, and there the host answers 404 Not Found`, null],
  ];
  const answers = await askHosts(rows.map(([path]) => question(origin + path)));
  for (const [path, failure, moved, unasked = null] of rows) {
    const answer = answers.get(origin + path);
    const to = answer?.moved ? `${answer.moved.isForGood} ${answer.moved.to.slice(origin.length)}` : null;
    assert.deepEqual([answer?.failure, to, answer?.unasked], [failure, moved, unasked], path);
  }
  assert.deepEqual(asked.filter((line) => line.endsWith('/get-only') || line.endsWith('/broken')).sort(), [
    'GET /broken',
    'GET /broken',
    'GET /broken',
    'GET /get-only',
    'HEAD /broken',
    'HEAD /get-only',
  ]);
});

test('a host that never answers is given up', async (t) => {
  const origin = await host(t, () => {});
  const answers = await askHosts([question(origin)], undefined, { time: 100 });
  assert.equal(answers.get(origin)?.failure, 'no full answer within 0.1 seconds');
});

test('whatever a host does, asking it comes to an end, and is told in plain words', async (t) => {
  const drip = (_request: IncomingMessage, response: ServerResponse) => {
    response.writeHead(200, { 'content-length': 1e6 });
    const timer = setInterval(() => response.write('.'), 20);
    response.on('close', () => clearInterval(timer));
  };
  const rows: readonly (readonly [
    what: string,
    handler: Handler,
    integrity: readonly string[],
    said: string,
  ])[] = [
    ['drips', drip, [sha384], 'no full answer within 0.3 seconds'],
    ['closes', ({ socket }) => void socket.destroy(), [], 'the host breaks off without an answer'],
    [
      'asks for a long wait',
      (_request, response) => void response.writeHead(503, { 'retry-after': '1000000000' }).end(),
      [],
      'the host answers 503 Service Unavailable',
    ],
    [
      'is no web host',
      ({ socket }) => void socket.end('220 ready\r\n'),
      [],
      'the host answers with what is not HTTP',
    ],
  ];
  for (const [what, handler, integrity, said] of rows) {
    const origin = await host(t, handler);
    const answer = (await askHosts([question(origin, ...integrity)], undefined, { time: 300 })).get(origin);
    assert.equal(answer?.failure, said, what);
  }
  const hanging = await host(t, () => {});
  const all = ['/a', '/b', '/c', '/d'].map((path) => question(hanging + path));
  for (const answer of (await askHosts(all, undefined, { wholeTime: 200 })).values())
    assert.deepEqual(
      [answer.failure, answer.unasked, answer.isOurs],
      [null, 'asking took longer than 0.2 seconds', true],
    );
});

test('a name and a password in an address are sent to its host alone, and are shown nowhere', async (t) => {
  const sent: (string | undefined)[] = [];
  const other = await host(t, ({ headers, url }, response) => {
    sent.push(`${url} ${headers.authorization}`);
    response.writeHead(404).end();
  });
  const own = await host(t, ({ headers, url }, response) => {
    sent.push(`${url} ${headers.authorization}`);
    response.writeHead(302, { location: `${other}/there` }).end();
  });
  const address = `${own.replace('//', '//ferry:h%C3%A4rbour@')}/here`;
  const folder = temporaryFolder(t, {
    'index.html': `<!doctype html><html lang="en"><title>x</title><img src="${address}"><script src="${address}"></script>`,
  });
  const basic = `Basic ${Buffer.from('ferry:härbour').toString('base64')}`;
  for (const format of ['text', 'json', 'ndjson', 'sarif', 'junit', 'html']) {
    const { stdout, stderr } = await cravelLater(folder, 'check', '--online', '--as', format);
    assert.match(stdout, /this-machine/, format);
    assert.match(stdout, /404/, format);
    assert.doesNotMatch(stdout + stderr, /h%C3|härbour|ferry:/, format);
  }
  assert.deepEqual([...new Set(sent)].sort(), [`/here ${basic}`, '/there undefined']);
});

test('a host that is gone is a failure, and what it serves is held to its integrity value', async (t) => {
  const origin = await host(t, (_request, response) => void response.end(code));
  const answers = await askHosts([
    question(`${origin}/a.js`, sha384, 'sha512-AAAA', `sha256-AAAA ${sha384}`, 'md5-AAAA'),
    question('http://no-such-host.invalid/'),
  ]);
  assert.deepEqual([...(answers.get(`${origin}/a.js`)?.mismatches ?? [])], ['sha512-AAAA']);
  const lost = answers.get('http://no-such-host.invalid/');
  assert.match(lost?.failure ?? lost?.unasked ?? '', /there is no such host|there is no network/);
});

test('a host that asks to wait is asked again when it says, and hosts are not asked too much at once', async (t) => {
  const times: number[] = [];
  const busy = await host(t, (_request, response) => {
    times.push(performance.now());
    if (times.length === 1) response.writeHead(429, { 'retry-after': '1' }).end();
    else response.end();
  });
  assert.equal((await askHosts([question(busy)])).get(busy)?.failure, null);
  assert.ok((times[1] as number) - (times[0] as number) >= 990, `${times}`);

  // Nobody is answered until as many ask at once as ever may, and none above that comes while they wait.
  const now = { all: 0, most: 0 };
  let open = () => {};
  const isFull = new Promise<void>((done) => {
    open = done;
  });
  const hosts = await Promise.all(
    Array.from({ length: 6 }, async () => {
      const here = { now: 0, most: 0 };
      const origin = await host(t, async (_request, response) => {
        here.most = Math.max(here.most, ++here.now);
        now.most = Math.max(now.most, ++now.all);
        if (now.all === 8) void setTimeout(100).then(open);
        await isFull;
        here.now--;
        now.all--;
        response.end();
      });
      return { origin, here };
    }),
  );
  const questions = hosts.flatMap(({ origin }) =>
    Array.from({ length: 6 }, (_, index) => question(`${origin}/${index}`)),
  );
  const told: number[] = [];
  const answers = await askHosts(questions, (done) => void told.push(done));
  assert.equal(answers.size, 36);
  assert.equal(told.at(-1), 36);
  assert.deepEqual([Math.max(...hosts.map(({ here }) => here.most)), now.most], [2, 8]);
});

test('cravel check asks other hosts only when told to, each address once', async (t) => {
  const asked: string[] = [];
  const origin = await host(t, ({ url, method }, response) => {
    asked.push(`${method} ${url}`);
    response.writeHead(url === '/boats' ? 200 : 404).end();
  });
  const folder = temporaryFolder(t, {
    'index.html': `<a href="${origin}/boats#a">a</a><a href="${origin}/boats">b</a><a href="b.html">c</a>`,
    'b.html': `<a href="${origin}/boats#b">a</a><a href="${origin}/tides">b</a><a href="${origin}/tides#x">c</a><a href="mailto:a@b.example">m</a>`,
  });
  const quiet = await cravelLater(folder, 'check', '--only', 'broken');
  assert.deepEqual([quiet.code, asked], [0, []]);
  const { code: exitCode, stdout } = await cravelLater(folder, 'check', '--online', '--only', 'broken');
  assert.equal(exitCode, 1);
  assert.match(
    stdout,
    /b\.html 1:\d+ +broken · not-served\n.*\/tides">\n +the host answers 404 Not Found\n +all /,
  );
  // A fragment is no cause of its own.
  assert.match(stdout, /2 findings from 1 cause/);
  assert.match(stdout, /5 of them to other hosts \(2 addresses asked for\)/);
  assert.deepEqual(asked.sort(), ['GET /tides', 'HEAD /boats', 'HEAD /tides']);
});
