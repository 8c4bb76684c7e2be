/** Where in a page stands what a script looks for. */
import type { ElementQuery } from '../order/element-query.ts';
import { isQuirky } from '../read/html/quirks.ts';
import type { Page } from './page.ts';
import { type Compound, matches, parseSelector, type Selectable } from './selector.ts';
import { tagsOf } from './tags.ts';

interface Found extends Selectable {
  readonly at: number;
}

/** The markup of a page, one character a byte. */
export class PlainMarkup {
  /** What hides markup, as far as it was looked for. */
  readonly #hidden: (readonly [start: number, end: number])[] = [];
  #looked = 0;

  constructor(readonly text: string) {}

  /**
   * Where an element stands that a query finds by one plain word; null where that takes a look at all elements. Worth it:
   * it takes a tenth of the time.
   */
  placeOf(query: ElementQuery): number | null {
    if (query.by === 'tag' && query.index === 0 && /^[a-z][a-z0-9-]*$/.test(query.value))
      return this.#tagPlace(query.value);
    const wanted = plainly(query);
    if (wanted === null) return null;
    const { tag, attribute, word } = wanted;
    const isLike = new RegExp(
      `^<${tag ?? '[a-z][a-z0-9-]*'}(?=\\s)[^<>]*?\\s${attribute}\\s*=\\s*(?:"(?:[^"<>]*\\s)?${word}(?:\\s[^"<>]*)?"|'(?:[^'<>]*\\s)?${word}(?:\\s[^'<>]*)?'|${word}(?=[\\s>]))`,
      'i',
    );
    const { text } = this;
    let at = text.indexOf(word);
    for (let tries = 0; at >= 0 && tries < MOST_TRIED; tries++, at = text.indexOf(word, at + 1)) {
      const start = text.lastIndexOf('<', at);
      const markup = text.slice(start, at + word.length + 1);
      if (start >= 0 && !markup.includes('>') && isLike.test(markup) && !this.#isHidden(start)) return start;
    }
    return null;
  }

  #tagPlace(tag: string): number | null {
    const { text } = this;
    const opening = `<${tag}`;
    let at = text.indexOf(opening);
    for (let tries = 0; at >= 0 && tries < MOST_TRIED; tries++, at = text.indexOf(opening, at + 1))
      if (/[\s/>]/.test(text[at + opening.length] ?? '') && !this.#isHidden(at)) return at;
    return null;
  }

  /** True of what stands in a comment, in text or in a template. */
  #isHidden(place: number): boolean {
    const { text } = this;
    while (this.#looked < place) {
      const from = this.#looked;
      const match = HIDING.exec(text.slice(from, place));
      if (match === null) {
        this.#looked = place;
        break;
      }
      const [opening, name] = match;
      const start = from + match.index;
      const end = closeAt(text, name === undefined ? '-->' : `</${name}`, start + opening.length);
      this.#hidden.push([start, end]);
      this.#looked = end;
    }
    return this.#hidden.some(([start, end]) => start < place && place < end);
  }
}

const MOST_TRIED = 20;

/** A class, an id or both an element's name and one of them, where there is no more to it. */
function plainly({ by, value, index }: ElementQuery): {
  readonly tag: string | null;
  readonly attribute: 'id' | 'class';
  readonly word: string;
} | null {
  if (index > 0) return null;
  const text = by === 'id' ? `#${value}` : by === 'class' ? `.${value}` : by === 'selector' ? value : '';
  const [, tag, mark, word] = /^([a-z][a-z0-9-]*)?([#.])([\w-]+)$/.exec(text) ?? [];
  if (mark === undefined || word === undefined) return null;
  return { tag: tag ?? null, attribute: mark === '#' ? 'id' : 'class', word };
}

const HIDING =
  /<!--|<(script|style|title|template|noscript|textarea|iframe|xmp|noembed|noframes|svg|math|select)(?=[\s/>])/i;

function closeAt(text: string, close: string, from: number): number {
  const plain = text.indexOf(close, from);
  if (plain >= 0) return plain;
  const found = text.slice(from).search(new RegExp(close, 'i'));
  return found < 0 ? text.length : from + found;
}

/** Elements that scripts of a page can find by the words in their markup, in the order of the page. */
export class FoundElements {
  readonly #elements: readonly Found[];
  readonly #isQuirky: boolean;

  /** Offsets are those of the file. */
  constructor(page: Pick<Page, 'source' | 'text' | 'offsetInFile'>) {
    const { elements, doctypeEnd } = tagsOf(page, true);
    this.#elements = elements.map((one) => ({
      tag: one.name.replace(/^.*:/, ''),
      at: page.offsetInFile(one.start),
      attribute: (name) => one.attribute(name),
    }));
    const doctype = page.text(0, doctypeEnd).replace(/^[\s\S]*(?=<!doctype)/i, '');
    this.#isQuirky = doctypeEnd === 0 || isQuirky(doctype);
  }

  /** Where the first such element begins, or a later one than that: null where the page has none for certain. */
  placeOf({ by, value, index }: ElementQuery): number | null {
    const holds = (name: string) => (one: Found) => one.attribute(name) === value;
    switch (by) {
      case 'id':
        return this.#nth(holds('id'), 0);
      case 'name':
        return this.#nth(holds('name'), index);
      case 'tag':
        return this.#byTag(value.toLowerCase(), index);
      case 'class':
        return this.#byClass(value, index);
      case 'form':
        return this.#nth((one) => one.tag === 'form' && (value === '' || isNamed(one, value)), index);
      case 'control':
        return this.#nth((one) => CONTROLS.has(one.tag) && isNamed(one, value), 0);
      case 'selector':
        return this.#bySelector(value, index);
      default:
        return 0;
    }
  }

  /** The words of an attribute, each once. */
  wordsOf(attribute: string): ReadonlySet<string> {
    return new Set(this.#elements.flatMap((one) => one.attribute(attribute)?.split(/\s+/) ?? []));
  }

  #nth(isLike: (one: Found) => boolean, index: number): number | null {
    let left = index;
    for (const one of this.#elements) if (isLike(one) && left-- === 0) return one.at;
    return null;
  }

  #byTag(tag: string, index: number): number | null {
    if (tag === '*' || tag === 'html' || tag === 'head') return 0;
    // A parser makes what a table lacks (HTML 13.2.6.4.9).
    const written = tag === 'tbody' || tag === 'colgroup' ? 'table' : tag;
    if (tag === 'body') return this.#elements.find(({ tag: one }) => one === 'body')?.at ?? 0;
    return this.#nth((one) => one.tag === written, written === tag ? index : 0);
  }

  #byClass(value: string, index: number): number | null {
    const classes = value.split(/\s+/).filter((one) => one !== '');
    if (classes.length === 0) return 0;
    return this.#nth((one) => matches(one, { ...ANY, classes }, this.#isQuirky), index);
  }

  #bySelector(text: string, index: number): number | null {
    const selector = parseSelector(text);
    if (selector === null) return 0;
    const places = selector.map((row) => {
      const each = row.map((compound) => this.#ofCompound(compound, row.length === 1 ? index : 0));
      // Those before it in the row must be there, too.
      return each.some((place) => place === null) ? null : Math.max(...(each as number[]));
    });
    const there = places.filter((place) => place !== null);
    return there.length === 0 ? null : Math.min(...there);
  }

  #ofCompound(compound: Compound, index: number): number | null {
    const { tag, ids, classes, attributes } = compound;
    if (ids.length + classes.length + attributes.length === 0)
      return tag === null ? 0 : this.#byTag(tag, index);
    // What the parser made by itself has no attributes.
    return this.#nth((one) => matches(one, compound, this.#isQuirky), index);
  }
}

const ANY: Compound = { tag: null, ids: [], classes: [], attributes: [] };

/** What belongs to a form by its name (HTML 4.10.2). */
const CONTROLS = new Set(['button', 'fieldset', 'input', 'object', 'output', 'select', 'textarea', 'img']);

function isNamed(one: Found, name: string): boolean {
  return one.attribute('name') === name || one.attribute('id') === name;
}
