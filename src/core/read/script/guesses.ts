/** Strings of a script that look like the paths of files, and what else the script may put in front of them. */
import type {
  AssignmentExpression,
  BinaryExpression,
  CallExpression,
  Expression,
  Literal,
  MemberExpression,
  Node,
  Property,
  TemplateLiteral,
  VariableDeclarator,
} from 'acorn';
import type { Hint } from '../reading.ts';
import { literalOf } from './literal.ts';
import { nameOfMember } from './member.ts';

/** A string that stands for itself, or is compared, taken apart or put together with others. */
type Use = Hint['use'];

/** Methods that look at a string, or show it. */
const LOOKING =
  /^(?:includes|indexOf|lastIndexOf|endsWith|startsWith|match|matchAll|test|split|replace|replaceAll|concat|log|warn|error|info|debug|write|alert|require|has|get|delete)$/;
/** Methods that load what their first argument names. */
const LOADING = /^(?:load(?:Script|Image|JSON|File|Sound|Font|Model)?|getJSON|getScript|json|csv|tsv)$/;
/** Methods that say where everything is loaded from. */
const SETTING = /^set\w*(?:path|base|url|prefix|root|dir|folder)/i;
/** Names of what is put in front of a path. */
const FRONT = /(?:base|root|prefix|path|dir|folder|assets?|url|host|origin)$/i;
const FRONT_KEY = /(?:base|root|prefix|dir|folder)(?:url|uri|path)?$/i;
/** The start of a path, as a string of its own. */
const PREFIX = /^(?!\w+:)[\w./-]{1,100}\/$/;

export class Guesses {
  readonly #literals: Literal[] = [];
  readonly #uses = new Map<number, Use>();
  readonly #prefixes = new Set<string>();
  /** Something is put in front of paths, and nobody can tell what. */
  #isAnyPrefix = false;

  /** To be given every node, each before what is in it. */
  visit(node: Node): void {
    switch (node.type) {
      case 'Literal':
        return this.#literal(node);
      case 'TemplateLiteral':
        return this.#template(node as TemplateLiteral);
      case 'BinaryExpression': {
        const { left, right, operator } = node as BinaryExpression;
        this.#use('piece', left, right);
        if (operator === '+' && isFront(left) && literalOf(right) === null) this.#isAnyPrefix = true;
        return;
      }
      case 'SwitchCase':
        return this.#use('piece', (node as Node & { test: Expression | null }).test);
      case 'CallExpression':
        return this.#call(node as CallExpression);
      case 'Property': {
        const { key, value } = node as Property;
        if (key.type === 'Identifier') this.#given(key.name, value);
        return;
      }
      case 'VariableDeclarator': {
        const { id, init } = node as VariableDeclarator;
        if (id.type === 'Identifier') this.#given(id.name, init);
        return;
      }
      case 'AssignmentExpression': {
        const { left, right, operator } = node as AssignmentExpression;
        if (operator === '+=') this.#use('piece', right);
        this.#given(left.type === 'Identifier' ? left.name : nameOfMember(left), right);
        return;
      }
      default:
    }
  }

  /** The literals that look like paths by `isLike`, in order, but for those that are `taken`. */
  found(taken: ReadonlySet<number>, isLike: (text: string) => boolean): { literal: Literal; use: Use }[] {
    return this.#literals
      .filter(({ start, value }) => !taken.has(start) && isLike(value as string))
      .sort((one, other) => one.start - other.start)
      .map((literal) => ({ literal, use: this.#uses.get(literal.start) ?? 'value' }));
  }

  /** What the script may put in front of paths; null where it may be anything. */
  get prefixes(): readonly string[] | null {
    return this.#isAnyPrefix ? null : [...this.#prefixes];
  }

  #literal(node: Node): void {
    const literal = literalOf(node);
    if (literal === null) return;
    this.#literals.push(literal);
    if (PREFIX.test(literal.value as string)) this.#prefixes.add(literal.value as string);
  }

  #template(node: TemplateLiteral): void {
    const [start, second] = node.quasis;
    if (second === undefined) return this.#literal(node);
    const text = start?.value.cooked ?? '';
    if (text === '' && isFront(node.expressions[0])) this.#isAnyPrefix = true;
    const folder = /^.*\//.exec(text)?.[0] ?? '';
    if (PREFIX.test(folder)) this.#prefixes.add(folder);
  }

  #use(use: Use, ...nodes: readonly (Node | null | undefined)[]): void {
    for (const node of nodes) if (node) this.#uses.set(node.start, use);
  }

  #call({ callee, arguments: all }: CallExpression): void {
    const [first, second] = all;
    const method = callee.type === 'Identifier' ? callee.name : nameOfMember(callee);
    if (method !== null && SETTING.test(method)) this.#isAnyPrefix = true;
    if (isLoader(callee)) this.#use('loading', first);
    else if (method !== null && LOOKING.test(method)) {
      this.#use('piece', ...all);
      if (callee.type === 'MemberExpression') this.#use('piece', callee.object);
    } else if (callee.type === 'MemberExpression' && literalOf(first) !== null && second)
      // A name, then an address: what games and pictures are loaded by.
      this.#use('loading', second.type === 'ArrayExpression' ? second.elements[0] : second);
  }

  /** A name, or a property, that is given a value. */
  #given(name: string | null, value: Node | null | undefined): void {
    if (name === null || !FRONT_KEY.test(name)) return;
    const text = literalOf(value)?.value;
    if (typeof text === 'string' && PREFIX.test(`${text}/`)) this.#prefixes.add(`${text}/`);
  }
}

/** True for a call of a library that loads what its first argument says. */
function isLoader(callee: Node): boolean {
  const method = nameOfMember(callee);
  if (method === null) return false;
  const { object } = callee as MemberExpression;
  const owner = object.type === 'Identifier' ? object.name : '';
  return LOADING.test(method) || (/^(?:get|post|ajax)$/.test(method) && /^(?:\$|jQuery|axios)$/.test(owner));
}

/** True for what is called like something that paths are put behind. */
function isFront(node: Node | undefined): boolean {
  if (node === undefined) return false;
  const name = node.type === 'Identifier' ? (node as Node & { name: string }).name : nameOfMember(node);
  return name !== null && FRONT.test(name);
}
