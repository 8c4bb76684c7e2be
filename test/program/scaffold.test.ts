import assert from 'node:assert/strict';
import { chmodSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { test } from 'node:test';
import { cravel, projectFolder } from '../support/program.ts';
import { temporaryFolder } from '../support/site.ts';

const tree = (folder: string) => readdirSync(folder, { recursive: true }).map(String).sort();
const starters = readdirSync(join(projectFolder, 'starters'));

test('every starter lays out a project whose check is clean, whatever the blanks', (t) => {
  const folder = temporaryFolder(t);
  for (const starter of starters) {
    const name = `ferry-${starter}`;
    const set = ['--set', "author=O'Hara & <Sons>", '--set', 'description="Quoted" 🚢 مرفأ'];
    const made = cravel(
      folder,
      'scaffold',
      name,
      '--starter',
      starter,
      '--title',
      '<Gull> & "Haven"',
      ...set,
    );
    assert.deepEqual(
      [made.code, made.stderr],
      [
        0,
        `Laid out ${made.stderr.match(/\d+ files/)?.[0]} from the starter ${starter}. Next: cravel check ${name}\n`,
      ],
    );
    for (const path of tree(join(folder, name)))
      assert.ok(made.stdout.includes(path.split('/').at(-1) as string), path);
    assert.match(
      readFileSync(join(folder, name, starter === 'source' ? 'src/index.html' : 'index.html'), 'utf8'),
      /<title>&lt;Gull&gt; &amp; &quot;Haven&quot;<\/title>/,
    );
    const checked = cravel(folder, 'check', name);
    assert.equal(checked.code, 0, checked.stdout);
    assert.match(checked.stdout, /Every reference holds/);
  }
});

test("a starter's texts are told once the first of them was replaced, until none is left", (t) => {
  const folder = temporaryFolder(t);
  cravel(folder, 'scaffold', 'ferry', '--starter', 'flat');
  const index = join(folder, 'ferry/index.html');
  const filler = () => {
    const { stdout } = cravel(folder, 'check', 'ferry', '--only', 'filler', '--as', 'json');
    return JSON.parse(stdout).findings.map(({ file, line, message }: Record<string, unknown>) => [
      file,
      line,
      message,
    ]);
  };
  const replace = (from: string | RegExp, to: string) =>
    writeFileSync(index, readFileSync(index, 'utf8').replace(from, to));
  assert.deepEqual(filler(), []);
  replace('The one thing that a visitor should remember.', 'Six crossings a day.');
  assert.deepEqual(filler(), [
    [
      'index.html',
      7,
      "“Ferry: what we do, how it works, and how to reach us.” is still the starter's, and so are 6 more texts of this page",
    ],
  ]);
  replace(/Ferry: what we do[^"<]*/g, 'Over to the isle.');
  replace(/<(dd|p)>[^<]+<\/\1>/g, '<$1>Ours.</$1>');
  assert.deepEqual(filler(), []);
});

test('files go where --set says, pages come from a list, and a section of that name gives way', (t) => {
  const folder = temporaryFolder(t, {
    'pages.yaml': 'pages:\n  - tides\n  - { path: contact, title: Contact, description: How to reach us. }\n',
  });
  const set = ['styles-file=look/ferry.css', 'script-file=code/run.js', 'pictures-folder=pictures'];
  const names = set.flatMap((pair) => ['--set', pair]);
  const made = cravel(folder, 'scaffold', 'site', '--pages-from', 'pages.yaml', '--pages', 'about', ...names);
  assert.equal(made.code, 0, made.stderr);
  const site = join(folder, 'site');
  assert.deepEqual(
    tree(site).filter((path) => path.includes('.')),
    'about.html code/run.js contact.html cravel.yaml index.html look/ferry.css pictures/icon.svg pictures/opening.svg tides.html'.split(
      ' ',
    ),
  );
  const nav = /<nav[\s\S]*?<\/nav>/.exec(readFileSync(join(site, 'index.html'), 'utf8'))?.[0] ?? '';
  assert.deepEqual(
    Array.from(nav.matchAll(/href="([^"]*)"/g), ([, href]) => href),
    ['about.html', '#work', 'contact.html', 'tides.html'],
  );
  assert.match(
    readFileSync(join(site, 'cravel.yaml'), 'utf8'),
    /styles: look, scripts: code, images: pictures/,
  );
  assert.match(readFileSync(join(site, 'contact.html'), 'utf8'), /content="How to reach us\."/);
  // What the starter put in place of a description is not carried on.
  assert.match(readFileSync(join(site, 'tides.html'), 'utf8'), /content="Tides\. Site"/);
  mkdirSync(join(site, 'models'));
  writeFileSync(
    join(site, 'models/page.html'),
    '<!doctype html><html lang="en"><title>x</title><body><main>Model</main></body></html>',
  );
  writeFileSync(
    join(site, 'cravel.yaml'),
    `${readFileSync(join(site, 'cravel.yaml'), 'utf8')}leave-out: [models/**]\n`,
  );
  assert.equal(cravel(site, 'page', 'fares', '--like', 'models/page.html', '--in-nav').code, 0);
  assert.match(readFileSync(join(site, 'fares.html'), 'utf8'), /<title>Fares · Site<\/title>/);
  const checked = cravel(folder, 'check', 'site');
  assert.match(checked.stdout, /Read \d+ references in 5 pages/);
  const bad = cravel(folder, 'scaffold', 'other', '--set', 'styles-file=../x.css');
  assert.deepEqual(
    [bad.code, /styles-file cannot be "\.\.\/x\.css"/.test(bad.stderr)],
    [2, true],
    bad.stderr,
  );
});

test('a scaffolded folder is open to the web server like any other', (t) => {
  const folder = temporaryFolder(t);
  mkdirSync(join(folder, 'other'));
  cravel(folder, 'scaffold', 'site');
  assert.equal(statSync(join(folder, 'site')).mode, statSync(join(folder, 'other')).mode);
});

test('a dry run shows the same tree and writes nothing', (t) => {
  const folder = temporaryFolder(t);
  const dry = cravel(folder, 'scaffold', 'site', '--dry-run');
  assert.deepEqual(tree(folder), []);
  assert.equal(dry.code, 0);
  assert.equal(dry.stdout, cravel(folder, 'scaffold', 'site').stdout);
});

test('what stands in the way is never overwritten; --fill-in adds the rest', (t) => {
  const folder = temporaryFolder(t, { 'site/index.html': 'mine', 'site/css/own.css': '' });
  const before = tree(folder);
  const refused = cravel(folder, 'scaffold', 'site');
  assert.equal(refused.code, 2);
  assert.match(refused.stderr, /site already has index\.html; nothing was written\.\n.*--fill-in/);
  assert.deepEqual(tree(folder), before);
  const filled = cravel(folder, 'scaffold', 'site', '--fill-in');
  assert.equal(filled.code, 0);
  assert.match(filled.stdout, /index\.html +kept as it is/);
  assert.equal(readFileSync(join(folder, 'site/index.html'), 'utf8'), 'mine');
  assert.ok(tree(folder).includes('site/js/main.js'));
});

test('a bad call is told what to do, writes nothing and exits with 2', (t) => {
  const folder = temporaryFolder(t, { file: 'x', 'blocked/css': 'a file where a folder is needed' });
  const before = tree(folder);
  const rows: readonly (readonly [args: readonly string[], expected: RegExp])[] = [
    [['My Site'], /My Site is not a safe name.*\nUse this name instead: my-site/],
    [['日本'], /not a safe name.*\nChoose a name such as: my-site/],
    [['file'], /file is a file, not a folder/],
    [
      ['site', '--starter', 'ship'],
      /no starter named ship\.\nChoose one of: assets, bare, flat, folders, pages, source, stage\./,
    ],
    [['site', '--starter', '../../x'], /no starter named/],
    [['site', '--set', 'author'], /--set author has no equals sign\.\nWrite it as/],
    [['site', '--set', 'colour=red'], /no blank named colour\.\nIts blanks are: title/],
    [
      ['site', '--set', 'language=English please'],
      /language cannot be "English please"\.\nUse a language tag/,
    ],
    [['site', '--title', ''], /title cannot be ""/],
    [['blocked', '--fill-in'], /blocked: .*a file stands where a folder is needed/],
    [[], /missing required argument/],
    [['site', '--colour'], /unknown option/],
  ];
  for (const [args, expected] of rows) {
    const { code, stdout, stderr } = cravel(folder, 'scaffold', ...args);
    assert.equal(code, 2, args.join(' '));
    assert.match(stderr, expected, args.join(' '));
    assert.doesNotMatch(stderr, /\n\s+at /, 'no stack trace');
    assert.equal(stdout, '');
    assert.deepEqual(tree(folder), before, args.join(' '));
  }
});

test('a folder that cannot be written is left alone', { skip: process.getuid?.() === 0 }, (t) => {
  const folder = temporaryFolder(t);
  mkdirSync(join(folder, 'locked'));
  chmodSync(join(folder, 'locked'), 0o555);
  const { code, stderr } = cravel(folder, 'scaffold', 'locked/site');
  assert.equal(code, 2);
  assert.match(stderr, /not permitted/);
});

test('a parent that is a file is told as such', (t) => {
  const folder = temporaryFolder(t);
  writeFileSync(join(folder, 'file'), '');
  const { code, stderr } = cravel(folder, 'scaffold', 'file/site');
  assert.deepEqual([code, /a file stands where a folder is needed/.test(stderr)], [2, true], stderr);
});
