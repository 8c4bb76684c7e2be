/** What a script makes and needs, found by following it as it runs. */
import type { AnyNode, ExportNamedDeclaration, Program } from 'acorn';
import { isTooDeep } from '../read/script/depth.ts';
import { parseAs, parseBody, saidBy } from '../read/script/parse.ts';
import type { ElementQuery } from './element-query.ts';
import { memberPath } from './member-path.ts';
import { construct, invoke } from './running/calls.ts';
import { parameters } from './running/elements.ts';
import { hoist } from './running/functions.ts';
import { declaredIn, namesIn, saysStrict } from './running/hoisting.ts';
import { Exhausted, Running } from './running/running.ts';
import { Scope } from './running/scope.ts';
import { execute } from './running/statements.ts';
import { foreign, UNKNOWN, type Value } from './running/values.ts';
import { spotsOfScript } from './script-spots.ts';
import { type Declared, NOTHING_KNOWN, type ScriptFacts, type Step, type WantedExport } from './steps.ts';
import { withoutData } from './without-data.ts';

/** `worker`: a script that runs in a worker (HTML 10.2.2). */
export type Goal = 'script' | 'module' | 'handler' | 'worker';

/** What is not run at load is followed in scripts of this length at most: longer ones are libraries. */
const LONGEST_CALLED = 60_000;
const MOST_FUNCTIONS = 300;

/** `null` where it does not parse (ECMA-262 16): nothing of it runs. */
export function scriptFacts(whole: string, goal: Goal): ScriptFacts | null {
  const text = withoutData(whole);
  if (isTooDeep(text)) return NOTHING_KNOWN;
  let program: Program;
  try {
    program = parseFor(goal, text);
  } catch (error) {
    return isOfStack(error) ? NOTHING_KNOWN : null;
  }
  try {
    return follow(program, text, goal);
  } catch (error) {
    if (isOfStack(error)) return NOTHING_KNOWN;
    throw error;
  }
}

function parseFor(goal: Goal, text: string): Program {
  return goal === 'handler' ? parseBody(text) : parseAs(text, goal === 'module' ? 'module' : 'script');
}

/** Why a browser refuses a script, in the parser's words, and where (UTF-16); null where it does not. */
export function refusalOf(text: string, goal: Goal): { readonly why: string; readonly at: number } | null {
  if (isTooDeep(text)) return null;
  try {
    parseFor(goal, text);
    return null;
  } catch (error) {
    return isOfStack(error) ? null : saidBy(error, text);
  }
}

function isOfStack(error: unknown): boolean {
  return error instanceof RangeError || (error as Error).message.includes('stack space');
}

function follow(program: Program, text: string, goal: Goal): ScriptFacts {
  const isModule = goal === 'module';
  const scope = new Scope(null, 0);
  const run = new Running(text, isModule, saysStrict(program.body), scope, goal === 'worker');
  declareImports(program, scope);
  hoist(run, program.body, scope, goal === 'script' || goal === 'worker');
  const isAtEnd = asFar(() => void execute(run, program.body as AnyNode[], scope));
  if (run.isOpenLater || !isAtEnd) run.makeUnknown(program);
  const atLoad = run.steps;
  const isWhole = text.length <= LONGEST_CALLED;
  let afterLoad: Step[] = [];
  let functions: ReadonlyMap<string, readonly Step[]> = new Map();
  let gives: ScriptFacts['gives'] = new Map();
  let upgrades: ReadonlyMap<string, readonly Step[]> = new Map();
  let anytime: ReadonlySet<string> = new Set();
  const isFollowed =
    isAtEnd &&
    asFar(() => {
      afterLoad = whatFollows(run);
      if (goal !== 'handler' && isWhole) ({ functions, gives } = whatIsCalled(run, program));
      upgrades = whatIsUpgraded(run);
      if (isWhole) anytime = whatMayBe(run);
    });
  const { readsFragment, ids, copiesTemplates, putsMarkup } = spotsOfScript(program, text, isWhole);
  return {
    atLoad: tidy(atLoad),
    afterLoad: tidy(afterLoad),
    pieces: run.pieces,
    anytime,
    upgrades,
    gives,
    functions: new Map(Array.from(functions, ([path, steps]) => [path, tidy(steps)])),
    askedAbout: run.askedAbout,
    membersRead: run.membersRead,
    adds: new Set(Array.from(run.membersSet, memberPath)),
    declared: goal === 'script' ? declaredBySelf(program) : [],
    imports: isModule ? importsOf(program) : run.brought,
    wanted: isModule ? wantedBy(program) : [],
    exports: isModule ? exportsOf(program) : new Set(),
    passesOn: isModule ? passedOnBy(program) : [],
    inside: new Set(isModule ? scope.names : []),
    isWhole: isWhole && isFollowed,
    writesPage: run.writesPage,
    isUnknown: false,
    readsFragment,
    ids,
    copiesTemplates,
    putsMarkup,
  };
}

/** False where it takes more steps than anybody waits for: what was found until then is known. */
function asFar(follow: () => void): boolean {
  try {
    follow();
    return true;
  } catch (error) {
    if (!(error instanceof Exhausted)) throw error;
    return false;
  }
}

/** What it declares for all scripts (ECMA-262 16.1.7). */
function declaredBySelf({ body }: Program): Declared[] {
  const { variables, lifted, functions, lexical } = declaredIn(body as AnyNode[]);
  const at = { start: 0, end: 0 };
  const names = [...variables, ...(saysStrict(body) ? [] : lifted)];
  return [
    ...lexical.map(({ name, start, end }) => ({ name, start, end, by: 'let' as const })),
    ...functions.flatMap(({ id }) =>
      id ? { name: id.name, start: id.start, end: id.end, by: 'function' as const } : [],
    ),
    ...names.map((name) => ({ name, ...at, by: 'var' as const })),
  ];
}

/** Each name once for each way in which it is needed or made: what comes again says nothing new. */
function tidy(steps: readonly Step[]): readonly Step[] {
  const known = new Set<string>();
  return steps.filter(({ does, name, isSure, piece, query, args }) => {
    if (does === 'ends' || does === 'unborn' || does === 'unset') return true;
    const given = args === undefined ? '' : JSON.stringify(args);
    const key = `${does} ${name} ${query?.isLate ?? ''} ${query?.parameter ?? ''} ${given}`;
    if (known.has(key)) return false;
    // What happens in a piece that may not come so far says nothing of what follows.
    if (isSure && (piece === 0 || does === 'makes')) known.add(key);
    else if (known.has(`${key} ${piece} ${isSure}`)) return false;
    known.add(`${key} ${piece} ${isSure}`);
    return true;
  });
}

/** Names that a module imports are its own (ECMA-262 16.2.2). */
function declareImports({ body }: Program, scope: Scope): void {
  for (const node of body)
    if (node.type === 'ImportDeclaration')
      for (const one of node.specifiers) {
        const from = String(node.source.value);
        const name =
          one.type === 'ImportSpecifier'
            ? nameOf(one.imported)
            : one.type === 'ImportDefaultSpecifier'
              ? 'default'
              : // All that it exports, as properties (ECMA-262 16.2.1.10).
                '*';
        scope.declare(one.local.name, true, foreign(importedPath(from, name), false));
      }
}

/** How a function of another module is called in steps. */
function importedPath(specifier: string, name: string): string {
  return `${specifier} ${name}`;
}

function nameOf(node: { readonly type: string; readonly name?: string; readonly value?: unknown }): string {
  return node.name ?? String(node.value);
}

/** What runs by itself later, and what that leads to. */
function whatFollows(run: Running): Step[] {
  run.steps = [];
  later(run);
  for (const { code, isSure } of run.waiting) {
    run.branch = run.newBranch();
    run.base = isSure ? run.branch : run.newBranch();
    run.inPiece('async', () => invoke(run, code, UNKNOWN, []));
  }
  return run.steps;
}

function later(run: Running): void {
  run.isLater = true;
  run.isGuessing = true;
  run.loops = 0;
  run.piece = 0;
}

/** What the class of a custom element does for each that stands in the page (HTML 4.13.3). */
function whatIsUpgraded(run: Running): Map<string, Step[]> {
  const upgraded = new Map<string, Step[]>();
  for (const [tag, code] of run.upgrades) {
    run.steps = [];
    run.branch = run.newBranch();
    run.base = run.branch;
    run.inPiece('async', () => {
      const made = construct(run, code, []);
      const connected = made.is === 'thing' ? made.find('connectedCallback') : undefined;
      if (connected?.is === 'code') invoke(run, connected, made, []);
    });
    upgraded.set(tag, tidy(run.steps) as Step[]);
  }
  return upgraded;
}

/** What calling each function does that other scripts can get at. */
function whatIsCalled(run: Running, program: Program): Pick<ScriptFacts, 'functions' | 'gives'> {
  const called = new Map<string, Step[]>();
  const gives = new Map<string, ElementQuery>();
  const add = (path: string, value: Value) => {
    if (value.is !== 'code' || called.size >= MOST_FUNCTIONS) return;
    run.steps = [];
    run.branch = run.newBranch();
    run.base = run.branch;
    const args = parameters(value.node?.params.length ?? 0);
    if (value.classNode === null) {
      const given = invoke(run, value, UNKNOWN, args);
      if (given.is === 'element') gives.set(path, given.query);
    } else construct(run, value, args);
    called.set(path, run.steps);
  };
  const all = run.isModule ? exportedBy(program, run) : [...run.globals, ...lexicalsOf(run)];
  for (const [name, value] of all) {
    add(name, value);
    if (value.is !== 'thing' && value.is !== 'code') continue;
    for (const [key, one] of value.properties) add(`${name}.${key}`, one);
  }
  return { functions: called, gives };
}

/** What a module gives to others, by the names that it has there. */
function exportedBy({ body }: Program, { scriptScope }: Running): [string, Value][] {
  const given: [string, string][] = [];
  for (const node of body) {
    if (node.type === 'ExportDefaultDeclaration' && 'id' in node.declaration && node.declaration.id)
      given.push(['default', (node.declaration.id as { name: string }).name]);
    if (node.type !== 'ExportNamedDeclaration' || node.source) continue;
    for (const { local, exported } of node.specifiers) given.push([nameOf(exported), nameOf(local)]);
    for (const name of declaredBy(node.declaration)) given.push([name, name]);
  }
  return given.flatMap(([name, local]): [string, Value][] =>
    scriptScope.ownerOf(local) === null ? [] : [[name, scriptScope.get(local).value]],
  );
}

function declaredBy(declaration: ExportNamedDeclaration['declaration']): string[] {
  if (declaration?.type === 'VariableDeclaration')
    return declaration.declarations.flatMap(({ id }) => namesIn(id));
  return declaration?.id ? [declaration.id.name] : [];
}

function lexicalsOf({ scriptScope }: Running): [string, Value][] {
  return Array.from(scriptScope.names, (name) => [name, scriptScope.get(name).value]);
}

/** Names that code may make that nobody was seen to call. */
function whatMayBe(run: Running): Set<string> {
  run.steps = [];
  const waiting = new Set(run.waiting.map(({ code }) => code.node));
  for (const code of run.met) {
    const { node } = code;
    if (node === null || run.wasCalled(node) || waiting.has(node)) continue;
    run.branch = run.newBranch();
    run.base = 0;
    invoke(run, code, UNKNOWN, []);
  }
  return new Set(run.steps.flatMap(({ does, name }) => (does === 'makes' ? name : [])));
}

function importsOf({ body }: Program): string[] {
  const all = body.flatMap((node) => {
    if (node.type === 'ImportDeclaration' || node.type === 'ExportAllDeclaration')
      return String(node.source.value);
    return node.type === 'ExportNamedDeclaration' && node.source ? String(node.source.value) : [];
  });
  return [...new Set(all)];
}

function wantedBy({ body }: Program): WantedExport[] {
  const wanted: WantedExport[] = [];
  const add = (from: unknown, { start, end }: AnyNode, name: string, other: AnyNode) => {
    wanted.push({ from: String(from), name, isShort: other.start === start, start, end });
  };
  for (const node of body) {
    if (node.type === 'ImportDeclaration') {
      for (const one of node.specifiers)
        if (one.type === 'ImportSpecifier')
          add(node.source.value, one.imported as AnyNode, nameOf(one.imported), one.local);
        else if (one.type === 'ImportDefaultSpecifier') add(node.source.value, one.local, 'default', node);
    } else if (node.type === 'ExportNamedDeclaration' && node.source)
      for (const { local, exported } of node.specifiers)
        add(node.source.value, local as AnyNode, nameOf(local), exported as AnyNode);
  }
  return wanted;
}

/** The modules whose names a module passes on, by their specifiers (ECMA-262 16.2.3.7). */
function passedOnBy({ body }: Program): string[] {
  return body.flatMap((node) =>
    node.type === 'ExportAllDeclaration' && !node.exported ? String(node.source.value) : [],
  );
}

/** The names that a module exports by itself (ECMA-262 16.2.3). */
function exportsOf({ body }: Program): Set<string> {
  const names = new Set<string>();
  for (const node of body) {
    if (node.type === 'ExportDefaultDeclaration') names.add('default');
    else if (node.type === 'ExportAllDeclaration') {
      if (node.exported) names.add(nameOf(node.exported));
    } else if (node.type === 'ExportNamedDeclaration') {
      for (const { exported } of node.specifiers) names.add(nameOf(exported));
      for (const name of declaredBy(node.declaration)) names.add(name);
    }
  }
  return names;
}
