/** Elements of the page that scripts ask for: what is not there is null, and null has no properties (DOM 4.2.6). */
import type { Node } from 'acorn';
import { literalOf } from '../../read/script/literal.ts';
import { type ElementQuery, isOfPage } from '../element-query.ts';
import type { Call } from './calls.ts';
import type { Running } from './running.ts';
import { keyOf, native, UNKNOWN, type Value } from './values.ts';

type By = ElementQuery['by'];

/** Functions of the document that give one element, or null. */
const ONE: Readonly<Record<string, By>> = { getElementById: 'id', querySelector: 'selector' };
/** Those that give a list. */
const LISTS: Readonly<Record<string, By>> = {
  getElementsByClassName: 'class',
  getElementsByTagName: 'tag',
  getElementsByName: 'name',
  querySelectorAll: 'selector',
};
/** What takes an element, and no null in its place (DOM 4.4, CSSOM 7.2, observers). */
const TAKING =
  /(?:^|\.)(?:appendChild|insertBefore|replaceChild|removeChild|getComputedStyle)$|Observer\.observe$/;

/** What a call of a browser's function gives of the page's elements; undefined for every other call. */
export function elementCalled(run: Running, path: string, call: Call): Value | undefined {
  const { self, args, node } = call;
  const [first] = args;
  if (first?.is === 'element' && TAKING.test(path)) run.follow(first, node);
  const at = path.lastIndexOf('.');
  const name = path.slice(at + 1);
  if (self.is === 'elements' && name === 'item') return itemOf(self.query, keyOf(first ?? UNKNOWN));
  const isHere = path.slice(0, at) === 'document' || (self.is === 'element' && isOfPage(self.query));
  const [one, list] = [ONE[name], LISTS[name]];
  if (!isHere || (one ?? list) === undefined) return undefined;
  const by = (one ?? list) as By;
  const value = first === undefined ? null : keyOf(first);
  const isGiven = first?.is === 'element' && first.query.by === 'parameter';
  if (value === null && !isGiven) return UNKNOWN;
  const query = isGiven
    ? { ...makeQuery(run, by, '', null), parameter: Number(first.query.value) }
    : makeQuery(run, by, value ?? '', writtenAs(node));
  return one === undefined ? { is: 'elements', query } : { is: 'element', query };
}

/** A property of the document, of an element or of a list of them; undefined for what is no other element. */
export function elementProperty(run: Running, owner: Value, key: string): Value | undefined {
  if (owner.is === 'native') {
    if (owner.path !== 'document') return undefined;
    if (key === 'body') return { is: 'element', query: makeQuery(run, 'body', 'body', null) };
    if (key === 'forms') return { is: 'elements', query: makeQuery(run, 'form', '', null) };
    return undefined;
  }
  if (owner.is === 'element') {
    const isForm = owner.query.by === 'form' && key === 'elements';
    return isForm ? { is: 'elements', query: makeQuery(run, 'control', '', null) } : undefined;
  }
  if (owner.is !== 'elements') return undefined;
  const { query } = owner;
  if (/^\d+$/.test(key)) return query.by === 'control' ? UNKNOWN : itemOf(query, key);
  if (query.by !== 'form' && query.by !== 'control') return undefined;
  return OF_LISTS.has(key) ? undefined : { is: 'element', query: { ...query, value: key } };
}

/** What lists have themselves (DOM 4.2.10, HTML 2.6.2). */
const OF_LISTS = new Set([
  'length',
  'item',
  'namedItem',
  'forEach',
  'entries',
  'keys',
  'values',
  'constructor',
]);

function itemOf(query: ElementQuery, key: string | null): Value {
  return key !== null && /^\d+$/.test(key)
    ? { is: 'element', query: { ...query, index: Number(key) } }
    : UNKNOWN;
}

function makeQuery(run: Running, by: By, value: string, literal: ElementQuery['literal']): ElementQuery {
  return { by, value, index: 0, literal, isLate: run.isLater };
}

function writtenAs(call: Node): ElementQuery['literal'] {
  const [first] = (call as Node & { arguments?: readonly Node[] }).arguments ?? [];
  const literal = literalOf(first);
  return literal && { start: literal.start, end: literal.end };
}

/** A function of the document that was tied to it, so that it has a short name. */
export function boundNative(path: string): Value | undefined {
  const [, name] = /^(document\.\w+)\.bind$/.exec(path) ?? [];
  return name === undefined ? undefined : native(name);
}

/** What a function is given that is followed by itself: who calls it may give it an element, or tell of one. */
export function parameters(amount: number): Value[] {
  return Array.from({ length: amount }, (_, index) => ({
    is: 'element',
    query: { by: 'parameter', value: String(index), index: 0, literal: null, isLate: false },
  }));
}
