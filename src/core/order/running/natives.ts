/** What calls of browsers' own functions do with names: which callbacks run at once, and which later. */
import { type Call, callEach, giveAway, invoke } from './calls.ts';
import { boundNative, elementCalled } from './elements.ts';
import { isPromise, PROMISE, type Running } from './running.ts';
import {
  elementsOf,
  GLOBAL,
  keyOf,
  listOf,
  native,
  plain,
  Thing,
  UNDEFINED,
  UNKNOWN,
  type Value,
} from './values.ts';

const AT_ONCE =
  /\.(?:forEach|map|filter|reduce|reduceRight|some|every|find|findIndex|findLast|findLastIndex|flatMap|sort|toSorted|replace|replaceAll)$/;
const LATER = /^(?:setTimeout|setInterval|requestAnimationFrame|requestIdleCallback|queueMicrotask)$/;
const PAGE_EVENTS = /^(?:DOMContentLoaded|load|pageshow|readystatechange)$/;
const OF_PAGE = /^(?:document\.|document\.body\.)?addEventListener$/;
/** A function that was made of the text `return this`. */
const GIVES_GLOBAL = 'Function("return this")';

export function callNative(run: Running, path: string, call: Call): Value {
  const { args, self, node } = call;
  const [first = UNDEFINED, second = UNDEFINED, third = UNDEFINED] = args;
  const name = path.slice(path.lastIndexOf('.') + 1);
  const found = elementCalled(run, path, call) ?? boundNative(path);
  if (found !== undefined) return found;
  if (path.startsWith('Function.prototype.') && self.is === 'code') return callMethod(run, name, call);
  if (LATER.test(path)) {
    // Who may call it off may do so in time.
    run.later(first, path !== 'setInterval' && !/\b(?:clearTimeout|cancel\w+)\b/.test(run.text));
    if (first.is === 'plain' && typeof first.value === 'string') run.makeUnknown(node);
    return UNKNOWN;
  }
  if (name === 'addEventListener') {
    const event = keyOf(first) ?? '';
    run.later(second, OF_PAGE.test(path) && PAGE_EVENTS.test(event));
    return UNDEFINED;
  }
  // A library's way to wait for the page, on what one of its calls gave.
  if (path === '.ready' && first.is === 'code') {
    run.later(first, true);
    return self;
  }
  if (AT_ONCE.test(path)) return callWithEach(run, name, call);
  switch (path) {
    case 'Object.assign':
      return assign(run, call);
    case 'Object.defineProperty':
    case 'Reflect.defineProperty':
      define(run, first, keyOf(second), third, call);
      return first;
    case 'Object.defineProperties':
      if (first.is === 'global') {
        if (second.is === 'thing' && second.isKnown)
          for (const key of second.properties.keys()) run.makeGlobal(key, UNKNOWN, node);
        else run.makeUnknown(node);
      } else giveAway(first);
      return first;
    case 'Reflect.set':
      if (first.is === 'global') {
        const key = keyOf(second);
        if (key === null) run.makeUnknown(node);
        else run.makeGlobal(key, third, node);
      } else giveAway(first);
      return UNKNOWN;
    case 'Object.freeze':
    case 'Object.seal':
      return first;
    case 'Object.create':
      return new Thing(first.is === 'thing' ? first : null);
    case 'Object.keys':
      return first.is === 'thing' && first.isKnown && first.length === null
        ? listOf([...first.properties.keys()].map((key) => plain(key)))
        : UNKNOWN;
    case 'Object.values':
    case 'Object.entries':
      return partsOf(first, path === 'Object.entries');
    case 'Array.from':
      return second.is === 'code' ? callEach(run, second, listLike(first), UNDEFINED) : first;
    case 'Function':
      return made(run, args, call);
    case GIVES_GLOBAL:
      return GLOBAL;
    case 'eval':
      if (keyOf(first) === 'this') return GLOBAL;
      run.makeUnknown(node);
      return UNKNOWN;
    default:
  }
  if (path.startsWith('String.prototype.')) return ofText(name, self, first);
  if (name === 'push' && self.is === 'thing' && self.length !== null) return push(run, self, args);
  if (name === 'createElement' && keyOf(first)?.toLowerCase() === 'script') run.makeUnknown(node);
  if (path === 'document.write' || path === 'document.writeln') written(run, call);
  if (name === 'then' || name === 'catch' || name === 'finally') return react(run, name, call);
  if (path === 'customElements.define') {
    const tag = keyOf(first)?.toLowerCase() ?? '';
    if (second.is !== 'code' || !tag.includes('-')) return UNDEFINED;
    run.upgrades.set(tag, second);
    run.note('upgrades', tag, node, {
      by: 'tag',
      value: tag,
      index: 0,
      literal: null,
      isLate: true,
      isWritten: true,
    });
    return UNDEFINED;
  }
  if (path === 'importScripts') {
    for (const arg of args) {
      const address = keyOf(arg);
      if (address === null) run.makeUnknown(node);
      else run.brought.push(address);
    }
    return UNDEFINED;
  }
  if (isKept(path, name, call)) return native(PROMISE);
  for (const arg of args) giveAway(arg);
  return UNKNOWN;
}

/** True for a promise that is going to be kept, as far as anybody can tell: of the site's own files, or of what is known. */
function isKept(path: string, name: string, { args }: Call): boolean {
  if (path === 'fetch') {
    const address = args[0] && keyOf(args[0]);
    return typeof address === 'string' && !/^(?:[a-z]+:|[\\/]{2})/i.test(address);
  }
  if (path === 'Promise.resolve') return args[0]?.is !== 'unknown';
  return args.length === 0 && /^(?:json|text|blob|arrayBuffer)$/.test(name) && path.startsWith('.');
}

/** What a promise calls when it is settled (ECMA-262 27.2.5); who catches what goes wrong is told of it. */
function react(run: Running, name: string, { self, args }: Call): Value {
  const isKnown = isPromise(self);
  const before = run.reactions.get(self) ?? [];
  if (name === 'catch' || args.length > 1) for (const one of before) one.isSure = false;
  const amount = run.waiting.length;
  for (const [index, arg] of args.entries())
    run.later(arg, isKnown && name !== 'catch' && index === 0 && args.length === 1);
  if (!isKnown) return UNKNOWN;
  const promise = native(PROMISE);
  run.reactions.set(promise, [...before, ...run.waiting.slice(amount)]);
  return promise;
}

/** Values of an object, or pairs of names and values (ECMA-262 20.1.2.5, 20.1.2.22). */
function partsOf(value: Value, isPairs: boolean): Value {
  if (value.is !== 'thing' || !value.isKnown || value.length !== null) return UNKNOWN;
  return listOf(Array.from(value.properties, ([key, one]) => (isPairs ? listOf([plain(key), one]) : one)));
}

/** What `Array.from` goes through (ECMA-262 23.1.2.1): an array, or what says how long it is. */
function listLike(value: Value): Value[] | null {
  const length = value.is === 'thing' && value.length === null ? value.find('length') : undefined;
  if (length?.is !== 'plain' || typeof length.value !== 'number') return elementsOf(value);
  return Array.from({ length: Math.min(1, length.value) }, () => UNDEFINED);
}

/** `call`, `apply` and `bind` of a function (ECMA-262 20.2.3). */
function callMethod(run: Running, name: string, { self, args }: Call): Value {
  const [first = UNDEFINED, second = UNDEFINED] = args;
  if (self.is !== 'code') return UNKNOWN;
  if (name === 'bind') return self.bound(first);
  if (name === 'call') return invoke(run, self, first, args.slice(1));
  if (name === 'apply') return invoke(run, self, first, elementsOf(second) ?? [UNKNOWN, UNKNOWN, UNKNOWN]);
  return UNKNOWN;
}

function callWithEach(run: Running, name: string, { self, args }: Call): Value {
  const [callback = UNDEFINED, second = UNDEFINED] = args;
  if (name === 'replace' || name === 'replaceAll') return callEach(run, second, null, UNDEFINED);
  const elements = elementsOf(self);
  if (name === 'sort' || name === 'toSorted') {
    callEach(
      run,
      callback,
      elements === null || elements.length < 2 ? null : elements.slice(0, 1),
      UNDEFINED,
    );
    return self;
  }
  if (callback.is !== 'code') {
    giveAway(callback);
    return UNKNOWN;
  }
  if (name.startsWith('reduce')) {
    const isRun = elements !== null && elements.length > (args.length > 1 ? 0 : 1);
    const reduce = () => invoke(run, callback, UNDEFINED, [args.length > 1 ? second : UNKNOWN, UNKNOWN]);
    return isRun ? reduce() : run.perhaps(reduce);
  }
  // Some of them stop at the first that fits.
  const all = /^(?:some|every|find)/.test(name) ? (elements?.slice(0, 1) ?? null) : elements;
  const given = name === 'forEach' || name === 'map' || name === 'flatMap' ? second : UNDEFINED;
  callEach(run, callback, all, given);
  return name === 'map' && elements !== null ? listOf(elements.map(() => UNKNOWN)) : UNKNOWN;
}

function assign(run: Running, { args, node }: Call): Value {
  const [target = UNDEFINED, ...sources] = args;
  for (const source of sources) {
    const isKnown = source.is === 'thing' && source.isKnown;
    if (target.is === 'global') {
      if (isKnown) for (const [key, value] of source.properties) run.makeGlobal(key, value, node);
      else run.makeUnknown(node);
    } else if (target.is === 'foreign') {
      if (source.is === 'thing') run.addMembers(target.path, source);
    } else if (target.is === 'thing' || target.is === 'code') {
      if (isKnown) for (const [key, value] of source.properties) target.properties.set(key, value);
      else if (target.is === 'thing') target.isOpen = true;
    }
  }
  return target;
}

function define(run: Running, target: Value, key: string | null, description: Value, { node }: Call): void {
  const value = (description.is === 'thing' ? description.find('value') : undefined) ?? UNKNOWN;
  if (target.is === 'global') {
    if (key === null || run.loops > 0) run.makeUnknown(node);
    else run.makeGlobal(key, value, node);
  } else if (target.is === 'thing' || target.is === 'code') {
    if (key !== null) target.properties.set(key, value);
    else if (target.is === 'thing') target.isOpen = true;
  }
}

/** `Function("return this")`: old ways to the global object; other code that is put together may do anything. */
function made(run: Running, args: readonly Value[], { node }: Call): Value {
  if (args.length === 1 && /^\s*return\s+this;?\s*$/.test(keyOf(args[0] as Value) ?? ''))
    return native(GIVES_GLOBAL);
  run.makeUnknown(node);
  return UNKNOWN;
}

function ofText(name: string, self: Value, first: Value): Value {
  if (name !== 'split' || self.is !== 'plain' || first.is !== 'plain') return UNKNOWN;
  const { value: text } = self;
  const { value: separator } = first;
  if (typeof text !== 'string' || typeof separator !== 'string') return UNKNOWN;
  return listOf(text.split(separator).map((piece) => plain(piece)));
}

function push(run: Running, list: Thing, args: readonly Value[]): Value {
  if (list.length === null) return UNKNOWN;
  if (!run.isSure) list.isOpen = true;
  for (const arg of args) list.properties.set(String(list.length++), arg);
  return UNKNOWN;
}

/** Markup that holds a script may make anything. */
function written(run: Running, { args, node }: Call): void {
  if (!run.isLater) run.writesPage = true;
  for (const arg of args) {
    const text = keyOf(arg);
    if (text === null || /<script/i.test(text)) run.makeUnknown(node);
  }
}

export function constructNative(run: Running, path: string, call: Call): Value {
  const { args } = call;
  const [first = UNDEFINED] = args;
  if (path === 'Promise') {
    if (first.is === 'code') run.inPiece('async', () => invoke(run, first, UNDEFINED, [UNKNOWN, UNKNOWN]));
    return UNKNOWN;
  }
  if (path === 'Function') return made(run, args, call);
  // Observers call back when something happens; a proxy may do anything.
  if (path.endsWith('Observer')) {
    run.later(first, false);
    return native(path);
  }
  if (path === 'Proxy' && first.is === 'thing') first.isOpen = true;
  for (const arg of args) giveAway(arg);
  return UNKNOWN;
}
