/** What the preview, its deck and the pages under it say to each other: plain data. */
import type { Grade } from '../core/report.ts';

/** Where the preview's own files lie on the site's host: no site is served below a name that starts with a dot. */
export const OWN = '/.cravel';

/** From the preview to every page that is open. */
export type PageNews =
  /** Which preview this is, and how many changes it has told: a page that was served before is out of date. */
  | { readonly is: 'hello'; readonly run: string; readonly change: number }
  /** Files that were written, made or removed: paths on the host, without escapes. */
  | { readonly is: 'changed'; readonly change: number; readonly paths: readonly string[] }
  /** Pages that load, by any chain, a script or data that changed, and may not know it. */
  | { readonly is: 'reload'; readonly pages: readonly string[] };

export type Counts = Readonly<Record<Grade, number>>;

/** A page of the site in the deck's list. */
export interface PageLine {
  readonly path: string;
  /** On the site's host. */
  readonly address: string;
  /** Of its own and of the files that it loads. */
  readonly counts: Counts;
}

/** From the preview to its deck, after each look at the site. */
export interface SiteNews {
  readonly is: 'site';
  readonly name: string;
  readonly pages: readonly PageLine[];
  readonly counts: Counts;
  /** Findings in files that no page loads, and those about the site as a whole. */
  readonly elsewhere: number;
  readonly unread: number;
  /** The change that can be taken back; null where there is none. */
  readonly last: string | null;
  /** Why the last look did not come to its end; null where it did. */
  readonly trouble: string | null;
  /** Counts the looks. */
  readonly look: number;
}

interface FoundStep {
  /** In words. */
  readonly name: string;
  readonly found: boolean;
}

export interface FindingShown {
  /** Says which one it is for as long as nothing changes. */
  readonly key: string;
  readonly rule: string;
  readonly grade: Grade;
  readonly file: string;
  readonly line: number;
  readonly column: number;
  readonly written: string;
  readonly message: string;
  readonly walk: readonly FoundStep[];
  /** The order as it is and as it should be; null where it is not about that. */
  readonly order: { readonly is: readonly string[]; readonly should: readonly string[] } | null;
  readonly mends: readonly { readonly sure: boolean; readonly text: string }[];
}

/** A file that the page loads, by the check. */
export interface FileLine {
  readonly depth: number;
  readonly kind: string;
  readonly written: string;
  /** The address on the site's host of the file that names it. */
  readonly namedBy: string;
  /** On the site's host; null where it is none of the site, or not there. */
  readonly address: string | null;
  readonly path: string | null;
  readonly found: boolean | 'elsewhere';
  readonly way: string;
  readonly bytes: number | null;
  /** The names that a script makes as it runs. */
  readonly makes: readonly string[];
}

/** An address where nothing is served, and what is known of it. */
export interface Lack {
  readonly asked: string;
  readonly walk: readonly FoundStep[];
  readonly why: string;
  /** What was probably meant, on the site's host. */
  readonly meant: readonly { readonly path: string; readonly address: string }[];
  readonly spots: readonly {
    readonly file: string;
    readonly line: number;
    readonly column: number;
    readonly written: string;
    readonly mend: { readonly sure: boolean; readonly text: string } | null;
  }[];
  readonly moreSpots: number;
  readonly commands: readonly string[];
}

export interface PageAbout {
  readonly path: string;
  readonly bytes: number;
  readonly files: readonly FileLine[];
  readonly findings: readonly FindingShown[];
}

/** What came of a mend or of taking one back. */
export interface Done {
  readonly notes: readonly string[];
  readonly hasChanged: boolean;
}

/** From a page in a frame of the deck. Every text is the page's own, and shown as no more than text. */
export type FrameNews =
  | { readonly cravel: 'proof'; readonly proof: Proof }
  /** What was asked for of one stylesheet. */
  | { readonly cravel: 'rules'; readonly address: string; readonly rules: readonly RuleEffect[] }
  /** How far down it is, of what there is to scroll. */
  | { readonly cravel: 'scrolled'; readonly at: number };

/** From the deck to a page in one of its frames. */
export type FrameOrder =
  | { readonly cravel: 'scroll'; readonly at: number }
  | { readonly cravel: 'rules'; readonly address: string };

export interface Proof {
  /** The address's path, as the browser has it. */
  readonly path: string;
  readonly title: string;
  readonly width: number;
  readonly loaded: readonly Arrival[];
  readonly styles: readonly StyleEffect[];
  readonly scripts: readonly ScriptEffect[];
  readonly images: readonly ImageEffect[];
  readonly fonts: readonly FontEffect[];
  readonly said: readonly Said[];
  readonly sticksOut: readonly StickingOut[];
}

/** What the browser asked for; sizes in bytes, times in milliseconds. */
export interface Arrival {
  readonly address: string;
  readonly status: number;
  readonly bytes: number;
  readonly time: number;
  readonly isOwn: boolean;
}

export interface StyleEffect {
  /** Null for styles in the page. */
  readonly address: string | null;
  /** Null where the browser keeps its rules to itself. */
  readonly rules: number | null;
  readonly matching: number;
  /** It is there, and the page's media or its `disabled` keep it from working. */
  readonly isIdle: boolean;
}

export interface RuleEffect {
  readonly selector: string;
  readonly isMatching: boolean;
}

export interface ScriptEffect {
  readonly address: string;
  readonly outcome: 'ran' | 'threw' | 'did not arrive';
  readonly names: readonly string[];
}

export interface ImageEffect {
  readonly address: string;
  readonly isThere: boolean;
  readonly natural: readonly [width: number, height: number];
  readonly shown: readonly [width: number, height: number];
}

export interface FontEffect {
  readonly family: string;
  readonly style: string;
  /** `unloaded`: declared, and nothing on the page is set in it. */
  readonly status: 'loaded' | 'unloaded' | 'loading' | 'error';
}

/** An exception, a line of the console, or what the browser blocked. */
export interface Said {
  readonly kind: 'threw' | 'error' | 'warning' | 'blocked' | 'not there';
  readonly text: string;
  readonly address: string | null;
  readonly line: number | null;
}

/** An element that reaches over the right edge of the page. */
export interface StickingOut {
  readonly element: string;
  /** CSS pixels beyond the edge. */
  readonly by: number;
}
