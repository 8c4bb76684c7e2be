/** The names of properties in scripts. */
import type { CallExpression, Identifier, MemberExpression, Node } from 'acorn';

/** The name of a property that is written out; null for every other node. */
export function nameOfMember(node: Node): string | null {
  if (node.type !== 'MemberExpression') return null;
  const { property, computed } = node as MemberExpression;
  return !computed && property.type === 'Identifier' ? property.name : null;
}

/** The name by which something is called, of its own or of a property; empty where it has none. */
export function nameOfCallee({ callee }: CallExpression): string {
  return nameOfMember(callee) ?? (callee.type === 'Identifier' ? (callee as Identifier).name : '');
}
