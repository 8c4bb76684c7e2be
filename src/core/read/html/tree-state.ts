/** What tree construction keeps (HTML 13.2.4): the insertion mode, open elements, pointers and flags. */
import { type Inside, type Region } from './construction.ts';
import { cells, rowGroups } from './element-sets.ts';
import { attributes, elements } from './names.ts';
import { type OpenElement, OpenElements, type Space, space } from './open-elements.ts';
import { ContentMode, Slot, type Tag } from './scan.ts';

/** The insertion modes (HTML 13.2.4.1), but for those of text. */
export type Mode =
  | 'initial'
  | 'before html'
  | 'before head'
  | 'in head'
  | 'after head'
  | 'in body'
  | 'in table'
  | 'in caption'
  | 'in column group'
  | 'in table body'
  | 'in row'
  | 'in cell'
  | 'in select'
  | 'in select in table'
  | 'in template'
  | 'after body'
  | 'in frameset'
  | 'after frameset'
  | 'after after body'
  | 'after after frameset';

const { id } = elements;

/** HTML elements that matter to what stands inside them. */
const insideByName = new Map<number, Inside>([
  [id.template, 'template'],
  [id.select, 'select'],
]);

export abstract class TreeState {
  readonly wantsText = true;
  readonly isSettled = false;
  readonly wantsEndTags = true;
  region: Region = 'none';
  inside: Inside | null = null;
  foreign = false;
  protected mode: Mode = 'initial';
  protected readonly templateModes: Mode[] = [];
  protected readonly open = new OpenElements();
  protected readonly names = new Map<string, number>();
  protected form: OpenElement | null = null;
  protected head: OpenElement | null = null;
  protected headDone = false;
  protected quirks = false;
  protected framesetOk = true;
  /** What the last start tag asks of the tokenizer. */
  protected content: ContentMode = ContentMode.Data;
  /** The raw content of the element at hand is told as text, and its end tag closes it. */
  protected raw = false;

  /** `isWithin`: what a noscript holds, in which another one is an element like others. */
  constructor(
    readonly bytes: Uint8Array,
    readonly isWithin = false,
  ) {}

  protected nameOf(tag: Tag): number {
    const text = String.fromCharCode(
      ...this.bytes.subarray(tag.nameStart, Math.min(tag.nameEnd, tag.nameStart + 4096)),
    );
    const key = text.replace(/[A-Z]+/g, (letters) => letters.toLowerCase());
    const name = this.names.get(key) ?? 1000 + this.names.size;
    this.names.set(key, name);
    return name;
  }

  /** Inserts an element for a start tag, and notes where it stands. */
  protected insert(name: number, at: Space = space.html, extra: Partial<OpenElement> = {}): OpenElement {
    const parent = this.open.current;
    this.note(parent, at);
    const element: OpenElement = {
      id: name,
      space: at,
      region: this.region,
      inside: at === space.html ? (insideByName.get(name) ?? this.inside) : this.inside,
      attributes: '',
      integration: false,
      open: true,
      ...extra,
    };
    this.open.push(element);
    return element;
  }

  protected insertAndPop(at: Space = space.html): void {
    this.note(this.open.current, at);
  }

  protected note(parent: OpenElement | undefined, at: Space): void {
    this.foreign = at !== space.html;
    this.region = parent?.region ?? 'none';
    this.inside = at === space.html ? (parent?.inside ?? null) : at === space.svg ? 'svg' : 'math';
  }

  protected valueOfAttribute(tag: Tag, name: number): string | null {
    for (let index = 0; index < tag.attributeCount; index++) {
      const slot = index * Slot.Width;
      const [start, end] = [tag.attributes[slot] as number, tag.attributes[slot + 1] as number];
      if (attributes.find(this.bytes, start, end) !== name) continue;
      const from = tag.attributes[slot + 2] as number;
      return from < 0
        ? ''
        : String.fromCharCode(
            ...this.bytes.subarray(from, Math.min(tag.attributes[slot + 3] as number, from + 64)),
          );
    }
    return null;
  }

  protected openHead(): void {
    this.head = this.insert(id.head, space.html, { region: 'head' });
    this.region = 'head';
    this.mode = 'in head';
  }

  protected openBody(): void {
    this.insert(id.body, space.html, { region: 'body' });
    this.region = 'body';
    this.mode = 'in body';
  }

  protected resetMode(): void {
    const { stack } = this.open;
    for (let index = stack.length - 1; index >= 0; index--) {
      const { id: name, space: at } = stack[index] as OpenElement;
      if (at !== space.html) continue;
      const mode = this.modeFor(name, index);
      if (mode !== null) {
        this.mode = mode;
        return;
      }
    }
    this.mode = 'in body';
  }

  protected modeFor(name: number, index: number): Mode | null {
    if (rowGroups.has(name)) return 'in table body';
    if (cells.has(name)) return index > 0 ? 'in cell' : null;
    switch (name) {
      case id.select: {
        const below = this.open.stack
          .slice(0, index)
          .findLast(
            ({ id: other, space: at }) => at === space.html && (other === id.table || other === id.template),
          );
        return below?.id === id.table ? 'in select in table' : 'in select';
      }
      case id.tr:
        return 'in row';
      case id.caption:
        return 'in caption';
      case id.colgroup:
        return 'in column group';
      case id.table:
        return 'in table';
      case id.template:
        return this.templateModes.at(-1) ?? 'in body';
      case id.head:
        return index > 0 ? 'in head' : null;
      case id.body:
        return 'in body';
      case id.frameset:
        return 'in frameset';
      case id.html:
        return this.headDone || this.head !== null ? 'after head' : 'before head';
      default:
        return null;
    }
  }

  protected isHidden(tag: Tag): boolean {
    return this.valueOfAttribute(tag, attributes.id.type)?.toLowerCase() === 'hidden';
  }

  protected attributesOf(tag: Tag): string {
    if (tag.attributeCount === 0) return '';
    return String.fromCharCode(
      ...this.bytes.subarray(tag.nameEnd, Math.min(tag.end - 1, tag.nameEnd + 4096)),
    ).trim();
  }

  /** Processes a start tag, or an end tag, by the rules of the current insertion mode. */
  protected abstract start(name: number, tag: Tag): void;
  protected abstract restart(name: number, tag: Tag): void;
  protected abstract end(name: number): void;
}
