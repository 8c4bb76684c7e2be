import assert from 'node:assert/strict';
import { execFileSync } from 'node:child_process';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { test } from 'node:test';
import { withOptions } from '../../scripts/option-table.ts';
import { declarations } from '../../src/command/declarations.ts';
import { htmlCases } from '../corpus/html-cases.ts';
import { cases } from '../corpus/reference-cases.ts';
import { projectFolder } from '../support/program.ts';
import { temporaryFolder } from '../support/site.ts';

const text = (path: string) => readFileSync(join(projectFolder, path), 'utf8');
const names = Object.keys(declarations);

test('the docs list every command, and of each the options and examples that it has', () => {
  const listed = [...text('README.md').matchAll(/^\| `cravel ([a-z]+)/gm)].map(([, name]) => name);
  assert.deepEqual(listed, names);
  const pages = readdirSync(join(projectFolder, 'docs/commands')).sort();
  assert.deepEqual(pages, names.map((name) => `${name}.md`).sort());
  for (const [name, declaration] of Object.entries(declarations)) {
    const page = text(`docs/commands/${name}.md`);
    assert.equal(withOptions(page, declaration), page, `npm run docs: ${name}`);
  }
});

test('what the docs count is so many', () => {
  const stories = readdirSync(join(projectFolder, 'docs/stories')).length - 1;
  const rows: readonly (readonly [path: string, pattern: RegExp, amount: string])[] = [
    ['docs/decisions.md', /(\d+) cases are opened in one/, String(cases.length)],
    ['docs/reading.md', /for (\d+) nasty pages/, String(htmlCases.length)],
    ['README.md', /\[(\w+) everyday stories\]/, ['Thirteen', 'Fourteen', 'Fifteen'][stories - 13] as string],
  ];
  for (const [path, pattern, amount] of rows) assert.equal(pattern.exec(text(path))?.[1], amount, path);
});

test('the examples of the library run as they stand in the docs', (t) => {
  const folder = temporaryFolder(t, {
    'gullhaven-ferry/index.html': '<!doctype html><img src="pier.svg" alt="">',
  });
  const [check, core] = [...text('docs/api.md').matchAll(/^```js\n([\s\S]*?)^```/gm)].map(([, code = '']) =>
    code.replace(/from '(cravel.*)'/, (_all, name: string) => {
      const file = { cravel: 'api.js', 'cravel/core': 'core.js' }[name] as string;
      return `from ${JSON.stringify(join(projectFolder, 'dist', file))}`;
    }),
  );
  const run = (code = '') =>
    execFileSync(process.execPath, ['--input-type=module', '--eval', code], {
      cwd: folder,
      encoding: 'utf8',
    });
  assert.match(
    run(check),
    /^index\.html 1:26 absent: there is no file pier\.svg in the site's root \(1, on 1\)$/m,
  );
  assert.match(run(core), /^absent pier\.svg$/m);
});
