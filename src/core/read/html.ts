/** Reads a page: its references, its anchors, and what it says of itself. */
import type { Construction } from './html/construction.ts';
import { FullRules } from './html/full-rules.ts';
import { foreignHolders, htmlHolders } from './html/holders.ts';
import { attributes, elements } from './html/names.ts';
import { PageFactsReader } from './html/page-facts.ts';
import { PageReferences } from './html/page-references.ts';
import { QuickRules } from './html/quick-rules.ts';
import { ContentMode, scanHtml, type Tag, type TagSink } from './html/scan.ts';
import { TagAttributes } from './html/tag-attributes.ts';
import { Shape, shapeOf, Trait, traitsOf } from './html/traits.ts';
import type { Reading, Reference } from './reading.ts';
import { makeSource, type Source } from './source.ts';

const { id: element } = elements;
const { id: attribute } = attributes;
const MAX_NESTING = 8;

/** Reads HTML as a browser with scripting switched off would (HTML 13.2). Never throws. */
export function readHtml(bytes: Uint8Array): Reading {
  return readHtmlSource(makeSource(bytes), 'utf-8');
}

/** Reads a page of any encoding that agrees with ASCII; see {@link readHtml}. */
export function readHtmlSource(source: Source, encoding: string, nesting = 0): Reading {
  const quick = new HtmlReader(source, new QuickRules(source.bytes), nesting);
  scanHtml(source, quick);
  if (!quick.stopped) return quick.reading(encoding);
  const reader = new HtmlReader(source, new FullRules(source.bytes), nesting);
  scanHtml(source, reader);
  return reader.reading(encoding);
}

/** Passes tags on to tree construction, and what they hold to those that gather it. */
class HtmlReader implements TagSink {
  stopped = false;
  wantsText = true;
  wantsEndTags = true;
  readonly #bytes: Uint8Array;
  readonly #tag: TagAttributes;
  readonly #facts: PageFactsReader;
  readonly #references: PageReferences;
  /** Number of the element of the tag at hand, and where the tag of the last script starts. */
  #element = 0;
  #scriptStart = 0;
  #isSettled = false;

  constructor(
    readonly source: Source,
    readonly construction: Construction,
    nesting: number,
  ) {
    this.#bytes = source.bytes;
    this.#tag = new TagAttributes(source, nesting);
    this.#facts = new PageFactsReader(source, this.#tag);
    const readDocument = (inner: Source) =>
      nesting >= MAX_NESTING ? null : readHtmlSource(inner, 'utf-8', nesting + 1);
    this.#references = new PageReferences(source, construction, this.#tag, this.#facts, readDocument);
  }

  inForeignContent(): boolean {
    return this.construction.inForeignContent();
  }

  text(start: number, end: number): void {
    this.construction.text(start, end);
    this.#ask();
  }

  doctype(start: number, end: number): void {
    this.#facts.doctype(start, end);
    this.construction.doctype(start, end);
  }

  comment(start: number, end: number): void {
    this.#facts.comment(start, end);
  }

  /** Passes on what the tree construction needs to be told; fields, since the scanner looks at each tag. */
  #ask(): void {
    this.wantsText = this.construction.wantsText;
    this.wantsEndTags = this.construction.wantsEndTags;
    this.#isSettled = this.construction.isSettled;
  }

  endTag(tag: Tag): boolean {
    this.stopped = !this.construction.endTag(tag);
    this.#ask();
    return !this.stopped;
  }

  startTag(tag: Tag): ContentMode {
    const bytes = this.#bytes;
    this.#tag.begin();
    if (this.#isSettled) {
      const shape = shapeOf(bytes, tag.nameStart, tag.nameEnd);
      if ((shape & (tag.attributeCount > 0 ? Shape.Any : Shape.ChangesReading)) === 0) {
        this.#element = 0;
        if (tag.attributeCount > 0) this.#readAttributes(0, tag);
        return ContentMode.Data;
      }
    }
    const number = elements.find(bytes, tag.nameStart, tag.nameEnd);
    this.#element = number;
    if (number === element.script) this.#scriptStart = tag.start;
    const mode = this.construction.startTag(number, tag);
    this.#ask();
    if (mode === ContentMode.Stop) this.stopped = true;
    else if (tag.attributeCount > 0) this.#readAttributes(number, tag);
    if (number === element.style && this.construction.foreign && !tag.selfClosing)
      this.#references.foreignStylesheet(tag.end);
    return mode;
  }

  #readAttributes(number: number, tag: Tag): void {
    const held = this.#tag;
    const { construction } = this;
    const traits = traitsOf[number] as number;
    const isPlain = traits === 0 && !construction.foreign;
    if (!held.note(number, traits, tag, isPlain, this.#facts)) return;
    this.#references.begin(number);
    if (held.has(attribute.id)) this.#facts.anchor(attribute.id, construction.inside);
    if (held.has(attribute.style)) {
      const start = held.startOf(attribute.style);
      if (start >= 0) this.#references.declarations(start, held.endOf(attribute.style));
    }
    if (construction.foreign) this.#readForeign(tag);
    else if (traits !== 0) this.#readKnown(number, traits, tag);
  }

  #readKnown(number: number, traits: number, tag: Tag): void {
    const held = htmlHolders[number];
    if (held !== undefined) {
      for (const one of held) if (this.#tag.has(one.attribute)) this.#references.hold(one);
    }
    if ((traits & Trait.Singular) === 0) return;
    const { inside } = this.construction;
    if (number === element.a && this.#tag.has(attribute.name)) this.#facts.anchor(attribute.name, inside);
    else this.#facts.element(number, tag.start, inside, this.#references.references.length);
  }

  #readForeign(tag: Tag): void {
    const { inside } = this.construction;
    const name = this.source.text(tag.nameStart, tag.nameEnd).toLowerCase();
    for (const one of foreignHolders(name, inside === 'math' ? 'math' : 'svg')) {
      if (this.#tag.has(one.attribute)) this.#references.hold(one);
    }
  }

  rawText(start: number, end: number): void {
    const { construction } = this;
    const facts = this.#facts;
    if (this.#element === element.title) {
      if (!construction.foreign && construction.inside !== 'template') facts.title(start, end);
    } else if (this.#element === element.style) {
      facts.inlineStyles.push({ offset: start, length: end - start });
      this.#references.stylesheet(start, end);
    } else if (this.#element === element.script) {
      if (this.#tag.has(attribute.src)) return facts.ignoredCode(start, end);
      if (construction.inside !== 'template') facts.code(this.#scriptStart, start, end);
      if (end > start) this.#references.script(start, end);
    }
  }

  reading(encoding: string): Reading {
    const { references, hints, folders, faults } = this.#references;
    const { anchors, base } = this.#facts;
    const page = this.#facts.facts();
    return { encoding, references: inOrder(references), hints, folders, faults, anchors, base, page };
  }
}

/** References by their place in the file; within a tag they were found in another order. */
function inOrder(references: Reference[]): Reference[] {
  let last = -1;
  for (const { offset } of references) {
    if (offset < last) return references.sort((a, b) => a.offset - b.offset);
    last = offset;
  }
  return references;
}
