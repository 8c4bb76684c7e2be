/** The rules, in the order they are asked: the first one with something to say speaks for a reference. */
import type { Rule, RuleFacts } from './rule.ts';
import { absent } from './rules/absent.ts';
import { absentAnchor } from './rules/absent-anchor.ts';
import { beyondSite } from './rules/beyond-site.ts';
import { letterCase } from './rules/letter-case.ts';
import { noIndex } from './rules/no-index.ts';
import { partDrift } from './rules/part-drift.ts';

export const rules: readonly Rule[] = [beyondSite, noIndex, letterCase, absent, absentAnchor];

/** Every rule there is. */
export const allRules: readonly RuleFacts[] = [...rules, partDrift];
