/** Findings by their cause: what one change to the site would settle. */
import { groupBy } from '../group-by.ts';
import { type Cause, type Finding, grades } from '../report.ts';
import type { Step } from '../site/walk.ts';
import { isOfAnyFile } from './grading.ts';
import { allRules } from './index.ts';

const rules = new Map(allRules.map((rule) => [rule.name, rule]));

/**
 * Findings by cause: the same rule about the same target, meant the same way. Worst grade first, what no page loads last
 * of its grade, then the causes with the most findings. `reach` gives the number of pages among files and of those that
 * load any of them.
 */
export function causesOf(
  findings: readonly Finding[],
  reach: { pagesOf(files: ReadonlySet<string>, loads: boolean): number },
): readonly Cause[] {
  const causes = [...groupBy(findings, keyOfCause).values()] as [Finding, ...Finding[]][];
  return causes
    .map((all): Cause => {
      const { rule, grade, message } = all[0];
      const files = new Set(all.map(({ file }) => file));
      return {
        rule,
        grade,
        message,
        findings: all,
        files: files.size,
        // What is said of a site harms the pages that it is said of.
        pages: reach.pagesOf(files, isOfAnyFile(rule)),
        mend: mendOf(all),
      };
    })
    .sort(byHarm);
}

function byHarm(one: Cause, other: Cause): number {
  return (
    grades.indexOf(one.grade) - grades.indexOf(other.grade) ||
    Number(other.findings[0].reached) - Number(one.findings[0].reached) ||
    other.findings.length - one.findings.length
  );
}

function mendOf(findings: Cause['findings']): string | null {
  const command = rules.get(findings[0].rule)?.command;
  if (command !== undefined) return command;
  const title = findings[0].mends[0]?.title ?? null;
  return findings.every(({ mends }) => mends[0]?.title === title) ? title : null;
}

function keyOfCause({ rule, grade, reached, target, written, mends, walk }: Finding): string {
  const kind = `${rule} ${grade} ${reached}`;
  const cause = rules.get(rule)?.cause;
  if (cause === 'rule') return kind;
  if (cause === 'folder' && mends.length === 0) return [kind, ...foldersOutside(walk)].join('\n');
  const start = written.includes('#') ? written.indexOf('#') : written.length;
  const fragment = rule === 'absent-anchor' ? written.slice(start) : '';
  return [kind, target ?? written.slice(0, start), fragment].join('\n');
}

/** The folders of a walk from where it leaves the site. */
function foldersOutside(walk: readonly Step[]): string[] {
  return walk
    .filter(({ step, found }) => !found && step !== 'file')
    .map(({ step, name }) => `${step} ${name}`);
}
