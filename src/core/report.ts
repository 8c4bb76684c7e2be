/** The report of a check: what was read, and what was found. */
import type { FileEdit } from './change/edit.ts';
import type { Holder } from './read/holder.ts';
import type { Extent } from './read/lines.ts';
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

/** What a person sees of a mend: what is written in place of what is there, or else what is done. */
export function whatIsWritten({ title, edits }: Mend): string {
  const [first, second] = edits;
  return first === undefined || second !== undefined || first.start === first.end ? title : first.text;
}

/** What stands in the place of a walk where the order of what a page loads is wrong: names of files, or `page:line` of inline code. */
interface Order {
  readonly is: readonly string[];
  readonly should: readonly string[];
}

/**
 * One thing to report. Offsets and lengths are bytes; lines and columns count from 1 (UTF-16 units), the end is that of
 * the character behind the last one.
 */
export interface Finding extends Extent {
  readonly rule: string;
  readonly grade: Grade;
  readonly file: string;
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
  /** False in a file that no page loads, by any chain: it harms no visitor as it stands. */
  readonly reached: boolean;
  /** The pages for which it fails, where it holds for others that run the same file; else null. */
  readonly pages: readonly string[] | null;
  readonly walk: readonly Step[];
  readonly order: Order | null;
  readonly mends: readonly Mend[];
}

/** Findings that one change to the site would settle. */
export interface Cause {
  readonly rule: string;
  readonly grade: Grade;
  /** The message of the first. */
  readonly message: string;
  /** In the order of the report. */
  readonly findings: readonly [Finding, ...Finding[]];
  /** How many files they stand in. */
  readonly files: number;
  /** How many pages they harm: those that they stand in, and those that load their files by any chain. */
  readonly pages: number;
  /** The command that settles all of them; null where none is known to. */
  readonly mend: string | null;
}

/** A file that could not be read or judged, with the reason and what to do. */
export interface Unread {
  readonly file: string;
  readonly why: string;
}

/** A finding that the settings accept, and their reason. */
export interface AcceptedFinding {
  readonly finding: Finding;
  readonly because: string;
}

/** What a check of one site found. */
export interface SiteReport {
  readonly folder: string;
  readonly pages: number;
  readonly files: number;
  readonly references: number;
  /** References to other hosts. */
  readonly external: number;
  /** How many addresses other hosts were asked for, each once; null where none was to be. */
  readonly asked: number | null;
  readonly counts: Readonly<Record<Grade, number>>;
  /** The worst first. */
  readonly causes: readonly Cause[];
  /** In the order of files and offsets. */
  readonly findings: readonly Finding[];
  /** What was left out, since the settings accept it. */
  readonly accepted: readonly AcceptedFinding[];
  readonly unread: readonly Unread[];
}

export interface Report {
  /** The version of this format. */
  readonly cravel: 2;
  /** In the order in which they were asked for. */
  readonly sites: readonly SiteReport[];
}

interface Placed {
  readonly file: string;
  readonly offset: number;
}

/** In the order of files and offsets. */
export function byPlace(one: Placed, other: Placed): number {
  if (one.file !== other.file) return one.file < other.file ? -1 : 1;
  return one.offset - other.offset;
}

export function countGrades(findings: readonly Finding[]): Record<Grade, number> {
  const counts: Record<Grade, number> = { broken: 0, fragile: 0, misplaced: 0, untidy: 0 };
  for (const { grade } of findings) counts[grade]++;
  return counts;
}

/** What all sites come to together. */
export function inAll(sites: readonly SiteReport[], amountOf: (site: SiteReport) => number): number {
  return sites.reduce((sum, site) => sum + amountOf(site), 0);
}
