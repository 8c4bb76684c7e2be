/** What an earlier run left unfinished: what is said of it, and what becomes of it. */
import assert from 'node:assert/strict';
import { createHash } from 'node:crypto';
import {
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  renameSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { join } from 'node:path';
import { type TestContext, test } from 'node:test';
import { commit } from '../../src/disk/journal.ts';
import { cravel } from '../support/program.ts';
import { bytesOf, temporaryFolder } from '../support/site.ts';

const hash = (text: string) => createHash('sha256').update(text).digest('hex');
const page = (word: string) => `<!doctype html><html lang="en"><title>${word}</title>`;
const BEGUN = 'wire css/print\\.css, begun 2026-11-01 10:30';

/** A project whose index page was replaced by a change that had not come to its end; `now` is what stands there. */
function unfinished(t: TestContext, now: string, files: readonly object[] = []): string {
  const entry = { path: 'index.html', before: hash(page('old')), after: hash(page('new')) };
  const manifest = {
    cravel: 1,
    title: 'wire css/print.css',
    begun: '2026-11-01T10:30:00.000Z',
    files: [entry, ...files],
    folders: ['made/'],
  };
  return temporaryFolder(t, {
    'index.html': now,
    'made/new.html': page('made'),
    '.cravel/change/old-0': page('old'),
    '.cravel/change/manifest.json': JSON.stringify(manifest),
    '.cravel/change/ready': '',
  });
}

const settle = (folder: string) => cravel(folder, 'wire', '--remove', 'css/none.css');

test('commands that only read say that a change stands unfinished, and end with 2; the next change takes it back', (t) => {
  const made = { path: 'made/new.html', before: null, after: hash(page('made')) };
  const folder = unfinished(t, page('new'), [made]);
  for (const args of [['check'], ['settings'], ['wire', 'index.html', '--kind', 'icon', '--dry-run']]) {
    const { code, stderr } = cravel(folder, ...args);
    assert.equal(code, 2, args.join(' '));
    assert.match(
      stderr,
      new RegExp(`A change stands unfinished here \\(${BEGUN}\\): some files may be new, some old`),
    );
  }
  const kept = cravel(folder, 'keep', '.', 'line');
  assert.equal(kept.code, 2);
  assert.match(kept.stderr, /a change stands unfinished \(wire css\/print\.css\)\.\nCall that command again/);
  const { code, stderr } = settle(folder);
  assert.equal(code, 0);
  assert.match(
    stderr,
    new RegExp(`not come to its end \\(${BEGUN}\\): it was taken back, and 2 files are as before\\.`),
  );
  assert.equal(readFileSync(join(folder, 'index.html'), 'utf8'), page('old'));
  assert.deepEqual(readdirSync(folder), ['index.html']);
  assert.doesNotMatch(settle(folder).stderr, /not come to its end/);
});

test('what was edited since stays, and what it was before is set aside', (t) => {
  const folder = unfinished(t, page('mine'));
  const { code, stderr } = settle(folder);
  assert.equal(code, 0);
  assert.match(
    stderr,
    /index\.html was changed since, and stays so; what it was before is in \.cravel\/set-aside\/index\.html\./,
  );
  assert.equal(readFileSync(join(folder, 'index.html'), 'utf8'), page('mine'));
  assert.equal(readFileSync(join(folder, '.cravel/set-aside/index.html'), 'utf8'), page('old'));
  assert.ok(existsSync(join(folder, 'made/new.html')), 'what the change did not make stays');
});

test('what does not come from Cravel is refused, and nothing is touched', (t) => {
  const outside = { path: '../outside.html', before: null, after: hash('mine') };
  const rows: readonly (readonly [what: string, prepare: (folder: string) => void])[] = [
    ['no JSON', (folder) => writeFileSync(join(folder, '.cravel/change/manifest.json'), '{"cravel":1,')],
    [
      'another shape',
      (folder) => writeFileSync(join(folder, '.cravel/change/manifest.json'), '{"cravel":1}'),
    ],
  ];
  for (const [what, prepare] of rows) {
    const folder = unfinished(t, page('new'));
    prepare(folder);
    assert.match(
      settle(folder).stderr,
      /manifest\.json does not say what Cravel writes there\.\nNothing was touched/,
      what,
    );
    assert.equal(readFileSync(join(folder, 'index.html'), 'utf8'), page('new'));
  }
  const around = temporaryFolder(t, { 'outside.html': 'mine' });
  const folder = join(around, 'project');
  renameSync(unfinished(t, page('new'), [outside]), folder);
  assert.match(settle(folder).stderr, /does not say what Cravel writes there/);
  assert.equal(readFileSync(join(around, 'outside.html'), 'utf8'), 'mine');
  for (const make of [
    (path: string) => writeFileSync(path, 'mine'),
    (path: string) => symlinkSync(around, path),
  ]) {
    const project = temporaryFolder(t, { 'index.html': page('x'), 'a.css': 'b{}' });
    make(join(project, '.cravel'));
    const before = readdirSync(around);
    const { code, stderr } = cravel(project, 'wire', 'a.css');
    assert.equal(code, 2);
    assert.match(stderr, /stands a \.cravel that is not the folder Cravel works in/);
    assert.deepEqual(readdirSync(around), before);
  }
});

test('whatever somebody else does between the look and the rename, the change is taken back and their work stays', async (t) => {
  const before = { 'a.html': 'a', 'sub/b.html': 'b' };
  const files = Object.entries(before).map(([path, text]) => ({
    path,
    before: bytesOf(text),
    after: bytesOf(text.toUpperCase()),
  }));
  const more = { path: 'sub/c.html', before: null, after: bytesOf('C') };
  const rows: readonly (readonly [
    what: string,
    act: (folder: string, out: string) => void,
    problem: RegExp,
    file: string,
    text: string,
  ])[] = [
    [
      'an edit',
      (folder) => writeFileSync(join(folder, 'sub/b.html'), 'mine'),
      /sub\/b\.html was changed by somebody else/,
      'sub/b.html',
      'mine',
    ],
    [
      'a new file',
      (folder) => writeFileSync(join(folder, 'sub/c.html'), 'mine'),
      /sub\/c\.html was changed by somebody else/,
      'sub/c.html',
      'mine',
    ],
    [
      'a folder that turns into a link',
      (folder, out) => {
        renameSync(join(folder, 'sub'), join(out, 'sub'));
        symlinkSync(join(out, 'sub'), join(folder, 'sub'));
      },
      /sub\/b\.html lies outside of the project/,
      'sub/b.html',
      'b',
    ],
    [
      'a file that turns into a folder',
      (folder) => {
        renameSync(join(folder, 'a.html'), join(folder, 'old.html'));
        mkdirSync(join(folder, 'a.html'));
      },
      /a\.html was changed by somebody else/,
      'old.html',
      'a',
    ],
  ];
  for (const [what, act, problem, file, text] of rows) {
    const folder = temporaryFolder(t, before);
    const out = temporaryFolder(t);
    // The change was planned, and its files are being written beside their places.
    const change = commit(folder, { title: 'test', files: [...files, more], folders: [] });
    act(folder, out);
    await assert.rejects(change, problem, what);
    assert.equal(readFileSync(join(folder, file), 'utf8'), text, what);
    if (what !== 'a file that turns into a folder')
      assert.equal(readFileSync(join(folder, 'a.html'), 'utf8'), 'a', what);
    assert.ok(!existsSync(join(folder, '.cravel')), what);
  }
});
