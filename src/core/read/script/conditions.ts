/** Which code of a script runs whenever the script does, and which only if something says so. */
import type {
  AssignmentExpression,
  BinaryExpression,
  CallExpression,
  ConditionalExpression,
  IfStatement,
  LogicalExpression,
  Node,
  SwitchStatement,
  TryStatement,
} from 'acorn';
import { lastNotAfter } from '../../rising.ts';
import type { Address } from './addresses.ts';
import { literalOf } from './literal.ts';
import { nameOfMember } from './member.ts';

/** Events that every page has (HTML 8.2.6 and 13.2.7). */
const CERTAIN = /^(?:DOMContentLoaded|load|pageshow)$/;
const CALLING_AT_ONCE = /^(?:\$|jQuery|requestAnimationFrame|setTimeout|queueMicrotask)$/;

export class Conditions {
  readonly #spans: { readonly start: number; readonly end: number }[] = [];
  /** Where code that is not for browsers starts and ends, the outermost of it, in order. */
  readonly #serverStarts: number[] = [];
  readonly #serverEnds: number[] = [];
  /** Where functions start that are called for certain. */
  readonly #called = new Set<number>();

  /** To be given every node, each before what is in it. */
  visit(node: Node): void {
    switch (node.type) {
      case 'FunctionDeclaration':
      case 'FunctionExpression':
      case 'ArrowFunctionExpression':
        if (!this.#called.has(node.start)) this.#spans.push(node);
        return;
      case 'CallExpression':
        return this.#visitCall(node as CallExpression);
      case 'AssignmentExpression': {
        const { left, right } = node as AssignmentExpression;
        if (nameOfMember(left) === 'onload') this.#called.add(right.start);
        return;
      }
      case 'IfStatement':
      case 'ConditionalExpression': {
        const { test, consequent, alternate } = node as IfStatement | ConditionalExpression;
        if (asksForServer(test) && consequent.start >= (this.#serverEnds.at(-1) ?? 0)) {
          this.#serverStarts.push(consequent.start);
          this.#serverEnds.push(consequent.end);
        }
        return this.#note(consequent, alternate);
      }
      case 'LogicalExpression':
        return this.#note((node as LogicalExpression).right);
      case 'SwitchStatement':
        return this.#note(...(node as SwitchStatement).cases);
      case 'TryStatement':
        return this.#note((node as TryStatement).handler);
      case 'ForStatement':
      case 'ForInStatement':
      case 'ForOfStatement':
      case 'WhileStatement':
        return this.#note((node as Node & { body: Node }).body);
      default:
    }
  }

  /** True for code behind a question that only servers answer with yes. */
  isForServers(position: number): boolean {
    const index = lastNotAfter(this.#serverStarts, position);
    const start = this.#serverStarts[index];
    return start !== undefined && position >= start && position < (this.#serverEnds[index] as number);
  }

  /** The addresses, each with whether every page asks for it. */
  applied(addresses: readonly Address[]): Address[] {
    const spans = this.#spans.sort((one, other) => one.start - other.start);
    const inDoubt = new Set<Address>();
    let next = 0;
    let end = 0;
    for (const address of addresses.toSorted((one, other) => one.asked - other.asked)) {
      for (; next < spans.length && (spans[next]?.start as number) <= address.asked; next++)
        end = Math.max(end, spans[next]?.end as number);
      if (address.from === 'page' && end > address.asked) inDoubt.add(address);
    }
    return addresses.map((one) => (inDoubt.has(one) ? { ...one, from: 'some-page' } : one));
  }

  #note(...nodes: readonly (Node | null | undefined)[]): void {
    for (const node of nodes) if (node) this.#spans.push(node);
  }

  #visitCall({ callee, arguments: [first, second] }: CallExpression): void {
    const method = callee.type === 'Identifier' ? callee.name : nameOfMember(callee);
    // `(function () { … }())`, also by way of `call` and `apply`.
    if (callee.type !== 'MemberExpression' || method === 'call' || method === 'apply')
      this.#called.add(callee.start);
    if (method === 'addEventListener' && CERTAIN.test(String(literalOf(first)?.value)) && second)
      this.#called.add(second.start);
    else if (first && method === 'ready') this.#called.add(first.start);
    else if (first && callee.type === 'Identifier' && CALLING_AT_ONCE.test(callee.name))
      this.#called.add(first.start);
  }
}

/** `typeof exports === 'object'` and its like. */
function asksForServer(test: Node): boolean {
  if (test.type === 'LogicalExpression') {
    const { left, right, operator } = test as LogicalExpression;
    return operator === '&&' && (asksForServer(left) || asksForServer(right));
  }
  if (test.type !== 'BinaryExpression') return false;
  const { left, right, operator } = test as BinaryExpression;
  if (left.type !== 'UnaryExpression' || left.operator !== 'typeof') return false;
  const { argument } = left;
  const isServers =
    argument.type === 'Identifier' && /^(?:exports|module|require|process|global)$/.test(argument.name);
  const isUndefined = literalOf(right)?.value === 'undefined';
  return isServers && operator.startsWith('!') === isUndefined;
}
