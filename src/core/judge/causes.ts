/** Findings by their cause: what one change to the site would settle. */
import { groupBy } from '../group-by.ts';
import { type Finding, grades } from '../report.ts';
import type { Step } from '../site/walk.ts';
import { allRules } from './index.ts';

/** A cause: findings that one change to the site would settle, in the order of the report. */
export type Cause = readonly [Finding, ...Finding[]];

/** What the findings of a rule have in common, where that is not their target. */
const causeOf = new Map(allRules.map(({ name, cause }) => [name, cause]));

/**
 * Findings by cause: the same rule about the same target, meant the same way. Worst grade first, then
 * the causes with the most findings.
 */
export function byCause(findings: readonly Finding[]): Cause[] {
  const causes = [...groupBy(findings, keyOfCause).values()] as [Finding, ...Finding[]][];
  return causes.sort(
    (a, b) => grades.indexOf(a[0].grade) - grades.indexOf(b[0].grade) || b.length - a.length,
  );
}

function keyOfCause({ rule, target, written, mends, walk }: Finding): string {
  const cause = causeOf.get(rule);
  if (cause === 'rule') return rule;
  if (cause === 'folder' && mends.length === 0) return [rule, ...foldersOutside(walk)].join('\n');
  const start = written.includes('#') ? written.indexOf('#') : written.length;
  const fragment = rule === 'absent-anchor' ? written.slice(start) : '';
  return [rule, target ?? written.slice(0, start), fragment].join('\n');
}

/** The folders of a walk from where it leaves the site. */
function foldersOutside(walk: readonly Step[]): string[] {
  return walk
    .filter(({ step, found }) => !found && step !== 'file')
    .map(({ step, name }) => `${step} ${name}`);
}
