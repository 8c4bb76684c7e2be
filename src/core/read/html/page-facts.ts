/** Gathers what a page says of itself. */
import { hasMark } from '../../bytes.ts';
import { charsetIn } from '../encoding.ts';
import type { Holder } from '../holder.ts';
import type {
  Frame,
  HandlerCode,
  ImportMap,
  Inert,
  InlineScript,
  NearMiss,
  PageFacts,
  Reading,
  Span,
  Swallowed,
} from '../reading.ts';
import { importMapOf } from '../script/json.ts';
import type { Source } from '../source.ts';
import type { Inside } from './construction.ts';
import { attributes, elements } from './names.ts';
import { nearMiss } from './near-misses.ts';
import { formOfPage } from './page-form.ts';
import { marksPart } from './part-marks.ts';
import { scriptType } from './relations.ts';
import type { Tag } from './scan.ts';
import type { NameWatcher, TagAttributes } from './tag-attributes.ts';

const { id: element } = elements;
const { id: attribute } = attributes;

/** So many anchors are known with their places. */
const FIRST = 8;

export class PageFactsReader implements NameWatcher {
  readonly anchors = new Set<string>();
  readonly firstAnchors = new Map<string, number>();
  lastAnchor = 0;
  /** The `href` of the first `base` element that has one, as written. */
  base: string | null = null;
  #basePlace: PageFacts['base'] = null;
  #doctype: Span | null = null;
  #language: string | null = null;
  #title: PageFacts['title'] = null;
  #description: string | null = null;
  #viewport: string | null = null;
  #charset: PageFacts['charset'] = null;
  #importMap: ImportMap | null = null;
  readonly inlineScripts: Span[] = [];
  readonly inlineStyles: Span[] = [];
  readonly #code: InlineScript[] = [];
  readonly #handlers: HandlerCode[] = [];
  readonly #nearMisses: NearMiss[] = [];
  readonly #emptyScripts: PageFacts['emptyScripts'][number][] = [];
  readonly #ignoredCode: Span[] = [];
  readonly #inert: Inert[] = [];
  readonly #partMarks: Span[] = [];
  readonly #frames: Frame[] = [];
  readonly swallowed: Swallowed[] = [];

  constructor(
    readonly source: Source,
    readonly tag: TagAttributes,
  ) {}

  doctype(start: number, end: number): void {
    this.#doctype ??= { offset: start, length: end - start };
  }

  comment(start: number, end: number): void {
    if (marksPart(this.source.bytes, start, end))
      this.#partMarks.push({ offset: start, length: end - start });
  }

  title(start: number, end: number): void {
    this.#title ??= { offset: start, length: end - start, text: this.tag.decoded(start, end) };
  }

  /** Code of a script that has a source as well. */
  ignoredCode(start: number, end: number): void {
    if (!this.#isBlank(start, end)) this.#ignoredCode.push({ offset: start, length: end - start });
  }

  /** A script without a source, whose tag starts at `tagStart`, and its code. */
  code(tagStart: number, start: number, end: number, inside: Inside | null, isInHead: boolean): void {
    const { tag } = this;
    if (end > start) this.inlineScripts.push({ offset: start, length: end - start });
    const type = scriptType(tag.value(attribute.type));
    if (type !== 'script' && type !== 'module') return;
    if (!this.#isBlank(start, end)) {
      const isRun = inside !== 'noscript' && (type === 'module' || !tag.has(attribute.nomodule));
      const isAsync = type === 'module' && tag.has(attribute.async);
      const text = isRun ? this.source.text(start, end) : '';
      if (isRun) this.#code.push({ offset: start, length: end - start, goal: type, isAsync, isInHead, text });
      return;
    }
    if (this.hasNearMiss(tagStart)) return;
    const waits = tag.has(attribute.defer) || tag.has(attribute.async);
    this.#emptyScripts.push({ offset: start, length: end - start, waits });
  }

  /** What is misspelt in the tag that starts there may be what it lacks. */
  hasNearMiss(tagStart: number): boolean {
    return (this.#nearMisses.at(-1)?.offset ?? -1) > tagStart;
  }

  #isBlank(start: number, end: number): boolean {
    return !/\S/.test(this.source.plain.slice(start, Math.min(end, start + 1000)));
  }

  /** The value of an event handler's attribute. */
  handler(start: number, end: number, tag: Tag, name: Span, inside: Inside | null): void {
    if (inside === 'template' || inside === 'noscript') return;
    const { plain } = this.source;
    this.#handlers.push({
      offset: start,
      length: end - start,
      text: this.tag.decoded(start, end),
      element: plain.slice(tag.nameStart, tag.nameEnd).toLowerCase(),
      attribute: plain.slice(name.offset, name.offset + name.length).toLowerCase(),
    });
  }

  /** A document in a `srcdoc`; without leave, its scripts do not run (HTML 7.1.5, sandboxed scripts). */
  frame(start: number, end: number, reading: Reading, inside: Inside | null): void {
    const sandbox = this.tag.value(attribute.sandbox);
    const isShut = sandbox !== null && !/(?:^|\s)allow-scripts(?:\s|$)/i.test(sandbox);
    if (isShut || inside === 'template' || inside === 'noscript') return;
    this.#frames.push({ offset: start, length: end - start, reading });
  }

  importMap(code: string): void {
    this.#importMap ??= importMapOf(code);
  }

  /** `html`, `base` and `meta`; `references` is how many stand before it. */
  element(number: number, start: number, inside: Inside | null, references: number): void {
    if (number === element.meta) this.#readCharset(start);
    // Where scripts run, a noscript says nothing else of its page.
    if (inside === 'noscript') return;
    if (number === element.html) this.#language ??= this.tag.value(attribute.lang);
    else if (number === element.base) this.#readBase(start, inside, references);
    else if (number === element.meta) this.#readMeta();
  }

  #readBase(start: number, inside: Inside | null, references: number): void {
    if (this.base !== null || inside === 'template') return;
    this.base = this.tag.value(attribute.href);
    if (this.base !== null) this.#basePlace = { offset: start, after: references };
  }

  #readMeta(): void {
    const name = this.tag.value(attribute.name)?.toLowerCase();
    const text = this.tag.value(attribute.content);
    if (name === 'description') this.#description ??= text;
    if (name === 'viewport') this.#viewport ??= text;
  }

  #readCharset(start: number): void {
    const { tag } = this;
    const text = tag.value(attribute.content);
    const label = tag.value(attribute.charset);
    const type = tag.value(attribute['http-equiv'])?.toLowerCase() === 'content-type' ? text : null;
    const found = label ?? charsetIn(type ?? '') ?? null;
    if (found !== null) this.#charset ??= { label: found.trim(), offset: start };
  }

  watch(number: number, start: number, end: number, valueStart: number, valueEnd: number): void {
    const name = this.source.text(start, end).toLowerCase();
    const owner = elements.names[number - 1] as string;
    const meant = nearMiss(owner, name);
    if (meant === null) return;
    const value = valueStart < 0 ? '' : this.source.text(valueStart, valueEnd);
    this.#nearMisses.push({
      element: owner,
      attribute: name,
      value,
      meant,
      offset: start,
      length: end - start,
    });
  }

  anchor(name: number, inside: Inside | null): void {
    // What a template holds is no part of the page, nor is that of a noscript where scripts run.
    if (inside === 'template' || inside === 'noscript') return;
    const anchor = this.tag.value(name);
    if (!anchor) return;
    this.anchors.add(anchor);
    this.lastAnchor = this.tag.startOf(name);
    if (this.anchors.size <= FIRST && !this.firstAnchors.has(anchor))
      this.firstAnchors.set(anchor, this.lastAnchor);
  }

  inert(
    start: number,
    end: number,
    holder: Holder,
    why: Inert['why'],
    mend: Inert['mend'] = null,
    near = mend?.text ?? null,
  ): void {
    const written = this.tag.decoded(start, end);
    this.#inert.push({ offset: start, length: end - start, holder, written, why, near, mend });
  }

  facts(): PageFacts {
    const { bytes } = this.source;
    return {
      form: formOfPage(this.source, this.#doctype !== null || this.#title !== null),
      hasMark: hasMark(bytes),
      doctype: this.#doctype,
      language: this.#language,
      title: this.#title,
      description: this.#description,
      viewport: this.#viewport,
      charset: this.#charset,
      base: this.#basePlace,
      inlineScripts: this.inlineScripts,
      inlineStyles: this.inlineStyles,
      code: this.#code,
      handlers: this.#handlers,
      nearMisses: this.#nearMisses,
      emptyScripts: this.#emptyScripts,
      ignoredCode: this.#ignoredCode,
      inert: this.#inert,
      importMap: this.#importMap,
      partMarks: this.#partMarks,
      frames: this.#frames,
      swallowed: this.swallowed,
    };
  }
}
