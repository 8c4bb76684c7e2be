/** The rules, in the order they are asked: the first one with something to say speaks for a reference. */
import type { Rule } from './rule.ts';
import { absent } from './rules/absent.ts';
import { absentAnchor } from './rules/absent-anchor.ts';
import { beyondSite } from './rules/beyond-site.ts';
import { letterCase } from './rules/letter-case.ts';
import { noIndex } from './rules/no-index.ts';

export const rules: readonly Rule[] = [beyondSite, noIndex, letterCase, absent, absentAnchor];
