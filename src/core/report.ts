/** The report of a check: what was read, and what was found. */
import type { FileEdit } from './change/edit.ts';
import type { Holder } from './read/holder.ts';
import type { Kind } from './read/reading.ts';
import type { Step } from './site/walk.ts';

/** How bad a finding is for a visitor, worst first. */
export const grades = ['broken', 'fragile', 'misplaced', 'untidy'] as const;
export type Grade = (typeof grades)[number];

/** Grades whose findings make a check fail, unless said otherwise. */
export const failing: readonly Grade[] = ['broken', 'fragile', 'misplaced'];

/** A change that settles a finding. */
export interface Mend {
  /** True where only one answer makes sense. */
  readonly sure: boolean;
  readonly title: string;
  /** The site path that the reference leads to then; null where it leads to the same as before. */
  readonly target: string | null;
  /** The walk of the reference as it will be. */
  readonly walk: readonly Step[];
  readonly edits: readonly FileEdit[];
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
  /** What it is about; null for the file as a whole. */
  readonly holder: Holder | null;
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
