/** What the names of a script stand for, as far as its text says it: elements of the page, and constants. */
import type {
  ArrowFunctionExpression,
  AssignmentExpression,
  CallExpression,
  Expression,
  ForOfStatement,
  FunctionExpression,
  Literal,
  NewExpression,
  Node,
  VariableDeclaration,
  VariableDeclarator,
} from 'acorn';
import { literalOf } from './literal.ts';
import { nameOfMember } from './member.ts';

/** Calls that give elements of the page. */
const giving = new Set(['getElementById', 'querySelector', 'item', 'closest', 'appendChild', 'cloneNode']);

/** What is known of a name, or of an expression: the element that it stands for; `other` for what is none. */
export type Thing = { readonly element: string | null } | 'other';

/** Without regard to where each name is known (ECMA-262 8.2): one that is given different things may be either. */
export class Bindings {
  readonly #things = new Map<string, Thing | null>();
  /** Constants that are strings; null for names of several. */
  readonly #constants = new Map<string, Literal | null>();

  /** To be given every node, each before what is in it. */
  visit(node: Node): void {
    switch (node.type) {
      case 'VariableDeclaration':
        if ((node as VariableDeclaration).kind === 'const')
          for (const one of (node as VariableDeclaration).declarations) this.#learnConstant(one);
        return;
      case 'ForOfStatement': {
        const { left, right } = node as ForOfStatement;
        const [one] = left.type === 'VariableDeclaration' ? left.declarations : [];
        if (one?.id.type === 'Identifier' && isList(right)) this.#things.set(one.id.name, { element: null });
        return;
      }
      case 'VariableDeclarator': {
        const { id, init } = node as VariableDeclarator;
        if (id.type === 'Identifier' && init) this.#learn(id.name, init);
        return;
      }
      case 'AssignmentExpression': {
        const { left, right } = node as AssignmentExpression;
        if (left.type === 'Identifier') this.#learn(left.name, right);
        return;
      }
      case 'CallExpression': {
        const { callee, arguments: all } = node as CallExpression;
        if (callee.type !== 'MemberExpression' || nameOfMember(callee) !== 'forEach') return;
        if (isList(callee.object)) this.#learnEach(all[0]);
        return;
      }
      default:
    }
  }

  /** A string, or a constant that is one. */
  stringOf(node: Node | null | undefined): Literal | null {
    if (node?.type !== 'Identifier') return literalOf(node);
    return this.#constants.get((node as Node & { name: string }).name) ?? null;
  }

  #learnConstant({ id, init }: VariableDeclarator): void {
    if (id.type !== 'Identifier') return;
    // One name in two places may be either.
    this.#constants.set(id.name, this.#constants.has(id.name) ? null : literalOf(init));
  }

  #learn(name: string, value: Expression): void {
    // Nothing yet is no thing.
    if (value.type === 'Literal' && value.value === null) return;
    const thing = this.thingOf(value);
    const known = this.#things.get(name);
    // What is given different things may be either.
    this.#things.set(name, known === undefined || isSame(known, thing) ? thing : null);
  }

  /** Null where nothing is known of it. */
  thingOf(node: Node): Thing | null {
    if (node.type === 'Identifier') return this.#things.get((node as Node & { name: string }).name) ?? null;
    if (node.type === 'NewExpression') {
      const { callee } = node as NewExpression;
      const name = callee.type === 'Identifier' ? callee.name : '';
      return name === 'Image' ? { element: 'img' } : name === 'Audio' ? { element: 'audio' } : 'other';
    }
    if (node.type === 'CallExpression') {
      const { callee, arguments: all } = node as CallExpression;
      const method = nameOfMember(callee);
      const made = literalOf(all[0])?.value;
      if (method === 'createElement')
        return { element: typeof made === 'string' ? made.toLowerCase() : null };
      return method !== null && giving.has(method) ? { element: null } : null;
    }
    return /^(?:Object|Array|Function|ArrowFunction|This|Class)Expression$|^(?:Literal|TemplateLiteral)$/.test(
      node.type,
    )
      ? 'other'
      : null;
  }

  /** The parameter of a function that is called with each element of a list. */
  #learnEach(callback: Node | undefined): void {
    if (callback?.type !== 'ArrowFunctionExpression' && callback?.type !== 'FunctionExpression') return;
    const [parameter] = (callback as ArrowFunctionExpression | FunctionExpression).params;
    if (parameter?.type === 'Identifier') this.#things.set(parameter.name, { element: null });
  }
}

/** True for a list of elements of the page. */
function isList(node: Node): boolean {
  if (node.type !== 'CallExpression') return false;
  const method = nameOfMember((node as CallExpression).callee);
  return method === 'querySelectorAll' || /^getElementsBy/.test(method ?? '');
}

function isSame(one: Thing | null, other: Thing | null): boolean {
  return one === other || JSON.stringify(one) === JSON.stringify(other);
}
