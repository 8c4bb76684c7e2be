/** How a run ends where it cannot go on as usual: signals, full disks, closed pipes, and what `--out` points to. */
import assert from 'node:assert/strict';
import { spawn, spawnSync } from 'node:child_process';
import { once } from 'node:events';
import {
  chmodSync,
  linkSync,
  lstatSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  readlinkSync,
  statSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { join } from 'node:path';
import { test } from 'node:test';
import { cravel, programFile, projectFolder } from '../support/program.ts';
import { temporaryFolder } from '../support/site.ts';

const page = '<!doctype html><html lang="en"><title>Ferry</title><img src="pier.svg" alt="">';
const isWindows = process.platform === 'win32';

/** Calls the program through a shell. */
function shell(folder: string, command: string) {
  const call = command.replaceAll('cravel', `"${process.execPath}" "${programFile}"`);
  return spawnSync('bash', ['-c', call], { cwd: folder, encoding: 'utf8' });
}

test('--out replaces files, follows links, writes through what is no file, and refuses what it should', {
  skip: isWindows,
}, (t) => {
  const folder = temporaryFolder(t, {
    'site/index.html': page,
    'private.json': 'old',
    'closed.json': 'old',
    'real.json': 'old',
  });
  const inFolder = (name: string) => join(folder, name);
  chmodSync(inFolder('private.json'), 0o600);
  chmodSync(inFolder('closed.json'), 0o444);
  symlinkSync('real.json', inFolder('link.json'));
  symlinkSync('nowhere.json', inFolder('dangling.json'));
  mkdirSync(inFolder('folder'));
  const report = (out: string) => shell(folder, `cravel check site --as json --out ${out}`);
  const refused: readonly (readonly [out: string, problem: RegExp])[] = [
    ['closed.json', /closed\.json is marked read-only/],
    ['dangling.json', /it is a link that leads nowhere/],
    ['folder', /it is a folder, not a file/],
    ['missing/report.json', /it does not exist/],
    ['x'.repeat(300), /its name is too long/],
    ['/dev/full', /the disk is full/],
  ];
  for (const [out, problem] of refused) {
    const { status, stderr } = report(out);
    assert.equal(status, 2, out);
    assert.match(stderr, problem);
    assert.match(stderr, /Nothing was written/);
  }
  assert.equal(readFileSync(inFolder('closed.json'), 'utf8'), 'old');
  assert.equal(report('private.json').status, 1);
  assert.equal(statSync(inFolder('private.json')).mode & 0o777, 0o600);
  assert.equal(JSON.parse(readFileSync(inFolder('private.json'), 'utf8')).cravel, 2);
  assert.equal(report('link.json').status, 1);
  assert.equal(readlinkSync(inFolder('link.json')), 'real.json');
  assert.equal(JSON.parse(readFileSync(inFolder('real.json'), 'utf8')).cravel, 2);
  linkSync(inFolder('real.json'), inFolder('other-name.json'));
  writeFileSync(inFolder('real.json'), 'old');
  assert.equal(report('other-name.json').status, 1);
  assert.equal(JSON.parse(readFileSync(inFolder('real.json'), 'utf8')).cravel, 2);
  assert.equal(report('/dev/null').status, 1);
  assert.ok(lstatSync('/dev/null').isCharacterDevice());
  const piped = shell(folder, 'cravel check site --as json --out >(cat > copy.json; echo done >&2); wait');
  assert.match(piped.stderr, /done/);
  assert.equal(JSON.parse(readFileSync(inFolder('copy.json'), 'utf8')).cravel, 2);
  assert.deepEqual(
    readdirSync(folder).filter((name) => name.startsWith('.')),
    [],
  );
});

test('what does not arrive whole is told, and a reader that has seen enough is no fault', {
  skip: isWindows,
}, (t) => {
  const folder = temporaryFolder(t, { 'index.html': page, 'a.css': 'b{}' });
  const rows: readonly (readonly [command: string, status: number, stderr: RegExp])[] = [
    ['cravel check > /dev/full', 2, /^What was to be shown did not arrive whole: the disk is full/],
    ['cravel check --as json > /dev/full', 2, /did not arrive whole/],
    ['cravel --help > /dev/full', 2, /did not arrive whole/],
    ['cravel wire a.css --dry-run > /dev/full', 2, /did not arrive whole/],
    ['set -o pipefail; cravel check | true', 1, /^$/],
    ['set -o pipefail; cravel check --as json | head -1 > /dev/null', 1, /^$/],
    ['cravel check 2>&- > /dev/null', 1, /^$/],
    ['cravel check >&- 2>&-', 1, /^$/],
  ];
  for (const [command, status, stderr] of rows) {
    const outcome = shell(folder, command);
    assert.equal(outcome.status, status, `${command}: ${outcome.stderr}`);
    assert.match(outcome.stderr, stderr, command);
  }
});

test('a signal is obeyed: every file is old or new, and nothing is left behind', {
  skip: isWindows,
}, async (t) => {
  const pages = Object.fromEntries(Array.from({ length: 40 }, (_, index) => [`p${index}.html`, page]));
  const slow = join(projectFolder, 'test/support/slow-renames.mjs');
  for (const [signal, code] of [
    ['SIGINT', 130],
    ['SIGTERM', 143],
    ['SIGHUP', 129],
  ] as const) {
    const folder = temporaryFolder(t, { ...pages, 'a.css': 'b{}' });
    const child = spawn(process.execPath, ['--import', slow, programFile, 'wire', 'a.css'], { cwd: folder });
    // The first file is in place: the change is on its way.
    await once(child.stderr, 'data');
    child.kill(signal);
    const [exitCode] = await once(child, 'close');
    assert.equal(exitCode, code);
    const wired = Object.keys(pages).filter((name) => readFileSync(join(folder, name), 'utf8') !== page);
    assert.ok(wired.length === 0 || wired.length === 40, `${wired.length} of 40`);
    assert.ok(!readdirSync(folder).includes('.cravel'));
  }
});

test('names that are no UTF-8 are told by name and never taken for another file', {
  skip: process.platform !== 'linux',
}, (t) => {
  const folder = temporaryFolder(t, {
    'site/index.html': page,
    'site/\uFFFD.txt': '',
    'site/pier.svg': '<svg xmlns="http://www.w3.org/2000/svg"/>',
  });
  const odd = (name: string) => Buffer.concat([Buffer.from(`${folder}/site/`), Buffer.from(name, 'latin1')]);
  writeFileSync(odd('\xe9.html'), 'not this');
  writeFileSync(odd('\xff.txt'), '');
  const { code, stdout } = cravel(folder, 'check', 'site', '--only', 'broken');
  assert.equal(code, 2);
  assert.match(stdout, /Not read: \\xe9\.html: its name is not written in UTF-8: rename it\./);
  assert.match(stdout, /Not read: \\xff\.txt: /);
  const kept = cravel(folder, 'keep', 'site', 'isle');
  assert.equal(kept.code, 0, kept.stderr);
  assert.match(kept.stderr, /Left out, a name that is not written in UTF-8: \\xe9\.html, \\xff\.txt\./);
});
