/** Writes what is made from the code: pages of the docs for rules, the options of commands, and the schemas. */
import { mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { declarations } from '../src/command/declarations.ts';
import { allRules } from '../src/core/judge/index.ts';
import { settingsSchema } from '../src/core/settings/schema.ts';
import { reportSchema } from '../src/show/report-schema.ts';
import { ruleAsPage, rulesAsPage } from '../src/show/rules.ts';
import { withOptions } from './option-table.ts';

const docs = join(import.meta.dirname, '../docs');
const folder = join(docs, 'rules');
mkdirSync(folder, { recursive: true });
for (const name of readdirSync(folder)) rmSync(join(folder, name));
for (const rule of allRules) writeFileSync(join(folder, `${rule.name}.md`), ruleAsPage(rule));
writeFileSync(join(folder, 'README.md'), rulesAsPage(allRules));

for (const [name, declaration] of Object.entries(declarations)) {
  const page = join(docs, 'commands', `${name}.md`);
  writeFileSync(page, withOptions(readFileSync(page, 'utf8'), declaration));
}

const schemas = join(import.meta.dirname, '../schemas');
mkdirSync(schemas, { recursive: true });
for (const [name, schema] of Object.entries({ cravel: settingsSchema(), report: reportSchema() }))
  writeFileSync(join(schemas, `${name}.schema.json`), `${JSON.stringify(schema, null, 2)}\n`);
