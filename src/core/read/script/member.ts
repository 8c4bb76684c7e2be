/** The names of properties in scripts. */
import type { MemberExpression, Node } from 'acorn';

/** The name of a property that is written out; null for every other node. */
export function nameOfMember(node: Node): string | null {
  if (node.type !== 'MemberExpression') return null;
  const { property, computed } = node as MemberExpression;
  return !computed && property.type === 'Identifier' ? property.name : null;
}
