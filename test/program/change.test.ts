import assert from 'node:assert/strict';
import {
  chmodSync,
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import { test } from 'node:test';
import { tgzOf, tideclock, wrapped, zipOf } from '../support/library.ts';
import { cravel, cravelLater } from '../support/program.ts';
import { type Files, temporaryFolder } from '../support/site.ts';

const read = (folder: string, path: string) => readFileSync(join(folder, path), 'utf8');
const tree = (folder: string) => readdirSync(folder, { recursive: true }).map(String).sort();

const NAV =
  '<!-- Part: nav --><nav><a href="index.html" aria-current="page">Home</a></nav><!-- End of part: nav -->';
const ferry: Files = {
  'index.html': `<!doctype html>\n<html lang="en">\n<head>\n  <meta charset="utf-8">\n  <title>Gullhaven Ferry</title>\n  <meta name="description" content="Over to the island.">\n  <link rel="stylesheet" href="css/main.css">\n</head>\n<body>\n  ${NAV}\n  <main>\n    <h1>Home</h1>\n  </main>\n</body>\n</html>\n`,
  'piers/north.html':
    '<!doctype html>\n<title>North</title>\n<link rel="stylesheet" href="../css/main.css">\n<p>North\n',
  'css/main.css': 'body { margin: 0; }\n',
  'css/print.css': '',
  'js/tides.js': '',
};

test('a dry run of every command shows a diff, and the call itself does just that', (t) => {
  const calls: readonly (readonly [args: readonly string[], diff: RegExp])[] = [
    [
      ['wire', 'css/print.css'],
      /^--- index\.html\n\+\+\+ index\.html\n@@ -5,6 \+5,7 @@\n[\s\S]*\n\+ {2}<link rel="stylesheet" href="css\/print\.css">\n/,
    ],
    [
      ['page', 'timetable', '--in-nav'],
      /^--- index\.html\n[\s\S]*--- \/dev\/null\n\+\+\+ timetable\.html\n[\s\S]*\+ {2}<title>Timetable · Gullhaven Ferry<\/title>/,
    ],
    [['parts'], /^--- piers\/north\.html\n[\s\S]*\+<!-- Part: nav --><nav><a href="\.\.\/index\.html">Home/],
    [
      ['adopt', 'tide.zip', '--wire'],
      /^--- \/dev\/null\n\+\+\+ cravel\.yaml\n[\s\S]*changed file|new file lib\/tideclock\/fonts\/tide\.woff2, 8 bytes/,
    ],
  ];
  for (const [args, diff] of calls) {
    const folder = temporaryFolder(t, { ...ferry, 'tide.zip': zipOf(wrapped(tideclock)) });
    const before = tree(folder).map((path) => (path.includes('.') ? read(folder, path) : path));
    const dry = cravel(folder, ...args, '--dry-run');
    assert.deepEqual([dry.code, /nothing was written/.test(dry.stderr)], [0, true], dry.stderr);
    assert.match(dry.stdout, diff);
    assert.deepEqual(
      tree(folder).map((path) => (path.includes('.') ? read(folder, path) : path)),
      before,
    );
    const real = cravel(folder, ...args);
    assert.deepEqual(
      [real.code, real.stdout.split('\n').length - 1],
      [0, Number(/(\d+) files? would change/.exec(dry.stderr)?.[1])],
      real.stderr,
    );
    const checked = cravel(folder, 'check');
    assert.equal(checked.code, 0, checked.stdout);
    assert.ok(!existsSync(join(folder, '.cravel')));
  }
});

test('wire says what it did, does nothing twice, and takes out what it put in', (t) => {
  const folder = temporaryFolder(t, ferry);
  const before = read(folder, 'piers/north.html');
  const first = cravel(folder, 'wire', 'css/print.css', 'js/tides.js', '--into', 'piers/**');
  assert.deepEqual(
    [first.stdout, first.stderr],
    ['changed  piers/north.html\n', 'Wired into 1 of 1 page.\n'],
  );
  assert.match(
    read(folder, 'piers/north.html'),
    /main\.css">\n<link rel="stylesheet" href="\.\.\/css\/print\.css">\n<p>North\n<script src="\.\.\/js\/tides\.js"><\/script>\n$/,
  );
  const again = cravel(folder, 'wire', 'css/print.css', 'js/tides.js', '--into', 'piers/**');
  assert.deepEqual([again.code, again.stdout], [0, '']);
  assert.match(again.stderr, /^Nothing to do: css\/print\.css, js\/tides\.js are wired/);
  const rest = cravel(folder, 'wire', 'css/print.css');
  assert.equal(rest.stderr, 'Wired into 1 of 2 pages; 1 had it already.\n');
  cravel(folder, 'wire', '--remove', 'css/print.css', 'js/tides.js');
  assert.equal(read(folder, 'piers/north.html'), before);
  assert.equal(read(folder, 'index.html'), ferry['index.html']);
});

test('wire takes addresses of other hosts, one build for the other, and modules for what they are', (t) => {
  const folder = temporaryFolder(t, { ...ferry, 'js/tides.min.js': '', 'js/map.js': 'import "./tides.js";' });
  const host = 'https://cdn.gullhaven.example/clock.js';
  const rows: readonly (readonly [args: readonly string[], code: number, says: RegExp, page: RegExp])[] = [
    [['js/tides.js'], 0, /^Wired into 2 of 2 pages/, /<script src="\.\.\/js\/tides\.js"><\/script>\n$/],
    [
      ['js/tides.min.js'],
      0,
      /^Put js\/tides\.min\.js in the place of its other build, on 2 pages\.\nWired into 2 of 2/,
      /<script src="\.\.\/js\/tides\.min\.js"><\/script>\n$/,
    ],
    [['js/map.js'], 0, /^Wired/, /<script type="module" src="\.\.\/js\/map\.js"><\/script>\n/],
    [
      [host, '--integrity', 'sha384-abc='],
      0,
      /^Wired/,
      /<script src="https:\/\/cdn\.gullhaven\.example\/clock\.js" integrity="sha384-abc=" crossorigin="anonymous"><\/script>\n<script src="\.\.\/js\/tides/,
    ],
    [[host], 0, /^Nothing to do: https:.* is wired/, /clock/],
    [[host, '--integrity', 'md5-abc'], 2, /--integrity must be a digest such as sha384-/, /clock/],
    [
      ['css/main.css', '--integrity', 'sha384-abc'],
      2,
      /css\/main\.css lies in the site, and needs no/,
      /clock/,
    ],
    [['--remove', host], 0, /^Taken out of 2 of 2/, /^(?![\s\S]*clock)/],
  ];
  for (const [args, code, says, page] of rows) {
    const outcome = cravel(folder, 'wire', ...args);
    assert.equal(outcome.code, code, outcome.stderr);
    assert.match(outcome.stderr, says);
    assert.match(read(folder, 'piers/north.html'), page, args.join(' '));
  }
});

test('pages get words of their own and know their navigation', (t) => {
  const folder = temporaryFolder(t, ferry);
  const words = [
    '--title',
    'Tides & times',
    '--description',
    '"Every" crossing',
    '--title',
    'Fares',
    '--description',
    'What it costs',
  ];
  const { code, stderr } = cravel(folder, 'page', 'piers/times', 'fares', ...words, '--in-nav');
  assert.deepEqual([code, stderr], [0, 'Made 2 pages: piers/times.html, fares.html.\n']);
  const page = read(folder, 'piers/times.html');
  assert.match(
    page,
    /<title>Tides &amp; times<\/title>\n {2}<meta name="description" content="&quot;Every&quot; crossing">\n {2}<link rel="stylesheet" href="\.\.\/css\/main\.css">/,
  );
  assert.match(
    page,
    /<nav><a href="\.\.\/index\.html">Home<\/a> <a href="times\.html" aria-current="page">Tides &amp; times<\/a> <a href="\.\.\/fares\.html">Fares<\/a><\/nav>/,
  );
  assert.match(page, /<main>\n {4}<h1>Tides &amp; times<\/h1>\n {2}<\/main>/);
  assert.match(read(folder, 'index.html'), /<a href="piers\/times\.html">Tides &amp; times<\/a>/);
  const like = cravel(folder, 'page', 'south', '--like', 'piers/north.html');
  assert.equal(like.code, 0, like.stderr);
  assert.match(
    read(folder, 'south.html'),
    /<title>South · Gullhaven Ferry<\/title>\n.*\n<link rel="stylesheet" href="css\/main\.css">\n<h1>South<\/h1>/s,
  );
});

test('parts are marked, copied, left alone where pages differ, and brought into step', (t) => {
  const plain = {
    ...ferry,
    'index.html': String(ferry['index.html']).replace(/<!-- (?:Part|End of part): nav -->/g, ''),
    'own.html': '<nav>own</nav>',
    'same.html': '<nav><a href="index.html">Home</a></nav>',
  };
  const folder = temporaryFolder(t, plain);
  const marked = cravel(folder, 'parts', '--add', 'navigation', '--from', 'body > nav');
  assert.equal(marked.code, 0, marked.stderr);
  assert.match(
    marked.stderr,
    /Left alone, since they have one of their own that differs \(.*--replace\): own\.html \(navigation\)\./,
  );
  assert.match(marked.stderr, /Marked where it stood already: same\.html/);
  assert.match(marked.stderr, /Added where it was missing: piers\/north\.html/);
  assert.equal(read(folder, 'own.html'), '<nav>own</nav>');
  writeFileSync(join(folder, 'index.html'), read(folder, 'index.html').replace('Home</a>', 'Harbour</a>'));
  const drift = cravel(folder, 'check');
  assert.match(
    drift.stdout,
    /piers\/north\.html 4:1 {3}untidy · part-drift\n {4}<!-- Part: navigation -->\n {4}this copy of the part navigation differs from the one in index\.html\n {4}mend {3}cravel parts\n/,
  );
  assert.equal(drift.code, 0, 'untidy findings do not fail a check');
  cravel(folder, 'parts', '--replace');
  assert.match(cravel(folder, 'check').stdout, /Every reference holds/);
  assert.match(read(folder, 'own.html'), /Harbour/);
});

test('a library comes in from every kind of source, and from a host on loopback', async (t) => {
  const folder = temporaryFolder(t, {
    ...ferry,
    ...wrapped(tideclock, 'tideclock-2.3.1'),
    'server.js': 'module.exports = 1;',
    'servers/a.js': 'module.exports = 1;',
  });
  writeFileSync(join(folder, 't.zip'), zipOf(wrapped(tideclock)));
  writeFileSync(join(folder, 't.tgz'), await tgzOf(wrapped(tideclock, 'package')));
  const answers: Record<string, string | Uint8Array> = {
    '/tideclock@2.3.1/dist/css/tideclock.css': String(tideclock['dist/css/tideclock.css']),
    '/tideclock@2.3.1/dist/fonts/tide.woff2': tideclock['dist/fonts/tide.woff2'] as Uint8Array,
    '/tide.tgz': await tgzOf(wrapped(tideclock, 'package')),
    '/page.js': '<!doctype html><title>Not here</title>',
    '/huge.js': new Uint8Array(3e6),
  };
  const server = createServer((request, response) => {
    if (request.url === '/moved.tgz') return void response.writeHead(302, { location: '/tide.tgz' }).end();
    const answer = answers[request.url ?? ''];
    return void (answer === undefined ? response.writeHead(404).end() : response.end(answer));
  });
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  t.after(() => server.close());
  const host = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  const rows: readonly (readonly [args: readonly string[], code: number, says: RegExp])[] = [
    [
      ['tideclock-2.3.1'],
      0,
      /Left, not for pages: docs\/ \(1\), src\/ \(1\), test\/ \(1\)\.\n(?:.*\n)*Took in tideclock, in lib\/tideclock: 3 stylesheets, 1 script, 2 minified builds for release, 4 files beside them/,
    ],
    [['t.zip', '--as', 'zipped'], 0, /Took in zipped, in lib\/zipped: 3 stylesheets/],
    [['t.tgz', '--as', 'tarred', '--needs', 'zipped'], 0, /Took in tarred/],
    [
      ['tideclock-2.3.1/dist/Tideclock-2.3.1.js', '--as', 'single'],
      0,
      /1 script, 1 minified build for release, 1 file beside/,
    ],
    [['t.zip', '--as', 'part', '--take', 'dist/css/theme.css'], 0, /1 stylesheet, 2 files beside/],
    [
      [
        `${host}/tideclock@2.3.1/dist/css/tideclock.css`,
        '--as',
        'hosted',
        '--reach',
        `${host}/tideclock@2.3.1/`,
      ],
      0,
      /1 stylesheet, 1 file beside/,
    ],
    [
      [`${host}/moved.tgz`, '--as', 'moved'],
      0,
      /Fetched from http:.*\/tide\.tgz, where .*\/moved\.tgz leads/,
    ],
    [
      ['t.zip'],
      2,
      /There is a library tideclock already, in lib\/tideclock; nothing was written\.\n.*--replace/,
    ],
    [['t.zip', '--replace'], 0, /Took in tideclock|Nothing to do/],
    [[`${host}/none.js`], 2, /could not be fetched: the host answered 404/],
    [['http://127.0.0.1:1/x.js'], 2, /could not be fetched: no browser asks at that port/],
    [[`${host}/page.js`], 2, /There is no stylesheet and no script in .*page\.js to take/],
    [[`${host}/huge.js`, '--most-megabytes', '1'], 2, /holds more than 1 MB; nothing was taken/],
    [['none.zip'], 2, /There is nothing at none\.zip/],
    [['t.zip', '--as', 'constructor'], 0, /Took in constructor/],
    [['css'], 2, /is no name for a library; say one with --as/],
    [['t.zip', '--as', 'Tide Clock'], 2, /Tide Clock is no name for a library/],
    [
      ['t.zip', '--as', 'x', '--needs', 'sea'],
      2,
      /There is no library named sea to need\.\nAdopt that one first\. There are: /,
    ],
    [
      ['t.zip', '--as', 'x', '--instead-of', 'https://cdn.gullhaven.example/x.js'],
      2,
      /No page, stylesheet or script refers to https/,
    ],
    [
      ['tideclock-2.3.1/dist/Tideclock-2.3.1.min.js', '--as', 'small'],
      0,
      /Took in small, in lib\/small: 1 script\.\n/,
    ],
    [['server.js'], 0, /Pages load server\.js \(for servers: it throws in a browser\)\./],
    [['servers'], 2, /No script in servers runs in a browser: .*\n.*--take/],
    [['t.zip', '--as', 'wired', '--wire'], 0, /Pages load css\/reset\.css, .*\n(?:.*\n)*Wired into/],
    [['--remove', 'zipped'], 2, /zipped is needed by tarred; nothing was taken out/],
    [['--remove', 'zippy'], 2, /There is no library named zippy in cravel\.yaml/],
    [['--remove', 'wired', '--wire'], 2, /--wire says how a library comes in/],
    [
      ['--remove', 'wired'],
      0,
      /Took out wired: 10 files from lib\/wired, what loaded it on 3 pages, and its entry in cravel\.yaml\.\n/,
    ],
    [['t.zip', '--as', 'x', '--most-files', '0'], 2, /--most-files must be a number from 1/],
  ];
  for (const [args, code, says] of rows) {
    const outcome = await cravelLater(folder, 'adopt', ...args);
    assert.equal(outcome.code, code, `${args.join(' ')}\n${outcome.stderr}`);
    assert.match(outcome.stderr, says, args.join(' '));
    assert.doesNotMatch(outcome.stderr, /\n\s+at /, 'no stack trace');
  }
  assert.match(read(folder, 'cravel.yaml'), /tarred:\n(?: {4}.*\n)* {4}needs: \[ zipped \]/);
  assert.ok(existsSync(join(folder, 'lib/hosted/fonts/tide.woff2')));
  assert.match(cravel(folder, 'check').stdout, /Every reference holds/);
});

test('projects are kept as starters without what is secret or ignored, and laid out again', (t) => {
  const folder = temporaryFolder(t, {
    'ferry/index.html':
      '<!doctype html><title>Gullhaven Ferry</title><a href="gullhaven-ferry.html">Gullhaven Ferry</a>{{braces}}',
    'ferry/gullhaven-ferry.html': '<!doctype html><title>T</title>',
    'ferry/js/a.js': 'const name = "Gullhaven Ferry";',
    'ferry/.env': 'KEY=1',
    'ferry/.git/config': '',
    'ferry/node_modules/x/i.js': '',
    'ferry/.gitignore': 'drafts/\n*.psd\n',
    'ferry/drafts/a.html': '',
    'ferry/big.psd': '',
    'ferry/.DS_Store': '',
    'ferry/server.key': '',
  });
  const kept = cravel(
    folder,
    'keep',
    'ferry',
    'small-line',
    '--blank',
    'Gullhaven Ferry=title',
    '--summary',
    'A small line',
  );
  assert.equal(kept.code, 0, kept.stderr);
  assert.match(kept.stderr, /Left out, it may hold a secret: \.env, server\.key\./);
  assert.match(kept.stderr, /Left out, ignored by \.gitignore: big\.psd, drafts\/\./);
  const store = join(folder, '.local/share/cravel/starters/small-line');
  assert.deepEqual(
    tree(store).filter((path) => /\.[a-z]+$/.test(path)),
    ['gullhaven-ferry.html', 'index.html.hbs', 'js/a.js.hbs', 'starter.yaml'],
  );
  assert.match(
    cravel(folder, 'starters').stdout,
    /small-line {2}A small line {2}\(your own\)\nsmall-line\/\n/,
  );
  assert.match(
    cravel(folder, 'starters', 'show', 'small-line').stdout,
    /title {2}What stands in place of "Gullhaven Ferry"\?/,
  );
  const made = cravel(folder, 'scaffold', 'other', '--starter', 'small-line', '--title', `O'Hara "&" <Co>`);
  assert.equal(made.code, 0, made.stderr);
  assert.match(
    read(folder, 'other/index.html'),
    /<title>O&#x27;Hara &quot;&amp;&quot; &lt;Co&gt;<\/title><a href="gullhaven-ferry\.html">O&#x27;Hara.*\{\{braces\}\}/,
  );
  assert.equal(new Function(`${read(folder, 'other/js/a.js')} return name`)(), `O'Hara "&" <Co>`);
  const rows: readonly (readonly [args: readonly string[], says: RegExp])[] = [
    [['ferry', 'small-line'], /There is a starter small-line already; nothing was written\.\n.*--replace/],
    [['ferry', 'pages'], /pages is a starter that comes with Cravel/],
    [['ferry', '../up'], /\.\.\/up is no name for a starter/],
    [['none', 'x'], /There is no folder none/],
    [
      ['ferry', 'x', '--blank', 'Nothing here=title'],
      /None of the project's text files holds "Nothing here"/,
    ],
    [['ferry', 'x', '--blank', 'title'], /--blank title does not say which text/],
    [['ferry', 'x', '--blank', 'Gullhaven Ferry=site'], /site cannot be the name of a blank/],
  ];
  for (const [args, says] of rows) {
    const { code, stderr } = cravel(folder, 'keep', ...args);
    assert.equal(code, 2, args.join(' '));
    assert.match(stderr, says);
  }
  assert.equal(cravel(folder, 'keep', 'ferry', 'small-line', '--replace').code, 0);
  assert.ok(existsSync(join(store, 'index.html')) && !existsSync(join(store, 'index.html.hbs')));
});

test('a broken starter is told with its file and line, and does not spoil the others', (t) => {
  const folder = temporaryFolder(t);
  const manifests: readonly (readonly [name: string, manifest: string, says: RegExp])[] = [
    ['types', 'summary: 3', /types\/starter\.yaml 1:1: summary must be a string/],
    ['unknown', 'summary: x\ncolour: red', /unknown\/starter\.yaml 2:1: colour is not a known key/],
    [
      'escaping',
      'summary: x\nplaces: { styles: ../../etc }',
      /starter\.yaml 2:11: styles must be a folder inside/,
    ],
    ['pattern', 'summary: x\npage: ../page.html', /starter\.yaml 2:1: page must lie inside the starter/],
    ['missing', 'summary: x\npage: page.html', /starter\.yaml 2:1: there is no file page\.html/],
  ];
  for (const [name, manifest] of manifests) {
    mkdirSync(join(folder, '.local/share/cravel/starters', name), { recursive: true });
    writeFileSync(join(folder, '.local/share/cravel/starters', name, 'starter.yaml'), manifest);
  }
  for (const [name, , says] of manifests) {
    const { code, stderr } = cravel(folder, 'scaffold', 'x', '--starter', name);
    assert.deepEqual([code, says.test(stderr)], [2, true], stderr);
  }
  const { code, stdout } = cravel(folder, 'starters');
  assert.equal(code, 0);
  assert.match(stdout, /escaping {2}cannot be used\n/);
  assert.match(stdout, /stage {2}A canvas app/);
});

test('a bad call of a command that changes pages is told what to do, and changes nothing', (t) => {
  const folder = temporaryFolder(t, {
    ...ferry,
    'a.html': '<!-- Part: x -->',
    'frames.html': '<base href="https://gullhaven.example/"><p>x',
  });
  chmodSync(join(folder, 'piers/north.html'), 0o444);
  symlinkSync('/nowhere', join(folder, 'css/gone.css'));
  const before = tree(folder);
  const rows: readonly (readonly [args: readonly string[], says: RegExp])[] = [
    [
      ['wire', 'css/prnt.css'],
      /There is no file css\/prnt\.css in the site\.\nDid you mean: css\/print\.css/,
    ],
    [['wire', 'css/print.css', '--into', 'harbour/**'], /No page matches harbour\/\*\*/],
    [['wire', 'index.html'], /How index\.html is loaded cannot be told by its name\.\nSay it with: --kind/],
    [['wire', 'css/print.css', '--kind', 'paint'], /--kind must be stylesheet, script/],
    [['wire', 'css/print.css', '--into', 'piers/*'], /piers\/north\.html is marked read-only/],
    [['wire', 'css/print.css', '--dir', 'none'], /There is no folder none/],
    [['page', 'index'], /There is a page index\.html already/],
    [['page', 'a', 'b', '--title', 'One'], /There are 1 title for 2 pages/],
    [['page', 'My Page'], /My Page is not a safe name.*\nUse this name instead: my-page/],
    [['page', 'x', '--like', 'indx.html'], /There is no page indx\.html\.\nDid you mean: index\.html\?/],
    [['page', 'x', '--title', ' '], /title cannot be " "/],
    [['page', 'x', '--like', 'frames.html'], /The addresses of frames\.html start on another host/],
    [['parts'], /a\.html 1:1: the part x has no end/],
    [['parts', '--add', 'menu'], /--add needs the other/],
    [['parts', '--add', 'Main Menu', '--from', 'nav'], /Main Menu is no name for a part/],
    [['parts', '--add', 'menu', '--from', 'aside'], /Nothing in index\.html matches aside/],
    [['parts', '--add', 'menu', '--from', '>>'], />> is not a CSS selector/],
    [['parts', '--add', 'nav', '--from', 'main'], /The entry page has a part nav already/],
  ];
  for (const [args, says] of rows) {
    const { code, stdout, stderr } = cravel(folder, ...args);
    assert.equal(code, 2, `${args.join(' ')}\n${stderr}`);
    assert.match(stderr, says, args.join(' '));
    assert.equal(stdout, '');
    assert.doesNotMatch(stderr, /\n\s+at /, 'no stack trace');
    assert.deepEqual(tree(folder), before, args.join(' '));
  }
});

test('new files end their lines as the project says, else as most of its pages do', (t) => {
  const lines = (text: string) => text.replaceAll('\n', '\r\n');
  const page =
    '<!doctype html>\n<html lang="en">\n<head>\n<title>Home</title>\n</head>\n<body>\n<main></main>\n</body>\n</html>\n';
  const rows: readonly (readonly [what: string, files: Files, end: 'CRLF' | 'LF'])[] = [
    ['most', { 'index.html': lines(page), 'b.html': lines(page), 'c.html': page }, 'CRLF'],
    ['most', { 'index.html': page, 'b.html': lines(page), 'c.html': page }, 'LF'],
    ['editors', { 'index.html': page, '.editorconfig': 'root = true\n[*]\nend_of_line = crlf\n' }, 'CRLF'],
    ['other editors', { 'index.html': page, '.editorconfig': '[*.bat]\nend_of_line = crlf\n' }, 'LF'],
    ['versions', { 'index.html': page, '.gitattributes': '# all\n* text=auto eol=crlf\n' }, 'CRLF'],
    ['other versions', { 'index.html': lines(page), '.gitattributes': '*.html text eol=lf\n' }, 'LF'],
  ];
  for (const [what, files, end] of rows) {
    const folder = temporaryFolder(t, { ...files, 'tide.js': 'var Tide = 1;\n' });
    // How it is told is the same for all commands.
    const isWhole = what === 'most';
    for (const call of [
      ['page', 'tides'],
      ...(isWhole ? [['page', 'boats', '--like', 'index.html']] : []),
      ...(isWhole ? [['adopt', 'tide.js', '--as', 'tide']] : []),
      ['scaffold', '.', '--starter', 'flat', '--fill-in', '--yes'],
    ]) {
      const { code, stderr } = cravel(folder, ...call);
      assert.equal(code, 0, `${call.join(' ')}: ${stderr}`);
    }
    for (const name of ['tides.html', ...(isWhole ? ['boats.html', 'cravel.yaml'] : []), 'main.css']) {
      const text = read(folder, name);
      const ends = text.replaceAll('\r\n', '').includes('\n') ? 'LF' : 'CRLF';
      assert.equal(ends, end, `${what}: ${name}`);
    }
    if (isWhole)
      assert.equal(read(folder, 'lib/tide/tide.js'), 'var Tide = 1;\n', 'a library stays byte for byte');
  }
});
