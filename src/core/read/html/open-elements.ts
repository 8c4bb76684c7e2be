/** The stack of open elements (HTML 13.2.4.2) and the list of active formatting elements (13.2.4.3), without a tree. */
import { elementFlags, elements } from './names.ts';

/** The namespace of an element. */
export const space = { html: 0, svg: 1, math: 2 } as const;
export type Space = (typeof space)[keyof typeof space];

export interface OpenElement {
  /** The number of its name: among {@link elements}, or given out for this page from 1000 on. */
  readonly id: number;
  readonly space: Space;
  /** Where in a page its children are placed. */
  readonly region: 'head' | 'body' | 'none';
  /** What its children stand in. */
  readonly inside: 'template' | 'noscript' | 'select' | 'svg' | 'math' | null;
  /** Of formatting elements: their attributes as written, for comparison. */
  readonly attributes: string;
  /** An HTML integration point by its attributes (MathML `annotation-xml`). */
  readonly integration: boolean;
  open: boolean;
}

/** Browsers stop nesting here; so does the time that each look into the stack may take. */
const DEEPEST = 512;

const { id } = elements;
// biome-ignore format: one name after another
const specialHtml = elementFlags(
  'address', 'applet', 'area', 'article', 'aside', 'base', 'basefont', 'bgsound', 'blockquote', 'body', 'br',
  'button', 'caption', 'center', 'col', 'colgroup', 'dd', 'details', 'dir', 'div', 'dl', 'dt', 'embed',
  'fieldset', 'figcaption', 'figure', 'footer', 'form', 'frame', 'frameset', 'h1', 'h2', 'h3', 'h4', 'h5',
  'h6', 'head', 'header', 'hgroup', 'hr', 'html', 'iframe', 'img', 'input', 'keygen', 'li', 'link', 'listing',
  'main', 'marquee', 'menu', 'meta', 'nav', 'noembed', 'noframes', 'noscript', 'object', 'ol', 'p', 'param',
  'plaintext', 'pre', 'script', 'search', 'section', 'select', 'source', 'style', 'summary', 'table', 'tbody',
  'td', 'template', 'textarea', 'tfoot', 'th', 'thead', 'title', 'tr', 'track', 'ul', 'wbr', 'xmp',
);
const specialMath = elementFlags('mi', 'mo', 'mn', 'ms', 'mtext', 'annotation-xml');
const specialSvg = elementFlags('foreignobject', 'desc', 'title');
// biome-ignore format: one name after another
const scopeHtml = elementFlags(
  'applet', 'caption', 'html', 'table', 'td', 'th', 'marquee', 'object', 'template', 'select',
);
scopeHtml[id.select] = 0;
const tableScope = elementFlags('html', 'table', 'template');
const impliedEnd = elementFlags('dd', 'dt', 'li', 'optgroup', 'option', 'p', 'rb', 'rp', 'rt', 'rtc');
// biome-ignore format: one name after another
const thoroughlyImpliedEnd = elementFlags(
  'dd', 'dt', 'li', 'optgroup', 'option', 'p', 'rb', 'rp', 'rt', 'rtc', 'caption', 'colgroup', 'tbody', 'td',
  'tfoot', 'th', 'thead', 'tr',
);

/** The kinds of scope that an element can be looked for in (13.2.4.2). */
export type Scope = 'plain' | 'list item' | 'button' | 'table' | 'select';

export function isSpecial(element: OpenElement): boolean {
  const table =
    element.space === space.html ? specialHtml : element.space === space.svg ? specialSvg : specialMath;
  return table[element.id] === 1;
}

export function isMathTextIntegrationPoint({ space: at, id: name }: OpenElement): boolean {
  return at === space.math && name !== id['annotation-xml'] && specialMath[name] === 1;
}

export function isHtmlIntegrationPoint({ space: at, id: name, integration }: OpenElement): boolean {
  return at === space.svg ? specialSvg[name] === 1 : at === space.math && integration;
}

export class OpenElements {
  readonly stack: OpenElement[] = [];
  /** How many of each element are open, so that most look-ups end before they start. */
  readonly #counts = new Map<number, number>();
  readonly formatting: (OpenElement | null)[] = [];

  get current(): OpenElement | undefined {
    return this.stack.at(-1);
  }

  isCurrent(name: number): boolean {
    const { current } = this;
    return current !== undefined && current.id === name && current.space === space.html;
  }

  push(element: OpenElement): void {
    if (this.stack.length >= DEEPEST) this.pop();
    this.stack.push(element);
    element.open = true;
    if (element.space === space.html) this.#counts.set(element.id, (this.#counts.get(element.id) ?? 0) + 1);
  }

  pop(): void {
    const element = this.stack.pop();
    if (element !== undefined) this.#closed(element);
  }

  has(name: number): boolean {
    return (this.#counts.get(name) ?? 0) > 0;
  }

  hasInScope(name: number, scope: Scope): boolean {
    return this.has(name) && this.hasOneInScope((candidate) => candidate === name, scope);
  }

  hasOneInScope(isWanted: (name: number) => boolean, scope: Scope): boolean {
    for (let index = this.stack.length - 1; index >= 0; index--) {
      const element = this.stack[index] as OpenElement;
      if (element.space === space.html && isWanted(element.id)) return true;
      if (isBoundary(element, scope)) return false;
    }
    return false;
  }

  generateImpliedEndTags(except = 0, thoroughly = false): void {
    const table = thoroughly ? thoroughlyImpliedEnd : impliedEnd;
    for (;;) {
      const { current } = this;
      if (
        current === undefined ||
        current.space !== space.html ||
        current.id === except ||
        table[current.id] !== 1
      )
        return;
      this.pop();
    }
  }

  popUntil(name: number): void {
    this.popUntilOne((candidate) => candidate === name);
  }

  popUntilOne(isWanted: (name: number) => boolean): void {
    for (;;) {
      const { current } = this;
      if (current === undefined) return;
      this.pop();
      if (current.space === space.html && isWanted(current.id)) return;
    }
  }

  /** Clears the stack back to a table, table body or table row context (13.2.6.4.9, 13, 14). */
  clearBackTo(isContext: (name: number) => boolean): void {
    for (;;) {
      const { current } = this;
      if (
        current === undefined ||
        (current.space === space.html &&
          (current.id === id.html || current.id === id.template || isContext(current.id)))
      )
        return;
      this.pop();
    }
  }

  remove(element: OpenElement): void {
    const index = this.stack.lastIndexOf(element);
    if (index < 0) return;
    this.stack.splice(index, 1);
    this.#closed(element);
  }

  replace(element: OpenElement, other: OpenElement): void {
    this.stack[this.stack.lastIndexOf(element)] = other;
    element.open = false;
    other.open = true;
  }

  insertAfter(element: OpenElement, other: OpenElement): void {
    this.stack.splice(this.stack.lastIndexOf(element) + 1, 0, other);
    other.open = true;
    this.#counts.set(other.id, (this.#counts.get(other.id) ?? 0) + 1);
  }

  #closed(element: OpenElement): void {
    element.open = false;
    if (element.space === space.html)
      this.#counts.set(element.id, (this.#counts.get(element.id) as number) - 1);
  }

  /** Pushes onto the list, with the Noah's Ark clause: at most three alike after the last marker. */
  pushFormatting(element: OpenElement): void {
    let alike = 0;
    for (let index = this.formatting.length - 1; index >= 0; index--) {
      const entry = this.formatting[index] as OpenElement | null;
      if (entry === null) break;
      if (entry.id === element.id && entry.attributes === element.attributes && ++alike === 3) {
        this.formatting.splice(index, 1);
        break;
      }
    }
    if (this.formatting.length >= DEEPEST) this.formatting.shift();
    this.formatting.push(element);
  }

  pushMarker(): void {
    this.formatting.push(null);
  }

  clearToMarker(): void {
    while (this.formatting.length > 0 && this.formatting.pop() !== null);
  }

  removeFormatting(element: OpenElement): void {
    const index = this.formatting.lastIndexOf(element);
    if (index >= 0) this.formatting.splice(index, 1);
  }

  /** The last element of that name in the list, after the last marker. */
  lastFormatting(name: number): OpenElement | null {
    for (let index = this.formatting.length - 1; index >= 0; index--) {
      const entry = this.formatting[index] as OpenElement | null;
      if (entry === null || entry.id === name) return entry;
    }
    return null;
  }

  /** Reconstruct the active formatting elements (13.2.4.3). */
  reconstruct(): void {
    const { formatting } = this;
    let index = formatting.length - 1;
    if (index < 0 || isMarkerOrOpen(formatting[index] as OpenElement | null)) return;
    while (index > 0 && !isMarkerOrOpen(formatting[index - 1] as OpenElement | null)) index--;
    for (; index < formatting.length; index++) {
      const again = { ...(formatting[index] as OpenElement) };
      formatting[index] = again;
      this.push(again);
    }
  }

  /** Runs the adoption agency algorithm (13.2.6.4.7); false where it leaves the tag to the general rule. */
  adopt(name: number): boolean {
    const { current } = this;
    if (
      current !== undefined &&
      current.space === space.html &&
      current.id === name &&
      !this.formatting.includes(current)
    ) {
      this.pop();
      return true;
    }
    for (let outer = 0; outer < 8; outer++) {
      const element = this.lastFormatting(name);
      if (element === null) return false;
      if (!element.open) {
        this.removeFormatting(element);
        return true;
      }
      if (!this.#isInScope(element)) return true;
      const { stack } = this;
      const at = stack.lastIndexOf(element);
      const block = stack.find((other, index) => index > at && isSpecial(other));
      if (block === undefined) {
        while (element.open) this.pop();
        this.removeFormatting(element);
        return true;
      }
      this.#adoptOne(element, block);
    }
    return true;
  }

  #adoptOne(element: OpenElement, block: OpenElement): void {
    const { stack, formatting } = this;
    let bookmark = formatting.lastIndexOf(element);
    let last = block;
    let index = stack.lastIndexOf(block);
    for (let inner = 1; ; inner++) {
      const node = stack[--index] as OpenElement;
      if (node === element) break;
      let place = formatting.lastIndexOf(node);
      if (inner > 3 && place >= 0) {
        formatting.splice(place, 1);
        if (place < bookmark) bookmark--;
        place = -1;
      }
      if (place < 0) {
        this.remove(node);
        continue;
      }
      const again = { ...node };
      formatting[place] = again;
      this.replace(node, again);
      if (last === block) bookmark = place + 1;
      last = again;
    }
    const again: OpenElement = { ...element };
    const place = formatting.lastIndexOf(element);
    formatting.splice(place, 1);
    if (place < bookmark) bookmark--;
    formatting.splice(bookmark, 0, again);
    this.remove(element);
    this.insertAfter(block, again);
  }

  #isInScope(element: OpenElement): boolean {
    for (let index = this.stack.length - 1; index >= 0; index--) {
      const other = this.stack[index] as OpenElement;
      if (other === element) return true;
      if (isBoundary(other, 'plain')) return false;
    }
    return false;
  }
}

function isMarkerOrOpen(entry: OpenElement | null): boolean {
  return entry === null || entry.open;
}

function isBoundary(element: OpenElement, scope: Scope): boolean {
  const { id: name } = element;
  if (scope === 'table') return element.space === space.html && tableScope[name] === 1;
  if (scope === 'select') return element.space !== space.html || (name !== id.optgroup && name !== id.option);
  if (element.space === space.svg) return specialSvg[name] === 1;
  if (element.space === space.math) return specialMath[name] === 1;
  if (scopeHtml[name] === 1) return true;
  if (scope === 'list item') return name === id.ol || name === id.ul;
  return scope === 'button' && name === id.button;
}
