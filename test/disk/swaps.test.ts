/** Somebody else is at work in the project while a change is carried out: nothing outside is touched, nothing is lost. */
import assert from 'node:assert/strict';
import { once } from 'node:events';
import { cpSync, existsSync, lstatSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { test } from 'node:test';
import { Worker } from 'node:worker_threads';
import { CravelError } from '../../src/core/errors.ts';
import { commit, whileLocked } from '../../src/disk/journal.ts';
import { bytesOf, temporaryFolder } from '../support/site.ts';

/** Swaps that are tried; `npm run long` has a thousand. */
const SWAPS = Number(process.env.CRAVEL_SWAPS ?? 25);
const FILES = 12;
const paths = Array.from({ length: FILES }, (_, index) => `sub/p${index}.html`);

/** In a thread of its own: puts a link in the place of the folder, and the folder back, over and over. */
const swapper = `
const { renameSync, symlinkSync, unlinkSync } = require('node:fs');
const { parentPort, workerData: { folder, outside, flag } } = require('node:worker_threads');
const state = new Int32Array(flag);
parentPort.on('message', () => {
  for (let at = 0; Atomics.load(state, 0) === 1; at++) {
    try {
      renameSync(folder + '/sub', folder + '/kept');
      symlinkSync(outside, folder + '/sub');
      for (let spin = (at * 7919) % 5000; spin > 0; spin--);
      unlinkSync(folder + '/sub');
      renameSync(folder + '/kept', folder + '/sub');
    } catch {}
    for (let spin = (at * 104729) % 9000; spin > 0; spin--);
  }
  parentPort.postMessage('done');
});`;

test('a folder that turns into a link at any moment leads no change out of the project', {
  skip: process.platform !== 'linux',
}, async (t) => {
  const folder = temporaryFolder(t, Object.fromEntries(paths.map((path) => [path, 'old'])));
  const outside = temporaryFolder(t, Object.fromEntries(paths.map((path) => [path.slice(4), 'old'])));
  const flag = new SharedArrayBuffer(4);
  const state = new Int32Array(flag);
  const worker = new Worker(swapper, { eval: true, workerData: { folder, outside, flag } });
  t.after(() => worker.terminate());
  const outcomes = { made: 0, refused: 0 };
  for (let round = 0; round < SWAPS; round++) {
    Atomics.store(state, 0, 1);
    worker.postMessage('go');
    const files = paths.map((path) => ({ path, before: bytesOf('old'), after: bytesOf('new') }));
    try {
      await whileLocked(folder, () => commit(folder, { title: 'swap', files, folders: [] }));
      outcomes.made++;
    } catch (error) {
      // While the folder is away there is no such file, which the system says in its own words.
      assert.ok(
        error instanceof CravelError || (error as NodeJS.ErrnoException).code === 'ENOENT',
        String(error),
      );
      outcomes.refused++;
    }
    const done = once(worker, 'message');
    Atomics.store(state, 0, 0);
    await done;
    for (const name of readdirSync(outside))
      assert.equal(readFileSync(join(outside, name), 'utf8'), 'old', `round ${round}: ${name} outside`);
    assert.equal(readdirSync(outside).length, FILES);
    // What could not be taken back while the folder was away is, by the next run.
    await whileLocked(folder, () => {});
    // The folder is back, or stands aside where what was in it was put back in its place meanwhile.
    const aside = join(folder, 'kept');
    for (const path of paths) {
      const places = [join(folder, path), join(aside, path.slice(4))].filter((place) => existsSync(place));
      assert.ok(places.length > 0, `round ${round}: ${path} is lost`);
      for (const place of places) assert.match(readFileSync(place, 'utf8'), /^(?:old|new)$/);
    }
    if (!existsSync(aside)) {
      assert.ok(lstatSync(join(folder, 'sub')).isDirectory());
      const now = new Set(paths.map((path) => readFileSync(join(folder, path), 'utf8')));
      assert.equal(now.size, 1, `round ${round}: ${[...now]}`);
    }
    rmSync(aside, { recursive: true, force: true });
    rmSync(join(folder, 'sub'), { recursive: true });
    cpSync(outside, join(folder, 'sub'), { recursive: true });
    assert.ok(!existsSync(join(folder, '.cravel/change')));
  }
  assert.equal(outcomes.made + outcomes.refused, SWAPS);
});
