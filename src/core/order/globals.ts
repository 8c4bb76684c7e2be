/** Which global names a script makes, as far as its first level and its wrapper tell. */
import type { Expression, Node, Pattern, Program } from 'acorn';
import { isTooDeep } from '../read/script/depth.ts';
import { eachNode, parseAs } from '../read/script/parse.ts';

/** Names of the global object, and those that wrappers give to it. */
const globalObjects = new Set(['window', 'self', 'globalThis', 'global', 'root', 'exports', 'g', 'e', 't']);
const sure = new Set(['window', 'self', 'globalThis']);

/** The names that a classic script makes (ECMA-262 16.1, script scope); empty where it cannot be parsed. */
export function globalsMadeBy(code: string): string[] {
  if (isTooDeep(code)) return [];
  let program: Program;
  try {
    program = parseAs(code, 'script');
  } catch {
    return [];
  }
  const names = new Set<string>();
  for (const statement of program.body) {
    if (statement.type === 'VariableDeclaration')
      for (const { id } of statement.declarations) addNames(id, names);
    else if (statement.type === 'FunctionDeclaration' || statement.type === 'ClassDeclaration')
      addNames(statement.id, names);
    else if (statement.type === 'ExpressionStatement')
      addAssigned(statement.expression, globalObjects, names);
  }
  // A universal wrapper assigns to the object that it was called with.
  if (names.size === 0)
    eachNode(program, (node: Node) => addAssigned(node as Expression, globalObjects, names));
  else eachNode(program, (node: Node) => addAssigned(node as Expression, sure, names));
  return [...names].filter((name) => /^[A-Z_$]/i.test(name) && !ignored.has(name)).slice(0, MOST);
}

/** Names told at most: a script that makes more is no library. */
const MOST = 8;
const ignored = new Set([
  'exports',
  'module',
  'define',
  'default',
  '__esModule',
  'onload',
  'onerror',
  'location',
]);

function addNames(pattern: Pattern | null, names: Set<string>): void {
  if (pattern?.type === 'Identifier') names.add(pattern.name);
}

function addAssigned(node: Expression, objects: ReadonlySet<string>, names: Set<string>): void {
  if (node.type !== 'AssignmentExpression' || node.operator !== '=') return;
  const { left } = node;
  if (left.type !== 'MemberExpression' || left.object.type !== 'Identifier' || !objects.has(left.object.name))
    return;
  const { property } = left;
  if (!left.computed && property.type === 'Identifier') {
    // `exports.name` of a module build is no global; a wrapper's `global.Name` is.
    if (left.object.name === 'exports' || (left.object.name.length === 1 && !/^[A-Z]/.test(property.name)))
      return;
    names.add(property.name);
  } else if (property.type === 'Literal' && typeof property.value === 'string' && left.computed)
    names.add(property.value);
}
