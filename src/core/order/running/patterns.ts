/** Binds patterns to values (ECMA-262 8.6.2), and assigns to what stands left of an `=` (13.15). */
import type { AnyNode, Expression, Pattern } from 'acorn';
import { evaluate } from './expressions.ts';
import { setMember } from './members.ts';
import type { Running } from './running.ts';
import type { Scope } from './scope.ts';
import { isNothing, joined, keyOf, UNDEFINED, UNKNOWN, type Value } from './values.ts';

/** What is done with each name of a pattern. */
type Bind = (name: string, value: Value, node: AnyNode) => void;

/** `bind` is what becomes of names; other targets are properties. */
export function bindPattern(run: Running, pattern: Pattern, value: Value, scope: Scope, bind: Bind): void {
  run.pass();
  switch (pattern.type) {
    case 'Identifier':
      bind(pattern.name, value, pattern);
      return;
    case 'MemberExpression':
      setMember(run, pattern, value, scope);
      return;
    case 'AssignmentPattern': {
      const isLeft = value.is === 'plain' && value.value === undefined;
      const other = isLeft
        ? evaluate(run, pattern.right, scope)
        : run.perhaps(() => evaluate(run, pattern.right, scope));
      bindPattern(run, pattern.left, isLeft || isNothing(value) ? other : joined(value, other), scope, bind);
      return;
    }
    case 'RestElement':
      bindPattern(run, pattern.argument, UNKNOWN, scope, bind);
      return;
    case 'ArrayPattern':
      run.follow(value, pattern);
      for (const [index, element] of pattern.elements.entries())
        if (element !== null) bindPattern(run, element, partOf(run, value, String(index)), scope, bind);
      return;
    case 'ObjectPattern':
      run.follow(value, pattern);
      for (const property of pattern.properties) {
        if (property.type === 'RestElement') {
          bindPattern(run, property, UNKNOWN, scope, bind);
          continue;
        }
        const key = property.computed ? keyOf(evaluate(run, property.key, scope)) : nameOfKey(property.key);
        bindPattern(run, property.value, key === null ? UNKNOWN : partOf(run, value, key), scope, bind);
      }
      return;
    default:
  }
}

function partOf({ isLater }: Running, value: Value, key: string): Value {
  if (value.is === 'thing' || value.is === 'code') {
    const known = value.is === 'thing' ? value.find(key) : value.properties.get(key);
    if (known !== undefined) return known;
    return value.is === 'thing' && value.isKnown && !isLater ? UNDEFINED : UNKNOWN;
  }
  return UNKNOWN;
}

/** The name of a property that is not computed (ECMA-262 13.2.5.5). */
export function nameOfKey(key: Expression | AnyNode): string | null {
  if (key.type === 'Identifier' || key.type === 'PrivateIdentifier') return key.name;
  return key.type === 'Literal' ? String(key.value) : null;
}
