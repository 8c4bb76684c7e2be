/** The scripts of a page, and what is missing as they run. */
import type { ElementQuery } from './element-query.ts';
import type { ScriptFacts, Step } from './steps.ts';

/** A script of a page, or a module that one imports. */
export interface PageScript {
  /** What is known of it; `missing` where it is not there, or does not parse, and so does not run; `unknown` else. */
  readonly facts: ScriptFacts | 'missing' | 'unknown';
  /** While the page is parsed; behind it; whenever it has arrived (HTML 4.12.1). */
  readonly runs: 'at-once' | 'deferred' | 'async';
  /** Of a module: its file, and those of what it imports, by the specifiers. */
  readonly module?: string | null;
  readonly imports?: ReadonlyMap<string, string>;
}

/** A name that is needed and not there. */
export interface Missing {
  /** Its number in the list. */
  readonly script: number;
  readonly step: Step;
  /** The script in which the step stands, where another one calls its function. */
  readonly at: number;
  /** Scripts that make it and run later, or perhaps. */
  readonly later: readonly number[];
  /** It is there if a script that nobody waits for comes in time. */
  readonly isRace: boolean;
  /** Scripts that would make it, and stop before. */
  readonly stopped: readonly number[];
  /** It is needed once the page is there, when all scripts have run. */
  readonly isAfterLoad: boolean;
  /** The script that declared it, where it may not be declared again; `browser` where every page has it. */
  readonly declaredBy?: number | 'browser';
}

/** An element that is needed and not there. */
export interface MissingElement extends Pick<Missing, 'script' | 'step' | 'at' | 'isAfterLoad'> {
  readonly query: ElementQuery;
  /** The page has it further down; or does, and nobody can tell whether that is there yet; or has it nowhere. */
  readonly is: 'further-down' | 'racing' | 'nowhere';
}

export interface PageRun {
  readonly missingElements: readonly MissingElement[];
  readonly missing: readonly Missing[];
  /** In the order in which they run, as numbers of the list; those that run whenever they come are last. */
  readonly order: readonly number[];
  /** Names that are there when all have run. */
  readonly names: ReadonlySet<string>;
  /** A script made, or may have made, what nobody knows. */
  readonly isUnknown: boolean;
}

export type IsThere = (
  name: string,
  script: number,
  before: ReadonlySet<number>,
  isAfterLoad: boolean,
) => boolean | 'as-element';

/** Where the page has an element as a script runs; the element may be there where nobody can tell. */
export type FindElement = (
  query: ElementQuery,
  /** Its number in the list. */
  script: number,
  /** True of a script that has begun to run by then. */
  hasBegun: (script: number) => boolean,
  /** It is looked for once the page is there. */
  isLate: boolean,
) => 'there' | MissingElement['is'];

/** True where a member of what another script makes is there, or nobody can tell. */
export type HasMember = (path: string, script: number, before: ReadonlySet<number>) => boolean;
