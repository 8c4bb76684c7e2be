import assert from 'node:assert/strict';
import { execFileSync } from 'node:child_process';
import { readdirSync, readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { test } from 'node:test';

const project = join(import.meta.dirname, '../..');
const source = join(project, 'src');

/** What each room may import from, besides itself: those of the rows above it. */
const rows: readonly (readonly string[])[] = [
  // What stands right in the core by itself.
  [
    'core/bytes.ts',
    'core/errors.ts',
    'core/once-for.ts',
    'core/one-of.ts',
    'core/rising.ts',
    'core/with-commas.ts',
    'core/group-by.ts',
    'core/same.ts',
    'core/change',
  ],
  ['core/site'],
  ['core/shape', 'core/read'],
  ['core/order', 'core/report.ts'],
  ['core/resolve'],
  ['core/mend'],
  ['core/page'],
  ['core/judge', 'core/library'],
  ['core/settings', 'core/check'],
  ['core/starter', 'core/mending'],
  ['core/moving', 'core.ts'],
  ['core/packing', 'core/visiting', 'core/mapping'],
  ['web', 'show'],
  ['disk'],
  ['serve'],
  ['api.ts', 'command'],
  ['cravel.ts'],
];
const rankOf = new Map(rows.flatMap((row, rank) => row.map((room) => [room, rank] as const)));

function roomOf(path: string): string {
  const room = [...rankOf.keys()].find((name) => path === name || path.startsWith(`${name}/`));
  assert.ok(room !== undefined, `${path} lies in no room`);
  return room;
}

const arrows = readdirSync(source, { recursive: true })
  .map(String)
  .filter((path) => path.endsWith('.ts') && !path.endsWith('.d.ts'))
  .flatMap((path) => {
    const text = readFileSync(join(source, path), 'utf8');
    return [...text.matchAll(/(?:from|import\()\s*'([^']+)'/g)].map(([, target]) => ({
      path,
      target: target as string,
    }));
  });

test('arrows go one way: each room imports only from rooms that stand below it', () => {
  assert.ok(arrows.length > 500);
  for (const { path, target } of arrows) {
    if (!target.endsWith('.ts')) continue;
    const [room, led] = [roomOf(path), roomOf(join(path, '..', target))];
    const isBelow = (rankOf.get(led) as number) < (rankOf.get(room) as number);
    assert.ok(isBelow || led === room, `${path} imports ${target}`);
  }
});

test('the core needs nothing of Node, and calls of the disk stand in one file', () => {
  for (const { path, target } of arrows) {
    // They are for places alone, and nobody is given a raw one.
    if (/^(?:node:)?fs(?:\/promises)?$/.test(target))
      assert.equal(path, 'disk/fs.ts', `${path} imports ${target}`);
    if (target.endsWith('/fs.ts')) assert.equal(path.split('/')[0], 'disk', `${path} imports ${target}`);
    if (path.startsWith('core')) assert.ok(!target.startsWith('node:'), `${path} imports ${target}`);
  }
  const compiler = createRequire(import.meta.url).resolve('typescript/package.json');
  const compile = [join(dirname(compiler), 'bin/tsc'), '-p', join(project, 'tsconfig.core.json')];
  execFileSync(process.execPath, compile, { stdio: 'inherit' });
});
