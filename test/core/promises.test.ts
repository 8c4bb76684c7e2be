/** Every promise in docs/trust.md is held by a test that there is. */
import assert from 'node:assert/strict';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { test } from 'node:test';
import { projectFolder } from '../support/program.ts';

test('each promise names tests that hold it, and each of them is there', () => {
  const text = readFileSync(join(projectFolder, 'docs/trust.md'), 'utf8');
  const promises = text
    .split(/^\| promise \| held by \|\n\|---\|---\|\n/m)
    .slice(1)
    .flatMap((table) => (/^(?:\|.*\n)+/.exec(table)?.[0] ?? '').trim().split('\n'));
  assert.ok(promises.length > 20);
  for (const row of promises) {
    const [, promise = '', held = ''] =
      row.split(' | ').length === 2 ? (/^\| (.*) \| (.*) \|$/.exec(row) ?? []) : [];
    const tests = [...held.matchAll(/`(test\/[^`]+\.test\.ts)`: \*([^*]+)\*/g)];
    assert.ok(promise !== '' && tests.length > 0, `no test holds: ${row}`);
    for (const [, file = '', title = ''] of tests) {
      const source = readFileSync(join(projectFolder, file), 'utf8');
      const titles = [...source.matchAll(/^\s*test\(\s*(?:'((?:[^'\\]|\\.)*)'|`([^`]*)`)/gm)].map(
        ([, one, other]) => one ?? other ?? '',
      );
      assert.ok(
        titles.some((one) => one.endsWith(title)),
        `${file} has no test "${title}", which is to hold: ${promise}`,
      );
    }
  }
});
