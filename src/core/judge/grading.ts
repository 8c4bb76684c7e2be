/** Which grade a finding gets: as its rule says, milder for reasons of its own, and as the settings say. */
import { type Finding, grades } from '../report.ts';
import { isBare } from '../resolve/specifier.ts';
import { addressRules, answerRules, fileRules, ruleNamed, spotRule } from './index.ts';
import type { GradeFacts, RuleFacts } from './rule.ts';

/** What settings say of a rule: the grade of its findings, or that none is told. */
export const gradeSettings = [...grades, 'silent'] as const;
export type GradeSettings = Readonly<Record<string, (typeof gradeSettings)[number]>>;

/** What no page loads harms nobody as it stands. */
const UNREACHED: GradeFacts = { grade: 'untidy', when: 'in a file that no page of the site loads' };

/** Rules about what stands in a file, which may be one that no page loads. */
const ofAnyFile: ReadonlySet<RuleFacts> = new Set<RuleFacts>([
  ...addressRules,
  spotRule,
  ...answerRules,
  ...fileRules,
]);

/** The grades that a rule may give: first its own, then milder ones, each with its reason. */
export function gradesOf(rule: RuleFacts): readonly [GradeFacts, ...GradeFacts[]] {
  const own = { grade: rule.grade, when: 'wherever nothing makes it milder' };
  const unreached = ofAnyFile.has(rule) && rule.grade !== UNREACHED.grade ? [UNREACHED] : [];
  return [own, ...(rule.milder ?? []), ...unreached];
}

/** `broken; untidy in a file that no page of the site loads` */
export function gradesInWords([own, ...milder]: ReturnType<typeof gradesOf>): string {
  return [own.grade, ...milder.map(({ grade, when }) => `${grade} ${when}`)].join('; ');
}

/** The finding as it is where no page loads its file: milder or not told, unless its rule is about the site. */
export function unreached(finding: Finding): Finding | null {
  const isOfFile = isOfAnyFile(finding.rule);
  if (isOfFile && ruleNamed(finding.rule)?.unreached === 'silent') return null;
  const grade = isOfFile ? UNREACHED.grade : finding.grade;
  const as = isForBundlers(finding) ? { message: FOR_BUNDLERS, walk: [], mends: [] } : {};
  return { ...finding, reached: false, grade, ...as };
}

/** What is said of modules that name others as bundlers let them: there may be hundreds in sources that no page loads. */
export const FOR_BUNDLERS = 'written for a bundler: browsers find modules by their whole names alone';

/** True for the import of a module without an extension, or by a bare specifier (HTML 8.1.6.2). */
function isForBundlers({ rule, kind, written }: Finding): boolean {
  if (kind !== 'module' || rule !== 'absent') return false;
  return isBare(written) || !/\.\w+$/.test(written.replace(/[?#].*/s, ''));
}

/** See {@link ofAnyFile}. */
export function isOfAnyFile(rule: string): boolean {
  const facts = ruleNamed(rule);
  return facts !== undefined && ofAnyFile.has(facts);
}

/** Findings as the settings grade them. What was made milder for a reason of its own is never raised. */
export function gradedBy(settings: GradeSettings, findings: readonly Finding[]): readonly Finding[] {
  if (Object.keys(settings).length === 0) return findings;
  return findings.flatMap((finding) => {
    const grade = settings[finding.rule];
    if (grade === 'silent') return [];
    const isRaised = grade !== undefined && grades.indexOf(grade) < grades.indexOf(finding.grade);
    const isKept = isRaised && isLowered(finding);
    return grade === undefined || isKept ? finding : { ...finding, grade };
  });
}

/** True of what stands in a file that no page loads: no visitor comes by it. */
export function isUnheeded({ rule, reached }: Finding): boolean {
  return !reached && isOfAnyFile(rule);
}

/** True where it has a milder grade than its rule's own. */
function isLowered(finding: Finding): boolean {
  if (isUnheeded(finding)) return true;
  const own = ruleNamed(finding.rule)?.grade;
  return own !== undefined && grades.indexOf(finding.grade) > grades.indexOf(own);
}
