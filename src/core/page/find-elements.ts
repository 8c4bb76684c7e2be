/** Where in a page stands what a script looks for. */
import { pushTo } from '../group-by.ts';
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
  #asked = 0;

  constructor(readonly text: string) {}

  /**
   * Where an element stands that a query finds by one plain word; null where that takes a look at all elements. Worth it:
   * it takes a tenth of the time.
   */
  placeOf(query: ElementQuery): number | null {
    // Who is asked for many had better look at all of them once.
    if (++this.#asked > MOST_ASKED) return null;
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
const MOST_ASKED = 20;

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
  /** Elements by what they are found by, the most telling of it: an id, a class, a name. */
  #index: ReadonlyMap<string, readonly Found[]> | null = null;
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
    switch (by) {
      case 'id':
        return this.#nth(`#${value}`, (one) => one.attribute('id') === value, 0);
      case 'name':
        return this.#nth(`=${value}`, () => true, index);
      case 'tag':
        return this.#byTag(value.toLowerCase(), index);
      case 'class':
        return this.#byClass(value, index);
      case 'form':
        return value === ''
          ? this.#nth('form', () => true, index)
          : (this.#nth(`=${value}`, ({ tag }) => tag === 'form', 0) ??
              this.#nth(`#${value}`, (one) => one.tag === 'form' && one.attribute('id') === value, 0));
      case 'control':
        return (
          this.#nth(`=${value}`, ({ tag }) => CONTROLS.has(tag), 0) ??
          this.#nth(`#${value}`, (one) => CONTROLS.has(one.tag) && one.attribute('id') === value, 0)
        );
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

  /** The elements that `key` finds: `#id`, `.class` (both in lower case), `=name` or a tag. */
  #indexed(): ReadonlyMap<string, readonly Found[]> {
    if (this.#index !== null) return this.#index;
    const index = new Map<string, Found[]>();
    for (const one of this.#elements) {
      pushTo(index, one.tag, one);
      const [id, name] = [one.attribute('id'), one.attribute('name')];
      if (id !== null) pushTo(index, `#${id.toLowerCase()}`, one);
      if (name !== null) pushTo(index, `=${name}`, one);
      for (const word of new Set(
        one
          .attribute('class')
          ?.toLowerCase()
          .split(/[\t\n\f\r ]+/),
      ))
        pushTo(index, `.${word}`, one);
    }
    this.#index = index;
    return index;
  }

  #nth(key: string, isLike: (one: Found) => boolean, index: number): number | null {
    let left = index;
    const found = this.#indexed().get(/^[#.]/.test(key) ? key.toLowerCase() : key) ?? [];
    for (const one of found) if (isLike(one) && left-- === 0) return one.at;
    return null;
  }

  #byTag(tag: string, index: number): number | null {
    if (tag === '*' || tag === 'html' || tag === 'head') return 0;
    // A parser makes what a table lacks (HTML 13.2.6.4.9).
    if (tag === 'tbody' || tag === 'colgroup') return this.#nth('table', () => true, 0);
    return tag === 'body' ? (this.#nth('body', () => true, 0) ?? 0) : this.#nth(tag, () => true, index);
  }

  #byClass(value: string, index: number): number | null {
    const classes = value.split(/\s+/).filter((one) => one !== '');
    return classes.length === 0 ? 0 : this.#ofCompound({ ...ANY, classes }, index);
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
    const isLike = (one: Found) => matches(one, compound, this.#isQuirky);
    if (ids[0] !== undefined) return this.#nth(`#${ids[0]}`, isLike, index);
    if (classes[0] !== undefined) return this.#nth(`.${classes[0]}`, isLike, index);
    const named = attributes.find(({ name, operator }) => name === 'name' && operator === '=');
    if (tag !== null)
      return attributes.length === 0 ? this.#byTag(tag, index) : this.#nth(tag, isLike, index);
    if (named !== undefined) return this.#nth(`=${named.value}`, isLike, index);
    if (attributes.length === 0) return 0;
    // What the parser made by itself has no attributes.
    return this.#elements.filter(isLike)[index]?.at ?? null;
  }
}

const ANY: Compound = { tag: null, ids: [], classes: [], attributes: [] };

/** What belongs to a form by its name (HTML 4.10.2). */
const CONTROLS = new Set(['button', 'fieldset', 'input', 'object', 'output', 'select', 'textarea', 'img']);
