/** Writes the pages of the docs that are made from the code: one for each rule, and their list. */
import { mkdirSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { allRules } from '../src/core/judge/index.ts';
import { ruleAsPage, rulesAsPage } from '../src/show/rules.ts';

const folder = join(import.meta.dirname, '../docs/rules');
mkdirSync(folder, { recursive: true });
for (const name of readdirSync(folder)) rmSync(join(folder, name));
for (const rule of allRules) writeFileSync(join(folder, `${rule.name}.md`), ruleAsPage(rule));
writeFileSync(join(folder, 'README.md'), rulesAsPage(allRules));
