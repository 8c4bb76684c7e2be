/** The recipe for a rule in CONTRIBUTING, followed word for word on a copy of the core. */
import assert from 'node:assert/strict';
import { cpSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { test } from 'node:test';
import { pathToFileURL } from 'node:url';
import { tsImport } from 'tsx/esm/api';
import { projectFolder } from '../support/program.ts';

const recipe = readFileSync(join(projectFolder, 'CONTRIBUTING.md'), 'utf8');
/** The code of the recipe: the rule's file, and the two lines in the index. */
const [file = '', lines = ''] = [...recipe.matchAll(/^```ts\n([\s\S]*?)^```/gm)].map(([, code = '']) => code);

test('a rule that is added as CONTRIBUTING says is asked, also of references that nothing else is to be said of', async (t) => {
  const [, name] = /^\/\*\* ([a-z-]+):/.exec(file) ?? [];
  const [importLine = '', entryLine = ''] = lines.trim().split('\n');
  // Within the project, where packages are found.
  const cache = join(projectFolder, 'node_modules/.cache/cravel');
  mkdirSync(cache, { recursive: true });
  const copy = mkdtempSync(join(cache, 'recipe-'));
  t.after(() => rmSync(copy, { recursive: true, force: true }));
  cpSync(join(projectFolder, 'src/core'), join(copy, 'core'), { recursive: true });
  writeFileSync(join(copy, `core/judge/rules/${name}.ts`), file);
  const index = join(copy, 'core/judge/index.ts');
  const text = readFileSync(index, 'utf8');
  const list = 'export const addressRules: readonly Rule[] = [';
  assert.ok(text.includes(list));
  writeFileSync(index, `${importLine}\n${text.replace(list, `${list}\n${entryLine}`)}`);

  // Written in the language of the sources, as the recipe has it.
  const load = (file: string) => tsImport(pathToFileURL(join(copy, file)).href, import.meta.url);
  const { startCheck } = await load('core/check/check.ts');
  const { makeInventory } = await load('core/site/inventory.ts');
  const page = new TextEncoder().encode('<a href="old-fares.html">Fares</a> <a href="fares.html">Fares</a>');
  const read = () => page;
  const check = startCheck(makeInventory(['index.html', 'fares.html', 'old-fares.html']), {
    headOf: read,
    digestOf: () => null,
  });
  for (const path of check.wanted) check.take(path, page);
  const { findings } = check.report('site', read);
  const said = findings.filter(({ rule }: { rule: string }) => rule === name);
  assert.deepEqual(
    said.map(({ file, written }: { file: string; written: string }) => `${file} ${written}`),
    ['fares.html', 'index.html', 'old-fares.html'].map((path) => `${path} old-fares.html`),
  );
});
