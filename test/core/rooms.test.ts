import assert from 'node:assert/strict';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { test } from 'node:test';

const source = join(import.meta.dirname, '../../src');
const rooms = ['core', 'disk', 'show', 'serve', 'command'];
/** What each room may import from, besides itself. */
const open: Readonly<Record<string, readonly string[]>> = {
  core: [],
  disk: ['core'],
  show: ['core'],
  serve: ['core', 'disk', 'show'],
  command: ['core', 'disk', 'show', 'serve'],
};

test('arrows go one way: command to show, serve, disk to core, and the core stands alone', () => {
  const arrows = readdirSync(source, { recursive: true })
    .map(String)
    .filter((path) => path.endsWith('.ts'))
    .flatMap((path) => {
      const text = readFileSync(join(source, path), 'utf8');
      return [...text.matchAll(/(?:from|import\()\s*'([^']+)'/g)].map(([, target]) => ({
        path,
        target: target as string,
      }));
    });
  assert.ok(arrows.length > 50);
  for (const { path, target } of arrows) {
    const room = path.split('/')[0] as string;
    // Calls of the disk are for places alone, and stand in one file, which gives nobody a raw one.
    if (/^(?:node:)?fs(?:\/promises)?$/.test(target))
      assert.equal(path, 'disk/fs.ts', `${path} imports ${target}`);
    if (target.endsWith('/fs.ts')) assert.equal(room, 'disk', `${path} imports ${target}`);
    if (room === 'core') assert.ok(!target.startsWith('node:'), `${path} imports ${target}`);
    if (!rooms.includes(room) || !target.startsWith('.')) continue;
    const led = join(path, '..', target).split('/')[0] as string;
    assert.ok(led === room || open[room]?.includes(led), `${path} imports ${target}`);
  }
});
