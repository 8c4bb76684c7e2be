/** The bodies of functions: their parameters, their names, and what they give back (ECMA-262 10.2.11). */
import type { AnyNode, Program, Statement } from 'acorn';
import { evaluate, makeFunction } from './expressions.ts';
import { declaredIn, namesIn, saysStrict } from './hoisting.ts';
import { bindPattern } from './patterns.ts';
import type { Running } from './running.ts';
import type { Scope } from './scope.ts';
import { execute } from './statements.ts';
import { type Code, type FunctionNode, listOf, UNDEFINED, UNKNOWN, type Value } from './values.ts';

export function declareParameters(
  run: Running,
  node: FunctionNode,
  args: readonly Value[],
  scope: Scope,
): void {
  for (const [index, parameter] of node.params.entries()) {
    for (const name of namesIn(parameter)) scope.declare(name, true, UNKNOWN);
    const isRest = parameter.type === 'RestElement';
    const value = isRest
      ? listOf(args.slice(index))
      : (args[index] ?? (run.isGuessing ? UNKNOWN : UNDEFINED));
    const target = isRest ? parameter.argument : parameter;
    bindPattern(run, target, value, scope, (name, one) => scope.declare(name, true, one));
    // Who leaves it out is told apart from who gives nothing anybody knows.
    if (target.type === 'Identifier' && value === UNDEFINED)
      scope.assign(target.name, UNDEFINED, scope.branch);
  }
}

/** Runs the body, and tells what comes back. */
export function runBody(run: Running, { node }: Code, scope: Scope): Value {
  const { body } = node as FunctionNode;
  if (body.type !== 'BlockStatement') return evaluate(run, body, scope);
  if (saysStrict(body.body)) Object.assign(run.frame, { isStrict: true });
  hoist(run, body.body, scope, false);
  execute(run, body.body, scope);
  return run.frame.returned ?? UNDEFINED;
}

/** Declares the names of a list of statements; those of a script's first level are the global object's. */
export function hoist(
  run: Running,
  list: Program['body'] | Statement[],
  scope: Scope,
  isGlobal: boolean,
): void {
  const { variables, lifted, functions, lexical } = declaredIn(list as AnyNode[]);
  const at = list[0] ?? { start: 0, end: 0 };
  for (const name of run.frame.isStrict ? variables : [...variables, ...lifted]) {
    if (!isGlobal) {
      if (scope.ownerOf(name) !== scope) scope.declare(name, true);
    } else if (!run.globals.has(name)) run.makeGlobal(name, UNDEFINED, at);
  }
  for (const { name, isConstant } of lexical) scope.declare(name, false, UNDEFINED, isConstant);
  for (const one of functions) {
    const code = makeFunction(run, one, scope);
    if (one.id === null) continue;
    if (isGlobal) run.makeGlobal(one.id.name, code, one.id);
    else scope.declare(one.id.name, true, code);
  }
}
