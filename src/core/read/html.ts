/** Reads a page: its references, its anchors, and what it says of itself. */
import { Byte, oneCharacterAByte } from './bytes.ts';
import { readCssSource } from './css.ts';
import { decodeAttribute } from './decode.ts';
import { charsetIn } from './encoding.ts';
import { type Holder, holderOf, holderWithin } from './holder.ts';
import type { Construction } from './html/construction.ts';
import { foreignHolders, type HeldAttribute, htmlHolders } from './html/holders.ts';
import { marksFor } from './html/marks.ts';
import { attributes, elements, LAST_READ_ATTRIBUTE } from './html/names.ts';
import { nearMiss } from './html/near-misses.ts';
import { marksPart } from './html/part-marks.ts';
import { Placing } from './html/place.ts';
import { refreshSpan } from './html/refresh.ts';
import { isMisspeltStylesheet, metadataKind, relationKind, scriptType } from './html/relations.ts';
import { Content, Slot, scanHtml, type Tag, type TagSink } from './html/scan.ts';
import { plainSpot } from './html/spots.ts';
import { srcsetSpans } from './html/srcset.ts';
import { isClassOrTitle, maybeIdOrStyle, Shape, shapeOf, Trait, traitsOf } from './html/traits.ts';
import { FullRules } from './html/tree.ts';
import { traceValue } from './html/values.ts';
import type {
  Fault,
  Hint,
  ImportMap,
  Inert,
  Kind,
  NearMiss,
  PageFacts,
  Reading,
  Reference,
  Span,
  Spot,
} from './reading.ts';
import { importMapOf, readAddressList, readImportMap } from './script/json.ts';
import { readScriptSource } from './script.ts';
import { makeSource, type Source } from './source.ts';

const { id: element } = elements;
const { id: attribute } = attributes;
const MAX_NESTING = 8;

/** Attributes that change how a holder loads, kept with its references. */
const loading = [
  'rel',
  'type',
  'async',
  'defer',
  'nomodule',
  'media',
  'integrity',
  'crossorigin',
  'loading',
  'download',
  'as',
  'sizes',
] as const;
const ID = attribute.id;
const STYLE = attribute.style;
const SRC = attribute.src;
const HREF = attribute.href;

/** Reads HTML as a browser with scripting switched off would (HTML 13.2). Never throws. */
export function readHtml(bytes: Uint8Array): Reading {
  return readHtmlSource(makeSource(bytes), 'utf-8');
}

/** Reads a page of any encoding that agrees with ASCII; see {@link readHtml}. */
export function readHtmlSource(source: Source, encoding: string, nesting = 0): Reading {
  const quick = new HtmlReader(source, new Placing(source.bytes), nesting);
  scanHtml(source, quick);
  if (!quick.stopped) return quick.reading(encoding);
  const reader = new HtmlReader(source, new FullRules(source.bytes), nesting);
  scanHtml(source, reader);
  return reader.reading(encoding);
}

class HtmlReader implements TagSink {
  stopped = false;
  wantsText = true;
  wantsEndTags = true;
  readonly #bytes: Uint8Array;
  /** There is no ampersand from the one to the other. */
  #searchedFrom = 0;
  #ampersand = -1;
  readonly #hasOddCharacters: boolean;
  readonly #references: Reference[] = [];
  readonly #hints: Hint[] = [];
  readonly #folders: string[] = [];
  readonly #faults: Fault[] = [];
  readonly #anchors = new Set<string>();
  readonly #inlineScripts: Span[] = [];
  readonly #inlineStyles: Span[] = [];
  readonly #nearMisses: NearMiss[] = [];
  readonly #ignoredCode: Span[] = [];
  readonly #inert: Inert[] = [];
  #importMap: ImportMap | null = null;
  readonly #partMarks: Span[] = [];
  #base: string | null = null;
  #basePlace: PageFacts['base'] = null;
  #doctype: Span | null = null;
  #language: string | null = null;
  #title: PageFacts['title'] = null;
  #description: string | null = null;
  #viewport: string | null = null;
  #charset: PageFacts['charset'] = null;

  /** Number of the element of the tag at hand, and which of its attributes stand where. */
  #element = 0;
  #tag: Tag | null = null;
  readonly #index: Int32Array;
  readonly #seen: Int32Array;
  #serial = 0;
  #isSettled = false;
  #spot: Spot | null = null;
  /** How many documents in `srcdoc` were read. */
  #documents = 0;

  constructor(
    readonly source: Source,
    readonly construction: Construction,
    readonly nesting: number,
  ) {
    this.#bytes = source.bytes;
    ({ index: this.#index, seen: this.#seen } = marksFor(nesting));
    this.#hasOddCharacters = source.plain.includes('\r') || source.plain.includes('\0');
  }

  inForeignContent(): boolean {
    return this.construction.inForeignContent();
  }

  text(start: number, end: number): void {
    this.construction.text(start, end);
    this.#ask();
  }

  doctype(start: number, end: number): void {
    this.#doctype ??= { offset: start, length: end - start };
    this.construction.doctype(start, end);
  }

  comment(start: number, end: number): void {
    if (marksPart(this.#bytes, start, end)) this.#partMarks.push({ offset: start, length: end - start });
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

  startTag(tag: Tag): Content {
    const bytes = this.#bytes;
    this.#serial++;
    if (this.#isSettled) {
      const shape = shapeOf(bytes, tag.nameStart, tag.nameEnd);
      if ((shape & (tag.attributeCount > 0 ? Shape.Any : Shape.ChangesReading)) === 0) {
        this.#element = 0;
        if (tag.attributeCount > 0) this.#readAttributes(0, tag);
        return Content.Data;
      }
    }
    const number = elements.find(bytes, tag.nameStart, tag.nameEnd);
    this.#element = number;
    const mode = this.construction.startTag(number, tag);
    this.#ask();
    if (mode === Content.Stop) this.stopped = true;
    else if (tag.attributeCount > 0) this.#readAttributes(number, tag);
    if (number === element.style && this.construction.foreign && !tag.selfClosing)
      this.#addForeignStyle(tag.end);
    return mode;
  }

  rawText(start: number, end: number): void {
    const { construction, source } = this;
    const span = { offset: start, length: end - start };
    if (this.#element === element.title) {
      if (!construction.foreign && this.#title === null && construction.inside !== 'template') {
        this.#title = { ...span, text: this.#decoded(start, end) };
      }
    } else if (this.#element === element.style) {
      this.#inlineStyles.push(span);
      this.#addCss(start, end);
    } else if (this.#element === element.script) {
      const src = this.#value(attribute.src);
      if (src === null && end > start) this.#addScript(start, end);
      else if (src !== null && /\S/.test(source.plain.slice(start, Math.min(end, start + 1000))))
        this.#ignoredCode.push(span);
    }
  }

  reading(encoding: string): Reading {
    return {
      encoding,
      references: inOrder(this.#references),
      hints: this.#hints,
      folders: this.#folders,
      faults: this.#faults,
      anchors: this.#anchors,
      base: this.#base,
      page: {
        hasMark:
          this.source.bytes[0] === 0xef && this.source.bytes[1] === 0xbb && this.source.bytes[2] === 0xbf,
        doctype: this.#doctype,
        language: this.#language,
        title: this.#title,
        description: this.#description,
        viewport: this.#viewport,
        charset: this.#charset,
        base: this.#basePlace,
        inlineScripts: this.#inlineScripts,
        inlineStyles: this.#inlineStyles,
        nearMisses: this.#nearMisses,
        ignoredCode: this.#ignoredCode,
        inert: this.#inert,
        importMap: this.#importMap,
        partMarks: this.#partMarks,
      },
    };
  }

  #readAttributes(number: number, tag: Tag): void {
    const bytes = this.#bytes;
    const serial = this.#serial;
    const traits = traitsOf[number] as number;
    const isPlain = traits === 0 && !this.construction.foreign;
    const values = tag.attributes;
    let any = false;
    for (let index = 0, slot = 0; index < tag.attributeCount; index++, slot += Slot.Width) {
      const start = values[slot + Slot.NameStart] as number;
      const end = values[slot + Slot.NameEnd] as number;
      // Of most elements only `id` and `style` matter; `class` and `title`, the most frequent, never do.
      if (isPlain ? !maybeIdOrStyle(bytes, start, end) : isClassOrTitle(bytes, start, end)) continue;
      const name = attributes.find(bytes, start, end);
      if (name !== 0 && name <= LAST_READ_ATTRIBUTE) {
        if (this.#seen[name] === serial) continue;
        this.#seen[name] = serial;
        this.#index[name] = slot;
        any = true;
      }
      const misplaced =
        name === SRC ? Trait.WantsHref : name === HREF ? Trait.WantsSrc : name === 0 ? Trait.Watched : 0;
      if ((traits & misplaced) !== 0) this.#watch(number, start, end);
    }
    if (!any) return;
    this.#tag = tag;
    this.#spot = null;
    if (this.#seen[ID] === serial) this.#addAnchor(ID);
    if (this.#seen[STYLE] === serial) this.#addStyle();
    if (this.construction.foreign) this.#readForeign(tag);
    else if (traits !== 0) this.#readKnown(number, traits, tag);
  }

  #readKnown(number: number, traits: number, tag: Tag): void {
    const held = htmlHolders[number];
    if (held !== undefined) {
      for (const one of held) if (this.#seen[one.attribute] === this.#serial) this.#hold(one);
    }
    if ((traits & Trait.Singular) === 0) return;
    if (number === element.a && this.#seen[attribute.name] === this.#serial) this.#addAnchor(attribute.name);
    else if (number === element.html) this.#language ??= this.#value(attribute.lang);
    else if (number === element.base) this.#readBase(tag);
    else if (number === element.meta) this.#readMeta(tag);
  }

  #readForeign(tag: Tag): void {
    const { inside } = this.construction;
    const name = this.source.text(tag.nameStart, tag.nameEnd).toLowerCase();
    for (const one of foreignHolders(name, inside === 'math' ? 'math' : 'svg')) {
      if (this.#seen[one.attribute] === this.#serial) this.#hold(one);
    }
  }

  #readBase(tag: Tag): void {
    if (this.#base !== null || this.construction.inside === 'template') return;
    this.#base = this.#value(attribute.href);
    if (this.#base !== null) this.#basePlace = { offset: tag.start, after: this.#references.length };
  }

  #readMeta(tag: Tag): void {
    const name = this.#value(attribute.name)?.toLowerCase();
    const text = this.#value(attribute.content);
    if (name === 'description') this.#description ??= text;
    if (name === 'viewport') this.#viewport ??= text;
    const label = this.#value(attribute.charset);
    const type = this.#value(attribute['http-equiv'])?.toLowerCase() === 'content-type' ? text : null;
    const found = label ?? charsetIn(type ?? '') ?? null;
    if (found !== null) this.#charset ??= { label: found.trim(), offset: tag.start };
  }

  #watch(number: number, start: number, end: number): void {
    const name = this.source.text(start, end).toLowerCase();
    const owner = elements.names[number - 1] as string;
    const meant = nearMiss(owner, name);
    if (meant !== null)
      this.#nearMisses.push({ element: owner, attribute: name, meant, offset: start, length: end - start });
  }

  #addAnchor(name: number): void {
    // What a template holds is no part of the page, nor is that of a noscript where scripts run.
    const { inside } = this.construction;
    if (inside === 'template' || inside === 'noscript') return;
    const anchor = this.#value(name);
    if (anchor) this.#anchors.add(anchor);
  }

  /** The decoded value of an attribute of the tag at hand; null where it is missing. */
  #value(name: number): string | null {
    if (this.#seen[name] !== this.#serial || this.#tag === null) return null;
    const slot = this.#index[name] as number;
    const start = this.#tag.attributes[slot + Slot.ValueStart] as number;
    return start < 0 ? '' : this.#decoded(start, this.#tag.attributes[slot + Slot.ValueEnd] as number);
  }

  /** The text of a value. Where the next ampersand stands is known, so that most are not searched for one. */
  #decoded(start: number, end: number): string {
    const text = this.source.text(start, end);
    if (this.#hasOddCharacters) return decodeAttribute(text);
    // An attribute before the one last looked at; searching on from here would take a page's length each time.
    if (start < this.#searchedFrom) return text.includes('&') ? decodeAttribute(text) : text;
    if (start > this.#ampersand) {
      const found = this.source.plain.indexOf('&', start);
      this.#searchedFrom = start;
      this.#ampersand = found < 0 ? this.#bytes.length : found;
    }
    return end <= this.#ampersand ? text : decodeAttribute(text);
  }

  #hold({ attribute: name, holding, holder }: HeldAttribute): void {
    const slot = this.#index[name] as number;
    const values = (this.#tag as Tag).attributes;
    const start = values[slot + Slot.ValueStart] as number;
    const end = values[slot + Slot.ValueEnd] as number;
    if (start < 0) return;
    switch (holding.as) {
      case 'address':
        return this.#add(start, end, holder, holding.kind);
      case 'link': {
        const own = this.#seen[attribute.download] === this.#serial ? 'download' : null;
        return this.#add(start, end, holder, own ?? (this.#startsWithHash(start, end) ? 'anchor' : 'page'));
      }
      // A fragment alone names a part of the page itself, and loads nothing (SVG 2, 16.1.3).
      case 'part':
        return this.#add(start, end, holder, this.#startsWithHash(start, end) ? 'anchor' : 'image');
      case 'relation': {
        const rel = this.#value(attribute.rel);
        const kind = relationKind(rel, this.#value(attribute.as));
        if (kind === null) return;
        // Without a relation nothing is linked (HTML 4.2.4).
        if (rel === null || rel.trim() === '') this.#addInert(start, end, holder, 'no-relation');
        else if (kind === 'page' && isMisspeltStylesheet(rel))
          this.#addInert(start, end, holder, 'misspelt-relation');
        return this.#add(start, end, holder, kind);
      }
      case 'script': {
        const type = scriptType(this.#value(attribute.type));
        // Of other types nothing is loaded (HTML 4.12.1.1, prepare the script element).
        if (type === 'data' && /scrip|modul|ecma/i.test(this.#value(attribute.type) ?? ''))
          this.#addInert(start, end, holder, 'no-script-type');
        return this.#add(start, end, holder, type === 'module' || type === 'script' ? type : 'data');
      }
      case 'object':
        return this.#add(
          start,
          end,
          holder,
          /^text\/html/i.test(this.#value(attribute.type) ?? '') ? 'frame' : 'media',
        );
      case 'named':
        return this.#addMetadata(start, end);
      case 'srcset':
        return this.#addSpans(start, end, holder, 'image', srcsetSpans);
      case 'addresses':
        return this.#addSpans(start, end, holder, 'data', tokenSpans);
      case 'document':
        return this.#addDocument(start, end);
      default:
        return this.#addDeclarations(start, end);
    }
  }

  #startsWithHash(start: number, end: number): boolean {
    for (let at = start; at < end; at++)
      if ((this.#bytes[at] as number) > Byte.Space) return this.#bytes[at] === Byte.Hash;
    return false;
  }

  /** Addresses may be surrounded by white space (HTML 2.4.1); the span leaves it out. */
  #add(start: number, end: number, holder: Holder, kind: Kind): void {
    while (start < end && (this.#bytes[start] as number) <= Byte.Space) start++;
    while (end > start && (this.#bytes[end - 1] as number) <= Byte.Space) end--;
    const written = this.#decoded(start, end);
    this.#references.push({
      kind,
      holder: this.#here(holder),
      offset: start,
      length: end - start,
      written,
      from: 'file',
      spot: this.#whereabouts(),
    });
  }

  #here(holder: Holder): Holder {
    const { inside } = this.construction;
    return inside === 'template' || inside === 'noscript' ? holderWithin(holder, inside) : holder;
  }

  #whereabouts(): Spot {
    this.#spot ??= this.#spotOf(this.construction.region, this.construction.inside);
    return this.#spot;
  }

  #spotOf(region: Spot['region'], inside: Spot['inside']): Spot {
    if (((traitsOf[this.#element] as number) & Trait.Loader) === 0) return plainSpot(region, inside);
    const held: Record<string, string> = {};
    for (const name of loading) {
      const value = this.#value(attribute[name]);
      if (value !== null) held[name] = value;
    }
    return Object.keys(held).length === 0
      ? plainSpot(region, inside)
      : { region, inside, document: 0, attributes: held };
  }

  #addSpans(
    start: number,
    end: number,
    holder: Holder,
    kind: Kind,
    spansOf: (text: string) => [number, number][],
  ): void {
    const value = traceValue(this.#bytes, start, end);
    for (const [from, to] of spansOf(oneCharacterAByte(value.bytes))) {
      this.#add(value.offsetOf(from), value.offsetOf(to), holder, kind);
    }
  }

  #addInert(start: number, end: number, holder: Holder, why: Inert['why']): void {
    if (this.construction.inside === 'template') return;
    holder = this.#here(holder);
    this.#inert.push({ offset: start, length: end - start, holder, written: this.#decoded(start, end), why });
  }

  #addMetadata(start: number, end: number): void {
    if (this.#value(attribute['http-equiv'])?.toLowerCase() === 'refresh') {
      return this.#addSpans(start, end, holderOf('markup', 'meta', 'refresh'), 'page', (text) => {
        const span = refreshSpan(text);
        return span === null ? [] : [span];
      });
    }
    const name =
      this.#value(attribute.property) ?? this.#value(attribute.name) ?? this.#value(attribute.itemprop);
    const kind =
      metadataKind(name) ?? (name === 'image' && this.#value(attribute.itemprop) !== null ? 'image' : null);
    if (kind !== null)
      this.#add(start, end, holderOf('markup', 'meta', name?.trim().toLowerCase() ?? ''), kind);
  }

  #addDocument(start: number, end: number): void {
    if (this.nesting >= MAX_NESTING) return;
    const value = traceValue(this.#bytes, start, end);
    const inner = readHtmlSource(makeSource(value.bytes, this.source.decoder), 'utf-8', this.nesting + 1);
    const document = this.#documents + 1;
    // Those that it holds have the numbers after it.
    for (const { spot } of inner.references)
      this.#documents = Math.max(this.#documents, document + (spot?.document ?? 0));
    this.#take(inner, value.offsetOf, document);
  }

  #addStyle(): void {
    const slot = this.#index[STYLE] as number;
    const start = (this.#tag as Tag).attributes[slot + Slot.ValueStart] as number;
    if (start >= 0)
      this.#addDeclarations(start, (this.#tag as Tag).attributes[slot + Slot.ValueEnd] as number);
  }

  #addDeclarations(start: number, end: number): void {
    if (!hasParenthesis(this.#bytes, start, end)) return;
    const value = traceValue(this.#bytes, start, end);
    this.#take(readCssSource(makeSource(value.bytes, this.source.decoder), 'utf-8'), value.offsetOf);
  }

  #addCss(start: number, end: number): void {
    const inner = makeSource(this.#bytes.subarray(start, end), this.source.decoder);
    this.#take(readCssSource(inner, 'utf-8'), (index) => start + index);
  }

  /** A style element of SVG holds ordinary text, or a CDATA section (HTML 13.2.6.5). */
  #addForeignStyle(start: number): void {
    const { plain } = this.source;
    const next = plain.indexOf('<', start);
    const isSection = next >= 0 && plain.startsWith('<![CDATA[', next);
    const close = isSection ? plain.indexOf(']]>', next) : next;
    const end = close < 0 ? plain.length : close;
    if (isSection) this.#addCss(next + '<![CDATA['.length, end);
    else this.#addDeclarations(start, end);
  }

  #addScript(start: number, end: number): void {
    const type = scriptType(this.#value(attribute.type));
    this.#inlineScripts.push({ offset: start, length: end - start });
    if (type === 'data') return;
    const inner = makeSource(this.#bytes.subarray(start, end), this.source.decoder);
    const offsetOf = (index: number) => start + index;
    if (type === 'importmap') {
      this.#importMap ??= importMapOf(inner.text(0, inner.bytes.length));
      this.#take(readImportMap(inner), offsetOf);
    } else if (type === 'speculationrules') this.#take(readAddressList(inner), offsetOf);
    else this.#take(readScriptSource(inner, 'utf-8', type === 'module'), offsetOf);
  }

  /** Takes over what a part of the page says, with positions in the page. */
  #take(part: Reading, offsetOf: (index: number) => number, document = 0): void {
    const { region, inside } = this.construction;
    for (const { kind, offset, length, holder, written, spot } of part.references) {
      const from = offsetOf(offset);
      const to = offsetOf(offset + length);
      this.#references.push({
        kind,
        holder: document === 0 ? this.#here(holder) : holderWithin(holder, 'srcdoc'),
        offset: from,
        length: to - from,
        written,
        from: 'file',
        spot:
          document === 0
            ? plainSpot(region, inside)
            : { ...(spot as Spot), document: document + (spot as Spot).document },
      });
    }
    for (const folder of part.folders) this.#folders.push(folder);
    for (const { offset, length, written } of part.hints) {
      this.#hints.push({
        offset: offsetOf(offset),
        length: offsetOf(offset + length) - offsetOf(offset),
        written,
      });
    }
    for (const { offset, length, ...fault } of part.faults) {
      const start = offsetOf(offset);
      this.#faults.push({ ...fault, offset: start, length: offsetOf(offset + length) - start });
    }
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

function hasParenthesis(bytes: Uint8Array, start: number, end: number): boolean {
  for (let at = start; at < end; at++)
    if (bytes[at] === Byte.OpenParenthesis || bytes[at] === Byte.Ampersand) return true;
  return false;
}

/** Spans of a set of space-separated tokens (HTML 2.3.7). */
function tokenSpans(text: string): [number, number][] {
  return Array.from(text.matchAll(/[^\t\n\f\r ]+/g), (match) => [match.index, match.index + match[0].length]);
}
