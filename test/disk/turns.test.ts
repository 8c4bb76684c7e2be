/** Runs that want one project at the same time take turns, whoever of them is killed. */
import assert from 'node:assert/strict';
import { type ChildProcess, spawn } from 'node:child_process';
import { once } from 'node:events';
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { test } from 'node:test';
import { setTimeout } from 'node:timers/promises';
import { Worker } from 'node:worker_threads';
import { asWritten } from '../../src/disk/disk-path.ts';
import { mkdirSync } from '../../src/disk/fs.ts';
import { buildTurns } from '../support/built-turns.ts';
import { temporaryFolder } from '../support/site.ts';

/** Turns in all for each number of runs; `npm run long` has many more. */
const TURNS = Number(process.env.CRAVEL_TURNS ?? 48);

for (const runs of [2, 4, 8]) {
  test(`${runs} runs at once never meet, and go on where one of them is killed`, async (t) => {
    const folder = temporaryFolder(t);
    const program = join(temporaryFolder(t), 'turns.mjs');
    buildTurns(program);
    const start = (times: number): ChildProcess =>
      spawn(process.execPath, [program, folder, String(times)], { stdio: ['ignore', 'ignore', 'pipe'] });
    const each = Math.ceil(TURNS / runs);
    const all = Array.from({ length: runs }, () => start(each));
    const problems: string[] = [];
    for (const child of all) child.stderr?.on('data', (text) => problems.push(String(text)));
    const done = () =>
      existsSync(join(folder, 'turns')) ? readFileSync(join(folder, 'turns'), 'utf8').length : 0;
    const ended = Promise.all(all.map((child) => once(child, 'close')));
    // One in three runs is killed on its way, in its turn or out of it.
    for (const [index, child] of all.entries()) {
      if (index % 3 !== 1) continue;
      while (done() < ((index + 1) / runs) * TURNS * 0.5 && child.exitCode === null) await setTimeout(3);
      child.kill('SIGKILL');
    }
    await ended;
    assert.deepEqual(problems, []);
    const overlaps = join(folder, 'overlaps');
    assert.equal(existsSync(overlaps) ? readFileSync(overlaps, 'utf8') : '', '', 'two were in at once');
    const whole = all.filter(({ signalCode }) => signalCode === null).length;
    assert.ok(done() >= whole * each, `${done()} turns of ${TURNS}`);
    // Whoever comes next cleans up after the dead.
    const last = start(1);
    await once(last, 'close');
    assert.deepEqual(
      readdirSync(folder).filter((name) => name === '.cravel'),
      [],
    );
  });
}

test('a folder that another run takes away at any moment is made again', async (t) => {
  const folder = join(temporaryFolder(t), 'a');
  const takesAway =
    "const { rmdirSync } = require('fs'); for (;;) try { rmdirSync(require('worker_threads').workerData) } catch {}";
  const other = new Worker(takesAway, { eval: true, workerData: folder });
  t.after(() => other.terminate());
  await once(other, 'online');
  for (const end = performance.now() + 300; performance.now() < end; )
    mkdirSync(asWritten(folder), { recursive: true });
});
