/** Strings of scripts as literals. */
import type { Expression, Literal, Node } from 'acorn';

/** A string, or a template without substitutions, as a literal; null for everything else. */
export function literalOf(node: Node | Expression | null | undefined): Literal | null {
  if (node?.type === 'Literal') return typeof (node as Literal).value === 'string' ? (node as Literal) : null;
  if (node?.type !== 'TemplateLiteral') return null;
  const { expressions, quasis } = node as Extract<Expression, { type: 'TemplateLiteral' }>;
  const value = quasis[0]?.value.cooked;
  return expressions.length === 0 && typeof value === 'string'
    ? { type: 'Literal', value, raw: '', start: node.start, end: node.end }
    : null;
}
