/** Gathers the references of a page: those of its attributes, and those of what it embeds. */
import { Byte, oneCharacterAByte } from '../../bytes.ts';
import { readCssSource, readDeclarations } from '../css.ts';
import { type Holder, holderOf, holderWithin } from '../holder.ts';
import type { Fault, Hint, Kind, Reading, Reference, Standing } from '../reading.ts';
import { readAddressList, readImportMap } from '../script/json.ts';
import { mayAsk, readHandler, readScriptSource } from '../script.ts';
import { makeSource, type Source } from '../source.ts';
import type { Construction } from './construction.ts';
import type { DeadLoaders } from './dead-loaders.ts';
import { type HeldAttribute, holderHere } from './holders.ts';
import { attributes } from './names.ts';
import type { PageFactsReader } from './page-facts.ts';
import { refreshSpan } from './refresh.ts';
import { metadataKind, relationKind } from './relations.ts';
import { srcsetSpans } from './srcset.ts';
import { plainStanding } from './standings.ts';
import type { TagAttributes } from './tag-attributes.ts';
import { Trait, traitsOf } from './traits.ts';
import { traceValue } from './values.ts';

const { id: attribute } = attributes;

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

const REFRESH = holderOf('markup', 'meta', 'refresh');

/** Reads the document in a `srcdoc`; null where documents stand in each other too deeply. */
export type ReadDocument = (source: Source) => Reading | null;

export class PageReferences {
  readonly #bytes: Uint8Array;
  readonly references: Reference[] = [];
  readonly hints: Hint[] = [];
  readonly folders: string[] = [];
  /** See {@link Reading}. */
  prefixes: string[] | null = [];
  readonly faults: Fault[] = [];
  #element = 0;
  #standing: Standing | null = null;
  /** How many documents in `srcdoc` were read. */
  #documents = 0;

  constructor(
    readonly source: Source,
    readonly construction: Construction,
    readonly tag: TagAttributes,
    readonly facts: PageFactsReader,
    readonly dead: DeadLoaders,
    readonly readDocument: ReadDocument,
  ) {
    this.#bytes = source.bytes;
  }

  /** The tag at hand is of this element. */
  begin(element: number): void {
    this.#element = element;
    this.#standing = null;
  }

  /** Takes what an attribute of the tag at hand holds. */
  hold({ attribute: name, holding, holder }: HeldAttribute): void {
    const { tag } = this;
    const start = tag.startOf(name);
    const end = tag.endOf(name);
    if (start < 0) {
      // Without a value it is empty.
      const at = tag.nameEndOf(name);
      if (holding.as === 'address' || holding.as === 'script') this.#add(at, at, holder, kindOf(holding));
      return;
    }
    switch (holding.as) {
      case 'address':
        return this.#add(start, end, holder, holding.kind);
      case 'link': {
        const own = tag.has(attribute.download) ? 'download' : null;
        return this.#add(start, end, holder, own ?? (tag.startsWithHash(start, end) ? 'anchor' : 'page'));
      }
      // A fragment alone names a part of the page itself, and loads nothing (SVG 2, 16.1.3).
      case 'part':
        return this.#add(start, end, holder, tag.startsWithHash(start, end) ? 'anchor' : 'image');
      case 'relation':
        return this.#addRelation(start, end, holder);
      case 'script': {
        const type = this.dead.scriptType();
        return this.#add(start, end, holder, type === 'module' || type === 'script' ? type : 'data');
      }
      case 'object': {
        const isPage = /^text\/html/i.test(tag.value(attribute.type) ?? '');
        return this.#add(start, end, holder, isPage ? 'frame' : 'media');
      }
      case 'named':
        return this.#addMetadata(start, end);
      case 'srcset':
        return this.#addSpans(start, end, holder, 'image', srcsetSpans);
      case 'addresses':
        return this.#addSpans(start, end, holder, 'data', tokenSpans);
      case 'document':
        return this.#addDocument(start, end);
      default:
        return this.declarations(start, end);
    }
  }

  #addRelation(start: number, end: number, holder: Holder): void {
    const rel = this.tag.value(attribute.rel);
    const kind = relationKind(rel, this.tag.value(attribute.as));
    if (kind === null) return;
    this.dead.judgeRelation(start, end, holder, rel, kind);
    this.#add(start, end, holder, kind);
  }

  /** Addresses may be surrounded by white space (HTML 2.4.1); the span leaves it out. */
  #add(start: number, end: number, holder: Holder, kind: Kind): void {
    while (start < end && (this.#bytes[start] as number) <= Byte.Space) start++;
    while (end > start && (this.#bytes[end - 1] as number) <= Byte.Space) end--;
    const written = this.tag.decoded(start, end);
    this.#standing ??= this.#standingOf(this.construction.region, this.construction.inside);
    this.references.push({
      kind,
      holder: holderHere(holder, this.construction),
      offset: start,
      length: end - start,
      written,
      from: 'file',
      standing: this.#standing,
    });
  }

  #standingOf(region: Standing['region'], inside: Standing['inside']): Standing {
    if (((traitsOf[this.#element] as number) & Trait.Loader) === 0) return plainStanding(region, inside);
    const held: Record<string, string> = {};
    for (const name of loading) {
      const value = this.tag.value(attribute[name]);
      if (value !== null) held[name] = value;
    }
    return Object.keys(held).length === 0
      ? plainStanding(region, inside)
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

  #addMetadata(start: number, end: number): void {
    const { tag } = this;
    if (tag.value(attribute['http-equiv'])?.toLowerCase() === 'refresh') {
      return this.#addSpans(start, end, REFRESH, 'page', (text) => {
        const span = refreshSpan(text);
        return span === null ? [] : [span];
      });
    }
    const name = tag.value(attribute.property) ?? tag.value(attribute.name) ?? tag.value(attribute.itemprop);
    const kind =
      metadataKind(name) ?? (name === 'image' && tag.value(attribute.itemprop) !== null ? 'image' : null);
    if (kind !== null)
      this.#add(start, end, holderOf('markup', 'meta', name?.trim().toLowerCase() ?? ''), kind);
  }

  #addDocument(start: number, end: number): void {
    const value = traceValue(this.#bytes, start, end);
    const inner = this.readDocument(makeSource(value.bytes, this.source.decoder));
    if (inner === null) return;
    this.facts.frame(start, end, inner, this.construction.inside);
    const document = this.#documents + 1;
    // Those that it holds have the numbers after it.
    for (const { standing } of inner.references)
      this.#documents = Math.max(this.#documents, document + (standing?.document ?? 0));
    this.#take(inner, value.offsetOf, document);
  }

  /** An address that nothing loads keeps its file from being unused. */
  hint(start: number, end: number, use: Hint['use'] = 'piece'): void {
    this.hints.push({ offset: start, length: end - start, written: this.tag.decoded(start, end), use });
  }

  /** A comment by which some servers put another file in its place. */
  include(start: number, end: number): void {
    if (this.#bytes[start + '<!--'.length] !== Byte.Hash) return;
    const [opening, written] =
      /^<!--#include\s+(?:virtual|file)\s*=\s*["']?([^\s"'>]+)/.exec(this.source.text(start, end)) ?? [];
    if (opening === undefined || written === undefined) return;
    const offset = start + opening.length - written.length;
    this.hints.push({ offset, length: written.length, written, use: 'loading' });
  }

  /** The value of a `style` attribute, or of one that is a CSS property. */
  declarations(start: number, end: number): void {
    if (!hasParenthesis(this.#bytes, start, end)) return;
    const value = traceValue(this.#bytes, start, end);
    this.#take(readDeclarations(makeSource(value.bytes, this.source.decoder)), value.offsetOf);
  }

  /** What an event handler does (HTML 8.1.8.1): it runs only if something happens. */
  handler(start: number, end: number): void {
    if (!mayAsk(this.source.plain.slice(start, end))) return;
    const value = traceValue(this.#bytes, start, end);
    this.#take(readHandler(makeSource(value.bytes, this.source.decoder), 'utf-8'), value.offsetOf);
  }

  stylesheet(start: number, end: number): void {
    const inner = makeSource(this.#bytes.subarray(start, end), this.source.decoder);
    this.#take(readCssSource(inner, 'utf-8'), (index) => start + index);
  }

  /** A style element of SVG holds ordinary text, or a CDATA section (HTML 13.2.6.5). */
  foreignStylesheet(start: number): void {
    const { plain } = this.source;
    const next = plain.indexOf('<', start);
    const isSection = next >= 0 && plain.startsWith('<![CDATA[', next);
    const close = isSection ? plain.indexOf(']]>', next) : next;
    const end = close < 0 ? plain.length : close;
    if (isSection) this.stylesheet(next + '<![CDATA['.length, end);
    else this.declarations(start, end);
  }

  script(start: number, end: number): void {
    const type = this.dead.scriptType();
    if (type === 'data') return;
    const inner = makeSource(this.#bytes.subarray(start, end), this.source.decoder);
    const offsetOf = (index: number) => start + index;
    if (type === 'importmap') {
      this.facts.importMap(inner.text(0, inner.bytes.length));
      this.#take(readImportMap(inner), offsetOf);
    } else if (type === 'speculationrules') this.#take(readAddressList(inner), offsetOf);
    else this.#take(readScriptSource(inner, 'utf-8', type === 'module'), offsetOf);
  }

  /** Takes over what a part of the page says, with positions in the page; `document` is 0 where it is no document. */
  #take(part: Reading, offsetOf: (index: number) => number, document = 0): void {
    const { region, inside } = this.construction;
    const moved = <T extends { readonly offset: number; readonly length: number }>(one: T): T => {
      const offset = offsetOf(one.offset);
      return { ...one, offset, length: offsetOf(one.offset + one.length) - offset };
    };
    for (const reference of part.references) {
      const { holder, standing } = reference;
      this.references.push({
        ...moved(reference),
        from: 'file',
        holder: document === 0 ? holderHere(holder, this.construction) : holderWithin(holder, 'srcdoc'),
        standing:
          document === 0 || standing === null
            ? plainStanding(region, inside)
            : { ...standing, document: document + standing.document },
      });
    }
    for (const folder of part.folders) this.folders.push(folder);
    for (const hint of part.hints) this.hints.push(moved(hint));
    if (part.prefixes === null) this.prefixes = null;
    else this.prefixes?.push(...part.prefixes);
    for (const fault of part.faults) this.faults.push(moved(fault));
  }
}

function kindOf(holding: HeldAttribute['holding']): Kind {
  return holding.as === 'address' ? holding.kind : 'script';
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
