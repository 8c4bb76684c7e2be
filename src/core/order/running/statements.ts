/** Follows statements (ECMA-262 14), in the order in which they run. */
import type {
  AnyNode,
  ForInStatement,
  ForOfStatement,
  ForStatement,
  IfStatement,
  Statement,
  SwitchStatement,
  TryStatement,
  VariableDeclaration,
} from 'acorn';
import { makeClass } from './classes.ts';
import { evaluate } from './expressions.ts';
import { hoist } from './functions.ts';
import { isLexical, namesIn } from './hoisting.ts';
import { bindPattern } from './patterns.ts';
import { noteRefusal } from './refusals.ts';
import type { Running } from './running.ts';
import type { Scope } from './scope.ts';
import { elementsOf, joined, plain, truthOf, UNDEFINED, UNKNOWN, type Value } from './values.ts';

/** How a statement ends (ECMA-262 6.2.4): by going on, or by these, for certain or perhaps. */
const enum Ending {
  GoesOn = 0,
  /** It may leave a loop or a switch. */
  Breaks = 1,
  /** It may leave the function. */
  Returns = 2,
  /** It does not go on. */
  Surely = 4,
  /** It may leave a statement that has a label. */
  Jumps = 8,
}

/** Follows a list of statements; what stands behind one that may leave is in doubt. */
export function execute(run: Running, list: readonly AnyNode[], scope: Scope): number {
  let left = Ending.GoesOn as number;
  for (const statement of list) {
    const ending = executeOne(run, statement, scope);
    left |= ending & ~Ending.Surely;
    if ((ending & Ending.Surely) !== 0) return left | Ending.Surely;
    if (ending !== Ending.GoesOn) run.doubt();
    if (run.frame.isWaiting) return left | Ending.Surely;
  }
  return left;
}

function executeOne(run: Running, node: AnyNode, scope: Scope): number {
  run.pass();
  switch (node.type) {
    case 'ExpressionStatement':
      evaluate(run, node.expression, scope);
      return Ending.GoesOn;
    case 'VariableDeclaration':
      declare(run, node, scope);
      return Ending.GoesOn;
    case 'BlockStatement':
      return block(run, node.body, scope);
    case 'IfStatement':
      return branches(run, node, scope);
    case 'ReturnStatement': {
      const value = node.argument ? evaluate(run, node.argument, scope) : UNDEFINED;
      run.frame.returned = run.frame.returned === null ? value : joined(run.frame.returned, value);
      return Ending.Returns | Ending.Surely;
    }
    case 'BreakStatement':
    case 'ContinueStatement':
      return (node.label ? Ending.Jumps : Ending.Breaks) | Ending.Surely;
    case 'ThrowStatement':
      evaluate(run, node.argument, scope);
      if (run.isSure) run.note('ends', '', node);
      // Where it throws the script has failed all the same: what follows is no less certain.
      return Ending.Surely;
    case 'TryStatement':
      return attempt(run, node, scope);
    case 'SwitchStatement':
      return choose(run, node, scope);
    case 'ForStatement':
      return loop(run, node, scope);
    case 'ForInStatement':
    case 'ForOfStatement':
      return loopOver(run, node, scope);
    case 'WhileStatement':
      return repeat(
        run,
        () => truthOf(evaluate(run, node.test, scope)),
        () => executeOne(run, node.body, scope),
      );
    case 'DoWhileStatement': {
      let isFirst = true;
      const test = () => (isFirst ? true : truthOf(evaluate(run, node.test, scope)));
      return repeat(run, test, () => {
        isFirst = false;
        return executeOne(run, node.body, scope);
      });
    }
    case 'LabeledStatement':
      return behindLabel(executeOne(run, node.body, scope));
    case 'ClassDeclaration': {
      const made = makeClass(run, node, scope);
      if (node.id !== null) bear(run, node.id.name, made, scope, node.id);
      return Ending.GoesOn;
    }
    case 'WithStatement':
      evaluate(run, node.object, scope);
      run.makeUnknown(node);
      return run.perhaps(() => executeOne(run, node.body, scope)) & ~Ending.Surely;
    case 'ExportNamedDeclaration':
      return node.declaration ? executeOne(run, node.declaration, scope) : Ending.GoesOn;
    case 'ExportDefaultDeclaration':
      if (node.declaration.type === 'ClassDeclaration')
        return executeOne(run, node.declaration as AnyNode, scope);
      if (node.declaration.type !== 'FunctionDeclaration') evaluate(run, node.declaration, scope);
      return Ending.GoesOn;
    default:
      return Ending.GoesOn;
  }
}

/** Who leaves a statement by its label goes on behind it. */
function behindLabel(ending: number): number {
  return (ending & Ending.Jumps) === 0 ? ending & ~Ending.Breaks : ending & Ending.Returns;
}

/** A declaration is come to: a lexical name is there from now on. */
function bear(run: Running, name: string, value: Value, scope: Scope, node: AnyNode): void {
  const owner = scope.ownerOf(name) ?? scope;
  owner.assign(name, value, owner.branch);
  if (owner === run.scriptScope && !run.isModule) run.note('makes', name, node);
}

function declare(run: Running, { declarations, kind }: VariableDeclaration, scope: Scope): void {
  for (const { id, init } of declarations) {
    if (init === null || init === undefined) {
      if (kind !== 'var') for (const name of namesIn(id)) bear(run, name, UNDEFINED, scope, id);
      continue;
    }
    const value = evaluate(run, init, scope);
    bindPattern(run, id, value, scope, (name, one, node) => {
      if (kind !== 'var') bear(run, name, one, scope, node);
      else if (scope.ownerOf(name) === null) setVariable(run, name, one);
      else run.assign(name, one, scope, node);
    });
  }
}

/** A `var` of the script's first level: it was made when the script began. */
function setVariable(run: Running, name: string, value: Value): void {
  const known = run.globals.get(name) ?? UNDEFINED;
  run.globals.set(name, run.branch === run.base ? value : joined(known, value));
}

function block(run: Running, list: readonly Statement[], outer: Scope): number {
  const scope = run.newScope(outer);
  hoist(run, list as Statement[], scope, false);
  for (const one of list)
    if (one.type === 'FunctionDeclaration' && !run.frame.isStrict)
      liftFunction(run, one.id.name, scope, outer, one);
  return execute(run, list, scope);
}

/** Outside of strict code a function in a block is one of the function around, too (ECMA-262 B.3.2). */
function liftFunction(run: Running, name: string, scope: Scope, outer: Scope, node: Statement): void {
  const { value } = scope.get(name);
  if (outer.ownerOf(name) === null) run.makeGlobal(name, value, node);
  else run.assign(name, value, outer, node);
}

function branches(run: Running, { test, consequent, alternate }: IfStatement, scope: Scope): number {
  const truth = truthOf(evaluate(run, test, scope));
  if (truth === true) return executeOne(run, consequent, scope);
  if (truth === false) return alternate ? executeOne(run, alternate, scope) : Ending.GoesOn;
  noteRefusal(run, test, consequent, scope);
  const one = run.perhaps(() => executeOne(run, consequent, scope));
  const other = alternate ? run.perhaps(() => executeOne(run, alternate, scope)) : Ending.GoesOn;
  return either(one, other);
}

/** Of two ways that may be taken. */
function either(one: number, other: number): number {
  return ((one | other) & ~Ending.Surely) | (one & other & Ending.Surely);
}

/** What goes wrong in it ends it alone (ECMA-262 14.15). */
function attempt(run: Running, { block: tried, handler, finalizer }: TryStatement, scope: Scope): number {
  const caught = handler !== null && handler !== undefined;
  const first = caught
    ? run.inPiece('caught', () => block(run, tried.body, scope))
    : block(run, tried.body, scope);
  let ending = first;
  if (caught) {
    const inner = run.newScope(scope);
    for (const name of namesIn(handler.param)) inner.declare(name, true, UNKNOWN);
    const rescue = () => block(run, handler.body.body, inner);
    // Who throws for certain is caught for certain.
    if (first === Ending.Surely) return finished(run, rescue(), finalizer, scope);
    const second = run.perhaps(rescue);
    // What it was to do may be done in part alone.
    ending = either(first, second);
  }
  return finished(run, ending, finalizer, scope);
}

function finished(run: Running, ending: number, finalizer: TryStatement['finalizer'], scope: Scope): number {
  return finalizer ? ending | block(run, finalizer.body, scope) : ending;
}

function choose(run: Running, { discriminant, cases }: SwitchStatement, outer: Scope): number {
  const value = evaluate(run, discriminant, outer);
  const scope = run.newScope(outer);
  hoist(
    run,
    cases.flatMap(({ consequent }) => consequent),
    scope,
    false,
  );
  const taken = run.isLater ? null : caseFor(run, value, cases, scope);
  if (taken !== null) {
    const ending = execute(
      run,
      cases.slice(taken).flatMap(({ consequent }) => consequent),
      scope,
    );
    return (ending & Ending.Breaks) !== 0 ? ending & LEAVING : ending;
  }
  let left = Ending.GoesOn as number;
  for (const { test, consequent } of cases) {
    if (test) evaluate(run, test, scope);
    left |= run.perhaps(() => execute(run, consequent, scope)) & ~Ending.Surely;
  }
  return left & ~Ending.Breaks;
}

/** The number of the case that is gone to (ECMA-262 14.12.2); behind the last where none is, null where nobody can tell. */
function caseFor(run: Running, value: Value, cases: SwitchStatement['cases'], scope: Scope): number | null {
  if (value.is !== 'plain' || !cases.every(({ test }) => !test || test.type === 'Literal')) return null;
  for (const [number, { test }] of cases.entries()) {
    if (!test) continue;
    const one = evaluate(run, test, scope);
    if (one.is !== 'plain') return null;
    if (one.value === value.value) return number;
  }
  const last = cases.findIndex(({ test }) => !test);
  return last < 0 ? cases.length : last;
}

function loop(run: Running, { init, test, update, body }: ForStatement, outer: Scope): number {
  const scope = isLexical(init as AnyNode | null) ? run.newScope(outer) : outer;
  if (init?.type === 'VariableDeclaration') {
    if (isLexical(init))
      for (const { id } of init.declarations) for (const name of namesIn(id)) scope.declare(name, true);
    declare(run, init, scope);
  } else if (init) evaluate(run, init, scope);
  return repeat(
    run,
    () => (test ? truthOf(evaluate(run, test, scope)) : true),
    () => executeOne(run, body, scope),
    () => update && evaluate(run, update, scope),
  );
}

/** What leaves a loop, and more than that. */
const LEAVING = Ending.Returns | Ending.Jumps;
/** Rounds of a loop that are followed one by one, as long as it is known that they come. */
const MOST_ROUNDS = 64;

/** Follows a loop round by round; one round stands for all that nobody can tell apart. */
function repeat(
  run: Running,
  test: () => boolean | null,
  body: () => number,
  update: () => unknown = () => {},
): number {
  let ending = Ending.GoesOn as number;
  for (let round = 0; ; round++) {
    const truth = round < MOST_ROUNDS ? test() : null;
    if (truth === false) return ending & LEAVING;
    if (truth === null || round + 1 === MOST_ROUNDS) {
      const perhaps = inLoop(run, () =>
        run.perhaps(() => {
          update();
          return body();
        }),
      );
      return (ending | perhaps) & LEAVING;
    }
    const one = body();
    ending |= one;
    if ((one & Ending.Surely) !== 0 && (one & Ending.Breaks) === 0) return ending & (LEAVING | Ending.Surely);
    // Who may have broken off, or gone on early, leaves what follows in doubt.
    if ((one & Ending.Breaks) !== 0) return ending & LEAVING;
    if (run.frame.isWaiting) return ending | Ending.Surely;
    update();
  }
}

function inLoop<T>(run: Running, follow: () => T): T {
  run.loops++;
  try {
    return follow();
  } finally {
    run.loops--;
  }
}

function loopOver(run: Running, node: ForInStatement | ForOfStatement, outer: Scope): number {
  const { left, right, body } = node;
  const over = evaluate(run, right, outer);
  run.follow(over, right);
  const elements = node.type === 'ForOfStatement' ? elementsOf(over) : keysOf(over);
  const scope = run.newScope(outer);
  const follow = (value: Value) => {
    if (left.type === 'VariableDeclaration') {
      const [one] = left.declarations;
      if (one === undefined) return Ending.GoesOn;
      if (isLexical(left)) for (const name of namesIn(one.id)) scope.declare(name, true);
      bindPattern(run, one.id, value, scope, (name, part, at) => run.assign(name, part, scope, at));
    } else bindPattern(run, left, value, scope, (name, part, at) => run.assign(name, part, scope, at));
    return executeOne(run, body, scope);
  };
  if (elements === null) return inLoop(run, () => run.perhaps(() => follow(UNKNOWN))) & LEAVING;
  let ending = Ending.GoesOn as number;
  for (const element of elements) {
    ending |= follow(element);
    if ((ending & Ending.Surely) !== 0) break;
  }
  return ending & Ending.Breaks ? ending & LEAVING : ending & (LEAVING | Ending.Surely);
}

/** The names of an object's properties, where all of them are known. */
function keysOf(value: Value): Value[] | null {
  if (value.is !== 'thing' || !value.isKnown || value.length !== null) return null;
  const { keys } = value;
  return keys.length > MOST_ROUNDS ? null : keys.map((key) => plain(key));
}
