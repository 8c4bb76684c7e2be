/** From what rules say to findings, but for lines and columns. */
import { mendTo } from '../mend/mend-to.ts';
import { detachShared } from '../read/detach.ts';
import type { Extent } from '../read/lines.ts';
import type { Reference } from '../read/reading.ts';
import type { Finding, Mend } from '../report.ts';
import { withoutCredentials } from '../resolve/credentials.ts';
import type { Subject } from '../resolve/subject.ts';
import { addressRules, placingRules } from './index.ts';
import type { Remark, Rule, RuleFacts, Settlement, Verdict } from './rule.ts';

/** A finding before its lines, its columns and who loads its file are known. */
export type Draft = Omit<Finding, keyof Extent | 'reached' | 'pages' | 'order'>;

/** The finding, its fields in the order of the report; it holds on to no text of its file. */
export function placed(draft: Draft, extent: Extent): Finding {
  const { rule, grade, file, offset, length, kind, target, walk } = draft;
  const { line, column, endLine, endColumn } = extent;
  // Who mends by a report would write what is not shown.
  const mends = draft.mends.filter(({ edits }) =>
    edits.every(({ text }) => withoutCredentials(text) === text),
  );
  return {
    rule,
    grade,
    file,
    line,
    column,
    endLine,
    endColumn,
    offset,
    length,
    holder: draft.holder,
    written: detachShared(withoutCredentials(draft.written)),
    kind,
    target,
    message: detachShared(withoutCredentials(draft.message)),
    reached: true,
    pages: null,
    walk,
    order: null,
    mends,
  };
}

/** What the rules say of where a reference leads and how it is written: the first with something to say. */
export function judgeAddress(subject: Subject): Draft | null {
  for (const rule of addressRules) {
    const verdict = rule.judge(subject);
    if (verdict !== null) return draftOf(rule, subject, verdict);
  }
  return null;
}

/** What the rules say of where a reference stands in its page. */
export function judgePlace(file: string, reference: Reference, target: string | null): Draft[] {
  const drafts: Draft[] = [];
  for (const rule of placingRules) {
    const message = rule.judgePlace(reference);
    if (message === null) continue;
    const { offset, length, holder, written, kind } = reference;
    drafts.push(draftOfRemark(rule, file, { offset, length, holder, written, kind, target, message }));
  }
  return drafts;
}

export function draftOf(
  { name, grade }: Pick<Rule, 'name' | 'grade'>,
  subject: Subject,
  verdict: Verdict,
): Draft {
  const { file, reference } = subject;
  const { offset, length, holder, written, kind } = reference;
  const { message, target, walk: steps } = verdict;
  const mends = mendsFor(subject, verdict);
  return {
    rule: name,
    grade: verdict.grade ?? grade,
    file,
    offset,
    length,
    holder,
    written,
    kind,
    target,
    message,
    walk: steps,
    mends,
  };
}

export function draftOfRemark({ name, grade: own }: RuleFacts, file: string, remark: Remark): Draft {
  const { grade = own } = remark;
  const { offset, length, holder, written, message, target = null, kind = null, settlements = [] } = remark;
  const mends = settlements.map((one) => settled(file, one));
  return { rule: name, grade, file, offset, length, holder, written, kind, target, message, walk: [], mends };
}

function settled(file: string, { sure, title, edit }: Settlement): Mend {
  return { sure, title, target: null, walk: [], edits: [{ file, ...edit }] };
}

function mendsFor(subject: Subject, { candidates, settlements = [] }: Verdict): Mend[] {
  const byTarget = candidates.flatMap((candidate) => mendTo(candidate, subject, subject.site) ?? []);
  return [...byTarget, ...settlements.map((one) => settled(subject.file, one))];
}
