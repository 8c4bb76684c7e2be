/** Follows expressions (ECMA-262 13) and tells what is known of their values. */
import type {
  AnyNode,
  ArrayExpression,
  AssignmentExpression,
  BinaryExpression,
  ConditionalExpression,
  Expression,
  LogicalExpression,
  ObjectExpression,
  SpreadElement,
  UnaryExpression,
  UpdateExpression,
} from 'acorn';
import { apply, callExpression, newExpression } from './calls.ts';
import { makeClass } from './classes.ts';
import { getProperty, propertyOf, setProperty } from './members.ts';
import { isThere, operate } from './operators.ts';
import { bindPattern, nameOfKey } from './patterns.ts';
import type { Running } from './running.ts';
import type { Scope } from './scope.ts';
import {
  Code,
  type FunctionNode,
  isNothing,
  joined,
  keyOf,
  listOf,
  plain,
  Thing,
  truthOf,
  UNDEFINED,
  UNKNOWN,
  type Value,
} from './values.ts';

export function evaluate(run: Running, expression: Expression | AnyNode, scope: Scope): Value {
  run.pass();
  const node = expression as AnyNode;
  switch (node.type) {
    case 'Identifier':
      return run.read(node.name, scope, node);
    case 'Literal':
      return node.regex ? UNKNOWN : plain(node.value as string | number | boolean | null);
    case 'ThisExpression':
      return run.frame.self;
    case 'FunctionExpression':
    case 'ArrowFunctionExpression':
      return makeFunction(run, node as FunctionNode, scope);
    case 'ClassExpression':
      return makeClass(run, node, scope);
    case 'MemberExpression':
      return getProperty(run, propertyOf(run, node, scope), node);
    case 'CallExpression':
      return callExpression(run, node, scope);
    case 'NewExpression':
      return newExpression(run, node, scope);
    case 'AssignmentExpression':
      return assignment(run, node, scope);
    case 'UnaryExpression':
      return unary(run, node, scope);
    case 'BinaryExpression':
      return binary(run, node, scope);
    case 'LogicalExpression':
      return logical(run, node, scope);
    case 'ConditionalExpression':
      return conditional(run, node, scope);
    case 'SequenceExpression':
      return node.expressions.map((one) => evaluate(run, one, scope)).at(-1) ?? UNKNOWN;
    case 'ObjectExpression':
      return makeObject(run, node, scope);
    case 'ArrayExpression':
      return makeArray(run, node, scope);
    case 'ChainExpression':
      return chain(run, node.expression, scope);
    case 'ParenthesizedExpression':
      return evaluate(run, node.expression, scope);
    case 'TemplateLiteral':
      return template(run, node.expressions, node.quasis[0]?.value.cooked, scope);
    case 'TaggedTemplateExpression': {
      const tag = evaluate(run, node.tag, scope);
      run.follow(tag, node.tag);
      const args = node.quasi.expressions.map((one) => evaluate(run, one, scope));
      return apply(run, tag, { self: UNDEFINED, args: [UNKNOWN, ...args], node });
    }
    case 'UpdateExpression':
      return update(run, node, scope);
    case 'AwaitExpression': {
      const value = evaluate(run, node.argument, scope);
      // A module that was waited for may have made anything.
      if (node.argument.type === 'ImportExpression') run.makeUnknown(node);
      run.wait(value);
      return UNKNOWN;
    }
    case 'YieldExpression':
      if (node.argument) evaluate(run, node.argument, scope);
      return UNKNOWN;
    case 'ImportExpression':
      evaluate(run, node.source, scope);
      // A module that comes later may make anything, but not before the script is at its end.
      run.isOpenLater = true;
      return UNKNOWN;
    default:
      return UNKNOWN;
  }
}

export function makeFunction(run: Running, node: FunctionNode, scope: Scope, home: Code | null = null): Code {
  const { frame } = run;
  const isArrow = node.type === 'ArrowFunctionExpression';
  const isStrict = frame.isStrict || home !== null;
  let inner = scope;
  // A function has its own name inside (ECMA-262 15.2.4).
  if (node.type === 'FunctionExpression' && node.id) inner = run.newScope(scope);
  const code = new Code(
    node,
    inner,
    isArrow ? frame.self : null,
    isStrict,
    null,
    null,
    isArrow ? (frame.code?.home ?? null) : home,
  );
  if (inner !== scope && node.id) inner.declare(node.id.name, true, code);
  run.met.add(code);
  return code;
}

/** A chain ends early where something is not there (ECMA-262 13.3.9): what is behind that is in doubt. */
function chain(run: Running, node: Expression, scope: Scope): Value {
  const { branch } = run;
  try {
    return evaluate(run, node, scope);
  } finally {
    run.branch = branch;
  }
}

function assignment(run: Running, { left, right, operator }: AssignmentExpression, scope: Scope): Value {
  if (operator === '=') {
    if (left.type === 'MemberExpression') {
      const property = propertyOf(run, left, scope);
      const value = evaluate(run, right, scope);
      // Only then is it put there (ECMA-262 13.15.2).
      run.follow(property.owner, left.object);
      setProperty(run, property, value, left);
      return value;
    }
    const value = evaluate(run, right, scope);
    bindPattern(run, left, value, scope, (name, one, node) => run.assign(name, one, scope, node));
    return value;
  }
  const before = evaluate(run, left as Expression, scope);
  let value: Value;
  if (operator === '||=' || operator === '&&=' || operator === '??=')
    value = chosen(run, operator.slice(0, 2), before, () => evaluate(run, right, scope));
  else value = operate(operator.slice(0, -1), before, evaluate(run, right, scope));
  set(run, left as Expression, value, scope);
  return value;
}

/** Sets what was evaluated already: its parts are not gone through again. */
function set(run: Running, target: Expression, value: Value, scope: Scope): void {
  if (target.type === 'Identifier') run.assign(target.name, value, scope, target);
  else if (target.type === 'MemberExpression') {
    const { steps } = run;
    const amount = steps.length;
    const property = propertyOf(run, target, scope);
    steps.length = amount;
    setProperty(run, property, value, target);
  }
}

function update(run: Running, { argument, operator, prefix }: UpdateExpression, scope: Scope): Value {
  const before = evaluate(run, argument, scope);
  const isNumber = before.is === 'plain' && typeof before.value === 'number';
  const after = isNumber ? plain((before.value as number) + (operator === '++' ? 1 : -1)) : UNKNOWN;
  set(run, argument, after, scope);
  return prefix ? after : before;
}

function unary(run: Running, { operator, argument }: UnaryExpression, scope: Scope): Value {
  if (operator === 'typeof')
    return run.typeOf(
      argument.type === 'Identifier'
        ? run.read(argument.name, scope, argument, true)
        : evaluate(run, argument, scope),
    );
  // What is taken away is not needed.
  if (operator === 'delete' && argument.type === 'Identifier') return UNKNOWN;
  const value = evaluate(run, argument, scope);
  if (operator === 'void') return UNDEFINED;
  if (operator === '!') {
    const truth = truthOf(value);
    return truth === null ? UNKNOWN : plain(!truth);
  }
  if (operator === '-' && value.is === 'plain' && typeof value.value === 'number') return plain(-value.value);
  return UNKNOWN;
}

function binary(run: Running, node: BinaryExpression, scope: Scope): Value {
  const { first, row } = rowOf(node, 'BinaryExpression');
  let value = first.type === 'PrivateIdentifier' ? UNKNOWN : evaluate(run, first, scope);
  for (const { operator, right } of row) {
    run.pass();
    value = operate(operator, value, evaluate(run, right, scope));
  }
  return value;
}

function logical(run: Running, node: LogicalExpression, scope: Scope): Value {
  const { first, row } = rowOf(node, 'LogicalExpression');
  let value = evaluate(run, first, scope);
  for (const { operator, right } of row) {
    run.pass();
    value = chosen(run, operator, value, () => evaluate(run, right, scope));
  }
  return value;
}

/** A sum of many is a chain that leans to the left: it is followed without a step into the stack for each. */
function rowOf<N extends BinaryExpression | LogicalExpression>(
  node: N,
  type: N['type'],
): { readonly first: AnyNode; readonly row: readonly N[] } {
  const row: N[] = [];
  let first: AnyNode | N = node;
  while (first.type === type) {
    row.push(first as N);
    first = (first as N).left as AnyNode;
  }
  return { first: first as AnyNode, row: row.reverse() };
}

/** The value of `a && b` and its like; what nobody may come to is followed in doubt. */
function chosen(run: Running, operator: string, left: Value, right: () => Value): Value {
  if (operator === '??') {
    if (isNothing(left)) return right();
    return isThere(left) ? left : joined(left, run.perhaps(right));
  }
  const truth = truthOf(left);
  if (truth === null) {
    const other = run.perhaps(right);
    // Whichever it is, it does not hold.
    if (operator === '&&' && truthOf(other) === false) return other;
    return operator === '||' ? joined(left, other) : UNKNOWN;
  }
  return truth === (operator === '&&') ? right() : left;
}

function conditional(
  run: Running,
  { test, consequent, alternate }: ConditionalExpression,
  scope: Scope,
): Value {
  const truth = truthOf(evaluate(run, test, scope));
  if (truth !== null) return evaluate(run, truth ? consequent : alternate, scope);
  const one = run.perhaps(() => evaluate(run, consequent, scope));
  const other = run.perhaps(() => evaluate(run, alternate, scope));
  return joined(one, other);
}

function template(
  run: Running,
  expressions: readonly Expression[],
  text: string | null | undefined,
  scope: Scope,
): Value {
  for (const one of expressions) evaluate(run, one, scope);
  return expressions.length === 0 && typeof text === 'string' ? plain(text) : UNKNOWN;
}

function makeObject(run: Running, { properties }: ObjectExpression, scope: Scope): Value {
  const made = new Thing();
  for (const property of properties) {
    if (property.type === 'SpreadElement') {
      spread(run, property, made, scope);
      continue;
    }
    const key = property.computed ? keyOf(evaluate(run, property.key, scope)) : nameOfKey(property.key);
    const value = evaluate(run, property.value, scope);
    if (key === null) made.isOpen = true;
    else if (property.kind === 'get' && value.is === 'code') made.getters.set(key, value);
    else made.properties.set(key, property.kind === 'init' ? value : UNKNOWN);
  }
  return made;
}

function spread(run: Running, { argument }: SpreadElement, made: Thing, scope: Scope): void {
  const value = evaluate(run, argument, scope);
  if (value.is === 'thing' && value.isKnown)
    for (const [key, one] of value.properties) made.properties.set(key, one);
  else made.isOpen = true;
}

function makeArray(run: Running, { elements }: ArrayExpression, scope: Scope): Value {
  let isWhole = true;
  const values = elements.map((one) => {
    if (one === null) return UNDEFINED;
    if (one.type !== 'SpreadElement') return evaluate(run, one, scope);
    isWhole = false;
    evaluate(run, one.argument, scope);
    return UNKNOWN;
  });
  if (isWhole) return listOf(values);
  const list = new Thing(null, values.length);
  list.isOpen = true;
  return list;
}
