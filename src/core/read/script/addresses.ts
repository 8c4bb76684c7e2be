/** The addresses that a script hands to the platform in so many words, each with what asks for it and as what. */
import type {
  AssignmentExpression,
  CallExpression,
  ConditionalExpression,
  Expression,
  Literal,
  LogicalExpression,
  MemberExpression,
  NewExpression,
  Node,
  ObjectExpression,
} from 'acorn';
import { sortOfFile } from '../../site/formats.ts';
import type { Kind, Reference } from '../reading.ts';
import { Bindings } from './bindings.ts';
import { Conditions } from './conditions.ts';
import { literalOf } from './literal.ts';
import { nameOfMember } from './member.ts';

/** An address in a string literal; `start` and `end` are UTF-16 positions of its text in the script. */
export interface Address {
  readonly written: string;
  readonly start: number;
  readonly end: number;
  readonly kind: Kind;
  /** The call or statement that asks for it, as people write it. */
  readonly name: string;
  readonly from: Reference['from'];
  /** Where it is asked for. */
  readonly asked: number;
}

type Asking = Pick<Address, 'kind' | 'name' | 'from' | 'asked'>;

/** Code without which {@link Addresses} finds nothing. */
export const ASKING =
  /\b(?:import|export)\b\s*(?:[{*("'`]|\/[/*]|[\w$\u0080-\uffff]+\s*(?:,|from\b))|\b(?:fetch|Request|Worker|importScripts|register|addModule|Audio|open|location\.(?:assign|replace))\s*\(\s*(?:["'`]|\/[/*])|\bFontFace\s*\(|\bsetAttribute\s*\(\s*["'`](?:src|href|poster)\b|(?:\.(?:src|href|poster)|\blocation)\s*=\s*["'`]|\.style\.\w+\s*=\s*["'`][^"'`\n]{0,80}\burl\(|import\.meta/;

/** The words of {@link ASKING}, for those that look at words alone; the names of properties are none of them. */
export const ASKING_WORDS: ReadonlySet<string> = new Set(
  'import export fetch Request importScripts register URL Worker SharedWorker addModule Audio open FontFace setAttribute src href poster location'.split(
    ' ',
  ),
);

/** What an element that a script makes loads by the attribute that names its source. */
const sourceKinds: Readonly<Record<string, Kind>> = {
  img: 'image',
  script: 'script',
  iframe: 'frame',
  frame: 'frame',
  embed: 'media',
  audio: 'media',
  video: 'media',
  source: 'media',
  track: 'media',
  input: 'image',
};
const METHOD = /^(?:GET|HEAD|POST|PUT|DELETE|OPTIONS|PATCH)$/i;
const GLOBAL = /^(?:window|self|globalThis|document|top|parent)$/;
const METHODS_OF_LOCATION: ReadonlySet<string> = new Set(['assign', 'replace']);

/** The addresses of a whole script: to be given every node of it, each before what is in it. */
export class Addresses {
  readonly #addresses: Address[] = [];
  readonly #taken = new Set<number>();
  readonly #assigned: AssignmentExpression[] = [];
  readonly #attributes: CallExpression[] = [];
  readonly #bindings = new Bindings();
  readonly #conditions = new Conditions();

  /** In the order of the script, with the starts of the literals that they stand in. */
  found(): { addresses: readonly Address[]; taken: ReadonlySet<number> } {
    // Only now is it known what each name stands for.
    for (const assignment of this.#assigned) this.#visitAssigned(assignment);
    for (const call of this.#attributes) this.#visitAttribute(call);
    const addresses = this.#addresses
      .filter(({ asked }) => !this.#conditions.isForServers(asked))
      .sort((one, other) => one.start - other.start);
    return { addresses: this.#conditions.applied(addresses), taken: this.#taken };
  }

  /** True for code that no browser runs. */
  isForServers(position: number): boolean {
    return this.#conditions.isForServers(position);
  }

  visit(node: Node): void {
    this.#conditions.visit(node);
    this.#bindings.visit(node);
    switch (node.type) {
      case 'ImportDeclaration':
      case 'ExportNamedDeclaration':
      case 'ExportAllDeclaration': {
        const { source } = node as Node & { source?: Literal | null };
        return this.#add(
          source,
          'module',
          node.type === 'ImportDeclaration' ? 'import' : 'export from',
          'file',
        );
      }
      case 'ImportExpression':
        return this.#add((node as Node & { source: Expression }).source, 'module', 'import()', 'file');
      case 'NewExpression':
        return this.#visitNew(node as NewExpression);
      case 'CallExpression':
        return this.#visitCall(node as CallExpression);
      case 'AssignmentExpression': {
        const assignment = node as AssignmentExpression;
        if (assignment.operator === '=') this.#assigned.push(assignment);
        return;
      }
      default:
    }
  }

  #add(node: Node | null | undefined, kind: Kind, name: string, from: Reference['from'] = 'page'): void {
    for (const one of choicesOf(node)) this.#addOne(one, kind, name, from);
  }

  #addOne(node: Node, kind: Kind, name: string, from: Reference['from']): void {
    const literal = this.#bindings.stringOf(node);
    if (literal === null || this.#taken.has(literal.start)) return;
    const asking = { kind, name, from, asked: node.start };
    this.#take(literal, literal.value as string, literal.start + 1, literal.end - 1, asking);
  }

  #take(literal: Literal, written: string, start: number, end: number, asking: Asking): void {
    this.#taken.add(literal.start);
    this.#addresses.push({ written, start, end, ...asking });
  }

  /** Modules start theirs from themselves by `new URL(address, import.meta.url)`. */
  #addWorker(node: Node | null | undefined, kind: 'script' | 'module', name: string): void {
    const { type, callee, arguments: [first, second] = [] } = (node ?? {}) as Partial<NewExpression>;
    if (type === 'NewExpression' && callee !== undefined && isNamed(callee, /^URL$/)) {
      if (isImportMetaUrl(second)) this.#add(first, kind, name, 'file');
    } else this.#add(node, kind, name);
  }

  /** An address that may be of anything: what it is says its name. */
  #addByName(node: Node | null | undefined, name: string, unless: Kind): void {
    for (const one of choicesOf(node)) {
      const written = this.#bindings.stringOf(one)?.value as string | undefined;
      if (written?.trim()) this.#addOne(one, kindByName(written) ?? unless, name, 'page');
    }
  }

  /** A way for visitors; one that only changes the fragment goes nowhere. */
  #addWay(node: Node | null | undefined, name: string): void {
    for (const one of choicesOf(node)) {
      const written = this.#bindings.stringOf(one)?.value as string | undefined;
      if (written?.trim() && !/^\s*#/.test(written)) this.#addOne(one, 'page', name, 'page');
    }
  }

  /** Every `url()` in a piece of CSS (CSS Values 4, 4.5), where the string says it without escapes. */
  #addStyles(node: Node | null | undefined, kind: Kind, name: string): void {
    const literal = literalOf(node);
    if (literal === null) return;
    const text = literal.value as string;
    if (text.length !== literal.end - literal.start - 2) return;
    for (const match of text.matchAll(/url\(\s*(?:"([^"\\]*)"|'([^'\\]*)'|([^"'()\\\s]+))\s*\)/gi)) {
      const written = match[1] ?? match[2] ?? match[3] ?? '';
      const start = literal.start + 1 + match.index + match[0].indexOf(written, 'url('.length);
      if (written !== '')
        this.#take(literal, written, start, start + written.length, {
          kind,
          name,
          from: 'page',
          asked: start,
        });
    }
  }

  #visitNew({ callee, arguments: [first, second] }: NewExpression): void {
    if (callee.type !== 'Identifier') return;
    const { name } = callee;
    if (name === 'URL' && isImportMetaUrl(second)) return this.#add(first, 'data', 'new URL()', 'file');
    if (name === 'URL' && isAddressOfPage(second)) return this.#add(first, 'data', 'new URL()');
    if (name === 'Worker' || name === 'SharedWorker')
      return this.#addWorker(first, goalOfWorker(second), `new ${name}()`);
    if (name === 'Audio') return this.#addByName(first, 'new Audio()', 'media');
    if (name === 'Request') return this.#add(first, 'data', 'new Request()');
    if (name === 'FontFace') this.#addStyles(second, 'font', 'new FontFace()');
  }

  #visitCall(call: CallExpression): void {
    const { callee, arguments: all } = call;
    const [first, second] = all;
    const method = callee.type === 'Identifier' ? callee.name : nameOfMember(callee);
    const owner = callee.type === 'MemberExpression' ? callee.object : null;
    const isGlobal = owner === null || isNamed(owner, GLOBAL);
    if (method === 'fetch' && isGlobal) return this.#add(first, 'data', 'fetch()');
    if (method === 'importScripts' && isGlobal) {
      for (const each of all) this.#add(each, 'script', 'importScripts()', 'file');
    } else if (method === 'register' && owner !== null && nameOfMember(owner) === 'serviceWorker') {
      this.#addWorker(first, goalOfWorker(second), 'serviceWorker.register()');
    } else if (method === 'addModule' && owner !== null) {
      this.#add(first, 'module', 'addModule()');
    } else if (method === 'open') {
      const verb = literalOf(first)?.value;
      if (owner !== null && typeof verb === 'string' && METHOD.test(verb)) {
        if (literalOf(second)?.value !== '') this.#add(second, 'data', 'open()');
      } else if (isGlobal) this.#addWay(first, 'open()');
    } else if (method !== null && METHODS_OF_LOCATION.has(method) && owner !== null && isLocation(owner)) {
      this.#addWay(first, `location.${method}()`);
    } else if (method === 'setAttribute' && owner !== null) this.#attributes.push(call);
  }

  /** `element.setAttribute('src', '…')` (DOM 4.9). */
  #visitAttribute({ callee, arguments: [first, second] }: CallExpression): void {
    const attribute = literalOf(first)?.value;
    if (typeof attribute !== 'string') return;
    const thing = this.#bindings.thingOf((callee as MemberExpression).object as Node);
    if (thing !== 'other') this.#addOfElement(attribute.toLowerCase(), second, thing?.element ?? null);
  }

  #visitAssigned({ left, right }: AssignmentExpression): void {
    if (left.type === 'Identifier') {
      if (left.name === 'location') this.#addWay(right, 'location =');
      return;
    }
    if (left.type !== 'MemberExpression') return;
    const property = nameOfMember(left);
    const { object } = left;
    if (property === null) return;
    if (property === 'location' && isNamed(object, GLOBAL)) return this.#addWay(right, 'location =');
    if (property === 'href' && isLocation(object)) return this.#addWay(right, 'location.href =');
    if (nameOfMember(object) === 'style') return this.#addStyles(right, 'image', `style.${property} =`);
    const thing = this.#bindings.thingOf(object);
    // Only of an element is it sure that the platform loads what its source says.
    if (thing !== null && thing !== 'other') this.#addOfElement(property, right, thing.element);
  }

  #addOfElement(attribute: string, node: Node | null | undefined, element: string | null): void {
    if (attribute === 'src') {
      const kind = sourceKinds[element ?? ''];
      if (kind === undefined) this.#addByName(node, 'src =', 'data');
      else if (literalOf(node)?.value !== '') this.#add(node, kind, 'src =');
    } else if (attribute === 'poster') this.#addByName(node, 'poster =', 'image');
    else if (attribute === 'href') {
      if (element === 'link') this.#addByName(node, 'href =', 'stylesheet');
      else this.#addWay(node, 'href =');
    }
  }
}

/** As what a worker is run (HTML 10.2.6.3, WorkerOptions); a module where nobody can tell, as which most scripts run, too. */
function goalOfWorker(options: Node | null | undefined): 'script' | 'module' {
  if (!options || literalOf(options) !== null) return 'script';
  if (options.type !== 'ObjectExpression') return 'module';
  for (const property of (options as ObjectExpression).properties) {
    if (property.type !== 'Property' || property.computed) return 'module';
    const { key, value } = property;
    const name = key.type === 'Identifier' ? key.name : literalOf(key)?.value;
    if (name === 'type') return literalOf(value)?.value === 'classic' ? 'script' : 'module';
  }
  return 'script';
}

/** Both of `x ? a : b` and of `a || b`, else the expression itself. */
function choicesOf(node: Node | null | undefined): Node[] {
  const choices: Node[] = [];
  const waiting = node ? [node] : [];
  for (let one = waiting.pop(); one !== undefined; one = waiting.pop()) {
    if (one.type === 'ConditionalExpression') {
      const { consequent, alternate } = one as ConditionalExpression;
      waiting.push(consequent, alternate);
    } else if (one.type === 'LogicalExpression') {
      const { left, right } = one as LogicalExpression;
      waiting.push(left, right);
    } else choices.push(one);
  }
  return choices;
}

/** What a file is for by its name; null where the name does not say. */
export function kindByName(written: string): Kind | null {
  const sort = sortOfFile(written.trim().replace(/[?#].*/s, ''));
  const kinds: Readonly<Record<string, Kind>> = {
    page: 'page',
    style: 'stylesheet',
    script: 'script',
    image: 'image',
    font: 'font',
    audio: 'media',
  };
  return Object.hasOwn(kinds, sort) ? (kinds[sort] as Kind) : null;
}

function isNamed(node: Node, pattern: RegExp): boolean {
  return node.type === 'Identifier' && pattern.test((node as Node & { name: string }).name);
}

/** `location`, and `window.location` and its like (HTML 7.2.4). */
function isLocation(node: Node): boolean {
  if (node.type !== 'MemberExpression') return isNamed(node, /^location$/);
  return nameOfMember(node) === 'location' && isNamed((node as MemberExpression).object, GLOBAL);
}

/** `document.baseURI`, `location` and `location.href`. */
function isAddressOfPage(node: Node | undefined): boolean {
  if (node === undefined) return false;
  if (isLocation(node)) return true;
  if (node.type !== 'MemberExpression') return false;
  const { object } = node as MemberExpression;
  const name = nameOfMember(node);
  return (name === 'baseURI' && isNamed(object, /^document$/)) || (name === 'href' && isLocation(object));
}

function isImportMetaUrl(node: Node | undefined): boolean {
  if (node?.type !== 'MemberExpression') return false;
  return (node as MemberExpression).object.type === 'MetaProperty' && nameOfMember(node) === 'url';
}
