/** Properties: reading them and setting them (ECMA-262 13.3, 10.1). */
import type { MemberExpression } from 'acorn';
import { isGiven } from '../given-names.ts';
import { invoke } from './calls.ts';
import { elementProperty } from './elements.ts';
import { evaluate } from './expressions.ts';
import { isThere } from './operators.ts';
import { nameOfKey } from './patterns.ts';
import type { Running } from './running.ts';
import type { Scope } from './scope.ts';
import {
  foreign,
  GLOBAL,
  joined,
  keyOf,
  native,
  openThing,
  plain,
  UNDEFINED,
  UNKNOWN,
  type Value,
} from './values.ts';

/** The object and the key of a property; the key is null where nobody knows it. */
export interface Property {
  readonly owner: Value;
  readonly key: string | null;
}

export function propertyOf(run: Running, node: MemberExpression, scope: Scope): Property {
  const owner = node.object.type === 'Super' ? superOf(run) : evaluate(run, node.object, scope);
  if (node.optional && !isThere(owner)) run.doubt();
  const key = node.computed ? keyOf(evaluate(run, node.property, scope)) : nameOfKey(node.property);
  return { owner, key };
}

function superOf(run: Running): Value {
  return run.frame.code?.home?.prototype.proto ?? UNKNOWN;
}

/** With `?.` nothing is wrong where the object is not there. */
export function getProperty(run: Running, { owner, key }: Property, node: MemberExpression): Value {
  if (!node.optional) run.follow(owner, node.object);
  return readProperty(run, owner, key, node);
}

function readProperty(run: Running, owner: Value, key: string | null, node: MemberExpression): Value {
  const element = key === null ? undefined : elementProperty(run, owner, key);
  if (element !== undefined) return element;
  switch (owner.is) {
    case 'global':
      return key === null ? UNKNOWN : run.readGlobal(key, node, true);
    case 'native':
      if (key === null) return UNKNOWN;
      if (key === 'defaultView' || (key === 'window' && owner.path !== 'document')) return GLOBAL;
      return native(`${owner.path}.${key}`);
    case 'foreign':
      // A mark that bundlers put on their own modules.
      if (key === '__esModule') return UNDEFINED;
      if (key === null) return UNKNOWN;
      run.readMember(`${owner.path}.${key}`);
      return foreign(`${owner.path}.${key}`, false);
    case 'thing': {
      if (key === null) return UNKNOWN;
      const getter = owner.getterOf(key);
      if (getter !== null) return invoke(run, getter, owner, []);
      if (key === 'length' && owner.length !== null && owner.isKnown) return plain(owner.length);
      const known = owner.find(key);
      if (known !== undefined) return run.isLater && known.is === 'plain' ? UNKNOWN : known;
      if (owner.length !== null) return native(`Array.prototype.${key}`);
      return owner.isKnown && !run.isLater && !inherited.has(key) ? UNDEFINED : UNKNOWN;
    }
    case 'code':
      if (key === 'prototype') return owner.prototype;
      if (key === null) return UNKNOWN;
      return owner.properties.get(key) ?? native(`Function.prototype.${key}`);
    case 'plain':
      return typeof owner.value === 'string' && key !== null ? native(`String.prototype.${key}`) : UNKNOWN;
    default:
      return key === null ? UNKNOWN : native(`.${key}`);
  }
}

/** What every object has (ECMA-262 20.1.3). */
const inherited: ReadonlySet<string> = new Set([
  'constructor',
  'hasOwnProperty',
  'isPrototypeOf',
  'propertyIsEnumerable',
  'toLocaleString',
  'toString',
  'valueOf',
  '__proto__',
]);

export function setMember(run: Running, node: MemberExpression, value: Value, scope: Scope): void {
  const property = propertyOf(run, node, scope);
  run.follow(property.owner, node.object);
  setProperty(run, property, value, node);
}

export function setProperty(
  run: Running,
  { owner, key }: Property,
  value: Value,
  node: MemberExpression,
): void {
  switch (owner.is) {
    case 'global':
      return setGlobal(run, key, value, node);
    case 'thing':
    case 'code':
      if (key === null) {
        if (owner.is === 'thing') owner.isOpen = true;
        return;
      }
      if (owner.is === 'code' && key === 'prototype') {
        owner.prototype = value.is === 'thing' ? value : openThing();
        return;
      }
      // Whatever a class has by that name is what its objects get.
      owner.properties.set(key, run.isSure ? value : joined(owner.properties.get(key) ?? UNDEFINED, value));
      return;
    case 'native':
      if (key !== null && /^on[a-z]/.test(key))
        run.later(value, key === 'onload' && owner.path === 'document');
      return;
    default:
      if (key !== null && owner.is === 'foreign') run.membersSet.add(`${owner.path}.${key}`);
      if (key !== null && /^on[a-z]/.test(key)) run.later(value, isOfBody(owner) && key === 'onload');
  }
}

/** What the body is told of is the window's (HTML 8.1.8.2.1). */
function isOfBody(owner: Value): boolean {
  return owner.is === 'element' && owner.query.by === 'body';
}

function setGlobal(run: Running, key: string | null, value: Value, node: MemberExpression): void {
  // In a loop it is another name each time.
  if (key === null || (node.computed && run.loops > 0)) return run.makeUnknown(node);
  if (/^on[a-z]/.test(key) && isGiven(key)) return run.later(value, key === 'onload' || key === 'onpageshow');
  run.makeGlobal(key, value, node);
}
