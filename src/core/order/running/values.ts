/** What is known of a value while a script is followed. */
import type {
  AnonymousClassDeclaration,
  AnonymousFunctionDeclaration,
  ArrowFunctionExpression,
  ClassDeclaration,
  ClassExpression,
  FunctionDeclaration,
  FunctionExpression,
} from 'acorn';
import type { ElementQuery } from '../element-query.ts';
import type { Scope } from './scope.ts';

export type FunctionNode =
  | FunctionDeclaration
  | FunctionExpression
  | ArrowFunctionExpression
  | AnonymousFunctionDeclaration;
export type ClassNode = ClassDeclaration | ClassExpression | AnonymousClassDeclaration;

export type Value = Unknown | Plain | Thing | Code | GlobalObject | Native | Foreign | Sought | SoughtList;

interface Unknown {
  readonly is: 'unknown';
}

/** A primitive value (ECMA-262 6.1). */
interface Plain {
  readonly is: 'plain';
  readonly value: string | number | boolean | bigint | null | undefined;
}

interface GlobalObject {
  readonly is: 'global';
}

/** What a browser gives, by its path from the global object: `document.createElement`. */
interface Native {
  readonly is: 'native';
  readonly path: string;
}

/** What another script may have made, by its path from the global object. */
export interface Foreign {
  readonly is: 'foreign';
  readonly path: string;
  /** It was asked for as a property of the global object: where it is missing, it is undefined. */
  readonly isAsked: boolean;
}

/** An element of the page, or null where it has none like that. */
interface Sought {
  readonly is: 'element';
  readonly query: ElementQuery;
}

/** The elements of the page that are like that. */
interface SoughtList {
  readonly is: 'elements';
  readonly query: ElementQuery;
}

export const UNKNOWN: Unknown = { is: 'unknown' };
export const GLOBAL: GlobalObject = { is: 'global' };
export const UNDEFINED: Plain = { is: 'plain', value: undefined };

export function plain(value: Plain['value']): Plain {
  return { is: 'plain', value };
}

export function native(path: string): Native {
  return { is: 'native', path };
}

export function foreign(path: string, isAsked: boolean): Foreign {
  return { is: 'foreign', path, isAsked };
}

/** An object or an array. */
export class Thing {
  readonly is = 'thing';
  readonly properties = new Map<string, Value>();
  /** Functions that give a property when it is read. */
  readonly getters = new Map<string, Code>();
  /** Others may have changed it, or it has properties that nobody knows. */
  isOpen = false;

  constructor(
    readonly proto: Thing | null = null,
    /** Of an array: how many elements it has. */
    public length: number | null = null,
  ) {}

  /** Undefined where nothing of that name is known. */
  find(name: string): Value | undefined {
    for (let one: Thing | null = this; one !== null; one = one.proto) {
      const value = one.properties.get(name);
      if (value !== undefined) return value;
    }
    return undefined;
  }

  /** What is called when a property is read; null where it has a value, or nobody knows. */
  getterOf(name: string): Code | null {
    for (let one: Thing | null = this; one !== null; one = one.proto) {
      const getter = one.getters.get(name);
      if (getter !== undefined) return getter;
      if (one.properties.has(name)) return null;
    }
    return null;
  }

  /** The names of its properties, those that it inherits included. */
  get keys(): string[] {
    const keys = new Set<string>();
    for (let one: Thing | null = this; one !== null; one = one.proto)
      for (const key of one.properties.keys()) keys.add(key);
    return [...keys];
  }

  get isKnown(): boolean {
    for (let one: Thing | null = this; one !== null; one = one.proto) if (one.isOpen) return false;
    return true;
  }
}

/** A function or a class. */
export class Code {
  readonly is = 'code';
  readonly properties = new Map<string, Value>();
  /** What its objects inherit from. */
  prototype: Thing;
  /** The fields of a class, to be made for each object. */
  fields: readonly { readonly name: string | null; readonly node: ClassNode['body']['body'][number] }[] = [];
  /** Of a class: what it extends; null where it extends nothing. */
  parent: Value | null = null;

  constructor(
    /** The function, or the constructor of a class; null where a class has none. */
    readonly node: FunctionNode | null,
    readonly scope: Scope,
    /** What `this` is in it, whoever calls it: of arrow functions and bound ones. */
    readonly self: Value | null,
    readonly isStrict: boolean,
    readonly classNode: ClassNode | null = null,
    proto: Thing | null = null,
    /** The class whose method it is. */
    readonly home: Code | null = null,
  ) {
    this.prototype = new Thing(proto);
  }

  bound(self: Value): Code {
    return new Code(this.node, this.scope, self, this.isStrict, this.classNode, null, this.home);
  }
}

/** An object of which nothing is known. */
export function openThing(): Thing {
  const thing = new Thing();
  thing.isOpen = true;
  return thing;
}

/** An array of these elements. */
export function listOf(elements: readonly Value[]): Thing {
  const list = new Thing(null, elements.length);
  for (const [index, element] of elements.entries()) list.properties.set(String(index), element);
  return list;
}

/** The elements of an array, where all of them are known; not of long ones. */
export function elementsOf(value: Value): Value[] | null {
  if (value.is !== 'thing' || value.length === null || value.isOpen || value.length > MOST_ELEMENTS)
    return null;
  return Array.from({ length: value.length }, (_, index) => value.properties.get(String(index)) ?? UNKNOWN);
}

const MOST_ELEMENTS = 64;

/** Whether a condition holds (ECMA-262 7.1.2); null where nobody can tell. */
export function truthOf(value: Value): boolean | null {
  switch (value.is) {
    case 'plain':
      return Boolean(value.value);
    case 'thing':
    case 'code':
    case 'global':
      return true;
    case 'native':
      return TRUE_NATIVES.has(value.path) ? true : null;
    default:
      return null;
  }
}

/** What every browser has. */
const TRUE_NATIVES: ReadonlySet<string> = new Set([
  'document',
  'navigator',
  'location',
  'history',
  'Object',
  'Array',
  'Function',
  'Math',
  'JSON',
  'Date',
  'String',
  'Number',
  'RegExp',
  'Promise',
  'Symbol',
  'Map',
  'Set',
  'console',
  'document.createElement',
  'document.addEventListener',
  'addEventListener',
  'setTimeout',
]);

/** What a value is that may be either. */
export function joined(one: Value, other: Value): Value {
  if (one === other || isNothing(one)) return other;
  if (isNothing(other)) return one;
  if (one.is === 'foreign' && one.isAsked) return other;
  if (one.is === 'plain' && other.is === 'plain' && one.value === other.value) return one;
  if ((one.is === 'global' && other.is === 'global') || isSamePath(one, other)) return one;
  return UNKNOWN;
}

function isSamePath(one: Value, other: Value): boolean {
  return (one.is === 'native' || one.is === 'foreign') && one.is === other.is && one.path === other.path;
}

export function isNothing(value: Value): boolean {
  return value.is === 'plain' && (value.value === undefined || value.value === null);
}

/** The key of a property (ECMA-262 7.1.19); null where it is not known. */
export function keyOf(value: Value): string | null {
  return value.is === 'plain' ? String(value.value) : null;
}
