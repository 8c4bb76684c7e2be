/** Operators (ECMA-262 13.7 to 13.11), as far as what is known of their values tells. */
import { isNothing, plain, truthOf, UNKNOWN, type Value } from './values.ts';

/** What an operator of two values gives. */
export function operate(operator: string, left: Value, right: Value): Value {
  switch (operator) {
    case '==':
    case '===':
    case '!=':
    case '!==': {
      const isSame = equality(left, right, operator.length === 2);
      return isSame === null ? UNKNOWN : plain(isSame === operator.startsWith('='));
    }
    case '+':
      return left.is === 'plain' && right.is === 'plain' && typeof left.value === 'string'
        ? plain(left.value + String(right.value))
        : UNKNOWN;
    default:
      return compared(operator, left, right);
  }
}

function compared(operator: string, left: Value, right: Value): Value {
  if (left.is !== 'plain' || right.is !== 'plain') return UNKNOWN;
  const [one, other] = [left.value, right.value];
  if (typeof one !== 'number' || typeof other !== 'number') return UNKNOWN;
  if (operator === '<') return plain(one < other);
  if (operator === '>') return plain(one > other);
  if (operator === '<=') return plain(one <= other);
  if (operator === '>=') return plain(one >= other);
  return operator === '-' ? plain(one - other) : UNKNOWN;
}

/** Null where nobody can tell (ECMA-262 7.2.14 and 7.2.15). */
function equality(left: Value, right: Value, isLoose: boolean): boolean | null {
  if (left.is === 'plain' && right.is === 'plain') {
    // biome-ignore lint/suspicious/noDoubleEquals: it is what the script does.
    return isLoose ? left.value == right.value : left.value === right.value;
  }
  if (left.is === 'global' && right.is === 'global') return true;
  if (left.is === 'native' && right.is === 'native' && left.path === right.path) return true;
  if (left === right && (left.is === 'thing' || left.is === 'code')) return true;
  if (isNothing(left) && isThere(right)) return false;
  if (isNothing(right) && isThere(left)) return false;
  return null;
}

/** True for what is neither null nor undefined. */
export function isThere(value: Value): boolean {
  return (
    value.is === 'thing' ||
    value.is === 'code' ||
    value.is === 'global' ||
    (value.is === 'native' && truthOf(value) === true)
  );
}
