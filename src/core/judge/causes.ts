/** Findings by their cause: what one change to the site would settle. */
import { groupBy } from '../group-by.ts';
import type { Kind } from '../read/reading.ts';
import { type Cause, type Finding, grades } from '../report.ts';
import type { Step } from '../site/walk.ts';
import { FOR_BUNDLERS, isOfAnyFile, isUnheeded } from './grading.ts';
import { ruleNamed, spotRule } from './index.ts';

/**
 * Findings by cause: the same rule about the same failing step of the walk, or the same target. The worst for visitors
 * first. `reach` gives the number of pages among files and of those that load any of them, `settledBy` a command that
 * settles all findings of a cause otherwise than their mends do.
 */
export function causesOf(
  findings: readonly Finding[],
  reach: { pagesOf(files: ReadonlySet<string>, loads: boolean): number },
  settledBy: (findings: Cause['findings']) => string | null = () => null,
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
        mend: settledBy(all) ?? commandFor(all),
      };
    })
    .sort(byHarm);
}

function byHarm(one: Cause, other: Cause): number {
  return (
    grades.indexOf(one.grade) - grades.indexOf(other.grade) ||
    Number(isUnheeded(one.findings[0])) - Number(isUnheeded(other.findings[0])) ||
    harmOf(one) - harmOf(other) ||
    other.pages - one.pages ||
    other.findings.length - one.findings.length
  );
}

/** What fails for a visitor, the worst first: what the whole page needs, what is seen, ways, spots. */
function harmOf({ rule, findings: [{ kind }] }: Cause): number {
  if (rule === spotRule.name) return 4;
  return kind === null ? 0 : harms[kind];
}

const harms: Readonly<Record<Kind, number>> = {
  stylesheet: 0,
  script: 0,
  module: 0,
  image: 1,
  media: 1,
  font: 1,
  frame: 1,
  icon: 2,
  manifest: 2,
  data: 2,
  page: 3,
  download: 3,
  anchor: 4,
};

/** The command that settles findings of one cause; null where none is known to settle all of them. */
export function commandFor(findings: Cause['findings']): string | null {
  const [first] = findings;
  const { rule } = first;
  if (findings.every(isSurelyMended)) return `cravel mend --only ${rule}`;
  const next = nextOf(first);
  const isAlike = findings.every((finding) => nextOf(finding) === next);
  if (isAlike && next !== null) return next;
  const isGuessed = (finding: Finding) => finding.mends.length > 0 || isGuess(finding);
  return findings.every(isGuessed) ? `cravel mend --guesses --only ${rule}` : null;
}

function isSurelyMended(finding: Finding): boolean {
  const [first] = finding.mends;
  return first === undefined ? isSettled(finding) && !isGuess(finding) : first.sure;
}

/** True for a finding that takes a person's answer, or a look at what is guessed. */
function isGuess({ rule }: Finding): boolean {
  const { asks, guesses } = ruleNamed(rule) ?? {};
  return asks !== undefined || guesses === true;
}

/** True for a finding that its rule settles when it is to be mended. */
export function isSettled(finding: Finding): boolean {
  const { settle, settleText, isSettled: ask } = ruleNamed(finding.rule) ?? {};
  return (settle !== undefined || settleText !== undefined) && (ask?.(finding) ?? true);
}

/** True for a finding that may have a mend. */
export function isMendable(finding: Finding): boolean {
  return finding.mends.some(({ edits }) => edits.length > 0) || isSettled(finding);
}

/** What settles a finding that no edit mends, or settles it better; null where nothing is known to. */
function nextOf(finding: Finding): string | null {
  const next = ruleNamed(finding.rule)?.next;
  return next === undefined || (finding.mends.length > 0 && !next.isBetter) ? null : next.after(finding);
}

function keyOfCause({ rule, grade, reached, target, written, mends, walk, message }: Finding): string {
  const kind = `${rule} ${grade} ${reached}`;
  if (message === FOR_BUNDLERS) return [kind, message].join('\n');
  const cause = ruleNamed(rule)?.cause;
  if (cause === 'rule') return kind;
  if (cause === 'folder' && mends.length === 0) return [kind, ...foldersOutside(walk)].join('\n');
  if (cause === 'step') {
    const folder = failingFolder(walk);
    if (folder !== null) return [kind, folder].join('\n');
  }
  const start = written.includes('#') ? written.indexOf('#') : written.length;
  const fragment = rule === spotRule.name ? written.slice(start) : '';
  return [kind, target ?? written.slice(0, start), fragment].join('\n');
}

/** The folders of a walk from where it leaves the site. */
function foldersOutside(walk: readonly Step[]): string[] {
  return walk
    .filter(({ step, found }) => !found && step !== 'file')
    .map(({ step, name }) => `${step} ${name}`);
}

/** The path of the folder that a walk fails to enter; null where it fails otherwise. */
function failingFolder(walk: readonly Step[]): string | null {
  let here = '';
  for (const { step, name, found } of walk) {
    if (step === 'from' || step === 'out') here = name === '/' ? '' : name;
    else if (step === 'into') here += name;
    if (!found) return step === 'into' ? here : null;
  }
  return null;
}
