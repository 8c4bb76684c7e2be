/** The report of a check: what was read, and what was found. */
import { groupBy } from './group-by.ts';
import { allRules } from './judge/index.ts';
import { type Grade, grades } from './judge/rule.ts';
import type { Kind } from './read/reading.ts';
import type { Step } from './site/walk.ts';

/** One exact change to a file: `length` bytes at `offset` become `text`. */
export interface Edit {
  readonly file: string;
  readonly offset: number;
  readonly length: number;
  readonly text: string;
}

/** A change that settles a finding. */
export interface Mend {
  /** True where only one answer makes sense. */
  readonly sure: boolean;
  readonly title: string;
  /** The site path that the reference leads to then; null where it leads to the same as before. */
  readonly target: string | null;
  /** The walk of the reference as it will be. */
  readonly walk: readonly Step[];
  readonly edits: readonly Edit[];
}

/** One thing to report. Offsets and lengths are bytes; lines and columns count from 1 (UTF-16 units). */
export interface Finding {
  readonly rule: string;
  readonly grade: Grade;
  readonly file: string;
  readonly line: number;
  readonly column: number;
  readonly offset: number;
  readonly length: number;
  readonly holder: string;
  readonly written: string;
  /** Null where the finding is not about a reference. */
  readonly kind: Kind | null;
  /** The resolved site path without query or fragment; null where there is none. */
  readonly target: string | null;
  readonly message: string;
  readonly walk: readonly Step[];
  readonly mends: readonly Mend[];
}

/** A file that could not be read or judged, with the reason and what to do. */
export interface Unread {
  readonly file: string;
  readonly why: string;
}

export interface Report {
  /** The version of this format. */
  readonly cravel: 1;
  readonly site: {
    readonly folder: string;
    readonly pages: number;
    readonly files: number;
    readonly references: number;
    /** References to other hosts and schemes. */
    readonly external: number;
    /** How many addresses other hosts were asked for, each once; not there where none was to be. */
    readonly asked?: number;
  };
  readonly counts: Readonly<Record<Grade, number>>;
  readonly findings: readonly Finding[];
  readonly unread: readonly Unread[];
}

export function countGrades(findings: readonly Finding[]): Record<Grade, number> {
  const counts: Record<Grade, number> = { broken: 0, fragile: 0, misplaced: 0, untidy: 0 };
  for (const { grade } of findings) counts[grade]++;
  return counts;
}

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
