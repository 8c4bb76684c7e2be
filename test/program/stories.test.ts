/** The stories in the docs, run word for word. */
import assert from 'node:assert/strict';
import { spawnSync } from 'node:child_process';
import { cpSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { test } from 'node:test';
import { programFile, projectFolder } from '../support/program.ts';
import { temporaryFolder } from '../support/site.ts';

const stories = join(projectFolder, 'docs/stories');
const names = readdirSync(stories).filter((name) => name !== 'README.md');

/** The first block of a kind in a page of the docs. */
function block(text: string, kind: string): string {
  return (
    new RegExp(`^\`\`\`${kind}\n([\\s\\S]*?)^\`\`\`$`, 'm').exec(text)?.[1] ?? assert.fail(`no ${kind} block`)
  );
}

test('there are fourteen stories, and the list names them all', () => {
  assert.equal(names.length, 14);
  const list = readFileSync(join(stories, 'README.md'), 'utf8');
  for (const name of names) assert.ok(list.includes(`(${name})`), name);
});

for (const name of names) {
  const text = readFileSync(join(stories, name), 'utf8');
  test(`story: ${text.slice(2, text.indexOf('\n'))}`, (t) => {
    const folder = temporaryFolder(t);
    cpSync(join(projectFolder, 'demo/gullhaven'), join(folder, 'ferry-by-hand'), { recursive: true });
    cpSync(join(projectFolder, 'demo/downloads'), join(folder, 'downloads'), { recursive: true });
    mkdirSync(join(folder, 'bin'));
    const run = `#!/bin/sh\nexec "${process.execPath}" "${programFile}" "$@"\n`;
    writeFileSync(join(folder, 'bin/cravel'), run, { mode: 0o755 });
    // What a person types, with its notes in the same place as its results.
    const { status, stdout } = spawnSync(
      'bash',
      ['-euo', 'pipefail', '-c', `exec 2>&1\n${block(text, 'sh')}`],
      {
        cwd: folder,
        env: { PATH: `${join(folder, 'bin')}:${process.env.PATH}`, HOME: folder },
        encoding: 'utf8',
      },
    );
    assert.equal(status, 0, stdout);
    let from = 0;
    for (const line of block(text, 'text').trimEnd().split('\n')) {
      const at = stdout.indexOf(line, from);
      assert.ok(at >= 0, `"${line}" is missing, or stands elsewhere, in:\n${stdout}`);
      from = at + line.length;
    }
  });
}
