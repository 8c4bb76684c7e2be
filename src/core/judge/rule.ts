/** What every rule is made of, and what it is given to judge. */
import type { Candidate } from '../mend/candidates.ts';
import type { Holder } from '../read/holder.ts';
import type { Kind, PageFacts, Reading, Reference, Span } from '../read/reading.ts';
import type { Grade } from '../report.ts';
import type { SiteView, Subject } from '../resolve/subject.ts';
import type { Step } from '../site/walk.ts';

/** What a report and the docs need to know of a rule. */
export interface RuleFacts {
  readonly name: string;
  readonly grade: Grade;
  /** A few words that complete "this is wrong: …". */
  readonly summary: string;
  /** What a visitor suffers, in a sentence or two. */
  readonly suffers: string;
  /** An example of it, and the same put right. */
  readonly wrong: string;
  readonly right: string;
  /**
   * What its findings with one cause have in common: that they are of this `rule`, or that they lead to one `folder`
   * and nothing is known that was meant. Unless said, their target.
   */
  readonly cause?: 'rule' | 'folder';
  /** The command that mends what it finds, where there is one. */
  readonly command?: string;
}

/** What a rule has to say about a reference. */
export interface Verdict {
  readonly message: string;
  /** The resolved site path; null where there is none. */
  readonly target: string | null;
  readonly walk: readonly Step[];
  /** What was probably meant, the likeliest first. */
  readonly candidates: readonly Candidate[];
  /** Edits that settle it without another target; offsets in the file. */
  readonly rewrites?: readonly Rewrite[];
}

/** A mend that writes the reference, or something beside it, in another way. */
interface Rewrite {
  readonly sure: boolean;
  readonly title: string;
  readonly offset: number;
  readonly length: number;
  readonly text: string;
}

/** A rule that judges references one by one. */
export interface Rule extends RuleFacts {
  /** Null where the rule has nothing to say. */
  judge(subject: Subject): Verdict | null;
}

/** A rule about where in its page a reference stands. */
export interface PlacingRule extends RuleFacts {
  /** The message; null where the rule has nothing to say. */
  judgePlace(reference: Reference): string | null;
}

/** A file that was just read. */
interface FileView {
  readonly file: string;
  readonly reading: Reading;
  readonly bytes: Uint8Array;
  readonly site: SiteView;
}

interface PageView extends FileView {
  readonly page: PageFacts;
}

/** Something to say of a file. Offset and length are bytes of the file. */
export interface Remark extends Span {
  readonly message: string;
  /** What it is about, as it stands in the file or as a person would name it. */
  readonly written: string;
  /** What holds it, or would; null for the file as a whole. */
  readonly holder: Holder | null;
  readonly target?: string | null;
  readonly kind?: Kind | null;
  readonly rewrites?: readonly Rewrite[];
}

/** A rule that judges what a page, or another file that was read, says of itself. */
export interface PageRule extends RuleFacts {
  judgePage(view: PageView): readonly Remark[];
}

export interface FileRule extends RuleFacts {
  judgeFile(view: FileView): readonly Remark[];
}

/** What is kept of each page, for rules that compare pages. */
export interface PageRecord {
  readonly file: string;
  readonly title: (Span & { readonly text: string }) | null;
  readonly description: string | null;
  /** Files that it loads, each with the first kind, and files that it leads to. */
  readonly loads: ReadonlyMap<string, Kind>;
  readonly leadsTo: readonly string[];
}

/** What a rule about the site may look at; it is asked again only where one of these has changed. */
export type Facet =
  /** The names of files, and the settings. */
  | 'names'
  /** Which pages there are. */
  | 'pages'
  | 'titles'
  | 'descriptions'
  /** Which page leads to which. */
  | 'ways'
  /** What pages and other files load. */
  | 'loads'
  /** Which files something refers to. */
  | 'uses';

/** The whole site, once everything was read. */
export interface SiteFacts {
  readonly site: SiteView;
  readonly pages: ReadonlyMap<string, PageRecord>;
  /** Files that something refers to or that a script names, and folders of files whose names a script puts together. */
  readonly used: ReadonlySet<string>;
  /** For each file that is loaded: as what. */
  readonly loadedAs: ReadonlyMap<string, Kind>;
  /** The pages and files that a page leads to, with those that a broken reference was meant for. */
  waysFrom(page: string): readonly string[];
}

/** A rule that judges the site as a whole. */
export interface SiteRule extends RuleFacts {
  readonly looksAt: readonly Facet[];
  judgeSite(facts: SiteFacts): readonly (Remark & { readonly file: string })[];
}
