/** Picks findings by their grades and rules. */

import { fail } from '../errors.ts';
import { type Finding, grades } from '../report.ts';
import { nearestNames } from '../site/near-names.ts';
import { allRules } from './index.ts';

/** Says of a finding whether one of `names`, grades or rules, is its own. Throws a `CravelError` for a name of neither. */
export function picker(names: readonly string[]): (finding: Pick<Finding, 'rule' | 'grade'>) => boolean {
  const known = [...grades, ...allRules.map(({ name }) => name)];
  const stranger = names.find((name) => !known.includes(name));
  if (stranger !== undefined) throw fail('unknown-rule', stranger, nearestRules(stranger, known));
  const wanted = new Set(names);
  return ({ rule, grade }) => wanted.has(rule) || wanted.has(grade);
}

/** The rules, or others of `known`, that were probably meant: names nearly the same, else ones that end in the same words. */
export function nearestRules(name: string, known: readonly string[]): string {
  const near = nearestNames(name, known);
  const rest = name.slice(name.indexOf('-'));
  return near !== '' || !rest.startsWith('-')
    ? near
    : known.filter((one) => one.slice(one.indexOf('-')) === rest).join(', ');
}
