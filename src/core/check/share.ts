/** What one file brings to the report, by itself and by the inventory. */

import type { PageRecord } from '../judge/rule.ts';
import type { Master } from '../page/parts.ts';
import type { Extent } from '../read/lines.ts';
import type { ImportMap, Kind, PageFacts, Reference } from '../read/reading.ts';
import type { Finding } from '../report.ts';
import type { Target } from '../resolve/resolve.ts';
import type { Resolver } from '../resolve/resolver.ts';
import type { SiteView } from '../resolve/subject.ts';
import type { Question } from './elsewhere.ts';
import type { FileMarks } from './marks.ts';
import type { HandlerNeed, ScriptTag } from './page-code.ts';
import type { Sayings } from './sayings.ts';

/** A reference with something to be said of it, once the whole site is known. */
export interface Suspect {
  readonly reference: Reference;
  readonly target: Target;
  readonly found: string | null;
  readonly extent: Extent;
}

/** An address in a script that only the pages that run it tell, and where it stands. */
export interface RunAddress {
  readonly reference: Reference;
  readonly extent: Extent;
  /** A bare module specifier, an address that the platform asks for, the source of a worker, a string that looks like a path. */
  readonly as: 'specifier' | 'address' | 'worker' | 'guess';
  /** See {@link Hint}. */
  readonly isLoading: boolean;
}

/** Plain data, as `structuredClone` takes it: no functions, and nothing that must stay the one object that it is. */
export interface Share {
  readonly file: string;
  readonly encoding: string;
  /** The base address of its references, as a site path; null where it lies outside of the site. */
  readonly base: string | null;
  readonly references: number;
  /** References to other hosts. */
  readonly external: number;
  /** What an HTML file is by its text; null for other files. */
  readonly form: PageFacts['form'] | null;
  /** An HTML file that was found to be no page. */
  readonly isApart: boolean;
  /** Null for files that are no pages, as is `anchors`, and for pages that are there once more by way of a link. */
  readonly record: PageRecord | null;
  readonly anchors: ReadonlySet<string> | null;
  /** Where the first of its anchors stand. */
  readonly firstAnchors: ReadonlyMap<string, number>;
  /** Where the last of its anchors stands. */
  readonly lastAnchor: number;
  /** What it loads, and as what; what it leads to; what else it names. */
  readonly loads: ReadonlyMap<string, Kind>;
  readonly leadsTo: readonly string[];
  readonly names: readonly string[];
  /** What is known from the file alone. */
  readonly findings: readonly Finding[];
  /** What the names of files in the inventory have a part in. */
  readonly suspected: readonly Finding[];
  readonly suspects: readonly Suspect[];
  /** Spots of other pages that it leads to, and missing ones of its own, each once: their numbers in the `Spots` of the check. */
  readonly spots: readonly number[];
  readonly runAddresses: readonly RunAddress[];
  /** The sources of the workers that its own code starts. */
  readonly workers: readonly string[];
  /** The modules that its own code imports by their addresses. */
  readonly modules: readonly string[];
  /** Files that its own code asks for. */
  readonly data: readonly string[];
  /** What its code may put in front of paths; null where that may be anything. */
  readonly prefixes: readonly string[] | null;
  /** Strings that look like paths, and name no file. */
  readonly hasOpenHints: boolean;
  readonly imports: ImportMap | null;
  /** Of a page: what it runs, in the order of the page, and what its event handlers need. */
  readonly scripts: readonly ScriptTag[];
  readonly handlers: readonly HandlerNeed[];
  /** Of a page: documents in its `srcdoc` attributes that run scripts, each as a page in small (`frames.ts`). */
  readonly frames: readonly Share[];
  /** Of a page: an event handler reads the fragment of its address. */
  readonly readsFragment: boolean;
  /** What other hosts are to be asked for, where they are. */
  readonly questions: readonly Question[];
  /** Copies of parts, or the masters, are among what it holds. */
  readonly marksParts: boolean;
}

/** What all files of one check have in common. */
export interface Surroundings {
  readonly site: SiteView;
  readonly resolver: Resolver;
  /** Of references whose target needs no look at other files. */
  readonly sayings: Sayings;
  readonly marks: FileMarks;
  /** Other hosts are to be asked. */
  readonly isOnline: boolean;
  /** The site is small enough for its navigations to be compared page by page: larger ones are not written by hand. */
  readonly comparesMenus: boolean;
  /** Of files of libraries the other builds, as the settings record them. */
  readonly builds: ReadonlyMap<string, string>;
  /** Texts of the project's starter. */
  readonly samples: readonly string[];
  /** The masters of parts, read before any copy. */
  masters: ReadonlyMap<string, Master>;
}
