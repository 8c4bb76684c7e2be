/** Runs the scripts of a page in their order, by what is known of each, and tells which names are missing where. */
import { pushTo } from '../group-by.ts';
import { Declarations } from './declarations.ts';
import { type ElementQuery, queryWith, selectorOf } from './element-query.ts';
import { serverNames } from './given-names.ts';
import { isOfElement } from './handler-names.ts';
import { memberPath } from './member-path.ts';
import type {
  FindElement,
  HasMember,
  IsThere,
  Missing,
  MissingElement,
  PageRun,
  PageScript,
} from './page-script.ts';
import { memberOf, rootOf, stepWith, takesArguments } from './step-changes.ts';
import type { ScriptFacts, Step } from './steps.ts';

/** Functions of other scripts that are followed into each other. */
const DEEPEST = 20;

/**
 * `isThere` tells names that may be there all the same as a script runs, by the page's elements or by a library that is not
 * known through and through; `before` are the scripts that ran before it, to their end.
 */
export function runPage(
  scripts: readonly PageScript[],
  isThere: IsThere,
  findElement: FindElement = () => 'there',
  hasMember: HasMember = () => true,
): PageRun {
  return new PageRunner(scripts, isThere, findElement, hasMember).run();
}

/** The piece of a script that could not go on. */
const WHOLE = 0;

class PageRunner {
  readonly #names = new Set<string>();
  /** Names that a script may have made whose place in the order is open. */
  readonly #racing = new Set<string>();
  /** Names made while the page is parsed, each with the first script that does. */
  readonly #madeAtOnce = new Map<string, number>();
  readonly #firstMakers = new Map<string, number>();
  /** Where each script comes in the order, and how far that was gone through. */
  readonly #places: number[] = [];
  #reached = -1;
  /** Those that came to their end. */
  readonly #ran = new Set<number>();
  #isUnknown = false;
  /** Elements that got a class. */
  readonly #upgrades: { readonly script: number; readonly at: number; readonly step: Step }[] = [];
  /** Members that scripts gave to what others make. */
  readonly #added = new Set<string>();
  /** Names that are there by an element of the page alone. */
  readonly #byElement = new Set<string>();
  #makers: Map<string, number[]> | null = null;
  /** Scripts that run whenever they come, and that nobody has passed yet. */
  readonly #waitingForNobody: number[];
  readonly #missingElements: MissingElement[] = [];
  readonly #missing: Omit<Missing, 'later' | 'stopped'>[] = [];
  /** All scripts have run. */
  #isAfterLoad = false;
  /** Scripts that did not come to their end. */
  readonly #stopped = new Set<number>();
  readonly #declarations = new Declarations();
  /** Elements that functions give back, by path. */
  readonly #given = new Map<string, ElementQuery>();
  /** Functions that others may call, by path, with the script that has them. */
  readonly #functions = new Map<
    string,
    { readonly script: number; readonly steps: readonly Step[]; readonly isOpen: boolean }
  >();

  constructor(
    readonly scripts: readonly PageScript[],
    readonly isThere: IsThere,
    readonly findElement: FindElement,
    readonly hasMember: HasMember,
  ) {
    this.#waitingForNobody = [...scripts.keys()].filter((index) => scripts[index]?.runs === 'async');
  }

  run(): PageRun {
    const order = orderOf(this.scripts);
    const { scripts } = this;
    for (const [place, number] of order.entries()) this.#places[number] = place;
    for (const number of order) {
      this.#reached = this.#places[number] as number;
      const script = scripts[number] as PageScript;
      // From its tag on, what nobody waits for may run at any time.
      if (script.runs !== 'async') this.#race(number, script);
      this.#runScript(number, script);
      if (!this.#stopped.has(number)) this.#ran.add(number);
    }
    for (const { facts } of scripts) if (typeof facts !== 'string') this.#settle(facts);
    this.#runAfterLoad(order);
    const places = this.#places;
    const missing = this.#missing.map((one): Missing => {
      const { script, step, isAfterLoad } = one;
      const makers = this.#makersOf(step.name);
      const isLater = (maker: number) =>
        (places[maker] as number) > (places[script] as number) ||
        scripts[maker]?.runs === 'async' ||
        (scripts[script]?.runs === 'async' && maker !== script && !this.#isSurelyBefore(maker, script));
      const later = makers.filter(isLater);
      const stopped = makers.filter((maker) => this.#stopped.has(maker) && !isLater(maker));
      const isLate = step.does === 'needs' && !isAfterLoad;
      return { ...one, later: isLate ? later : [], stopped: step.does === 'declares' ? [] : stopped };
    });
    const missingElements = this.#missingElements;
    return { missing, missingElements, order, names: this.#names, isUnknown: this.#isUnknown };
  }

  /** What runs by itself once the page is there finds all that scripts made, in whatever order. */
  #runAfterLoad(order: readonly number[]): void {
    this.#isAfterLoad = true;
    const isUnknown = this.#isUnknown;
    const open = order.filter((number) => mayMakeAnythingLater(this.scripts[number] as PageScript));
    for (const number of order) {
      const { facts, runs } = this.scripts[number] as PageScript;
      // What a script that stopped had asked for by then nobody knows, nor what one that came late was told of.
      if (typeof facts === 'string' || facts.isUnknown || runs === 'async' || this.#stopped.has(number))
        continue;
      // What one of them makes nobody can tell, and the others may find it.
      this.#isUnknown = isUnknown || open.some((other) => other !== number);
      this.#follow(number, number, facts, facts.afterLoad, false, 0);
    }
    this.#isUnknown = isUnknown || open.length > 0;
    for (const { script, at, step } of this.#upgrades) {
      const { facts } = this.scripts[at] as PageScript;
      const query = step.query as ElementQuery;
      if (typeof facts === 'string' || this.findElement(query, script, this.#begun(), true) !== 'there')
        continue;
      this.#follow(script, at, facts, facts.upgrades.get(step.name) ?? [], false, 0);
    }
  }

  /** What is made by then. */
  #settle({ afterLoad }: ScriptFacts): void {
    for (const { does, name } of afterLoad) {
      if (does === 'makes') this.#names.add(name);
    }
  }

  /** Notes what scripts may have made that nobody waits for, and that stand before this one. */
  #race(number: number, { runs }: PageScript): void {
    for (let index = this.#waitingForNobody[0]; index !== undefined; index = this.#waitingForNobody[0]) {
      if (runs === 'at-once' && index > number) return;
      this.#waitingForNobody.shift();
      const { facts } = this.scripts[index] as PageScript;
      if (facts === 'unknown') this.#isUnknown = true;
      if (typeof facts !== 'string') for (const name of namesOf(facts)) this.#racing.add(name);
    }
  }

  /** The scripts that make a name, or may; of all names at once, since many may be missing. */
  #makersOf(name: string): readonly number[] {
    if (this.#makers === null) {
      this.#makers = new Map();
      for (const [index, { facts }] of this.scripts.entries())
        if (typeof facts !== 'string') for (const one of allNamesOf(facts)) pushTo(this.#makers, one, index);
    }
    return this.#makers.get(name) ?? [];
  }

  #runScript(number: number, { facts, runs }: PageScript): void {
    if (facts === 'missing') return;
    if (facts === 'unknown' || facts.isUnknown) {
      this.#isUnknown = true;
      return;
    }
    const clash = runs === 'async' ? null : this.#declarations.declare(number, facts.declared);
    if (clash !== null) {
      const { name, start, end } = clash.declared;
      const step: Step = { does: 'declares', name, isSure: true, piece: WHOLE, start, end, query: null };
      const { declaredBy } = clash;
      this.#missing.push({ script: number, at: number, step, isRace: false, isAfterLoad: false, declaredBy });
      this.#stopped.add(number);
      return;
    }
    // A loader of modules, or what looks like one, makes another of such a script.
    if ([...facts.askedAbout].some((name) => serverNames.has(name) && this.#names.has(name)))
      this.#isUnknown = true;
    const isDone = this.#follow(number, number, facts, facts.atLoad, runs === 'async', 0);
    if (!isDone) this.#stopped.add(number);
    else for (const path of facts.adds) this.#added.add(path);
    for (const name of isDone ? facts.anytime : []) {
      this.#names.add(name);
      if (runs === 'at-once' && !this.#madeAtOnce.has(name)) this.#madeAtOnce.set(name, number);
    }
    const { module } = this.scripts[number] as PageScript;
    for (const [path, steps] of facts.functions)
      this.#functions.set(module === undefined ? path : `${module} ${path}`, {
        script: number,
        steps,
        isOpen: steps.some(takesArguments),
      });
    for (const [path, query] of facts.gives)
      this.#given.set(module === undefined ? path : `${module} ${path}`, query);
  }

  /** Follows steps; false where they end before the last one. */
  #follow(
    script: number,
    at: number,
    { pieces }: ScriptFacts,
    steps: readonly Step[],
    isRacing: boolean,
    depth: number,
  ): boolean {
    const over = new Set<number>();
    const isOver = (piece: number) => {
      for (let one = piece; ; one = pieces[one]?.within ?? WHOLE) {
        if (over.has(one)) return true;
        if (one === WHOLE) return false;
      }
    };
    for (const step of steps) {
      if (isOver(step.piece)) continue;
      if (this.#take(script, at, step, isRacing, depth, pieces[step.piece]?.kind !== 'caught')) continue;
      over.add(step.piece);
      if (step.piece === WHOLE) return false;
    }
    return true;
  }

  /** False where nothing that belongs to it runs any more. */
  #take(script: number, at: number, step: Step, isRacing: boolean, depth: number, isTold: boolean): boolean {
    switch (step.does) {
      case 'makes':
        this.#names.add(step.name);
        if (!this.#firstMakers.has(step.name)) this.#firstMakers.set(step.name, script);
        if (this.scripts[script]?.runs === 'at-once' && !this.#madeAtOnce.has(step.name))
          this.#madeAtOnce.set(step.name, script);
        return true;
      case 'unknown':
        this.#isUnknown = true;
        return true;
      case 'ends':
        return false;
      case 'unborn':
        if (isTold) this.#missing.push({ script, at, step, isRace: false, isAfterLoad: this.#isAfterLoad });
        return false;
      case 'unset':
        // A script before it may have given it one.
        if (this.#isUnknown || (this.#firstMakers.get(step.name) ?? script) !== script) return true;
        if (isTold) this.#missing.push({ script, at, step, isRace: false, isAfterLoad: this.#isAfterLoad });
        return false;
      case 'upgrades':
        if (step.isSure) this.#upgrades.push({ script, at, step });
        return true;
      case 'seeks':
        return !step.isSure || this.#find(script, at, step, isTold);
      case 'needs':
        if (!step.isSure || this.#isUnknown || this.#isMade(step.name, script, isRacing)) return true;
        switch (this.isThere(step.name, script, this.#ran, this.#isAfterLoad)) {
          case 'as-element':
            this.#byElement.add(step.name);
            return true;
          case true:
            return true;
          default:
        }
        return this.#miss(script, at, step, isRacing, isTold);
      default:
        return this.#call(script, at, step, isRacing, depth, isTold);
    }
  }

  /** True for what stands before a script that nobody waits for, and is run while the page is parsed. */
  #isSurelyBefore(maker: number, script: number): boolean {
    return this.scripts[maker]?.runs === 'at-once' && maker < script;
  }

  /** Who nobody waits for finds for certain what stands before it and is made while the page is parsed. */
  #isMade(name: string, script: number, isRacing: boolean): boolean {
    if (!this.#names.has(name) || !isRacing) return this.#names.has(name);
    const { facts } = this.scripts[script] as PageScript;
    const isOwn = typeof facts !== 'string' && makes(facts, name);
    return isOwn || (this.#madeAtOnce.get(name) ?? Number.POSITIVE_INFINITY) < script;
  }

  #miss(script: number, at: number, step: Step, isRacing: boolean, isTold: boolean): boolean {
    const isAfterLoad = this.#isAfterLoad;
    const isRace =
      this.#racing.has(step.name) || (isRacing && this.#makersOf(step.name).some((one) => one !== script));
    if (isTold) this.#missing.push({ script, at, step, isRace, isAfterLoad });
    // Who comes in time is not held up.
    if (isRace) return true;
    return false;
  }

  #begun(): (script: number) => boolean {
    const [places, reached] = [this.#places, this.#reached];
    return (script) => (places[script] as number) <= reached;
  }

  /** What is looked for by what functions of other scripts give; null where nobody can tell. */
  #queryOf(query: ElementQuery, at: number, depth = 0): ElementQuery | null {
    if (query.by === 'parameter' || depth > DEEPEST) return null;
    if (query.by !== 'result') return query;
    const given = this.#given.get(this.#pathOf(query.value, at));
    const found = given === undefined ? null : queryWith(given, query.args ?? []);
    return found && this.#queryOf({ ...found, isLate: query.isLate }, at, depth + 1);
  }

  /** Looks for an element; false where it is not there. */
  #find(script: number, at: number, step: Step, isTold: boolean): boolean {
    const query = this.#queryOf(step.query as ElementQuery, at);
    if (query === null) return true;
    const isAfterLoad = this.#isAfterLoad;
    const is = this.findElement(query, script, this.#begun(), isAfterLoad && query.isLate);
    if (is === 'there' || (is === 'nowhere' && this.#isUnknown)) return true;
    const named = { ...step, name: selectorOf(query) };
    if (isTold) this.#missingElements.push({ script, at, step: named, query, is, isAfterLoad });
    return is === 'racing';
  }

  #lacksMember(script: number, path: string): boolean {
    const { facts } = this.scripts[script] as PageScript;
    if (this.#isUnknown || this.#added.has(path) || (typeof facts !== 'string' && facts.adds.has(path)))
      return false;
    return !this.hasMember(path, script, this.#ran);
  }

  /** True for a call of what is there by an element alone, and that elements do not have. */
  #isOfElement(path: string): boolean {
    const [root = '', member, ...more] = path.split('.');
    if (!this.#byElement.has(root) || this.#names.has(root)) return false;
    return member === undefined || (more.length === 0 && !isOfElement(member));
  }

  /** A function that a module imports is called by the file that has it. */
  #pathOf(name: string, at: number): string {
    const [specifier = '', exported] = name.split(' ');
    if (exported === undefined) return name;
    return `${this.scripts[at]?.imports?.get(specifier) ?? ''} ${exported.replace(/^\*\./, '')}`;
  }

  #call(script: number, at: number, step: Step, isRacing: boolean, depth: number, isTold: boolean): boolean {
    const { name, isSure } = step;
    if (isSure && this.#isOfElement(name)) return this.#miss(script, at, rootOf(step), isRacing, isTold);
    if (isSure && name.includes('.') && this.#lacksMember(script, memberPath(name)))
      return this.#miss(script, at, memberOf(step), isRacing, isTold);
    const called = this.#functions.get(this.#pathOf(name, at));
    if (called === undefined || depth >= DEEPEST) return true;
    const { facts } = this.scripts[called.script] as PageScript;
    if (typeof facts === 'string') return true;
    const given = called.isOpen
      ? called.steps.flatMap((one) => stepWith(one, step.args ?? []) ?? [])
      : called.steps;
    const steps = isSure ? given : given.map((one) => ({ ...one, isSure: false }));
    return this.#follow(script, called.script, facts, steps, isRacing, depth + 1);
  }
}

function mayMakeAnythingLater({ facts }: PageScript): boolean {
  return typeof facts !== 'string' && facts.afterLoad.some(({ does }) => does === 'unknown');
}

/** While the page is parsed, behind it, whenever they come (HTML 4.12.1.1, prepare the script element). */
function orderOf(scripts: readonly PageScript[]): number[] {
  const numbers = scripts.map((_, index) => index);
  return (['at-once', 'deferred', 'async'] as const).flatMap((when) =>
    numbers.filter((index) => scripts[index]?.runs === when),
  );
}

/** Those that it makes once the page is there included. */
function allNamesOf(facts: ScriptFacts): Set<string> {
  const names = namesOf(facts);
  for (const { does, name } of facts.afterLoad) if (does === 'makes') names.add(name);
  for (const path of facts.adds) names.add(path);
  return names;
}

/** All names that a script makes or may make while the page is loaded. */
export function namesOf({ atLoad, anytime }: ScriptFacts): Set<string> {
  const names = new Set(anytime);
  for (const { does, name } of atLoad) if (does === 'makes') names.add(name);
  return names;
}

function makes({ atLoad, afterLoad, anytime }: ScriptFacts, name: string): boolean {
  const isMaking = (step: Step) => step.does === 'makes' && step.name === name;
  return anytime.has(name) || atLoad.some(isMaking) || afterLoad.some(isMaking);
}
