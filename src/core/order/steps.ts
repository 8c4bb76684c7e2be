/** What a script does with global names as it runs: the steps, in their order. */
import type { Argument, ElementQuery } from './element-query.ts';
import { NO_SPOTS, type ScriptSpots } from './script-spots.ts';

/** Where something stands in a script: from and to which UTF-16 unit of its text. */
interface Place {
  readonly start: number;
  readonly end: number;
}

/** One thing that a script does with a global name. */
export interface Step extends Place {
  /**
   * `makes`: from here on the name is there. `needs`: here it must be there. `unborn`: a name of the script's own, before
   * the declaration that makes it (ECMA-262 9.1.1.1.6). `calls`: a function of another script. `unknown`: what nobody can
   * tell, such as code that is put together. `ends`: nothing behind it runs. `unset`: one of its own is
   * called before it is given a function. `seeks`: here an element of the page must be there. `upgrades`: elements of that name
   * get a class, whose callbacks then run (HTML 4.13.5). `declares`: a name that another script has declared in a way that allows no other
   * (ECMA-262 16.1.7).
   */
  readonly does:
    | 'makes'
    | 'needs'
    | 'unborn'
    | 'calls'
    | 'unknown'
    | 'ends'
    | 'unset'
    | 'seeks'
    | 'upgrades'
    | 'declares';
  /** Of an element that is sought: how people know it. */
  readonly name: string;
  /** It happens on every run that comes so far; else it may. */
  readonly isSure: boolean;
  /** The piece of the script that ends where a needed name is missing: its number in {@link ScriptFacts.pieces}. */
  readonly piece: number;
  readonly query: ElementQuery | null;
  /** What a function of another script is given, where any of it is known. */
  readonly args?: readonly Argument[];
}

/**
 * What happens where a piece of a script cannot go on: the whole `script` ends; a `caught` piece alone does, and nobody is
 * told; an `async` function alone does, and its promise is rejected (ECMA-262 27.7).
 */
export type PieceKind = 'script' | 'caught' | 'async';

export interface Piece {
  readonly kind: PieceKind;
  /** The number of the piece around it. */
  readonly within: number;
}

/** A name that a module wants from another one (ECMA-262 16.2.2). */
export interface WantedExport extends Place {
  readonly name: string;
  /** It has the same name where it is used. */
  readonly isShort: boolean;
  /** The module's specifier, as written. */
  readonly from: string;
}

/** A name that a script declares on its first level. */
export interface Declared extends Place {
  readonly name: string;
  /** By `let`, `const` or `class`; by a function; by `var`. */
  readonly by: 'let' | 'function' | 'var';
}

/** Plain data, but for its maps and sets. */
export interface ScriptFacts extends ScriptSpots {
  /** While it runs, in order. */
  readonly atLoad: readonly Step[];
  /** What runs by itself once it has: timers, listeners of the page's own events, a library's ready callbacks. */
  readonly afterLoad: readonly Step[];
  readonly pieces: readonly Piece[];
  /** Names made by what runs if something happens, or if somebody calls it. */
  readonly anytime: ReadonlySet<string>;
  /** What calling a function of it does, by its path from the global object: `start`, `Ferry.start`. */
  readonly functions: ReadonlyMap<string, readonly Step[]>;
  /** The elements of the page that functions of it give back, by the function's path. */
  readonly gives: ReadonlyMap<string, ElementQuery>;
  /** What is run for elements in the page, by their name. */
  readonly upgrades: ReadonlyMap<string, readonly Step[]>;
  /** Names that it does without where they are not there. */
  readonly askedAbout: ReadonlySet<string>;
  /** Members that it reads of what others make, as `Tideclock.start`. */
  readonly membersRead: ReadonlySet<string>;
  /** Members that it gives to what others make, as `jQuery.fn.tides`. */
  readonly adds: ReadonlySet<string>;
  /** Of a classic script: what it declares for all scripts, before anything of it runs (ECMA-262 16.1.7). */
  readonly declared: readonly Declared[];
  /** The scripts that a worker brings in; of a module, those that it imports before it runs, by their specifiers, in order (ECMA-262 16.2.1.5). */
  readonly imports: readonly string[];
  readonly wanted: readonly WantedExport[];
  /** Names that it gives to other modules, but for those that it passes on. */
  readonly exports: ReadonlySet<string>;
  /** The modules whose names it passes on, by their specifiers. */
  readonly passesOn: readonly string[];
  /** Names of its own that no other script sees, as modules have them. */
  readonly inside: ReadonlySet<string>;
  /** What others may call of it was followed; not so of libraries: they may make more names than are known. */
  readonly isWhole: boolean;
  /** It writes into the page while that is parsed (HTML 8.4.3). */
  readonly writesPage: boolean;
  /** Nobody can tell what it does: it is too large, or too deep. */
  readonly isUnknown: boolean;
}

export const NOTHING_KNOWN: ScriptFacts = {
  atLoad: [],
  afterLoad: [],
  pieces: [{ kind: 'script', within: 0 }],
  anytime: new Set(),
  functions: new Map(),
  gives: new Map(),
  upgrades: new Map(),
  askedAbout: new Set(),
  membersRead: new Set(),
  adds: new Set(),
  declared: [],
  imports: [],
  wanted: [],
  exports: new Set(),
  passesOn: [],
  inside: new Set(),
  isWhole: false,
  writesPage: false,
  isUnknown: true,
  ...NO_SPOTS,
};
