/** What every rule is made of, and what it is given to judge. */
import type { Candidate } from '../mend/candidates.ts';
import type { Reference } from '../read/reading.ts';
import type { Target } from '../resolve/resolve.ts';
import type { Inventory } from '../site/inventory.ts';
import type { Step } from '../site/walk.ts';

/** How bad a finding is for a visitor, worst first. */
export const grades = ['broken', 'fragile', 'misplaced', 'untidy'] as const;
export type Grade = (typeof grades)[number];

/** The site as rules see it. */
export interface SiteView {
  readonly inventory: Inventory;
  /** The anchors of the page at a site path; null where that file is not a page that was read. */
  anchorsOf(path: string): ReadonlySet<string> | null;
}

/** A reference of a file, and where it leads. */
export interface Subject {
  readonly file: string;
  readonly reference: Reference;
  readonly target: Target;
  readonly site: SiteView;
}

/** What a rule has to say about a reference. */
export interface Verdict {
  readonly message: string;
  /** The resolved site path; null where there is none. */
  readonly target: string | null;
  readonly walk: readonly Step[];
  /** What was probably meant, the likeliest first. */
  readonly candidates: readonly Candidate[];
}

/** What a report needs to know of a rule. */
export interface RuleFacts {
  readonly name: string;
  readonly grade: Grade;
  /** A few words that complete "this is wrong: …". */
  readonly summary: string;
  /** The command that mends what it finds, where there is one. */
  readonly command?: string;
}

/** A rule that judges references one by one. */
export interface Rule extends RuleFacts {
  /** Null where the rule has nothing to say. */
  judge(subject: Subject): Verdict | null;
}
