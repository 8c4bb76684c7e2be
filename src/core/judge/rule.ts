/** What every rule is made of, and what it is given to judge. */
import type { Edit } from '../change/edit.ts';
import type { Candidate } from '../mend/candidates.ts';
import type { MissingElement } from '../order/page-script.ts';
import type { Page } from '../page/page.ts';
import type { Master } from '../page/parts.ts';
import type { Tags } from '../page/tags.ts';
import type { Holder } from '../read/holder.ts';
import type { Kind, PageFacts, Reading, Reference, Span } from '../read/reading.ts';
import type { Finding, Grade } from '../report.ts';
import type { Addressed } from '../resolve/resolver.ts';
import type { SiteView, Subject } from '../resolve/subject.ts';
import type { Step } from '../site/walk.ts';
import type { Visit } from './visit.ts';

/** A grade that a rule may give, and when. */
export interface GradeFacts {
  readonly grade: Grade;
  readonly when: string;
}

/** What settles a finding that no edit mends. */
export interface NextStep {
  /** What it looks like. */
  readonly shown: string;
  /** It is better than an edit that is not sure. */
  readonly isBetter?: true;
  /** A command, or what to write in `cravel.yaml`; null where neither settles it. */
  after(finding: Pick<Finding, 'file' | 'kind' | 'target' | 'message'>): string | null;
}

/** A page with a finding that is to be settled, and what its site says of its like. */
interface ToSettle {
  readonly finding: Finding;
  readonly tags: Tags;
  /** The language of the site's pages; null where they do not agree on one. */
  readonly language: string | null;
  /** What somebody said when asked; null where nobody was, or had nothing to say. */
  readonly answer: string | null;
}

/** A change to the file that a finding stands in; of a page places are those of its text. */
export interface PageSettlement {
  readonly sure: boolean;
  readonly title: string;
  readonly edits: readonly Edit[];
}

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
   * What its findings with one cause have in common: that they are of this `rule`, that they fail at one `step` into a
   * folder, or that they lead to one `folder` outside and nothing is known that was meant. Else, their target.
   */
  readonly cause?: 'rule' | 'folder' | 'step';
  readonly next?: NextStep;
  /**
   * What settles a finding where its page must be taken apart for that: asked only once it is to be done. Null where that is
   * not to be told.
   */
  readonly settle?: (what: ToSettle) => PageSettlement | null;
  /** What only a person knows, as a question: settled with the answer. */
  readonly asks?: string;
  /** Whether what settles it is, or may be, what nobody can tell for sure. */
  readonly guesses?: true;
  /** Of what is put in at one place that of a lower rank stands in front; 0 unless said. */
  readonly rank?: number;
  /** Whether a finding is settled so, as far as it tells by itself; unless said, each is. */
  readonly isSettled?: (finding: Finding) => boolean;
  /** The same where the text of the file tells it, which has one character for each byte. */
  readonly settleText?: (finding: Finding, plain: string) => PageSettlement | null;
  /** Milder grades that it gives to some of what it finds, and when. */
  readonly milder?: readonly GradeFacts[];
  /** What is said of its findings in a file that no page loads: unless said, that they are untidy. */
  readonly unreached?: 'silent';
}

/** What a rule has to say about a reference. */
export interface Verdict {
  readonly message: string;
  /** The resolved site path; null where there is none. */
  readonly target: string | null;
  readonly walk: readonly Step[];
  /** What was probably meant, the likeliest first. */
  readonly candidates: readonly Candidate[];
  /** One of the milder grades of its rule. */
  readonly grade?: Grade;
  /** What settles it without another target. */
  readonly settlements?: readonly Settlement[];
}

/** A change that settles a finding in its own file, without another target. */
export interface Settlement {
  readonly sure: boolean;
  readonly title: string;
  readonly edit: Edit;
}

/**
 * When a rule about addresses has to be asked: it has nothing to say of any reference that none of these is true of. They
 * are what lets most references pass without a question.
 */
interface Concerns {
  /** Of addresses, without their fragments, that lead to no file of the site. */
  readonly absent?: true;
  /** Of addresses of other hosts and schemes, as they are written. */
  readonly elsewhere?: RegExp;
  /** Of addresses that lead to a file and are not plain (see {@link Addressed}), as they are written. */
  readonly unplain?: RegExp;
  /** Of any other address that leads to a file; asked once for each in a folder. */
  readonly found?: (address: Addressed) => boolean;
  /** Of a reference that loads a file of the site. */
  readonly loading?: (reference: Reference, found: string, site: SiteView) => boolean;
  /** Where nothing is written at all. */
  readonly nothing?: true;
}

/** A rule that judges references one by one. */
export interface Rule extends RuleFacts {
  /** Not given: every reference. */
  readonly concerns?: Concerns;
  /** Null where the rule has nothing to say. */
  judge(subject: Subject): Verdict | null;
}

/** What the scripts of a page do about fragments that its elements do not answer. */
export interface Answering {
  readonly readsFragment: boolean;
  /** Nobody can tell what some of them do. */
  readonly isUnknown: boolean;
  /** Ids that they give; with an `*` at the end the start of some. */
  readonly ids: ReadonlySet<string>;
}

/** A rule about spots of pages. */
export interface SpotRule extends Rule {
  /** A finding, as the scripts of the page that it is about make it; null where they answer. */
  answered(finding: Finding, scripts: Answering): Finding | null;
}

/** A rule about where in its page a reference stands. */
export interface PlacingRule extends RuleFacts {
  /** The message; null where the rule has nothing to say. */
  judgePlace(reference: Reference): string | null;
}

/** A script that a page waits for, and what runs behind it. */
export interface Waiting {
  /** Scripts that need it before the page is there; empty where none does, so that it can wait alone. */
  readonly behind: readonly string[];
  /**
   * What holds for it together with those: all can be deferred, or moved; it stays where it is, since it writes there; or
   * nobody can tell what they need.
   */
  readonly together: 'defer' | 'move' | 'stay' | 'unknown';
}

/** A rule about scripts that a page waits for. */
export interface WaitingRule extends RuleFacts {
  judgeWaiting(waiting: Waiting): string;
}

/** A rule about a file that one document loads again. */
export interface RepeatRule extends RuleFacts {
  /** Whether a reference counts. */
  counts(reference: Reference): boolean;
  /** The message about one that loads the same as another that counts. */
  judgeRepeat(found: string): string;
  /** The files that would be the same in another build. */
  otherBuilds(found: string): readonly string[];
  judgeOtherBuild(found: string, other: string): string;
}

/** What another host said of an address. */
export interface Answer {
  /** Why a visitor would not get it, in a few words; null where it is served, or where nobody can tell. */
  readonly failure: string | null;
  /** Where it sends visitors on to; null where it does not. */
  readonly moved: { readonly to: string; readonly isForGood: boolean } | null;
  /** The integrity values that what it serves does not match. */
  readonly mismatches: ReadonlySet<string>;
  /** Why it could not be asked, or would not say; null where it did. */
  readonly unasked: string | null;
  /** True where that may be for reasons of this machine. */
  readonly isOurs: boolean;
}

/** A rule about what another host says. */
export interface AnswerRule extends RuleFacts {
  /** Null where the rule has nothing to say. */
  judgeAnswer(reference: Reference, answer: Answer): Pick<Remark, 'message' | 'settlements'> | null;
}

/** A rule about what the site's own host says, once the site is published. */
export interface HostRule extends RuleFacts {
  /** Null where the rule has nothing to say. */
  judgeVisit(visit: Visit): Pick<Remark, 'message' | 'grade'> | null;
}

/** A file that was just read. */
interface FileView {
  readonly file: string;
  readonly reading: Reading;
  /** It holds white space at most. */
  readonly isBlank: boolean;
  readonly site: SiteView;
}

interface PageView extends FileView {
  readonly page: PageFacts;
  /** The parts of the entry page. */
  readonly masters: ReadonlyMap<string, Master>;
  /** The page with its text, for the few rules that need it. */
  open(): Page;
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
  readonly settlements?: readonly Settlement[];
  /** One of the milder grades of its rule. */
  readonly grade?: Grade;
}

/** A rule that judges what a page, or another file that was read, says of itself. */
export interface PageRule extends RuleFacts {
  judgePage(view: PageView): readonly Remark[];
}

export interface FileRule extends RuleFacts {
  judgeFile(view: FileView): readonly Remark[];
}

/**
 * A name that a script needs, and that is not there when it does. Scripts are called by their paths, code of a page by
 * `page:line`.
 */
export interface MissingName {
  readonly name: string;
  /** What needs it. */
  readonly user: string;
  /** What runs that, each with names of its own. */
  readonly runner: 'page' | 'worker' | 'document in srcdoc';
  /** It is the script's own, and made further down in it. */
  readonly isOwn: boolean;
  /** It is needed by an event handler, when all scripts have run. */
  readonly isHandler: boolean;
  /** It is needed by what runs once the page is there, when all scripts have run. */
  readonly isAfterLoad: boolean;
  /** It would be there if a script that nobody waits for came in time. */
  readonly isRace: boolean;
  /** What makes it, and runs later; null where nothing that the page runs does. */
  readonly later: string | null;
  /** What would make it, and stops before it does, or does not run at all. */
  readonly stopped: string | null;
  /** The module that has it for itself. */
  readonly inModule: string | null;
  /** The address of a script that is not there, and that may have made it. */
  readonly absent: string | null;
  /** A script of another host that runs later and probably makes it. */
  readonly hosted: string | null;
  /** Files of the site that make it, and that the page does not run: the likeliest first. */
  readonly leftOut: readonly string[];
  /** A name that is there and nearly the same. */
  readonly near: string | null;
  /** Servers give it, and no browser does. */
  readonly isOfServers: boolean;
  /** The library that needs it by the settings, where it is the name of another one. */
  readonly statedBy: string | null;
  /** The module that does not export it. */
  readonly notExported: string | null;
  /** What declared it before, where it may not be declared again. */
  readonly declaredBy: string | null;
}

/** A rule about scripts that a browser refuses for how a page loads them. */
export interface RefusalRule extends RuleFacts {
  /** `why`: in the parser's words; `isModular`: it is none of the scripts that the page takes it for, but a module. */
  judgeRefusal(refusal: {
    readonly why: string;
    readonly isModular: boolean;
    /** It is run by a worker. */
    readonly isWorker?: boolean;
    readonly syntax: 'script' | 'json';
  }): Pick<Remark, 'message' | 'holder'>;
}

/** An element that a script uses, and that is not there when it does. Scripts are called as in {@link MissingName}. */
interface MissingElementFacts {
  /** The element, as a selector. */
  readonly selector: string;
  readonly user: string;
  readonly page: string;
  readonly is: MissingElement['is'];
  /** Where the page has it, as `page:line`; null where it does not. */
  readonly at: string | null;
  /** It is looked for once the page is there. */
  readonly isAfterLoad: boolean;
  /** What is there and nearly the same. */
  readonly near: string | null;
  /** Other pages that run the script, and have it. */
  readonly others: readonly string[];
}

/** A rule about elements that scripts use. */
export interface ElementRule extends RuleFacts {
  /** Null where the rule has nothing to say. */
  judgeElement(missing: MissingElementFacts): Pick<Remark, 'message' | 'grade'> | null;
}

/** A rule about names that scripts need. */
export interface NameRule extends RuleFacts {
  /** Null where the rule has nothing to say. */
  judgeName(missing: MissingName): Pick<Remark, 'message' | 'grade'> | null;
}

/** What is kept of each page, for rules that compare pages. */
export interface PageRecord {
  readonly file: string;
  readonly title: (Span & { readonly text: string }) | null;
  readonly description: string | null;
  /** Files that it loads, each with the first kind, and files that it leads to. */
  readonly loads: ReadonlyMap<string, Kind>;
  readonly leadsTo: readonly string[];
  /** Files that its navigation leads to, the page itself included. */
  readonly navigation: ReadonlySet<string>;
  /** Copies of parts, or the masters, are among what it holds. */
  readonly marksParts: boolean;
  /** Where it has the texts of {@link SiteFacts.samples}, by their numbers, in order. */
  readonly samples: readonly (Span & { readonly text: number })[];
}

/** What a rule about the site may look at; it is asked again only where one of these has changed. */
export type Facet =
  /** The names of files, and the settings. */
  | 'names'
  /** Which pages there are. */
  | 'pages'
  | 'titles'
  | 'descriptions'
  /** Texts of the starter that pages have. */
  | 'samples'
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
  /** The texts that the project's starter has in place of the site's own. */
  readonly samples: readonly string[];
  /** Files that something refers to or that a script names, and folders of files whose names a script puts together. */
  readonly used: ReadonlySet<string>;
  /** HTML files that are sources for a generator. */
  readonly sources: readonly string[];
  /** Links that lead nowhere, and that a reference leads to or through. */
  readonly missed: ReadonlySet<string>;
  /** False where a page or a folder could not be read, which may lead anywhere. */
  readonly isWhole: boolean;
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
