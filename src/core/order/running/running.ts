/** The state of a script that is followed step by step: what is known so far, and how certain it is to come so far. */
import type { Node } from 'acorn';
import { type Argument, type ElementQuery, selectorOf } from '../element-query.ts';
import { isGiven, isGivenToWorkers, selfNames, selfNamesOfWorkers, serverNames } from '../given-names.ts';
import type { Piece, PieceKind, Step } from '../steps.ts';
import { Scope } from './scope.ts';
import {
  type Code,
  foreign,
  GLOBAL,
  native,
  plain,
  type Thing,
  UNDEFINED,
  UNKNOWN,
  type Value,
} from './values.ts';

/** A call of a function that is under way. */
export interface Frame {
  readonly self: Value;
  readonly code: Code | null;
  readonly isStrict: boolean;
  /** What it gives back, as far as it has. */
  returned: Value | null;
  /** Of an async function: it waits, and what follows runs later. */
  isWaiting: boolean;
  readonly isAsync: boolean;
}

/** A function that runs by itself later, or may. */
interface Waiting {
  readonly code: Code;
  isSure: boolean;
}

/** Thrown where a script takes more steps than anybody waits for. */
export class Exhausted extends Error {}

/** Parsed code has fewer nodes than characters, and is gone through more than once. */
const STEPS_A_CHARACTER = 6;
const FEWEST_STEPS = 50_000;

export class Running {
  steps: Step[] = [];
  readonly pieces: Piece[] = [{ kind: 'script', within: 0 }];
  piece = 0;
  readonly waiting: Waiting[] = [];
  /** The addresses of scripts that a worker brings in. */
  readonly brought: string[] = [];
  /** The classes of custom elements, by their names. */
  readonly upgrades = new Map<string, Code>();
  /** What runs once a promise is settled, by what is known as the promise. */
  readonly reactions = new Map<Value, readonly Waiting[]>();
  /** Every function that was met, to see what those make that nobody called. */
  readonly met = new Set<Code>();
  /** What comes once the script is at its end may make anything. */
  isOpenLater = false;
  readonly askedAbout = new Set<string>();
  /** Members of what other scripts make, as `Tideclock.start`. */
  readonly membersRead = new Set<string>();
  /** Something is written into the page while it is parsed. */
  writesPage = false;
  readonly membersSet = new Set<string>();
  readonly globals = new Map<string, Value>();
  /** The branch that is followed: 0 for what always runs. */
  branch = 0;
  /** The branch in which all is certain: that of the script, or of a function that is followed by itself. */
  base = 0;
  #branches = 0;
  /** Loops whose bodies are gone through once, however often they run. */
  loops = 0;
  depth = 0;
  /** The script has run: what variables hold by now nobody knows. */
  isLater = false;
  /** Functions are followed without anybody who calls them: what they are given is not known. */
  isGuessing = false;
  /** What the last constructor gave back; null where it gave nothing. */
  constructed: Value | null = null;
  readonly #calls = new Map<Node, { telling: number; alike: number }>();
  frame: Frame;
  #left: number;

  constructor(
    readonly text: string,
    readonly isModule: boolean,
    isStrict: boolean,
    /** Its first level (ECMA-262 9.1.1.4): what `let`, `const` and `class` declare there other scripts see. */
    readonly scriptScope: Scope,
    readonly isWorker: boolean,
  ) {
    this.#left = Math.max(FEWEST_STEPS, text.length * STEPS_A_CHARACTER);
    this.frame = {
      self: isModule ? UNDEFINED : GLOBAL,
      code: null,
      isStrict: isStrict || isModule,
      returned: null,
      isWaiting: false,
      isAsync: false,
    };
  }

  #isGiven(name: string): boolean {
    return this.isWorker ? isGivenToWorkers(name) : isGiven(name);
  }

  get isSure(): boolean {
    return this.branch === this.base;
  }

  /** To be told of every node that is gone through. */
  pass(): void {
    if (--this.#left < 0) throw new Exhausted();
  }

  newBranch(): number {
    return ++this.#branches;
  }

  /** Follows what may not run. */
  perhaps<T>(follow: () => T): T {
    const before = this.branch;
    this.branch = this.newBranch();
    try {
      return follow();
    } finally {
      this.branch = before;
    }
  }

  /** From here on nobody can tell whether it is come to: until the branch around ends. */
  doubt(): void {
    this.branch = this.newBranch();
  }

  /** Follows a piece that can end by itself. */
  inPiece<T>(kind: PieceKind, follow: () => T): T {
    const before = this.piece;
    this.piece = this.pieces.push({ kind, within: before }) - 1;
    try {
      return follow();
    } finally {
      this.piece = before;
    }
  }

  note(
    does: Step['does'],
    name: string,
    { start, end }: Pick<Node, 'start' | 'end'>,
    query: ElementQuery | null = null,
  ): void {
    const { isSure, piece } = this;
    this.steps.push({ does, name, isSure, piece, start, end, query });
  }

  /** Notes the call of a function of another script. */
  noteCall(path: string, { start, end }: Pick<Node, 'start' | 'end'>, args: readonly Argument[]): void {
    const { isSure, piece } = this;
    const known = args.some((one) => one !== null) ? { args } : {};
    this.steps.push({ does: 'calls', name: path, isSure, piece, start, end, query: null, ...known });
  }

  /** Counts the calls of a function. */
  callsOf(node: Node, isTelling: boolean): number {
    let calls = this.#calls.get(node);
    if (calls === undefined) {
      calls = { telling: 0, alike: 0 };
      this.#calls.set(node, calls);
    }
    return isTelling ? ++calls.telling : ++calls.alike;
  }

  /** True for a function that was followed. */
  wasCalled(node: Node): boolean {
    return this.#calls.has(node);
  }

  newScope(parent: Scope | null): Scope {
    return new Scope(parent, this.branch);
  }

  /** The value of a name (ECMA-262 9.1.2.1). `isAsked` where a missing one is no mistake. */
  read(name: string, scope: Scope, node: Node, isAsked = false): Value {
    const owner = scope.ownerOf(name);
    if (owner !== null) {
      const { value, isBorn, isConstant } = owner.get(name);
      if (!isBorn) {
        if (this.isSure && !this.isLater) this.note('unborn', name, node);
        return UNKNOWN;
      }
      return this.isLater && value.is === 'plain' && !isConstant && owner.branch !== this.branch
        ? UNKNOWN
        : value;
    }
    if (name === 'undefined') return UNDEFINED;
    return this.readGlobal(name, node, isAsked);
  }

  readGlobal(name: string, node: Node, isAsked: boolean): Value {
    const known = this.globals.get(name);
    if (known !== undefined) return this.isLater && known.is === 'plain' ? UNKNOWN : known;
    if ((this.isWorker ? selfNamesOfWorkers : selfNames).has(name)) return GLOBAL;
    if (this.#isGiven(name)) return native(name);
    // The documents of a page are there by their numbers (HTML 7.2.2.3).
    if (/^\d+$/.test(name)) return UNKNOWN;
    if (isAsked) {
      this.askedAbout.add(name);
      return serverNames.has(name) ? UNDEFINED : foreign(name, true);
    }
    this.note('needs', name, node);
    return foreign(name, false);
  }

  /** Notes a `var` that is called before the one line that gives it a function (ECMA-262 14.3.2). */
  noteUnset(name: string, node: Node): void {
    if (!this.isSure || this.isLater || !/^[\w$]+$/.test(name)) return;
    const given = new RegExp(`(?<![\\w$.])${name.replaceAll('$', '\\$')}\\s*=(?!=)`, 'g');
    const [first, second] = this.text.matchAll(given);
    if (first !== undefined && second === undefined && first.index > node.end) this.note('unset', name, node);
  }

  /** What is missing there ends the script (ECMA-262 13.3.2): a property of what is not there is asked for. */
  follow(value: Value, node: Node): void {
    if (value.is === 'foreign' && value.isAsked) this.note('needs', value.path, node);
    if (value.is === 'element') this.note('seeks', selectorOf(value.query), node, value.query);
  }

  /** Notes a member of what another script makes, but for one that this script puts there itself. */
  readMember(path: string): void {
    if (!this.membersSet.has(path)) this.membersRead.add(path);
  }

  /** Notes members that what another script makes is given. */
  addMembers(path: string, { properties }: Thing): void {
    for (const key of properties.keys()) this.membersSet.add(`${path}.${key}`);
  }

  assign(name: string, value: Value, scope: Scope, node: Node): void {
    const owner = scope.ownerOf(name);
    if (owner !== null) {
      owner.assign(name, value, this.branch);
      return;
    }
    // Strict code may not make a name by the way (ECMA-262 6.2.5.6).
    if (this.frame.isStrict && !this.globals.has(name) && !this.#isGiven(name))
      this.note('needs', name, node);
    this.makeGlobal(name, value, node);
  }

  makeGlobal(name: string, value: Value, node: Pick<Node, 'start' | 'end'>): void {
    this.note('makes', name, node);
    const known = this.globals.get(name);
    this.globals.set(name, known === undefined || this.branch === this.base ? value : UNKNOWN);
  }

  /** Waits in an async function: what follows runs later, for certain only where it is known what is waited for. */
  wait(value: Value): void {
    const { frame } = this;
    if (!frame.isAsync) return;
    const isSure = value.is === 'plain' || value.is === 'thing' || value.is === 'code' || isPromise(value);
    if (this.isLater) {
      if (!isSure) this.doubt();
      return;
    }
    frame.isWaiting = true;
    if (frame.code !== null) this.later(frame.code, this.isSure && isSure);
  }

  /** Names of the global object that nobody can tell were made. */
  makeUnknown(node: Pick<Node, 'start' | 'end'>): void {
    this.note('unknown', '', node);
  }

  later(code: Value, isSure: boolean): void {
    if (code.is !== 'code') return;
    this.waiting.push({ code, isSure: isSure && this.isSure });
  }

  /** What `typeof` says (ECMA-262 13.5.3). */
  typeOf(value: Value): Value {
    switch (value.is) {
      case 'plain':
        return plain(value.value === null ? 'object' : typeof value.value);
      case 'thing':
      case 'global':
        return plain('object');
      case 'code':
        return plain('function');
      case 'native':
        return typeOfNative(value.path);
      default:
        return UNKNOWN;
    }
  }
}

/** A promise of a browser's that is going to be kept. */
export const PROMISE = 'Promise()';

export function isPromise(value: Value): boolean {
  return value.is === 'native' && value.path === PROMISE;
}

const OBJECTS =
  /^(?:document|navigator|location|history|console|Math|JSON|Reflect|Intl|localStorage|screen)$/;
const FUNCTIONS =
  /^(?:Object|Array|Function|Promise|Symbol|Map|Set|WeakMap|Date|RegExp|Error|String|Number|Boolean|Event|Element|Node|HTMLElement|URL|setTimeout|setInterval|clearTimeout|addEventListener|requestAnimationFrame|fetch|parseInt|parseFloat)$/;

function typeOfNative(path: string): Value {
  if (OBJECTS.test(path)) return plain('object');
  return FUNCTIONS.test(path) ? plain('function') : UNKNOWN;
}
