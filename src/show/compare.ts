/** Two checks of one site side by side: what was found before and after, by rule. */

import { groupBy } from '../core/group-by.ts';
import { type Finding, type Grade, grades } from '../core/report.ts';
import { type Paint, paintGrade } from './paint.ts';

interface Row {
  readonly grade: Grade;
  readonly rule: string;
  readonly before: number;
  readonly after: number;
}

export function comparedAsText(before: readonly Finding[], after: readonly Finding[], paint: Paint): string {
  const rows = rowsOf(before, after);
  const width = Math.max(...rows.map(({ grade, rule }) => grade.length + rule.length + 3), 10) + 2;
  const cells = (one: number | string, other: number | string) =>
    `${String(one).padStart(8)}${String(other).padStart(8)}`;
  const lines = rows.map(({ grade, rule, before: one, after: other }) => {
    const gap = ' '.repeat(width - grade.length - rule.length - 3);
    const shown = cells(one, other);
    return `  ${paintGrade(grade, paint)} ${paint.marks.dot} ${rule}${gap}${other === 0 ? paint.green(shown) : shown}`;
  });
  const head = `  ${' '.repeat(width)}${paint.dim(cells('before', 'after'))}`;
  const total = `  ${'all'.padEnd(width)}${paint.bold(cells(before.length, after.length))}`;
  return `${[head, ...lines, total].join('\n')}\n`;
}

function rowsOf(before: readonly Finding[], after: readonly Finding[]): Row[] {
  const keyOf = ({ grade, rule }: Finding) => `${grade} ${rule}`;
  const [old, now] = [groupBy(before, keyOf), groupBy(after, keyOf)];
  const rows = [...new Set([...old.keys(), ...now.keys()])].map((key): Row => {
    const [grade, rule] = key.split(' ') as [Grade, string];
    return { grade, rule, before: old.get(key)?.length ?? 0, after: now.get(key)?.length ?? 0 };
  });
  return rows.sort(
    (a, b) => grades.indexOf(a.grade) - grades.indexOf(b.grade) || b.before - a.before || b.after - a.after,
  );
}
