/** The attributes of the tag at hand, found by their numbers; values are decoded when they are asked for. */
import { Byte } from '../../bytes.ts';
import { decodeAttribute } from '../decode.ts';
import type { Span } from '../reading.ts';
import type { Source } from '../source.ts';
import { marksFor } from './marks.ts';
import { attributes, LAST_READ_ATTRIBUTE } from './names.ts';
import { Slot, type Tag } from './scan.ts';
import { isClassOrTitle, isHandler, maybeIdOrStyle, Trait } from './traits.ts';

const { id } = attributes;

/** Told the name of an attribute that may be meant to be another one: bytes of the source. */
export interface NameWatcher {
  watch(element: number, start: number, end: number, valueStart: number, valueEnd: number): void;
}

export class TagAttributes {
  readonly #bytes: Uint8Array;
  /** Where each attribute stands in the tag, and the number of the last tag that had it. */
  readonly #index: Int32Array;
  readonly #seen: Int32Array;
  #serial = 0;
  #tag: Tag | null = null;
  /** There is no ampersand from the one to the other. */
  #searchedFrom = 0;
  #ampersand = -1;
  readonly #hasOddCharacters: boolean;
  /** Where the event handlers of the tag stand in it. */
  readonly #handlers: number[] = [];

  constructor(
    readonly source: Source,
    nesting: number,
  ) {
    this.#bytes = source.bytes;
    ({ index: this.#index, seen: this.#seen } = marksFor(nesting));
    this.#hasOddCharacters = source.plain.includes('\r') || source.plain.includes('\0');
  }

  /** Another start tag begins: it has no attributes yet. */
  begin(): void {
    this.#serial++;
  }

  /** Notes the attributes of a tag; false where none of them matters. `isPlain`: of most elements only two do. */
  note(element: number, traits: number, tag: Tag, isPlain: boolean, watcher: NameWatcher): boolean {
    const bytes = this.#bytes;
    const serial = this.#serial;
    const values = tag.attributes;
    let any = false;
    if (this.#handlers.length > 0) this.#handlers.length = 0;
    for (let index = 0, slot = 0; index < tag.attributeCount; index++, slot += Slot.Width) {
      const start = values[slot + Slot.NameStart] as number;
      const end = values[slot + Slot.NameEnd] as number;
      if (isHandler(bytes, start, end)) {
        this.#handlers.push(slot);
        any = true;
        continue;
      }
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
        name === id.src
          ? Trait.WantsHref
          : name === id.href
            ? Trait.WantsSrc
            : name === 0
              ? Trait.Watched
              : 0;
      if ((traits & misplaced) !== 0)
        watcher.watch(
          element,
          start,
          end,
          values[slot + Slot.ValueStart] as number,
          values[slot + Slot.ValueEnd] as number,
        );
    }
    if (any) this.#tag = tag;
    return any;
  }

  /** The values of the event handlers of the tag, and the names of their attributes. */
  eachHandler(tell: (start: number, end: number, name: Span) => void): void {
    for (const slot of this.#handlers) {
      const { attributes: values } = this.#tag as Tag;
      const start = values[slot + Slot.ValueStart] as number;
      const offset = values[slot + Slot.NameStart] as number;
      const length = (values[slot + Slot.NameEnd] as number) - offset;
      if (start >= 0) tell(start, values[slot + Slot.ValueEnd] as number, { offset, length });
    }
  }

  has(name: number): boolean {
    return this.#seen[name] === this.#serial;
  }

  /** Where the value of an attribute that is there starts; below 0 where it has none. */
  startOf(name: number): number {
    return (this.#tag as Tag).attributes[(this.#index[name] as number) + Slot.ValueStart] as number;
  }

  endOf(name: number): number {
    return (this.#tag as Tag).attributes[(this.#index[name] as number) + Slot.ValueEnd] as number;
  }

  nameStartOf(name: number): number {
    return (this.#tag as Tag).attributes[(this.#index[name] as number) + Slot.NameStart] as number;
  }

  nameEndOf(name: number): number {
    return (this.#tag as Tag).attributes[(this.#index[name] as number) + Slot.NameEnd] as number;
  }

  /** The decoded value of an attribute; null where it is missing. */
  value(name: number): string | null {
    if (this.#seen[name] !== this.#serial || this.#tag === null) return null;
    const start = this.startOf(name);
    return start < 0 ? '' : this.decoded(start, this.endOf(name));
  }

  /** The text of a value. Where the next ampersand stands is known, so that most are not searched for one. */
  decoded(start: number, end: number): string {
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

  startsWithHash(start: number, end: number): boolean {
    for (let at = start; at < end; at++)
      if ((this.#bytes[at] as number) > Byte.Space) return this.#bytes[at] === Byte.Hash;
    return false;
  }
}
