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
