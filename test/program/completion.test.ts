import assert from 'node:assert/strict';
import { spawnSync } from 'node:child_process';
import { test } from 'node:test';
import { cravel } from '../support/program.ts';
import { temporaryFolder } from '../support/site.ts';

test('a shell completes commands, their options and the words that an option takes', (t) => {
  const folder = temporaryFolder(t);
  const { code, stdout: script } = cravel(folder, 'completion', 'bash');
  assert.equal(code, 0);
  const completed = (...words: readonly string[]) => {
    const line = words.map((word) => `'${word}'`).join(' ');
    const call = `${script}\nCOMP_WORDS=(cravel ${line}); COMP_CWORD=${words.length}; _cravel; printf '%s ' "\${COMPREPLY[@]}"`;
    const { stdout, stderr } = spawnSync('bash', ['--norc', '-c', call], { encoding: 'utf8' });
    assert.equal(stderr, '');
    return stdout.trim();
  };
  assert.equal(completed('s'), 'scaffold starters settings');
  assert.equal(completed('wire', '--in'), '--into --integrity');
  assert.equal(completed('wire', 'a.css', '--kind', 's'), 'stylesheet script');
  assert.equal(completed('check', '--as', 'j'), 'json junit');
  // What is no option is a file: the shell's own completion.
  assert.equal(completed('check', 'cs'), '');
  for (const shell of ['zsh', 'fish']) assert.match(cravel(folder, 'completion', shell).stdout, /cravel/);
  assert.match(cravel(folder, 'completion', 'tcsh').stderr, /There are: bash, zsh, fish\./);
});
