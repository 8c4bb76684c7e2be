/** Scripts that say by themselves that they need a name: where it is missing they throw. */
import type {
  AnyNode,
  Expression,
  Identifier,
  MemberExpression,
  Node,
  Statement,
  UnaryExpression,
} from 'acorn';
import { isGiven, selfNames, serverNames } from '../given-names.ts';
import { nameOfKey } from './patterns.ts';
import type { Running } from './running.ts';
import type { Scope } from './scope.ts';

/** Notes the names without which `test` holds, where what it leads to surely throws. */
export function noteRefusal(run: Running, test: Expression, consequent: Statement, scope: Scope): void {
  const thrown = thrownBy(consequent);
  if (thrown === null) return;
  for (const name of absentIn(test)) {
    const isOther = scope.ownerOf(name) === null && !run.globals.has(name);
    if (isOther && !isGiven(name) && !serverNames.has(name)) run.note('needs', name, thrown);
  }
}

/** What is thrown at the end of a statement, with nothing before it that may leave. */
function thrownBy(statement: Statement): Node | null {
  if (statement.type === 'ThrowStatement') return statement.argument;
  if (statement.type !== 'BlockStatement') return null;
  const plain = (one: Statement) => one.type === 'ExpressionStatement' || one.type === 'VariableDeclaration';
  const last = statement.body.at(-1);
  return last?.type === 'ThrowStatement' && statement.body.slice(0, -1).every(plain) ? last.argument : null;
}

/** Names of the global object of which any one that is missing makes the condition true. */
function absentIn(test: AnyNode): string[] {
  if (test.type === 'ParenthesizedExpression') return absentIn(test.expression);
  if (test.type === 'LogicalExpression')
    return test.operator === '||' ? [...absentIn(test.left), ...absentIn(test.right)] : [];
  if (test.type === 'UnaryExpression' && test.operator === '!') return nameIn(test.argument);
  if (test.type !== 'BinaryExpression' || !/^==/.test(test.operator)) return [];
  for (const [one, other] of [
    [test.left, test.right],
    [test.right, test.left],
  ] as [AnyNode, AnyNode][]) {
    if (one.type === 'UnaryExpression' && one.operator === 'typeof' && isText(other, 'undefined'))
      return nameIn((one as UnaryExpression).argument);
    if (isNothing(other)) return nameIn(one);
  }
  return [];
}

/** A name, as it stands or as a property of the global object. */
function nameIn(node: AnyNode): string[] {
  if (node.type === 'Identifier') return [node.name];
  if (node.type !== 'MemberExpression') return [];
  const { object, property, computed } = node as MemberExpression;
  const isGlobal = object.type === 'Identifier' && selfNames.has((object as Identifier).name);
  const name = computed ? null : nameOfKey(property);
  return isGlobal && name !== null ? [name] : [];
}

function isText(node: AnyNode, text: string): boolean {
  return node.type === 'Literal' && node.value === text;
}

function isNothing(node: AnyNode): boolean {
  return (
    (node.type === 'Literal' && node.value === null) ||
    (node.type === 'Identifier' && node.name === 'undefined') ||
    (node.type === 'UnaryExpression' && node.operator === 'void')
  );
}
