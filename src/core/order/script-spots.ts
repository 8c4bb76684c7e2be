/** What a script does about the spots of its page, as far as its text says it: ids that it gives, fragments that it reads. */
import type {
  AssignmentExpression,
  CallExpression,
  Identifier,
  Literal,
  NewExpression,
  Node,
  Program,
  Property,
  TemplateLiteral,
  VariableDeclarator,
} from 'acorn';
import { literalOf } from '../read/script/literal.ts';
import { nameOfCallee, nameOfMember } from '../read/script/member.ts';
import { eachNode } from '../read/script/parse.ts';

export interface ScriptSpots {
  /** It reads the fragment of the page's address, or is told when that changes. */
  readonly readsFragment: boolean;
  /** Ids that it gives to elements; with an `*` at the end the start of some. */
  readonly ids: ReadonlySet<string>;
  /** It copies what templates hold. */
  readonly copiesTemplates: boolean;
  /** It puts markup into the page that its text does not show. */
  readonly putsMarkup: boolean;
}

export const NO_SPOTS: ScriptSpots = {
  readsFragment: false,
  ids: new Set(),
  copiesTemplates: false,
  putsMarkup: false,
};

/** Of a library (`isWhole` false) it is only said whether it waits for another fragment. */
export function spotsOfScript(program: Program, text: string, isWhole: boolean): ScriptSpots {
  const isWorthwhile = isWhole
    ? /hash|#|\bid\b|HTML|\.html\(|\.content\b|Node\(/.test(text)
    : text.includes('hashchange');
  if (!isWorthwhile) return NO_SPOTS;
  const found = new Found(isWhole);
  eachNode(program, (node) => found.visit(node));
  return found;
}

/** Calls that give an attribute a value. */
const SETTING = new Set(['setAttribute', 'attr', 'prop']);
const ID_IN_MARKUP = /\sid\s*=\s*(?:"([^"]*)|'([^']*)|([^\s"'>]+))/gi;

class Found implements ScriptSpots {
  readsFragment = false;
  readonly ids = new Set<string>();
  copiesTemplates = false;
  putsMarkup = false;
  /** Names that stand for the page's address, or for another one. */
  readonly #addresses = new Set(['location']);
  /** Properties that are set, not read. */
  readonly #set = new Set<Node>();

  constructor(readonly isWhole: boolean) {}

  visit(node: Node): void {
    switch (node.type) {
      case 'CallExpression':
        this.#call(node as CallExpression);
        return;
      case 'AssignmentExpression':
        this.#assign(node as AssignmentExpression);
        return;
      case 'VariableDeclarator': {
        const { id, init } = node as VariableDeclarator;
        if (!init || !this.#isAddress(init)) return;
        if (id.type === 'Identifier') this.#addresses.add(id.name);
        else if (id.type === 'ObjectPattern') this.#read(id.properties.some((one) => keyOf(one) === 'hash'));
        return;
      }
      case 'MemberExpression': {
        const name = nameOfMember(node);
        if (name === 'content' || name === 'cloneNode' || name === 'importNode') this.copiesTemplates = true;
        if (name !== 'hash' || this.#set.has(node)) return;
        this.#read(this.#isAddress((node as Node & { object: Node }).object));
        return;
      }
      case 'Property':
        if (keyOf(node) === 'id') this.#give((node as Property).value, false);
        return;
      case 'Literal':
        this.#giveMarkup([String((node as Literal).value)]);
        return;
      case 'TemplateLiteral':
        this.#giveMarkup((node as TemplateLiteral).quasis.map(({ value }) => value.cooked ?? ''));
        return;
      default:
    }
  }

  #call(call: CallExpression): void {
    const { callee, arguments: all } = call;
    const method = nameOfCallee(call);
    const first = literalOf(all[0])?.value;
    if (/\bhashchange\b/.test(String(first ?? '')) || method === 'hashchange') this.readsFragment = true;
    if (SETTING.has(method) && first === 'id' && all[1] !== undefined) this.#give(all[1], true);
    if (method === 'insertAdjacentHTML' || method === 'html') this.#put(all[method === 'html' ? 0 : 1]);
    // The address as a whole, cut where the fragment begins.
    const whole = (callee as Node & { object?: Node }).object;
    if (whole !== undefined && this.#isWhole(whole)) this.#read(all.some(hasMark));
  }

  #assign({ left, right, operator }: AssignmentExpression): void {
    if (left.type === 'Identifier' && this.#isAddress(right)) this.#addresses.add(left.name);
    const name = nameOfMember(left);
    if (name === 'onhashchange' || (left as Identifier).name === 'onhashchange') this.readsFragment = true;
    if (name === 'hash' && operator === '=') this.#set.add(left);
    if (name === 'id' && operator === '=') this.#give(right, true);
    if (name === 'innerHTML' || name === 'outerHTML') this.#put(right);
  }

  #put(markup: Node | undefined): void {
    if (markup !== undefined && !isShown(markup)) this.putsMarkup = true;
  }

  #read(isRead: boolean): void {
    if (isRead && this.isWhole) this.readsFragment = true;
  }

  /** `isSure` where it is surely an id of an element that is given. */
  #give(value: Node, isSure: boolean): void {
    if (!this.isWhole) return;
    const { start, isEnd } = startOf(value);
    if (isEnd) this.ids.add(start);
    else if (isSure) this.ids.add(`${start}*`);
  }

  /** Markup in strings; between two of them stands what nobody knows. */
  #giveMarkup(pieces: readonly string[]): void {
    if (!this.isWhole || !pieces.some((piece) => piece.includes('<'))) return;
    for (const [index, piece] of pieces.entries())
      for (const match of piece.matchAll(ID_IN_MARKUP)) {
        const id = match[1] ?? match[2] ?? match[3] ?? '';
        const isOpen = index < pieces.length - 1 && match.index + match[0].length === piece.length;
        this.ids.add(isOpen ? `${id}*` : id);
      }
  }

  /** True for the page's location, and for what is made of any address. */
  #isAddress(node: Node): boolean {
    if (node.type === 'Identifier') return this.#addresses.has((node as Identifier).name);
    if (node.type === 'NewExpression') return ((node as NewExpression).callee as Identifier).name === 'URL';
    return nameOfMember(node) === 'location';
  }

  /** True for the page's address as text. */
  #isWhole(node: Node): boolean {
    const name = nameOfMember(node);
    if (name === 'URL' || name === 'documentURI') return true;
    return name === 'href' && this.#isAddress((node as Node & { object: Node }).object);
  }
}

/** True for a text that stands there, but for words that are put into it. */
function isShown(node: Node): boolean {
  if (node.type === 'Literal' || node.type === 'TemplateLiteral') return true;
  const { left, right, operator } = node as Node & { left: Node; right: Node; operator: string };
  return node.type === 'BinaryExpression' && operator === '+' && (isShown(left) || isShown(right));
}

function keyOf(node: Node): string | null {
  const { key, computed } = node as Property;
  if (computed || key === undefined) return null;
  return key.type === 'Identifier' ? key.name : String((key as Literal).value);
}

/** What a string begins with, as far as it is written out. */
function startOf(node: Node): { readonly start: string; readonly isEnd: boolean } {
  const literal = literalOf(node);
  if (literal !== null) return { start: String(literal.value), isEnd: true };
  if (node.type === 'TemplateLiteral')
    return { start: (node as TemplateLiteral).quasis[0]?.value.cooked ?? '', isEnd: false };
  if (node.type === 'BinaryExpression') {
    const { left, operator } = node as Node & { left: Node; operator: string };
    if (operator === '+') return { ...startOf(left), isEnd: false };
  }
  return { start: '', isEnd: false };
}

/** A string or a pattern with the mark of a fragment. */
function hasMark(node: Node): boolean {
  const { regex } = node as Literal;
  return (regex?.pattern ?? String(literalOf(node)?.value ?? '')).includes('#');
}
