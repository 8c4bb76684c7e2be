/** Calls: what is run by them at once, and what only later (ECMA-262 13.3.6, 13.3.5). */
import type { AnyNode, CallExpression, Expression, NewExpression, Node, SpreadElement } from 'acorn';
import { type Argument, type ElementQuery, isOfPage } from '../element-query.ts';
import { initialize } from './classes.ts';
import { evaluate } from './expressions.ts';
import { declareParameters, runBody } from './functions.ts';
import { getProperty, type Property, propertyOf } from './members.ts';
import { callNative, constructNative } from './natives.ts';
import { isThere } from './operators.ts';
import type { Frame, Running } from './running.ts';
import type { Scope } from './scope.ts';
import {
  Code,
  foreign,
  GLOBAL,
  isNothing,
  joined,
  keyOf,
  Thing,
  UNDEFINED,
  UNKNOWN,
  type Value,
} from './values.ts';

/** Calls in each other that are followed; what is deeper is not known. */
const DEEPEST = 60;
/** How often one function is followed where nothing tells one call from another. */
const MOST_ALIKE = 3;
const MOST_CALLS = 3000;

export interface Call {
  readonly self: Value;
  readonly args: readonly Value[];
  readonly node: Node;
}

export function callExpression(run: Running, node: CallExpression, scope: Scope): Value {
  const callee = node.callee as AnyNode;
  if (callee.type === 'Super') return callSuper(run, node, scope);
  let called: Value;
  let self: Value = UNDEFINED;
  const member = callee.type === 'ParenthesizedExpression' ? (callee.expression as AnyNode) : callee;
  if (member.type === 'MemberExpression') {
    const property: Property = propertyOf(run, member, scope);
    self = property.owner;
    called = getProperty(run, property, member);
  } else called = evaluate(run, member as Expression, scope);
  if (node.optional && !isThere(called)) run.doubt();
  const args = evaluateAll(run, node.arguments, scope);
  if (!node.optional) run.follow(called, callee);
  if (member.type === 'Identifier' && called === UNDEFINED && !node.optional)
    run.noteUnset(member.name, member);
  return apply(run, called, { self, args, node });
}

export function newExpression(run: Running, node: NewExpression, scope: Scope): Value {
  const called = evaluate(run, node.callee as Expression, scope);
  const args = evaluateAll(run, node.arguments, scope);
  run.follow(called, node.callee);
  if (called.is === 'code') return construct(run, called, args);
  if (called.is === 'native') return constructNative(run, called.path, { self: UNDEFINED, args, node });
  if (called.is === 'foreign') run.noteCall(called.path, node.callee, argumentsOf(args));
  for (const arg of args) giveAway(arg);
  return UNKNOWN;
}

function evaluateAll(run: Running, nodes: readonly (Expression | SpreadElement)[], scope: Scope): Value[] {
  return nodes.map((one) => {
    if (one.type !== 'SpreadElement') return evaluate(run, one, scope);
    evaluate(run, one.argument, scope);
    return UNKNOWN;
  });
}

export function apply(run: Running, called: Value, call: Call): Value {
  switch (called.is) {
    case 'code':
      return invoke(run, called, call.self, call.args);
    case 'native':
      return callNative(run, called.path, call);
    case 'foreign':
      return callForeign(run, called.path, call);
    default:
      for (const arg of call.args) giveAway(arg);
      return UNKNOWN;
  }
}

/** Calls by which scripts are brought in. */
const BRINGING =
  /(?:^|\.)(?:getScript|require|requirejs|import|include|inject)\w*$|load\w*(?:script|js|module)s?$/i;
/** A library's way to say: once the page is there. */
const READY = /(?:^|\.)ready$|^(?:\$|jQuery)$/;

/** A library's objects, which come from calling it by this name. */
const OBJECT = /^(?:\$|jQuery)$/;
/** Their methods that give back the same object. */
const SAME =
  /^(?:\$|jQuery)\(\)\.(?:add|addClass|after|append|appendTo|before|children|closest|css|each|empty|end|eq|fadeIn|fadeOut|filter|find|first|hide|last|next|not|off|on|one|parent|parents|prepend|prev|remove|removeClass|show|siblings|slideDown|slideUp|toggle|toggleClass|trigger|wrap)$/;

function callForeign(run: Running, path: string, { args, node }: Call): Value {
  run.noteCall(
    path,
    node.type === 'CallExpression' ? (node as CallExpression).callee : node,
    argumentsOf(args),
  );
  noteAdded(run, path, args);
  // Who is given the global object may put anything there.
  if (BRINGING.test(path) || args.some((arg) => arg.is === 'global')) run.makeUnknown(node);
  const isReady = READY.test(path);
  for (const arg of args) {
    if (isReady) run.later(arg, true);
    else giveAway(arg);
  }
  if (OBJECT.test(path)) return foreign(`${path}()`, false);
  if (SAME.test(path)) return foreign(path.slice(0, path.indexOf('.')), false);
  const query: ElementQuery = { by: 'result', value: path, index: 0, literal: null, isLate: run.isLater };
  return { is: 'element', query: { ...query, args: argumentsOf(args) } };
}

/** What of arguments tells elements. */
function argumentsOf(args: readonly Value[]): Argument[] {
  return args.map((arg) => {
    if (arg.is === 'element') return arg.query;
    return arg.is === 'plain' && typeof arg.value === 'string' ? arg.value : null;
  });
}

/** Members that a library is given by its own ways: `extend`, and a factory of widgets. */
function noteAdded(run: Running, path: string, args: readonly Value[]): void {
  const [first = UNDEFINED, second] = args;
  const [, owner, way] = /^(.+)\.(extend|widget)$/.exec(path) ?? [];
  if (owner === undefined) return;
  const name = keyOf(first);
  if (way === 'widget') {
    if (name !== null) run.membersSet.add(`${owner}.fn.${name.replace(/^.*\./, '')}`);
  } else if (first.is === 'thing') run.addMembers(owner, first);
  else if (first.is === 'foreign' && second?.is === 'thing') run.addMembers(first.path, second);
}

/** Who is given it may change it, and call what it holds. */
export function giveAway(value: Value): void {
  if (value.is === 'thing') value.isOpen = true;
}

/** Calls a function of the script (ECMA-262 10.2.1). */
export function invoke(run: Running, code: Code, self: Value, args: readonly Value[]): Value {
  run.pass();
  const { node } = code;
  if (node === null || run.depth >= DEEPEST) return UNKNOWN;
  if (!isWorthwhile(run, code, args)) return UNKNOWN;
  if (node.generator) return UNKNOWN;
  const isStrict = code.isStrict || code.home !== null;
  const given = self.is === 'plain' && isNothing(self) && !isStrict ? GLOBAL : self;
  const frame: Frame = {
    self: code.self ?? given,
    code,
    isStrict,
    returned: null,
    isWaiting: false,
    isAsync: node.async,
  };
  return inFrame(run, frame, () => {
    const scope = run.newScope(code.scope);
    if (node.type !== 'ArrowFunctionExpression') scope.declare('arguments', true, UNKNOWN);
    declareParameters(run, node, args, scope);
    return node.async ? runAsync(run, code, scope) : runBody(run, code, scope);
  });
}

/** What is to be run for the sake of what it does is run again only where it may do something else. */
function isWorthwhile(run: Running, code: Code, args: readonly Value[]): boolean {
  const { node } = code;
  const isTelling = args.some(
    (arg) => arg.is !== 'unknown' && !isParameter(arg) && !(arg.is === 'plain' && arg.value === undefined),
  );
  const calls = run.callsOf(node as Node, isTelling);
  return calls <= (isTelling ? MOST_CALLS : MOST_ALIKE);
}

function isParameter(value: Value): boolean {
  return value.is === 'element' && !isOfPage(value.query);
}

/** Until it waits for the first time it runs at once; what goes wrong in it rejects its promise (ECMA-262 27.7.5). */
function runAsync(run: Running, code: Code, scope: Scope): Value {
  run.inPiece('async', () => runBody(run, code, scope));
  return UNKNOWN;
}

function inFrame(run: Running, frame: Frame, follow: () => Value): Value {
  const { frame: outer, branch, loops } = run;
  run.frame = frame;
  run.depth++;
  run.loops = 0;
  try {
    return follow();
  } finally {
    run.frame = outer;
    run.branch = branch;
    run.loops = loops;
    run.depth--;
  }
}

/** Makes an object (ECMA-262 10.2.2). */
export function construct(run: Running, code: Code, args: readonly Value[]): Value {
  const made = new Thing(code.prototype);
  if (code.parent !== null && code.parent.is !== 'code' && code.parent.is !== 'plain') made.isOpen = true;
  constructOn(run, code, made, args);
  return lastReturned(run, made);
}

/** A function that gives back an object gives that instead. */
function lastReturned(run: Running, made: Thing): Value {
  const { constructed } = run;
  run.constructed = null;
  return constructed?.is === 'thing' || constructed?.is === 'code' ? constructed : made;
}

function constructOn(run: Running, code: Code, made: Value, args: readonly Value[]): void {
  if (code.classNode === null) {
    run.constructed = invoke(run, code, made, args);
    return;
  }
  if (code.node === null) {
    if (code.parent?.is === 'code') constructOn(run, code.parent, made, args);
    initialize(run, code, made);
  } else {
    if (code.parent === null) initialize(run, code, made);
    invoke(run, code, made, args);
  }
  run.constructed = null;
}

function callSuper(run: Running, node: CallExpression, scope: Scope): Value {
  const args = evaluateAll(run, node.arguments, scope);
  const { home } = run.frame.code ?? {};
  const { self } = run.frame;
  if (home?.parent?.is === 'code') constructOn(run, home.parent, self, args);
  else for (const arg of args) giveAway(arg);
  if (home) initialize(run, home, self);
  return UNDEFINED;
}

/** Runs a callback for each element that is known, or else perhaps once. */
export function callEach(
  run: Running,
  callback: Value,
  elements: readonly Value[] | null,
  self: Value,
): Value {
  if (callback.is !== 'code') return UNKNOWN;
  if (elements === null) return run.perhaps(() => invoke(run, callback, self, [UNKNOWN, UNKNOWN, UNKNOWN]));
  let value: Value = UNDEFINED;
  for (const element of elements)
    value = joined(value, invoke(run, callback, self, [element, UNKNOWN, UNKNOWN]));
  return value;
}
