/**
 * Tree construction for most pages: only head and body need telling apart, and names alone say how content is
 * read (HTML 13.2.6.4.1 to 7). A page with templates or framesets, or with SVG, MathML or selects that are not
 * well-formed islands, asks for {@link ContentMode.Stop}, and is told again to the full rules.
 */
import { type Construction, contentOf, hasText, type Inside, type Region } from './construction.ts';
import { Island } from './islands.ts';
import { elementFlags, elements } from './names.ts';
import { ContentMode, type Tag } from './scan.ts';

/** "initial" and "before html" (13.2.6.4.1 and 2). */
const INITIAL = 0;
/** "before head" (13.2.6.4.3). */
const BEFORE_HEAD = 1;
/** "in head", and "text" within it (13.2.6.4.4 and 8). */
const IN_HEAD = 2;
/** "after head" (13.2.6.4.6). */
const AFTER_HEAD = 3;
/**
 * "in body", "text" within it, the modes of tables, "after body" and "after after body" (13.2.6.4.7 to 15, 19 and 22): in
 * none of them does anything leave the body again.
 */
const IN_BODY = 4;

const { id } = elements;
const islands = elementFlags('svg', 'math', 'select');
const needsFullRules = elementFlags('svg', 'math', 'template', 'select', 'frameset');
const headElements = elementFlags(
  'base',
  'basefont',
  'bgsound',
  'link',
  'meta',
  'noframes',
  'script',
  'style',
  'title',
);
/** What a start tag in the body asks for. */
const contentInBody = contentOf.map((asked, element) =>
  needsFullRules[element] === 1 ? ContentMode.Stop : asked,
);
const NOSCRIPT = id.noscript;

/** True where an element's start tag in the body changes how the page is read on. */
export function changesReading(element: number): boolean {
  return contentInBody[element] !== ContentMode.Data;
}

/** End tags that are not ignored before the body. */
const telling = elementFlags('head', 'body', 'html', 'br');

export class QuickRules implements Construction {
  wantsText = true;
  isSettled = false;
  wantsEndTags = true;
  region: Region = 'none';
  inside: Inside | null = null;
  foreign = false;
  #island: Island | null = null;
  /** Reads what a noscript holds, up to its end tag. */
  #within: QuickRules | null = null;
  #mode = INITIAL;

  /** `isWithin`: what a noscript holds, in which another one is an element like others. */
  constructor(
    readonly bytes: Uint8Array,
    readonly isWithin = false,
  ) {}

  inForeignContent(): boolean {
    if (this.#within !== null) return this.#within.inForeignContent();
    return this.#island !== null && this.#island.inside !== 'select';
  }

  doctype(): void {}

  startTag(element: number, tag: Tag): ContentMode {
    if (this.#within !== null) return this.#startWithin(this.#within, element, tag);
    if (this.#island !== null) {
      this.foreign = this.#island.inside !== 'select';
      return this.#island.startTag(element, tag) ? ContentMode.Data : ContentMode.Stop;
    }
    if (this.#mode === IN_BODY) {
      if (element === NOSCRIPT) {
        if (this.isWithin) return ContentMode.Data;
        this.#enterNoscript();
      }
      if (islands[element] === 1) return this.#enterIsland(element, tag);
      this.foreign = false;
      return contentInBody[element] as ContentMode;
    }
    if (needsFullRules[element] === 1) {
      if (islands[element] !== 1) return ContentMode.Stop;
      this.#enterBody();
      return this.#enterIsland(element, tag);
    }
    this.region = this.#beforeBody(element);
    if (this.region === 'none') return ContentMode.Data;
    if (element === NOSCRIPT) this.#enterNoscript();
    return contentOf[element] as ContentMode;
  }

  endTag(tag: Tag): boolean {
    const { nameStart, nameEnd } = tag;
    if (this.#within !== null) return this.#endWithin(this.#within, tag);
    if (this.#island !== null) {
      const at = this.#island.endTag(elements.find(this.bytes, nameStart, nameEnd), tag);
      if (at === 'closed') this.#leaveIsland();
      return at !== 'odd';
    }
    this.#endOutside(nameStart, nameEnd);
    return true;
  }

  #enterIsland(element: number, tag: Tag): ContentMode {
    this.region = 'body';
    this.foreign = element !== id.select;
    const inside = element === id.svg ? 'svg' : element === id.math ? 'math' : 'select';
    if (this.foreign && tag.selfClosing) return ContentMode.Data;
    this.#island = new Island(this.bytes, inside, tag);
    this.inside = inside;
    this.wantsEndTags = true;
    this.isSettled = false;
    return ContentMode.Data;
  }

  #leaveIsland(): void {
    this.#island = null;
    this.foreign = false;
    this.inside = null;
    this.wantsEndTags = false;
    this.isSettled = true;
  }

  #enterNoscript(): void {
    this.#within = new QuickRules(this.bytes, true);
    this.#within.#enterBody();
    this.inside = 'noscript';
    this.wantsEndTags = true;
  }

  #startWithin(within: QuickRules, element: number, tag: Tag): ContentMode {
    const content = within.startTag(element, tag);
    this.#take(within);
    return content;
  }

  #endWithin(within: QuickRules, tag: Tag): boolean {
    if (elements.find(this.bytes, tag.nameStart, tag.nameEnd) === NOSCRIPT) {
      this.#within = null;
      this.foreign = false;
      this.inside = null;
      this.isSettled = this.#mode === IN_BODY;
      this.wantsEndTags = !this.isSettled;
      return true;
    }
    const isPlain = within.endTag(tag);
    this.#take(within);
    return isPlain;
  }

  #take({ foreign, inside, isSettled }: QuickRules): void {
    this.foreign = foreign;
    this.inside = inside ?? 'noscript';
    this.isSettled = isSettled && this.#mode === IN_BODY;
  }

  #endOutside(nameStart: number, nameEnd: number): void {
    if (this.#mode === IN_BODY) return;
    const element = elements.find(this.bytes, nameStart, nameEnd);
    if (telling[element] !== 1) return;
    if (element === id.head && this.#mode !== AFTER_HEAD) this.#mode = AFTER_HEAD;
    else if (element !== id.head) this.#enterBody();
  }

  text(start: number, end: number): void {
    if (this.#mode !== IN_BODY && this.#within === null && hasText(this.bytes, start, end)) this.#enterBody();
  }

  #enterBody(): void {
    this.#mode = IN_BODY;
    this.inside = null;
    this.wantsText = false;
    this.wantsEndTags = false;
    this.isSettled = true;
    this.region = 'body';
  }

  #beforeBody(element: number): Region {
    if (element === id.html) {
      if (this.#mode === INITIAL) this.#mode = BEFORE_HEAD;
      return 'none';
    }
    if (this.#mode <= BEFORE_HEAD) {
      this.#mode = IN_HEAD;
      if (element === id.head) return 'head';
    }
    if (headElements[element] === 1 || (element === NOSCRIPT && this.#mode === IN_HEAD)) return 'head';
    if (element === id.head) return 'none';
    this.#enterBody();
    return 'body';
  }
}
