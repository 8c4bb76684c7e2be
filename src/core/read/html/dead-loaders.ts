/** Links, scripts and styles that say something of themselves which keeps them from ever being loaded. */
import { type Holder, holderOf } from '../holder.ts';
import type { Inert, Kind } from '../reading.ts';
import type { Source } from '../source.ts';
import type { Construction } from './construction.ts';
import { holderHere } from './holders.ts';
import { deadMediaType } from './media-types.ts';
import { attributes, elements } from './names.ts';
import type { PageFactsReader } from './page-facts.ts';
import {
  isMisspeltStylesheet,
  isNearly,
  isNearScriptType,
  isNearStyleType,
  linkTypes,
  scriptType,
} from './relations.ts';
import type { TagAttributes } from './tag-attributes.ts';

const { id: attribute } = attributes;

/** Judges the tag at hand. */
export class DeadLoaders {
  constructor(
    readonly source: Source,
    readonly construction: Construction,
    readonly tag: TagAttributes,
    readonly facts: PageFactsReader,
  ) {}

  /** What a `link`, a script or a style says of itself. `tagStart` is where its tag starts. */
  judge(element: number, tagStart: number): void {
    const { tag } = this;
    if (element === elements.id.script) {
      if (tag.has(attribute.nomodule) && tag.has(attribute.src))
        this.#addAttribute('script', 'nomodule', 'no-module');
    } else if (element === elements.id.style) this.#judgeMedia('style');
    else if (element === elements.id.link) this.#judgeLink(tagStart);
  }

  #judgeLink(tagStart: number): void {
    const { tag } = this;
    const types = linkTypes(tag.value(attribute.rel));
    if (!tag.has(attribute.href) && !tag.has(attribute.imagesrcset)) {
      const isLoading =
        types.has('stylesheet') || types.has('icon') || types.has('manifest') || types.has('preload');
      if (isLoading && !this.facts.hasNearMiss(tagStart)) this.#addAttribute('link', 'rel', 'no-address');
      return;
    }
    if (!types.has('stylesheet')) return;
    const type = tag.value(attribute.type);
    if (type !== null && isNearStyleType(type)) this.#addType('no-style-type');
    if (tag.has(attribute.disabled)) this.#addAttribute('link', 'disabled', 'disabled');
    this.#judgeMedia('link');
  }

  /** The relation of an address that stands from `start` to `end`. */
  judgeRelation(start: number, end: number, holder: Holder, rel: string | null, kind: Kind): void {
    const { tag } = this;
    // Without a relation nothing is linked (HTML 4.2.4).
    if (rel === null || rel.trim() === '') {
      // What `rev` says leads back, and loads nothing.
      if (tag.has(attribute.rev)) return;
      const isStyle = /\.css\s*$/i.test(tag.decoded(start, end));
      const at = tag.nameStartOf(attribute.href);
      const mend = isStyle && rel === null ? { start: at, end: at, text: 'rel="stylesheet" ' } : null;
      this.#add(start, end, holder, 'no-relation', mend);
    } else if (kind === 'page' && isMisspeltStylesheet(rel)) {
      const [from, to] = this.#valueOf(attribute.rel);
      this.#add(start, end, holder, 'misspelt-relation', { start: from, end: to, text: 'stylesheet' });
    }
  }

  /** The type of the script at hand: of others nothing is loaded (HTML 4.12.1.1, prepare the script element). */
  scriptType(): ReturnType<typeof scriptType> {
    const written = this.tag.value(attribute.type);
    const type = scriptType(written);
    if (type === 'data' && isNearScriptType(written ?? '')) this.#addType('no-script-type');
    return type;
  }

  #judgeMedia(element: 'link' | 'style'): void {
    const dead = deadMediaType(this.tag.value(attribute.media) ?? '');
    if (dead === null) return;
    const [start, end] = this.#valueOf(attribute.media);
    const text = dead.meant;
    // Of several queries, or one with conditions, the type alone is put right.
    const index = this.source.plain.slice(start, end).toLowerCase().indexOf(dead.type);
    const at = start + index;
    const mend = text === null || index < 0 ? null : { start: at, end: at + dead.type.length, text };
    this.#add(start, end, holderOf('markup', element, 'media'), 'no-media-type', mend);
  }

  /** A type that is nearly the one that was meant. */
  #addType(why: 'no-script-type' | 'no-style-type'): void {
    const [start, end] = this.#valueOf(attribute.type);
    const [element, text] =
      why === 'no-script-type' ? (['script', 'text/javascript'] as const) : (['link', 'text/css'] as const);
    const isModule = isNearly('module', this.tag.value(attribute.type) ?? '');
    const mend = { start, end, text: isModule ? 'module' : text };
    this.#add(start, end, holderOf('markup', element, 'type'), why, mend);
  }

  /** An attribute, by its value, or by its name where it has none. */
  #addAttribute(element: string, name: 'rel' | 'disabled' | 'nomodule', why: Inert['why']): void {
    const { tag } = this;
    const [start, end] = this.#valueOf(attribute[name]);
    const holder = holderOf('markup', element, name);
    if (start >= 0) this.#add(start, end, holder, why);
    else this.#add(tag.nameStartOf(attribute[name]), tag.nameEndOf(attribute[name]), holder, why);
  }

  #valueOf(name: number): readonly [start: number, end: number] {
    return [this.tag.startOf(name), this.tag.endOf(name)];
  }

  #add(start: number, end: number, holder: Holder, why: Inert['why'], mend: Inert['mend'] = null): void {
    // What a template holds is loaded by nobody as it stands.
    if (this.construction.inside === 'template') return;
    this.facts.inert(start, end, holderHere(holder, this.construction), why, mend);
  }
}
