/** Reads a page: its references, its anchors, and what it says of itself. */

import { firstLine } from './first-line.ts';
import { holderOf } from './holder.ts';
import type { Construction } from './html/construction.ts';
import { DeadLoaders } from './html/dead-loaders.ts';
import { FullRules } from './html/full-rules.ts';
import { foreignHolders, htmlHolders } from './html/holders.ts';
import { addressSlot, meantElement } from './html/misspelt-elements.ts';
import { attributes, elements } from './html/names.ts';
import { PageFactsReader } from './html/page-facts.ts';
import { PageReferences, type ReadDocument } from './html/page-references.ts';
import { QuickRules } from './html/quick-rules.ts';
import { scriptType } from './html/relations.ts';
import { ContentMode, Slot, scanHtml, type Tag, type TagSink } from './html/scan.ts';
import { type Opening, openComment, openElement, openTag, unfinishedTag } from './html/swallowing.ts';
import { TagAttributes } from './html/tag-attributes.ts';
import { Shape, shapeOf, Trait, traitsOf } from './html/traits.ts';
import { lineAmount } from './lines.ts';
import type { Reading, Reference } from './reading.ts';
import { parses } from './script.ts';
import { makeSource, type Source } from './source.ts';

const { id: element } = elements;
const { id: attribute } = attributes;
const MAX_NESTING = 8;

/** Reads HTML as a browser would (HTML 13.2), and what a `noscript` holds as one without scripts. Never throws. */
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
  readonly #dead: DeadLoaders;
  readonly #references: PageReferences;
  readonly #readDocument: ReadDocument;
  /** Number of the element of the tag at hand. */
  #element = 0;
  /** The tag of the last element that holds text alone. */
  #rawTag = { start: 0, end: 0, isSelfClosed: false };
  #isSettled = false;

  constructor(
    readonly source: Source,
    readonly construction: Construction,
    nesting: number,
  ) {
    this.#bytes = source.bytes;
    this.#tag = new TagAttributes(source, nesting);
    this.#facts = new PageFactsReader(source, this.#tag);
    this.#readDocument = (inner) =>
      nesting >= MAX_NESTING ? null : readHtmlSource(inner, 'utf-8', nesting + 1);
    this.#dead = new DeadLoaders(source, construction, this.#tag, this.#facts);
    this.#references = new PageReferences(
      source,
      construction,
      this.#tag,
      this.#facts,
      this.#dead,
      this.#readDocument,
    );
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
    this.#references.include(start, end);
    if (end === this.#bytes.length || this.source.plain.slice(start + 4, end).includes('<!--'))
      this.#swallow(openComment(this.source.plain, start, end));
  }

  unfinishedTag(start: number): void {
    this.#swallow(unfinishedTag(this.source.plain, start));
  }

  /** Notes what was left open, with what would stand in what it takes. True where something was. */
  #swallow(opening: Opening | null): boolean {
    if (opening === null) return false;
    const { what, name, start, end, from, to, mend } = opening;
    const { plain, decoder } = this.source;
    // A tag says what it was to hold once it is closed.
    const isTag = what === 'tag' || what === 'quote';
    const pieces: Pieces =
      isTag && mend !== null ? [start, mend.start, mend.text, mend.end, to] : [from, from, '', from, to];
    const piece = makeSource(joined(this.#bytes, pieces), decoder);
    const inner = this.#readDocument(piece);
    const references = inner?.references ?? [];
    for (const anchor of inner?.anchors ?? []) this.#facts.anchors.add(anchor);
    this.#facts.swallowed.push({
      what,
      name: name.toLowerCase(),
      // Of a comment its first line is what people know it by.
      written: firstLine(this.source, start, what === 'comment' ? to : end),
      offset: start,
      length: end - start,
      taken: { offset: from, length: to - from },
      isRest: to === plain.length,
      lines: lineAmount(plain.slice(from, to)),
      references,
      mend,
    });
    return true;
  }

  /** Passes on what the tree construction needs to be told; fields, since the scanner looks at each tag. */
  #ask(): void {
    this.wantsText = this.construction.wantsText;
    this.wantsEndTags = this.construction.wantsEndTags;
    this.#isSettled = this.construction.isSettled;
  }

  endTag(tag: Tag): boolean {
    if (tag.holdsLess) this.#swallow(openTag(this.source.plain, tag));
    this.stopped = !this.construction.endTag(tag);
    this.#ask();
    return !this.stopped;
  }

  startTag(tag: Tag): ContentMode {
    const bytes = this.#bytes;
    const isTorn = tag.holdsLess && this.#swallow(openTag(this.source.plain, tag));
    this.#tag.begin();
    if (this.#isSettled && !isTorn) {
      const shape = shapeOf(bytes, tag.nameStart, tag.nameEnd);
      if ((shape & (tag.attributeCount > 0 ? Shape.Any : Shape.ChangesReading)) === 0) {
        this.#element = 0;
        if (tag.attributeCount > 0) this.#readAttributes(0, tag);
        this.#judgeName(tag);
        return ContentMode.Data;
      }
    }
    const number = elements.find(bytes, tag.nameStart, tag.nameEnd);
    this.#element = number;
    const mode = this.construction.startTag(number, tag);
    if (number === 0 && !isTorn) this.#judgeName(tag);
    this.#ask();
    if (mode !== ContentMode.Data)
      this.#rawTag = { start: tag.start, end: tag.end, isSelfClosed: tag.selfClosing };
    if (mode === ContentMode.Stop) this.stopped = true;
    else if (tag.attributeCount > 0 && !isTorn) this.#readAttributes(number, tag);
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
    held.eachHandler((start, end, name) => {
      this.#references.handler(start, end);
      this.#facts.handler(start, end, tag, name, construction.inside);
    });
    if (construction.foreign) this.#readForeign(tag);
    else if (traits !== 0) this.#readKnown(number, traits, tag);
  }

  /** Notes an element that is none and holds an address. */
  #judgeName(tag: Tag): void {
    const slot = addressSlot(this.#bytes, tag);
    if (slot < 0 || this.construction.foreign) return;
    const name = this.source.text(tag.nameStart, tag.nameEnd).toLowerCase();
    const start = tag.attributes[slot + Slot.ValueStart] as number;
    const end = tag.attributes[slot + Slot.ValueEnd] as number;
    // A custom element that is given a page probably shows it.
    if (name.includes('-') && /\.html?$/i.test(this.source.text(start, end)))
      this.#references.hint(start, end, 'loading');
    const near = meantElement(name);
    if (near === null || this.construction.inside === 'template') return;
    const attributeName = tag.attributes[slot + Slot.NameStart] as number;
    const holder = holderOf(
      'markup',
      name,
      this.source.text(attributeName, tag.attributes[slot + Slot.NameEnd] as number).toLowerCase(),
    );
    const { nameStart, nameEnd } = tag;
    const meant = { start: nameStart, end: nameEnd, text: near.meant };
    this.#facts.inert(start, end, holder, 'misspelt-element', near.isVoid ? meant : null, near.meant);
    // What it was to load or to lead to is neither unused nor unreached.
    this.#references.hint(start, end);
  }

  #readKnown(number: number, traits: number, tag: Tag): void {
    const held = htmlHolders[number];
    if (held !== undefined) {
      for (const one of held) if (this.#tag.has(one.attribute)) this.#references.hold(one);
    }
    this.#dead.judge(number, tag.start);
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
    if (this.#isLeftOpen(start, end)) return;
    if (this.#element === element.title) {
      if (construction.inside === null) facts.title(start, end);
    } else if (this.#element === element.style) {
      facts.inlineStyles.push({ offset: start, length: end - start });
      this.#references.stylesheet(start, end);
    } else if (this.#element === element.script) {
      if (this.#tag.has(attribute.src)) return facts.ignoredCode(start, end);
      const isInHead = construction.region !== 'body';
      if (construction.inside !== 'template')
        facts.code(this.#rawTag.start, start, end, construction.inside, isInHead);
      if (end > start) this.#references.script(start, end);
    }
  }

  noscript(start: number, end: number): boolean {
    return !this.#isLeftOpen(start, end);
  }

  /** Notes an element that was probably never closed: what it takes with it is no text of its own. */
  #isLeftOpen(start: number, end: number): boolean {
    const { plain, bytes } = this.source;
    const { start: tagStart, end: tagEnd, isSelfClosed } = this.#rawTag;
    const name = elements.names[this.#element - 1] ?? '';
    const isScript = this.#element === element.script;
    const type = isScript ? scriptType(this.#tag.value(attribute.type)) : 'data';
    const opening = openElement(
      plain,
      {
        element: name,
        tagStart,
        tagEnd,
        isSelfClosed,
        hasSource: isScript && this.#tag.has(attribute.src),
        isCode: type === 'script' || type === 'module',
        parses: () => parses(makeSource(bytes.subarray(start, end), this.source.decoder), type === 'module'),
      },
      start,
      end,
    );
    return this.#swallow(opening);
  }

  reading(encoding: string): Reading {
    const { references, hints, folders, prefixes, faults } = this.#references;
    const { anchors, firstAnchors, lastAnchor, base } = this.#facts;
    const page = this.#facts.facts();
    const inText = inOrder(references);
    return {
      encoding,
      references: inText,
      hints,
      folders,
      prefixes,
      faults,
      anchors,
      firstAnchors,
      lastAnchor,
      base,
      page,
    };
  }
}

/** From where to where, what is put in, and from where to where again. */
type Pieces = readonly [from: number, to: number, text: string, again: number, end: number];

function joined(bytes: Uint8Array, [from, to, text, again, end]: Pieces): Uint8Array {
  const head = bytes.subarray(from, to);
  const whole = new Uint8Array(head.length + text.length + end - again);
  whole.set(head);
  for (let at = 0; at < text.length; at++) whole[head.length + at] = text.charCodeAt(at);
  whole.set(bytes.subarray(again, end), head.length + text.length);
  return whole;
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
