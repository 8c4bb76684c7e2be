/** The tags of a page with their places, read at the speed of the reader: enough to know where a file is wired. */
import { decodeAttribute } from '../read/decode.ts';
import type { Construction } from '../read/html/construction.ts';
import { FullRules } from '../read/html/full-rules.ts';
import { elements as elementNames } from '../read/html/names.ts';
import { QuickRules } from '../read/html/quick-rules.ts';
import { ContentMode, Slot, scanHtml, type Tag, type TagSink } from '../read/html/scan.ts';
import type { Source } from '../read/source.ts';
import type { Page } from './page.ts';

/** Offsets as in {@link Page}. */
export interface Range {
  readonly start: number;
  readonly end: number;
}

/** An element that is written in the page. */
export interface Tagged extends Range {
  /** Lower-case name; `svg:a` and the like for elements that are not HTML's. */
  readonly name: string;
  readonly startTag: Range;
  /** Null where the element has no end tag. */
  readonly endTag: Range | null;
  /** Where it stands; what tree construction passes over, and what a `noscript` holds, is in neither. */
  readonly region: 'head' | 'body' | 'none';
  /** The value of an attribute; null where it is missing. */
  attribute(name: string): string | null;
  /** Where an attribute stands, its name and value together; null where it is missing. */
  rangeOf(name: string): Range | null;
  /** The element's text, where it holds nothing but text. */
  text(): string;
}

export interface Tags<P = Page> {
  readonly page: P;
  /** Elements in the order of their start tags; those that the parser adds by itself are not among them. */
  readonly elements: readonly Tagged[];
  first(...names: readonly string[]): Tagged | null;
  /** Where the doctype ends; 0 where there is none. */
  readonly doctypeEnd: number;
}

/**
 * The tags of a page as tree construction places them (HTML 13.2.6). Of elements that hold others only `html`,
 * `head`, `body`, `frameset` and `noscript` are told with their end tags. What templates hold is no part of the page.
 * `asScripts` where all attributes are asked for, and what `noscript` holds is no part of it either.
 */
export function tagsOf<P extends Pick<Page, 'source'>>(page: P, asScripts = false): Tags<P> {
  const { source } = page;
  const quick = new TagCollector(source, new QuickRules(source.bytes), asScripts);
  scanHtml(source, quick);
  if (!quick.stopped) return quick.tags(page);
  const full = new TagCollector(source, new FullRules(source.bytes), asScripts);
  scanHtml(source, full);
  return full.tags(page);
}

/** Elements that there is one of, told with their end tags. */
const frame = new Set(['html', 'head', 'body', 'frameset']);

class TagCollector implements TagSink {
  readonly wantsText = true;
  readonly wantsEndTags = true;
  stopped = false;
  readonly #found: FoundTag[] = [];
  readonly #frame = new Map<string, FoundTag>();
  /** The element whose raw content was told last, until its end tag. */
  #raw: FoundTag | null = null;
  /** Where scripts run, what it holds is no part of the page. */
  #noscript: FoundTag | null = null;
  #doctypeEnd = 0;

  constructor(
    readonly source: Source,
    readonly construction: Construction,
    readonly asScripts: boolean,
  ) {}

  text(start: number, end: number): void {
    if (this.construction.wantsText) this.construction.text(start, end);
  }

  doctype(start: number, end: number): void {
    if (this.#found.length === 0) this.#doctypeEnd = end;
    this.construction.doctype(start, end);
  }

  inForeignContent(): boolean {
    return this.construction.inForeignContent();
  }

  startTag(tag: Tag): ContentMode {
    const { construction, source } = this;
    this.#raw = null;
    const number = elementNames.find(source.bytes, tag.nameStart, tag.nameEnd);
    const content = construction.startTag(number, tag);
    if (content === ContentMode.Stop) {
      this.stopped = true;
      return content;
    }
    const isApart = this.#noscript !== null;
    if (construction.inside === 'template') return content;
    const written = source.text(tag.nameStart, tag.nameEnd).toLowerCase();
    const name = construction.foreign ? `${construction.inside}:${written}` : written;
    if (frame.has(name) && (isApart || !this.#opensFrame(name))) return content;
    const region = isApart ? 'none' : construction.region;
    const found = new FoundTag(source, tag, name, region, this.asScripts || asked.has(name));
    this.#found.push(found);
    if (frame.has(name)) this.#frame.set(name, found);
    if (content === ContentMode.Noscript) this.#noscript ??= found;
    else if (content !== ContentMode.Data) this.#raw = found;
    return content;
  }

  /** False for a tag of `html`, `head` or `body` that makes no element, since there is one already. */
  #opensFrame(name: string): boolean {
    if (this.#frame.has(name)) return false;
    if (name === 'html') return this.#found.length === 0;
    return name === 'frameset' || this.construction.region === name;
  }

  noscript(): boolean {
    return !this.asScripts;
  }

  rawText(start: number, end: number): void {
    if (this.#raw === null) return;
    this.#raw.end = end;
    this.#raw.content = { start, end };
  }

  endTag(tag: Tag): boolean {
    this.stopped = !this.construction.endTag(tag);
    const name = this.source.text(tag.nameStart, tag.nameEnd).toLowerCase();
    const range = { start: tag.start, end: tag.end };
    if (this.#noscript !== null && name === 'noscript') {
      this.#noscript.endTag = range;
      this.#noscript.end = tag.end;
      this.#noscript = null;
    } else if (this.#raw?.name === name) {
      this.#raw.endTag = range;
      this.#raw.end = tag.end;
    } else if (this.#noscript === null && frame.has(name)) {
      const found = this.#frame.get(name);
      if (found !== undefined) {
        found.endTag ??= range;
        found.end = Math.max(found.end, tag.end);
      }
    }
    this.#raw = null;
    return !this.stopped;
  }

  tags<P>(page: P): Tags<P> {
    const elements = this.#found;
    const first = (...names: readonly string[]) => elements.find(({ name }) => names.includes(name)) ?? null;
    return { page, elements, first, doctypeEnd: this.#doctypeEnd };
  }
}

/** Elements whose attributes are asked for. */
const asked = new Set(['link', 'script', 'meta', 'base']);
const NONE = new Int32Array(0);

class FoundTag implements Tagged {
  readonly start: number;
  end: number;
  readonly startTag: Range;
  endTag: Range | null = null;
  content: Range | null = null;
  readonly #source: Source;
  readonly #attributes: Int32Array;

  constructor(
    source: Source,
    tag: Tag,
    readonly name: string,
    readonly region: Tagged['region'],
    keepsAttributes: boolean,
  ) {
    this.#source = source;
    this.start = tag.start;
    this.end = tag.end;
    this.startTag = { start: tag.start, end: tag.end };
    this.#attributes = keepsAttributes ? tag.attributes.slice(0, tag.attributeCount * Slot.Width) : NONE;
  }

  attribute(name: string): string | null {
    const slot = this.#slotOf(name);
    if (slot < 0) return null;
    const start = this.#attributes[slot + Slot.ValueStart] as number;
    return start < 0
      ? ''
      : decodeAttribute(this.#source.text(start, this.#attributes[slot + Slot.ValueEnd] as number));
  }

  rangeOf(name: string): Range | null {
    const slot = this.#slotOf(name);
    if (slot < 0) return null;
    const start = this.#attributes[slot] as number;
    const valueEnd = this.#attributes[slot + Slot.ValueEnd] as number;
    if (valueEnd < 0) return { start, end: this.#attributes[slot + Slot.NameEnd] as number };
    const quote = this.#source.plain[(this.#attributes[slot + Slot.ValueStart] as number) - 1];
    return { start, end: valueEnd + (quote === '"' || quote === "'" ? 1 : 0) };
  }

  text(): string {
    return this.content === null ? '' : this.#source.text(this.content.start, this.content.end);
  }

  /** The first attribute of a name counts (HTML 13.2.5.33). */
  #slotOf(name: string): number {
    for (let slot = 0; slot < this.#attributes.length; slot += Slot.Width) {
      const written = this.#source.text(
        this.#attributes[slot] as number,
        this.#attributes[slot + Slot.NameEnd] as number,
      );
      if (written.toLowerCase() === name) return slot;
    }
    return -1;
  }
}
