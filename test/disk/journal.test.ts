import assert from 'node:assert/strict';
import { spawn, spawnSync } from 'node:child_process';
import { once } from 'node:events';
import {
  chmodSync,
  existsSync,
  linkSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { hostname } from 'node:os';
import { join } from 'node:path';
import { test } from 'node:test';
import { setTimeout } from 'node:timers/promises';
import fc from 'fast-check';
import type { Change } from '../../src/core/change/files.ts';
import { CravelError } from '../../src/core/errors.ts';
import { below } from '../../src/disk/disk-path.ts';
import { commit, whileLocked } from '../../src/disk/journal.ts';
import { cravel, programFile } from '../support/program.ts';
import { bytesOf, type Files, temporaryFolder } from '../support/site.ts';

/** A change from some files to others; null takes a file away. */
function changeTo(before: Files, after: Readonly<Record<string, string | null>>): Change {
  const files = Object.entries(after).map(([path, text]) => ({
    path,
    before: before[path] === undefined ? null : bytesOf(before[path]),
    after: text === null ? null : bytesOf(text),
  }));
  return { title: 'test', files, folders: [] };
}

function contentIn(folder: string): Record<string, string> {
  const paths = readdirSync(folder, { recursive: true }).map(String);
  const files = paths.filter((path) => statSync(join(folder, path)).isFile());
  return Object.fromEntries(files.map((path) => [path, readFileSync(join(folder, path), 'utf8')]));
}

test('a change is carried out as a whole: files made, changed and taken away, modes kept, nothing left behind', async (t) => {
  const before = { 'a.html': 'a', 'old/b.css': 'b', 'c.js': 'c' };
  const folder = temporaryFolder(t, before);
  chmodSync(join(folder, 'a.html'), 0o640);
  await commit(folder, changeTo(before, { 'a.html': 'A', 'old/b.css': null, 'new/deep/d.svg': 'd' }));
  assert.deepEqual(contentIn(folder), { 'a.html': 'A', 'c.js': 'c', 'new/deep/d.svg': 'd' });
  assert.deepEqual(readdirSync(folder).sort(), ['a.html', 'c.js', 'new']);
  assert.equal(statSync(join(folder, 'a.html')).mode & 0o777, 0o640);
});

test('whatever stands in the way of one file, every file stays as it was', async (t) => {
  const before = { 'a.html': 'a', 'b.html': 'b', 'z.html': 'z' };
  const rows: readonly (readonly [
    what: string,
    prepare: (folder: string) => void,
    after: Record<string, string | null>,
    problem: RegExp,
  ])[] = [
    [
      'read-only',
      (folder) => chmodSync(join(folder, 'z.html'), 0o444),
      { 'a.html': 'A', 'z.html': 'Z' },
      /z\.html is marked read-only/,
    ],
    [
      'one file under several names',
      (folder) => linkSync(join(folder, 'z.html'), join(folder, '../backup.html')),
      { 'a.html': 'A', 'z.html': 'Z' },
      /z\.html is one file under several names/,
    ],
    [
      'changed by somebody',
      (folder) => writeFileSync(join(folder, 'z.html'), 'other'),
      { 'a.html': 'A', 'z.html': 'Z' },
      /z\.html was changed by somebody else/,
    ],
    [
      'made by somebody',
      (folder) => writeFileSync(join(folder, 'new.html'), 'other'),
      { 'a.html': 'A', 'new.html': 'N' },
      /new\.html was changed/,
    ],
    [
      'gone',
      (folder) => rmSync(join(folder, 'z.html')),
      { 'a.html': 'A', 'z.html': 'Z' },
      /it does not exist/,
    ],
    [
      'a link that leads out',
      (folder) => {
        writeFileSync(join(folder, '../outside.html'), 'z');
        rmSync(join(folder, 'z.html'));
        symlinkSync('../outside.html', join(folder, 'z.html'));
      },
      { 'a.html': 'A', 'z.html': 'Z' },
      /z\.html lies outside of the project/,
    ],
    [
      'a folder that is a link out',
      (folder) => {
        mkdirSync(join(folder, '../out'));
        symlinkSync('../out', join(folder, 'out'));
      },
      { 'a.html': 'A', 'out/n.html': 'N' },
      /out\/n\.html lies outside/,
    ],
    [
      'a file where a folder is needed, met half-way',
      () => {},
      { 'a.html': 'A', 'b.html/n.html': 'N' },
      /a file stands where a folder is needed/,
    ],
  ];
  for (const [what, prepare, after, problem] of rows) {
    const folder = below(temporaryFolder(t), 'project');
    mkdirSync(folder);
    for (const [path, text] of Object.entries(before)) writeFileSync(join(folder, path), text);
    prepare(folder);
    const was = contentIn(folder);
    await assert.rejects(
      () => commit(folder, changeTo(before, after)),
      (error) => error instanceof CravelError && problem.test(error.message),
      what,
    );
    assert.deepEqual(contentIn(folder), was, what);
    assert.ok(!existsSync(join(folder, '.cravel')), what);
  }
});

test('a file behind a link inside the project is changed where it lies', async (t) => {
  const folder = temporaryFolder(t, { 'real/a.html': 'a' });
  symlinkSync('real/a.html', join(folder, 'a.html'));
  await commit(folder, changeTo({ 'a.html': 'a' }, { 'a.html': 'A' }));
  assert.equal(readFileSync(join(folder, 'real/a.html'), 'utf8'), 'A');
});

test('any change, wherever it fails, leaves all or nothing', async (t) => {
  const path = fc.constantFrom('a', 'b', 'x/a', 'x/b', 'x/y/c', 'wall');
  const state = fc.dictionary(path, fc.constantFrom('1', '2'), { maxKeys: 4 });
  await fc.assert(
    fc.asyncProperty(
      state,
      fc.dictionary(path, fc.constantFrom('1', '2', null), { minKeys: 1 }),
      fc.boolean(),
      async (start, wanted, wall) => {
        const folder = temporaryFolder(t, start);
        // A file below what is a file cannot be made.
        const after: Record<string, string | null> = wall ? { ...wanted, 'wall/in': 'x' } : wanted;
        if (wall) writeFileSync(join(folder, 'wall'), start.wall ?? 'w');
        const before: Record<string, string> = wall ? { ...start, wall: start.wall ?? 'w' } : start;
        const possible = Object.entries(after).filter(
          ([file, text]) => text !== null || before[file] !== undefined,
        );
        let done = true;
        try {
          await commit(folder, changeTo(before, Object.fromEntries(possible)));
        } catch (error) {
          assert.ok(error instanceof CravelError);
          done = false;
        }
        const expected = Object.entries({ ...before, ...(done ? after : {}) }).filter(
          ([, text]) => text !== null,
        );
        assert.deepEqual(contentIn(folder), Object.fromEntries(expected));
        assert.equal(done, !(wall && possible.some(([file]) => file === 'wall/in') && after.wall !== null));
      },
    ),
    { numRuns: 60 },
  );
});

test('a disk that fills leaves the project as it was', (t) => {
  const folder = temporaryFolder(t, {
    'site/index.html': '<title>x</title>',
    'big.js': 'x'.repeat(300_000),
    'small.css': 'b{}',
  });
  const site = join(folder, 'site');
  // The shell's limit on the size of a file stands in for a full disk.
  const call = `ulimit -f 100; trap '' XFSZ; exec "${process.execPath}" "${programFile}" adopt ../big.js --wire`;
  const { status, stderr } = spawnSync('bash', ['-c', call], { cwd: site, encoding: 'utf8' });
  assert.equal(status, 2, stderr);
  assert.match(stderr, /larger than is allowed/);
  assert.deepEqual(contentIn(site), { 'index.html': '<title>x</title>' });
});

test('two runs never change one project at once, the second one waits, and claims of dead processes do not count', async (t) => {
  const folder = temporaryFolder(t, { 'index.html': '<title>x</title>', 'a.css': '' });
  await whileLocked(folder, async () => {
    const told: string[] = [];
    const second = whileLocked(folder, () => 'held', {
      patience: 0,
      waiting: (owner) => void told.push(owner),
    });
    await assert.rejects(
      second,
      /Another run of cravel is changing .* \(process \d+ on .*, since .*\)\.\nWait until it is done, and call again/,
    );
    assert.equal(cravel(folder, 'wire', 'a.css', '--dry-run').code, 0, 'a dry run needs no lock');
  });
  assert.ok(!existsSync(join(folder, '.cravel')));
  let isDone = false;
  const first = whileLocked(folder, async () => {
    await setTimeout(100);
    isDone = true;
  });
  assert.ok(await whileLocked(folder, () => isDone));
  await first;
  const gone = spawn(process.execPath, ['-e', '0']);
  await once(gone, 'exit');
  mkdirSync(join(folder, '.cravel'));
  const owner = { process: gone.pid, host: hostname(), since: 'long ago', started: '', boot: '' };
  writeFileSync(join(folder, '.cravel/claim-1.json'), JSON.stringify(owner));
  const { code, stderr } = cravel(folder, 'wire', 'a.css');
  assert.deepEqual([code, stderr], [0, 'Wired into 1 of 1 page.\n']);
  assert.ok(!existsSync(join(folder, '.cravel')));
  // Of another machine nobody can tell.
  const away = { ...owner, host: 'another-machine', since: new Date().toISOString() };
  mkdirSync(join(folder, '.cravel'));
  writeFileSync(join(folder, '.cravel/claim-2.json'), JSON.stringify(away));
  await assert.rejects(
    whileLocked(folder, () => {}, { patience: 0 }),
    /on another-machine, since [\s\S]*gone for good, call again with: --take-over/,
  );
  const taken = cravel(folder, 'wire', '--remove', 'a.css', '--take-over');
  assert.deepEqual([taken.code, taken.stderr], [0, 'Taken out of 1 of 1 page.\n']);
  assert.ok(!existsSync(join(folder, '.cravel')));
});
