/** `cravel rules`: lists what the check finds, or explains one rule. */
import { fail } from '../core/errors.ts';
import { allRules, ruleNamed } from '../core/judge/index.ts';
import { nearestRules } from '../core/judge/pick.ts';
import { visible } from '../show/escape.ts';
import { paintFor } from '../show/paint.ts';
import { ruleAsText, rulesAsText } from '../show/rules.ts';
import type { Output } from './output.ts';

export function rules(name: string | undefined, { out, stdout, env }: Output): number {
  const paint = paintFor(stdout, env);
  if (name === undefined) {
    out(rulesAsText(allRules, paint));
    return 0;
  }
  const rule = ruleNamed(name);
  if (rule === undefined) {
    const names = allRules.map((one) => one.name);
    throw fail('unknown-rule', visible(name), nearestRules(name, names));
  }
  out(ruleAsText(rule, paint, Math.min(stdout.columns || 80, 100)));
  return 0;
}
