/** What comes along with a library or a kept project, and what never does. */
import assert from 'node:assert/strict';
import { spawnSync } from 'node:child_process';
import { once } from 'node:events';
import { mkdirSync, readdirSync, readFileSync, symlinkSync, writeFileSync } from 'node:fs';
import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import { dirname, join } from 'node:path';
import { type TestContext, test } from 'node:test';
import { zipOf } from '../support/library.ts';
import { cravel, cravelLater } from '../support/program.ts';
import { type Files, temporaryFolder } from '../support/site.ts';

const page = '<!doctype html><html lang="en"><title>Ferry</title><main></main>';
const SECRET = 'SECRET OF THE FERRY';

/** Paths of all files below a folder, and whether any of them holds the secret. */
function contentOf(folder: string): { readonly paths: string[]; readonly leaks: string[] } {
  const entries = readdirSync(folder, { recursive: true, withFileTypes: true }).filter((entry) =>
    entry.isFile(),
  );
  const paths = entries.map((entry) => join(entry.parentPath, entry.name));
  return {
    paths: paths.map((path) => path.slice(folder.length + 1)).sort(),
    leaks: paths.filter((path) => readFileSync(path, 'utf8').includes(SECRET)),
  };
}

/** A home with secrets, and what somebody downloaded into it. */
function home(t: TestContext, downloads: Files): string {
  return temporaryFolder(t, {
    'site/index.html': page,
    '.ssh/id_rsa': SECRET,
    '.conf.json': SECRET,
    'notes.json': SECRET,
    'shared/pier.svg': '<svg xmlns="http://www.w3.org/2000/svg"/>',
    ...Object.fromEntries(Object.entries(downloads).map(([path, content]) => [`downloads/${path}`, content])),
  });
}

test('what comes along with a file stays in its own folder; what it names higher up is told, and comes only when told to', (t) => {
  const rows: readonly (readonly [
    what: string,
    downloads: Files,
    source: string,
    prepare: ((folder: string) => void) | null,
    taken: readonly string[],
    told: RegExp,
  ])[] = [
    [
      'a key',
      { 'nice.css': '.a{background:url(../.ssh/id_rsa)}' },
      'nice.css',
      null,
      ['nice.css'],
      /Names 1 file outside of its folder: \.\.\/\.ssh\/id_rsa\. .*--reach <folder>/,
    ],
    [
      'by steps that climb later',
      { 'nice.css': '.a{background:url(x/../../notes.json)}' },
      'nice.css',
      null,
      ['nice.css'],
      /outside of its folder: x\/\.\.\/\.\.\/notes\.json/,
    ],
    [
      'by escapes',
      { 'nice.css': '.a{background:url(%2e%2e/notes.json)}' },
      'nice.css',
      null,
      ['nice.css'],
      /outside of its folder: %2e%2e\/notes\.json/,
    ],
    [
      'by a script',
      { 'nice.js': 'fetch("../.conf.json"); import("../notes.json")' },
      'nice.js',
      null,
      ['nice.js'],
      /Names 2 files outside of its folder/,
    ],
    [
      'by a source map',
      { 'nice.js': 'a();\n//# sourceMappingURL=../notes.json' },
      'nice.js',
      null,
      ['nice.js'],
      /outside of its folder: \.\.\/notes\.json/,
    ],
    [
      'hidden',
      { 'nice.js': 'fetch(".conf.json")', '.conf.json': SECRET },
      'nice.js',
      null,
      ['nice.js'],
      /Left, hidden: \.conf\.json\./,
    ],
    [
      'in a hidden folder',
      { 'nice.js': 'fetch("./.data/a.json")', '.data/a.json': SECRET },
      'nice.js',
      null,
      ['nice.js'],
      /Left, hidden: \.data\/a\.json\./,
    ],
    [
      'a secret by its name',
      { 'nice.js': 'fetch("auth.json")', 'auth.json': SECRET },
      'nice.js',
      null,
      ['nice.js'],
      /Left, it may hold a secret: auth\.json\./,
    ],
    [
      'nothing that pages load',
      { 'nice.css': '.a{background:url(core.dump)}', 'core.dump': SECRET },
      'nice.css',
      null,
      ['nice.css'],
      /Left, no page loads such a file: core\.dump\./,
    ],
    [
      'a link',
      { 'nice.css': '.a{background:url(pic.png)}' },
      'nice.css',
      (folder) => symlinkSync('../notes.json', join(folder, 'downloads/pic.png')),
      ['nice.css'],
      /Left, a link: pic\.png\./,
    ],
    [
      'a link on the way',
      { 'nice.css': '.a{background:url(up/notes.json)}' },
      'nice.css',
      (folder) => symlinkSync('..', join(folder, 'downloads/up')),
      ['nice.css'],
      /Left, a link: up\/notes\.json\./,
    ],
    [
      'a link as the other build',
      { 'nice.js': 'a()' },
      'nice.js',
      (folder) => symlinkSync('../notes.json', join(folder, 'downloads/nice.min.js')),
      ['nice.js'],
      /Left, a link: nice\.min\.js\./,
    ],
    [
      'a pipe',
      { 'nice.js': 'fetch("pipe.json")' },
      'nice.js',
      (folder) => spawnSync('mkfifo', [join(folder, 'downloads/pipe.json')]),
      ['nice.js'],
      /Left, neither a file nor a folder: pipe\.json\./,
    ],
    [
      'a folder with all of that',
      {
        'nice.js': 'fetch("a.json")',
        'a.json': '{}',
        '.npmrc': SECRET,
        '.git/config': SECRET,
        'id_rsa.bak': SECRET,
      },
      '.',
      (folder) => symlinkSync('../notes.json', join(folder, 'downloads/b.json')),
      ['a.json', 'nice.js'],
      /Left, it may hold a secret: \.npmrc, id_rsa\.bak\.[\s\S]*Left, a link that leads out of the folder: b\.json\./,
    ],
    [
      'an archive',
      {
        'nice.zip': zipOf({
          'nice.js': 'fetch("a.json"); fetch(".b.json")',
          'a.json': '{}',
          '.b.json': SECRET,
          '.env': SECRET,
        }),
      },
      'nice.zip',
      null,
      ['a.json', 'nice.js'],
      /Left, hidden: \.b\.json\.[\s\S]*secret: \.env\./,
    ],
  ];
  for (const [what, downloads, source, prepare, taken, told] of rows) {
    const folder = home(t, downloads);
    prepare?.(folder);
    const { code, stderr } = cravel(join(folder, 'site'), 'adopt', `../downloads/${source}`, '--as', 'nice');
    assert.equal(code, 0, `${what}: ${stderr}`);
    assert.match(stderr, told, what);
    const { paths, leaks } = contentOf(join(folder, 'site'));
    assert.deepEqual(leaks, [], what);
    assert.deepEqual(
      paths.filter((path) => path.startsWith('lib/')),
      taken.map((path) => `lib/nice/${path}`),
      what,
    );
  }
  const folder = home(t, {
    'css/nice.css': '.a{background:url(../../shared/pier.svg)}.b{background:url(../../.ssh/id_rsa)}',
  });
  const reached = cravel(
    join(folder, 'site'),
    'adopt',
    '../downloads/css/nice.css',
    '--reach',
    '..',
    '--as',
    'nice',
  );
  assert.equal(reached.code, 0, reached.stderr);
  assert.match(reached.stderr, /Left, it may hold a secret: \.ssh\/id_rsa/);
  assert.ok(contentOf(join(folder, 'site')).paths.includes('lib/nice/shared/pier.svg'));
  const short = cravel(
    join(folder, 'site'),
    'adopt',
    '../downloads/css/nice.css',
    '--reach',
    '../shared',
    '--as',
    'x',
  );
  assert.deepEqual(
    [short.code, /does not lie in .*shared\.\nName a folder around it/.test(short.stderr)],
    [2, true],
    short.stderr,
  );
});

test('a library put in the place of an older one leaves what was edited or added since', (t) => {
  const old = zipOf({ 'tide.js': 'var Tide = 1;', 'tide.css': 'a{}', 'gone.css': 'b{}', 'skin.css': 'c{}' });
  const next = zipOf({ 'tide.js': 'var Tide = 2;', 'tide.css': 'a{color:red}', 'skin.css': 'c{color:red}' });
  const folder = temporaryFolder(t, { 'site/index.html': page, 'old.zip': old, 'next.zip': next });
  const adopt = (...args: string[]) => cravel(folder, 'adopt', ...args, '--as', 'tide', '--dir', 'site');
  assert.equal(adopt('../old.zip').code, 0);
  const own = join(folder, 'site/lib/tide');
  writeFileSync(join(own, 'skin.css'), 'c{color:blue}');
  writeFileSync(join(own, 'notes.txt'), 'mine');
  const outcome = adopt('../next.zip', '--replace');
  assert.equal(outcome.code, 0, outcome.stderr);
  assert.match(outcome.stderr, /Left in lib\/tide as they are, .*: notes\.txt, skin\.css\./);
  const now = Object.fromEntries(
    readdirSync(own).map((name) => [name, readFileSync(join(own, name), 'utf8')]),
  );
  assert.deepEqual(now, {
    'notes.txt': 'mine',
    'skin.css': 'c{color:blue}',
    'tide.css': 'a{color:red}',
    'tide.js': 'var Tide = 2;',
  });
});

test('a download leads nowhere but to its own folder on its host', async (t) => {
  const asked: string[] = [];
  const serve = async (handler: (request: IncomingMessage, response: ServerResponse) => void) => {
    const server = createServer(handler);
    server.listen(0, '127.0.0.1');
    await once(server, 'listening');
    t.after(() => server.close());
    return `127.0.0.1:${(server.address() as AddressInfo).port}`;
  };
  const other = await serve((request, response) => {
    asked.push(`other ${request.url} ${request.headers.authorization ?? ''}`);
    response.end(SECRET);
  });
  const host = await serve(({ url = '' }, response) => {
    asked.push(url);
    const css = `@import "http://${other}/a.css"; .a{background:url(near.svg)} .b{background:url(../up.svg)} .c{background:url(away.svg)} .d{background:url(.env)} .e{background:url(file:///etc/passwd)}`;
    if (url === '/lib/nice.css') response.end(css);
    else if (url === '/lib/away.svg') response.writeHead(302, { location: `http://${other}/x.svg` }).end();
    else if (url === '/to-disk.js') response.writeHead(302, { location: 'file:///etc/passwd' }).end();
    else if (url === '/round.js') response.writeHead(302, { location: '/round.js' }).end();
    else if (url === '/private.js') response.writeHead(302, { location: `http://${other}/private.js` }).end();
    else response.end('<svg xmlns="http://www.w3.org/2000/svg"/>');
  });
  const folder = temporaryFolder(t, { 'index.html': page });
  const { code, stderr } = await cravelLater(
    folder,
    'adopt',
    `http://ida:tide@${host}/lib/nice.css`,
    '--as',
    'nice',
  );
  assert.equal(code, 0, stderr);
  assert.deepEqual(contentOf(join(folder, 'lib')).paths, ['nice/near.svg', 'nice/nice.css']);
  assert.match(stderr, /Names 1 file outside of its folder: \.\.\/up\.svg/);
  assert.match(stderr, /away\.svg could not be fetched: /);
  assert.match(stderr, /Left, hidden: \.env|may hold a secret: \.env/);
  assert.doesNotMatch(stderr, /tide@|ida/);
  assert.deepEqual(
    asked.filter((line) => line.startsWith('other')),
    [],
  );
  const rows: readonly (readonly [path: string, problem: RegExp])[] = [
    ['to-disk.js', /sends on to what is no web address: file:\/\/\/etc\/passwd/],
    ['round.js', /sends on more than 20 times/],
  ];
  for (const [path, problem] of rows) {
    const outcome = await cravelLater(folder, 'adopt', `http://${host}/${path}`, '--as', 'x');
    assert.equal(outcome.code, 2);
    assert.match(outcome.stderr, problem);
  }
  // A name and a password go to the host that they were given for only.
  await cravelLater(folder, 'adopt', `http://ida:tide@${host}/private.js`, '--as', 'x');
  assert.deepEqual(
    asked.filter((line) => line.startsWith('other')),
    ['other /private.js '],
  );
});

test('a kept project takes no secrets, no hidden files but those of the web, and no links that lead out', (t) => {
  // biome-ignore format: one line a sort
  const left = [
    '.pgpass', '.envrc', '.docker/config.json', '.kube/config', '.bash_history', 'wp-config.php', 'terraform.tfstate', 'id_rsa.bak', 'auth.json',
    '.ssh/id_ed25519', 'server.pem', 'backup/.env.old', 'db/database.yml~', 'keys/site.p12', 'my.kdbx', 'service-account-ferry.json', '.hidden.txt', '.config/a.json', 'secrets.yaml',
  ];
  const kept = [
    'index.html',
    '.well-known/security.txt',
    '.htaccess',
    '.nojekyll',
    'password.html',
    'js/secret-door.js',
    'data/tides.json',
    'css/key.css',
  ];
  const folder = temporaryFolder(
    t,
    Object.fromEntries([
      ...left.map((path) => [`ferry/${path}`, SECRET]),
      ...kept.map((path) => [`ferry/${path}`, page]),
    ]),
  );
  writeFileSync(join(folder, 'outside.html'), SECRET);
  mkdirSync(join(folder, 'outside'));
  writeFileSync(join(folder, 'outside/a.html'), SECRET);
  for (const [from, to] of [
    ['../outside.html', 'out.html'],
    ['../outside', 'out'],
    ['index.html', 'in.html'],
    ['data', 'more'],
    ['..', 'up'],
    ['.pgpass', 'innocent.txt'],
    ['nowhere', 'dangling'],
  ] as const)
    symlinkSync(from, join(folder, 'ferry', to));
  const { code, stderr } = cravel(folder, 'keep', 'ferry', 'line');
  assert.equal(code, 0, stderr);
  const { paths, leaks } = contentOf(join(folder, '.local/share/cravel/starters/line'));
  assert.deepEqual(leaks, []);
  assert.deepEqual(paths, [...kept, 'in.html', 'more/tides.json', 'starter.yaml'].sort());
  for (const path of left)
    assert.ok(
      stderr.includes(path) || stderr.includes(`${dirname(path)}/`) || / and \d+ more/.test(stderr),
      path,
    );
  assert.match(stderr, /Left out, a link that leads out of the folder: /);
});
