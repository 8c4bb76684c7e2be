/** Writes what is made from the code: a page of the docs for each rule, their list, and the schema of cravel.yaml. */
import { mkdirSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { allRules } from '../src/core/judge/index.ts';
import { settingsSchema } from '../src/core/settings/schema.ts';
import { ruleAsPage, rulesAsPage } from '../src/show/rules.ts';

const folder = join(import.meta.dirname, '../docs/rules');
mkdirSync(folder, { recursive: true });
for (const name of readdirSync(folder)) rmSync(join(folder, name));
for (const rule of allRules) writeFileSync(join(folder, `${rule.name}.md`), ruleAsPage(rule));
writeFileSync(join(folder, 'README.md'), rulesAsPage(allRules));

const schemas = join(import.meta.dirname, '../schemas');
mkdirSync(schemas, { recursive: true });
writeFileSync(join(schemas, 'cravel.schema.json'), `${JSON.stringify(settingsSchema(), null, 2)}\n`);
