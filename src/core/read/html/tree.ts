/**
 * The tree construction stage (HTML 13.2.6) without a tree: insertion modes, open elements and formatting
 * elements are kept exactly as the standard says, so that it is known where a browser places each element and
 * how it reads what follows. Method and label names are those of the standard's insertion modes.
 */
import { breakouts } from './breakouts.ts';
import { type Construction, contentOf, hasText, type Inside, type Region } from './construction.ts';
import { attributes, elements } from './names.ts';
import {
  isHtmlIntegrationPoint,
  isMathTextIntegrationPoint,
  isSpecial,
  type OpenElement,
  OpenElements,
  type Space,
  space,
} from './open-elements.ts';
import { isQuirky } from './quirks.ts';
import { Slot, Content, type Tag } from './scan.ts';

type Mode =
  | 'initial'
  | 'before html'
  | 'before head'
  | 'in head'
  | 'in head noscript'
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
type Name = keyof typeof id;
const set = (...names: Name[]): ReadonlySet<number> => new Set(names.map((name) => id[name]));

const headVoid = set('base', 'basefont', 'bgsound', 'link', 'meta');
// biome-ignore format: one name after another
const headRules = set(
  'base', 'basefont', 'bgsound', 'link', 'meta', 'noframes', 'script', 'style', 'template', 'title',
);
const headNoscript = set('basefont', 'bgsound', 'link', 'meta', 'noframes', 'style');
// biome-ignore format: one name after another
const blocks = set(
  'address', 'article', 'aside', 'blockquote', 'center', 'details', 'dialog', 'dir', 'div', 'dl', 'fieldset',
  'figcaption', 'figure', 'footer', 'header', 'hgroup', 'main', 'menu', 'nav', 'ol', 'p', 'search', 'section',
  'summary', 'ul',
);
const blockEnds = new Set([...blocks, ...set('button', 'listing', 'pre')]);
blockEnds.delete(id.p);
const headings = set('h1', 'h2', 'h3', 'h4', 'h5', 'h6');
const formatting = set('b', 'big', 'code', 'em', 'font', 'i', 's', 'small', 'strike', 'strong', 'tt', 'u');
const formattingEnds = new Set([...formatting, id.a, id.nobr]);
const markers = set('applet', 'marquee', 'object');
const voids = set('area', 'br', 'embed', 'img', 'image', 'keygen', 'wbr');
// biome-ignore format: one name after another
const ignoredInBody = set(
  'caption', 'col', 'colgroup', 'frame', 'head', 'tbody', 'td', 'tfoot', 'th', 'thead', 'tr',
);
const cells = set('td', 'th');
const rowGroups = set('tbody', 'tfoot', 'thead');
const tableParts = set('caption', 'col', 'colgroup', 'tbody', 'td', 'tfoot', 'th', 'thead', 'tr');
const selectLeavers = set('caption', 'table', 'tbody', 'tfoot', 'thead', 'tr', 'td', 'th');
const tableTextHolders = set('table', 'tbody', 'tfoot', 'thead', 'tr', 'template');
/** HTML elements that matter to what stands inside them. */
const insideByName = new Map<number, Inside>([
  [id.template, 'template'],
  [id.noscript, 'noscript'],
  [id.select, 'select'],
]);

export class FullRules implements Construction {
  readonly wantsText = true;
  readonly isSettled = false;
  readonly wantsEndTags = true;
  region: Region = 'none';
  inside: Inside | null = null;
  foreign = false;

  #mode: Mode = 'initial';
  readonly #templateModes: Mode[] = [];
  readonly #open = new OpenElements();
  readonly #names = new Map<string, number>();
  #form: OpenElement | null = null;
  #head: OpenElement | null = null;
  #headDone = false;
  #quirks = false;
  #framesetOk = true;
  /** What the last start tag asks of the tokenizer. */
  #content: Content = Content.Data;
  /** The raw content of the element at hand is told as text, and its end tag closes it. */
  #raw = false;

  constructor(readonly bytes: Uint8Array) {}

  inForeignContent(): boolean {
    const { current } = this.#open;
    return current !== undefined && current.space !== space.html;
  }

  doctype(start: number, end: number): void {
    if (this.#mode !== 'initial') return;
    this.#quirks = isQuirky(String.fromCharCode(...this.bytes.subarray(start, Math.min(end, start + 1024))));
    this.#mode = 'before html';
  }

  startTag(known: number, tag: Tag): Content {
    this.#content = Content.Data;
    this.region = 'none';
    this.foreign = false;
    this.inside = null;
    const name = known !== 0 ? known : this.#nameOf(tag);
    if (this.#isForForeign(name)) this.#startInForeign(name, tag);
    else this.#start(name, tag);
    this.#raw = this.#content !== Content.Data;
    return this.#content;
  }

  endTag(tag: Tag): boolean {
    const known = elements.find(this.bytes, tag.nameStart, tag.nameEnd);
    const name = known !== 0 ? known : this.#nameOf(tag);
    if (this.#raw) {
      this.#raw = false;
      this.#open.pop();
    } else if (this.inForeignContent()) {
      this.#endInForeign(name);
    } else {
      this.#end(name);
    }
    return true;
  }

  text(start: number, end: number): void {
    if (this.inForeignContent() && !this.#isIntegrationForText()) {
      if (hasTextBesideNul(this.bytes, start, end)) this.#framesetOk = false;
      return;
    }
    this.#text(start, end);
  }

  // Elements

  #nameOf(tag: Tag): number {
    const text = String.fromCharCode(
      ...this.bytes.subarray(tag.nameStart, Math.min(tag.nameEnd, tag.nameStart + 4096)),
    );
    const key = text.replace(/[A-Z]+/g, (letters) => letters.toLowerCase());
    const name = this.#names.get(key) ?? 1000 + this.#names.size;
    this.#names.set(key, name);
    return name;
  }

  /** Inserts an element for a start tag, and notes where it stands. */
  #insert(name: number, at: Space = space.html, extra: Partial<OpenElement> = {}): OpenElement {
    const parent = this.#open.current;
    this.#note(parent, at);
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
    this.#open.push(element);
    return element;
  }

  #insertAndPop(name: number, at: Space = space.html): void {
    this.#note(this.#open.current, at);
    void name;
  }

  #note(parent: OpenElement | undefined, at: Space): void {
    this.foreign = at !== space.html;
    this.region = parent?.region ?? 'none';
    this.inside = at === space.html ? (parent?.inside ?? null) : at === space.svg ? 'svg' : 'math';
  }

  #value(tag: Tag, name: number): string | null {
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

  // The modes' start tags

  #start(name: number, tag: Tag): void {
    switch (this.#mode) {
      case 'initial':
        this.#quirks = true;
        this.#mode = 'before html';
        return this.#start(name, tag);
      case 'before html':
        this.#insert(id.html);
        this.region = 'none';
        this.#mode = 'before head';
        return name === id.html ? undefined : this.#start(name, tag);
      case 'before head':
        if (name === id.html) return this.#startInBody(name, tag);
        this.#openHead();
        return name === id.head ? undefined : this.#start(name, tag);
      case 'in head':
        return this.#startInHead(name, tag);
      case 'in head noscript':
        if (name === id.html) return this.#startInBody(name, tag);
        if (headNoscript.has(name)) return this.#startInHead(name, tag);
        if (name === id.head || name === id.noscript) return;
        this.#open.pop();
        this.#mode = 'in head';
        return this.#start(name, tag);
      case 'after head':
        return this.#startAfterHead(name, tag);
      case 'in body':
        return this.#startInBody(name, tag);
      case 'in table':
        return this.#startInTable(name, tag);
      case 'in caption':
        if (!tableParts.has(name)) return this.#startInBody(name, tag);
        return this.#closeCaption() ? this.#start(name, tag) : undefined;
      case 'in column group':
        if (name === id.html) return this.#startInBody(name, tag);
        if (name === id.col) return this.#insertAndPop(name);
        if (name === id.template) return this.#startInHead(name, tag);
        return this.#closeColumnGroup() ? this.#start(name, tag) : undefined;
      case 'in table body':
        return this.#startInTableBody(name, tag);
      case 'in row':
        return this.#startInRow(name, tag);
      case 'in cell':
        if (!tableParts.has(name)) return this.#startInBody(name, tag);
        return this.#closeCell() ? this.#start(name, tag) : undefined;
      case 'in select in table':
        if (!selectLeavers.has(name)) return this.#startInSelect(name, tag);
        this.#open.popUntil(id.select);
        this.#resetMode();
        return this.#restart(name, tag);
      case 'in select':
        return this.#startInSelect(name, tag);
      case 'in template':
        return this.#startInTemplate(name, tag);
      case 'after body':
      case 'after after body':
        if (name === id.html) return this.#startInBody(name, tag);
        this.#mode = 'in body';
        return this.#startInBody(name, tag);
      case 'in frameset':
        if (name === id.html) return this.#startInBody(name, tag);
        if (name === id.frameset) return void this.#insert(name);
        if (name === id.frame) return this.#insertAndPop(name);
        return name === id.noframes ? this.#startInHead(name, tag) : undefined;
      default:
        if (name === id.html) return this.#startInBody(name, tag);
        return name === id.noframes ? this.#startInHead(name, tag) : undefined;
    }
  }

  /** Processes a start tag anew, when open elements were closed for it. */
  #restart(name: number, tag: Tag): void {
    if (this.#isForForeign(name)) this.#startInForeign(name, tag);
    else this.#start(name, tag);
  }

  #openHead(): void {
    this.#head = this.#insert(id.head, space.html, { region: 'head' });
    this.region = 'head';
    this.#mode = 'in head';
  }

  #openBody(): void {
    this.#insert(id.body, space.html, { region: 'body' });
    this.region = 'body';
    this.#mode = 'in body';
  }

  #startInHead(name: number, tag: Tag): void {
    if (name === id.html) return this.#startInBody(name, tag);
    if (headVoid.has(name)) return this.#insertAndPop(name);
    if (name === id.title || name === id.noframes || name === id.style || name === id.script) {
      this.#insert(name);
      this.#content = contentOf[name] as Content;
      return;
    }
    if (name === id.noscript && this.#mode === 'in head') {
      this.#insert(name);
      this.#mode = 'in head noscript';
      return;
    }
    if (name === id.template) {
      this.#insert(name);
      this.#open.pushMarker();
      this.#framesetOk = false;
      this.#mode = 'in template';
      this.#templateModes.push('in template');
      return;
    }
    if (name === id.head) return;
    this.#open.pop();
    this.#mode = 'after head';
    this.#headDone = true;
    this.#start(name, tag);
  }

  #startAfterHead(name: number, tag: Tag): void {
    if (name === id.html) return this.#startInBody(name, tag);
    if (name === id.body) {
      this.#openBody();
      this.#framesetOk = false;
      return;
    }
    if (name === id.frameset) {
      this.#insert(name);
      this.#mode = 'in frameset';
      return;
    }
    if (headRules.has(name)) {
      const head = this.#head as OpenElement;
      this.#open.push(head);
      this.#startInHead(name, tag);
      this.#open.remove(head);
      return;
    }
    if (name === id.head) return;
    this.#openBody();
    this.#start(name, tag);
  }

  #closeParagraph(): void {
    if (!this.#open.hasInScope(id.p, 'button')) return;
    this.#open.generateImpliedEndTags(id.p);
    this.#open.popUntil(id.p);
  }

  #startInBody(name: number, tag: Tag): void {
    const open = this.#open;
    if (blocks.has(name)) {
      this.#closeParagraph();
      this.#insert(name);
    } else if (formatting.has(name)) {
      open.reconstruct();
      open.pushFormatting(this.#insert(name, space.html, { attributes: this.#attributesOf(tag) }));
    } else if (headings.has(name)) {
      this.#closeParagraph();
      const { current } = open;
      if (current !== undefined && current.space === space.html && headings.has(current.id)) open.pop();
      this.#insert(name);
    } else if (headRules.has(name) && name !== id.noframes) {
      this.#startInHead(name, tag);
    } else if (voids.has(name)) {
      open.reconstruct();
      this.#insertAndPop(name);
      this.#framesetOk = false;
    } else if (!ignoredInBody.has(name)) {
      this.#startOtherInBody(name, tag);
    }
  }

  #startOtherInBody(name: number, tag: Tag): void {
    const open = this.#open;
    switch (name) {
      case id.html:
        return;
      case id.body:
        if (open.stack[1]?.id === id.body && !open.has(id.template)) this.#framesetOk = false;
        return;
      case id.frameset: {
        const isBody = open.stack[1]?.id === id.body;
        if (!isBody || !this.#framesetOk) return;
        while (open.stack.length > 1) open.pop();
        this.#insert(name);
        this.#mode = 'in frameset';
        return;
      }
      case id.pre:
      case id.listing:
        this.#closeParagraph();
        this.#insert(name);
        this.#framesetOk = false;
        return;
      case id.form: {
        const inTemplate = open.has(id.template);
        if (this.#form !== null && !inTemplate) return;
        this.#closeParagraph();
        const form = this.#insert(name);
        if (!inTemplate) this.#form = form;
        return;
      }
      case id.li:
        this.#closeItem((other) => other === id.li);
        this.#closeParagraph();
        this.#insert(name);
        return;
      case id.dd:
      case id.dt:
        this.#closeItem((other) => other === id.dd || other === id.dt);
        this.#closeParagraph();
        this.#insert(name);
        return;
      case id.plaintext:
        this.#closeParagraph();
        this.#insert(name);
        this.#content = Content.Plaintext;
        return;
      case id.button:
        if (open.hasInScope(id.button, 'plain')) {
          open.generateImpliedEndTags();
          open.popUntil(id.button);
        }
        open.reconstruct();
        this.#insert(name);
        this.#framesetOk = false;
        return;
      case id.a: {
        const other = open.lastFormatting(id.a);
        if (other !== null) {
          if (!open.adopt(id.a)) this.#endOther(id.a);
          open.removeFormatting(other);
          open.remove(other);
        }
        open.reconstruct();
        open.pushFormatting(this.#insert(name, space.html, { attributes: this.#attributesOf(tag) }));
        return;
      }
      case id.nobr:
        open.reconstruct();
        if (open.hasInScope(id.nobr, 'plain')) {
          if (!open.adopt(id.nobr)) this.#endOther(id.nobr);
          open.reconstruct();
        }
        open.pushFormatting(this.#insert(name, space.html, { attributes: this.#attributesOf(tag) }));
        return;
      case id.applet:
      case id.marquee:
      case id.object:
        open.reconstruct();
        this.#insert(name);
        open.pushMarker();
        this.#framesetOk = false;
        return;
      case id.table:
        if (!this.#quirks) this.#closeParagraph();
        this.#insert(name);
        this.#framesetOk = false;
        this.#mode = 'in table';
        return;
      case id.input:
        open.reconstruct();
        this.#insertAndPop(name);
        if (!this.#isHidden(tag)) this.#framesetOk = false;
        return;
      case id.param:
      case id.source:
      case id.track:
        return this.#insertAndPop(name);
      case id.hr:
        this.#closeParagraph();
        this.#insertAndPop(name);
        this.#framesetOk = false;
        return;
      case id.textarea:
        this.#insert(name);
        this.#content = Content.Rcdata;
        this.#framesetOk = false;
        return;
      case id.xmp:
        this.#closeParagraph();
        open.reconstruct();
        this.#framesetOk = false;
        this.#insert(name);
        this.#content = Content.Rawtext;
        return;
      case id.iframe:
        this.#framesetOk = false;
        this.#insert(name);
        this.#content = Content.Rawtext;
        return;
      case id.noembed:
      case id.noframes:
        this.#insert(name);
        this.#content = Content.Rawtext;
        return;
      case id.select:
        open.reconstruct();
        this.#insert(name);
        this.#framesetOk = false;
        this.#mode = /^in (?:table|caption|table body|row|cell)$/.test(this.#mode)
          ? 'in select in table'
          : 'in select';
        return;
      case id.optgroup:
      case id.option:
        if (open.isCurrent(id.option)) open.pop();
        open.reconstruct();
        this.#insert(name);
        return;
      case id.rb:
      case id.rtc:
        if (open.hasInScope(id.ruby, 'plain')) open.generateImpliedEndTags();
        this.#insert(name);
        return;
      case id.rp:
      case id.rt:
        if (open.hasInScope(id.ruby, 'plain')) open.generateImpliedEndTags(id.rtc);
        this.#insert(name);
        return;
      case id.math:
      case id.svg: {
        const at = name === id.math ? space.math : space.svg;
        open.reconstruct();
        if (tag.selfClosing) this.#insertAndPop(name, at);
        else this.#insert(name, at);
        return;
      }
      default:
        open.reconstruct();
        this.#insert(name);
    }
  }

  #closeItem(isItem: (name: number) => boolean): void {
    this.#framesetOk = false;
    const { stack } = this.#open;
    for (let index = stack.length - 1; index >= 0; index--) {
      const element = stack[index] as OpenElement;
      if (element.space === space.html && isItem(element.id)) {
        this.#open.generateImpliedEndTags(element.id);
        this.#open.popUntil(element.id);
        return;
      }
      const passable =
        element.space === space.html &&
        (element.id === id.address || element.id === id.div || element.id === id.p);
      if (isSpecial(element) && !passable) return;
    }
  }

  #startInTable(name: number, tag: Tag): void {
    const open = this.#open;
    if (name === id.caption) {
      this.#clearToTable();
      this.#insert(name);
      open.pushMarker();
      this.#mode = 'in caption';
    } else if (name === id.colgroup || name === id.col) {
      this.#clearToTable();
      this.#insert(id.colgroup);
      this.#mode = 'in column group';
      if (name === id.col) this.#start(name, tag);
    } else if (rowGroups.has(name) || cells.has(name) || name === id.tr) {
      this.#clearToTable();
      this.#insert(rowGroups.has(name) ? name : id.tbody);
      this.#mode = 'in table body';
      if (!rowGroups.has(name)) this.#start(name, tag);
    } else if (name === id.table) {
      if (!open.hasInScope(id.table, 'table')) return;
      open.popUntil(id.table);
      this.#resetMode();
      this.#restart(name, tag);
    } else if (name === id.style || name === id.script || name === id.template) {
      this.#startInHead(name, tag);
    } else if (name === id.input && this.#isHidden(tag)) {
      this.#insertAndPop(name);
    } else if (name === id.form) {
      if (this.#form !== null || open.has(id.template)) return;
      this.#form = this.#insert(name);
      open.pop();
    } else {
      this.#startInBody(name, tag);
    }
  }

  #startInTableBody(name: number, tag: Tag): void {
    if (name === id.tr) {
      this.#clearToTableBody();
      this.#insert(name);
      this.#mode = 'in row';
    } else if (cells.has(name)) {
      this.#clearToTableBody();
      this.#insert(id.tr);
      this.#mode = 'in row';
      this.#start(name, tag);
    } else if (tableParts.has(name)) {
      if (this.#closeTableBody()) this.#start(name, tag);
    } else {
      this.#startInTable(name, tag);
    }
  }

  #startInRow(name: number, tag: Tag): void {
    if (cells.has(name)) {
      this.#open.clearBackTo((other) => other === id.tr);
      this.#insert(name);
      this.#mode = 'in cell';
      this.#open.pushMarker();
    } else if (tableParts.has(name)) {
      if (this.#closeRow()) this.#start(name, tag);
    } else {
      this.#startInTable(name, tag);
    }
  }

  #startInSelect(name: number, tag: Tag): void {
    const open = this.#open;
    switch (name) {
      case id.html:
        return this.#startInBody(name, tag);
      case id.option:
      case id.optgroup:
      case id.hr:
        if (open.isCurrent(id.option)) open.pop();
        if (name !== id.option && open.isCurrent(id.optgroup)) open.pop();
        if (name === id.hr) this.#insertAndPop(name);
        else this.#insert(name);
        return;
      case id.select:
      case id.input:
      case id.keygen:
      case id.textarea:
        if (!open.hasInScope(id.select, 'select')) return;
        open.popUntil(id.select);
        this.#resetMode();
        return name === id.select ? undefined : this.#restart(name, tag);
      case id.script:
      case id.template:
        return this.#startInHead(name, tag);
      default:
    }
  }

  #startInTemplate(name: number, tag: Tag): void {
    if (headRules.has(name)) return this.#startInHead(name, tag);
    const mode: Mode =
      name === id.caption || name === id.colgroup || rowGroups.has(name)
        ? 'in table'
        : name === id.col
          ? 'in column group'
          : name === id.tr
            ? 'in table body'
            : cells.has(name)
              ? 'in row'
              : 'in body';
    this.#templateModes[this.#templateModes.length - 1] = mode;
    this.#mode = mode;
    this.#start(name, tag);
  }

  // The modes' end tags

  #end(name: number): void {
    switch (this.#mode) {
      case 'initial':
      case 'before html':
      case 'before head':
        if (this.#mode === 'initial') {
          this.#quirks = true;
          this.#mode = 'before html';
        }
        if (name !== id.head && name !== id.body && name !== id.html && name !== id.br) return;
        if (this.#mode === 'before html') {
          this.#insert(id.html);
          this.#mode = 'before head';
        }
        this.#openHead();
        return this.#end(name);
      case 'in head':
        if (name === id.template) return this.#endTemplate();
        if (name !== id.head && name !== id.body && name !== id.html && name !== id.br) return;
        this.#open.pop();
        this.#mode = 'after head';
        this.#headDone = true;
        return name === id.head ? undefined : this.#end(name);
      case 'in head noscript':
        if (name !== id.noscript && name !== id.br) return;
        this.#open.pop();
        this.#mode = 'in head';
        return name === id.noscript ? undefined : this.#end(name);
      case 'after head':
        if (name === id.template) return this.#endTemplate();
        if (name !== id.body && name !== id.html && name !== id.br) return;
        this.#openBody();
        return this.#end(name);
      case 'in body':
        return this.#endInBody(name);
      case 'in table':
        return this.#endInTable(name);
      case 'in caption':
        if (name === id.caption) return void this.#closeCaption();
        if (name === id.table) return this.#closeCaption() ? this.#end(name) : undefined;
        if (name === id.body || name === id.html || tableParts.has(name)) return;
        return this.#endInBody(name);
      case 'in column group':
        if (name === id.colgroup) return void this.#closeColumnGroup();
        if (name === id.col) return;
        if (name === id.template) return this.#endTemplate();
        return this.#closeColumnGroup() ? this.#end(name) : undefined;
      case 'in table body':
        return this.#endInTableBody(name);
      case 'in row':
        return this.#endInRow(name);
      case 'in cell':
        return this.#endInCell(name);
      case 'in select in table':
        if (!selectLeavers.has(name)) return this.#endInSelect(name);
        if (!this.#open.hasInScope(name, 'table')) return;
        this.#open.popUntil(id.select);
        this.#resetMode();
        return this.inForeignContent() ? this.#endInForeign(name) : this.#end(name);
      case 'in select':
        return this.#endInSelect(name);
      case 'in template':
        return name === id.template ? this.#endTemplate() : undefined;
      case 'after body':
        if (name === id.html) {
          this.#mode = 'after after body';
          return;
        }
        this.#mode = 'in body';
        return this.#endInBody(name);
      case 'after after body':
        this.#mode = 'in body';
        return this.#endInBody(name);
      case 'in frameset':
        if (name !== id.frameset || this.#open.stack.length <= 1) return;
        this.#open.pop();
        if (!this.#open.isCurrent(id.frameset)) this.#mode = 'after frameset';
        return;
      case 'after frameset':
        if (name === id.html) this.#mode = 'after after frameset';
        return;
      default:
    }
  }

  #endInBody(name: number): void {
    const open = this.#open;
    if (blockEnds.has(name) || markers.has(name)) {
      if (!open.hasInScope(name, 'plain')) return;
      open.generateImpliedEndTags();
      open.popUntil(name);
      if (markers.has(name)) open.clearToMarker();
      return;
    }
    if (formattingEnds.has(name)) {
      if (!open.adopt(name)) this.#endOther(name);
      return;
    }
    if (headings.has(name)) {
      if (!open.hasOneInScope((other) => headings.has(other), 'plain')) return;
      open.generateImpliedEndTags();
      open.popUntilOne((other) => headings.has(other));
      return;
    }
    switch (name) {
      case id.template:
        return this.#endTemplate();
      case id.body:
      case id.html:
        if (!open.hasInScope(id.body, 'plain')) return;
        this.#mode = 'after body';
        return name === id.html ? this.#end(name) : undefined;
      case id.form:
        return this.#endForm();
      case id.p:
        if (!open.hasInScope(id.p, 'button')) {
          const { region, inside, foreign } = this;
          this.#insert(id.p);
          Object.assign(this, { region, inside, foreign });
        }
        return this.#closeParagraph();
      case id.li:
      case id.dd:
      case id.dt:
        if (!open.hasInScope(name, name === id.li ? 'list item' : 'plain')) return;
        open.generateImpliedEndTags(name);
        open.popUntil(name);
        return;
      case id.br:
        open.reconstruct();
        this.#framesetOk = false;
        return;
      default:
        this.#endOther(name);
    }
  }

  #endForm(): void {
    const open = this.#open;
    if (open.has(id.template)) {
      if (!open.hasInScope(id.form, 'plain')) return;
      open.generateImpliedEndTags();
      return open.popUntil(id.form);
    }
    const form = this.#form;
    this.#form = null;
    if (form === null || !open.hasInScope(id.form, 'plain')) return;
    open.generateImpliedEndTags();
    open.remove(form);
  }

  /** Any other end tag (13.2.6.4.7). */
  #endOther(name: number): void {
    const open = this.#open;
    if (!open.has(name)) return;
    for (let index = open.stack.length - 1; index >= 0; index--) {
      const element = open.stack[index] as OpenElement;
      if (element.space === space.html && element.id === name) {
        open.generateImpliedEndTags(name);
        while (open.stack.length > index) open.pop();
        return;
      }
      if (isSpecial(element)) return;
    }
  }

  #endTemplate(): void {
    const open = this.#open;
    if (!open.has(id.template)) return;
    open.generateImpliedEndTags(0, true);
    open.popUntil(id.template);
    open.clearToMarker();
    this.#templateModes.pop();
    this.#resetMode();
  }

  #endInTable(name: number): void {
    if (name === id.table) {
      if (!this.#open.hasInScope(id.table, 'table')) return;
      this.#open.popUntil(id.table);
      return this.#resetMode();
    }
    if (name === id.template) return this.#endTemplate();
    if (name === id.body || name === id.html || tableParts.has(name)) return;
    this.#endInBody(name);
  }

  #endInTableBody(name: number): void {
    if (rowGroups.has(name)) {
      if (!this.#open.hasInScope(name, 'table')) return;
      this.#clearToTableBody();
      this.#open.pop();
      this.#mode = 'in table';
    } else if (name === id.table) {
      if (this.#closeTableBody()) this.#end(name);
    } else if (name !== id.body && name !== id.html && !tableParts.has(name)) {
      this.#endInTable(name);
    }
  }

  #endInRow(name: number): void {
    if (name === id.tr) this.#closeRow();
    else if (name === id.table) {
      if (this.#closeRow()) this.#end(name);
    } else if (rowGroups.has(name)) {
      if (this.#open.hasInScope(name, 'table') && this.#closeRow()) this.#end(name);
    } else if (name !== id.body && name !== id.html && !tableParts.has(name)) {
      this.#endInTable(name);
    }
  }

  #endInCell(name: number): void {
    const open = this.#open;
    if (cells.has(name)) {
      if (!open.hasInScope(name, 'table')) return;
      open.generateImpliedEndTags();
      open.popUntil(name);
      open.clearToMarker();
      this.#mode = 'in row';
    } else if (name === id.table || name === id.tr || rowGroups.has(name)) {
      if (open.hasInScope(name, 'table') && this.#closeCell()) this.#end(name);
    } else if (name !== id.body && name !== id.html && !tableParts.has(name)) {
      this.#endInBody(name);
    }
  }

  #endInSelect(name: number): void {
    const open = this.#open;
    if (name === id.optgroup) {
      const below = open.stack.at(-2);
      if (open.isCurrent(id.option) && below?.id === id.optgroup && below.space === space.html) open.pop();
      if (open.isCurrent(id.optgroup)) open.pop();
    } else if (name === id.option) {
      if (open.isCurrent(id.option)) open.pop();
    } else if (name === id.select) {
      if (!open.hasInScope(id.select, 'select')) return;
      open.popUntil(id.select);
      this.#resetMode();
    } else if (name === id.template) {
      this.#endTemplate();
    }
  }

  // Parts of tables

  #clearToTable(): void {
    this.#open.clearBackTo((name) => name === id.table);
  }

  #clearToTableBody(): void {
    this.#open.clearBackTo((name) => rowGroups.has(name));
  }

  #closeCaption(): boolean {
    if (!this.#open.hasInScope(id.caption, 'table')) return false;
    this.#open.generateImpliedEndTags();
    this.#open.popUntil(id.caption);
    this.#open.clearToMarker();
    this.#mode = 'in table';
    return true;
  }

  #closeColumnGroup(): boolean {
    if (!this.#open.isCurrent(id.colgroup)) return false;
    this.#open.pop();
    this.#mode = 'in table';
    return true;
  }

  #closeTableBody(): boolean {
    if (!this.#open.hasOneInScope((name) => rowGroups.has(name), 'table')) return false;
    this.#clearToTableBody();
    this.#open.pop();
    this.#mode = 'in table';
    return true;
  }

  #closeRow(): boolean {
    if (!this.#open.hasInScope(id.tr, 'table')) return false;
    this.#open.clearBackTo((name) => name === id.tr);
    this.#open.pop();
    this.#mode = 'in table body';
    return true;
  }

  #closeCell(): boolean {
    if (!this.#open.hasOneInScope((name) => cells.has(name), 'table')) return false;
    this.#open.generateImpliedEndTags();
    this.#open.popUntilOne((name) => cells.has(name));
    this.#open.clearToMarker();
    this.#mode = 'in row';
    return true;
  }

  // SVG and MathML

  /** The tree construction dispatcher (13.2.6): is a start tag for the rules of foreign content? */
  #isForForeign(name: number): boolean {
    const { current } = this.#open;
    if (current === undefined || current.space === space.html) return false;
    if (isMathTextIntegrationPoint(current) && name !== id.mglyph && name !== id.malignmark) return false;
    if (current.space === space.math && current.id === id['annotation-xml'] && name === id.svg) return false;
    return !isHtmlIntegrationPoint(current);
  }

  #isIntegrationForText(): boolean {
    const current = this.#open.current as OpenElement;
    return isMathTextIntegrationPoint(current) || isHtmlIntegrationPoint(current);
  }

  #startInForeign(name: number, tag: Tag): void {
    const breaksOut =
      breakouts.has(name) ||
      (name === id.font &&
        (['color', 'face', 'size'] as const).some((key) => this.#value(tag, attributes.id[key]) !== null));
    if (breaksOut) {
      this.#leaveForeign();
      return this.#start(name, tag);
    }
    const at = (this.#open.current as OpenElement).space;
    const encoding =
      name === id['annotation-xml'] ? this.#value(tag, attributes.id.encoding)?.toLowerCase() : null;
    const integration =
      at === space.math && (encoding === 'text/html' || encoding === 'application/xhtml+xml');
    if (tag.selfClosing) this.#insertAndPop(name, at);
    else this.#insert(name, at, { integration });
  }

  #leaveForeign(): void {
    for (;;) {
      const { current } = this.#open;
      if (
        current === undefined ||
        current.space === space.html ||
        isMathTextIntegrationPoint(current) ||
        isHtmlIntegrationPoint(current)
      )
        return;
      this.#open.pop();
    }
  }

  #endInForeign(name: number): void {
    if (name === id.p || name === id.br) {
      this.#leaveForeign();
      return this.#end(name);
    }
    const { stack } = this.#open;
    for (let index = stack.length - 1; index > 0; index--) {
      const element = stack[index] as OpenElement;
      if (element.space === space.html) break;
      if (element.id === name) {
        while (stack.length > index) this.#open.pop();
        return;
      }
    }
    this.#end(name);
  }

  // Text

  #text(start: number, end: number): void {
    const { bytes } = this;
    switch (this.#mode) {
      case 'initial':
      case 'before html':
      case 'before head':
      case 'in head':
      case 'in head noscript':
      case 'after head':
        if (hasText(bytes, start, end)) this.#textBeforeBody(start, end);
        return;
      case 'in table':
      case 'in table body':
      case 'in row': {
        const { current } = this.#open;
        const held =
          current !== undefined && current.space === space.html && tableTextHolders.has(current.id);
        if (!held || hasTextBesideNul(bytes, start, end)) this.#textInBody(start, end);
        return;
      }
      case 'in column group':
        if (hasText(bytes, start, end) && this.#closeColumnGroup()) this.#text(start, end);
        return;
      case 'after body':
      case 'after after body':
        if (hasText(bytes, start, end)) this.#mode = 'in body';
        return this.#textInBody(start, end);
      case 'in body':
      case 'in caption':
      case 'in cell':
      case 'in template':
        return this.#textInBody(start, end);
      default:
    }
  }

  #textBeforeBody(start: number, end: number): void {
    if (this.#mode === 'initial') this.#quirks = true;
    if (this.#mode === 'initial' || this.#mode === 'before html') {
      this.#insert(id.html);
      this.#mode = 'before head';
    }
    if (this.#mode === 'before head') this.#openHead();
    if (this.#mode === 'in head noscript') this.#open.pop();
    if (this.#mode !== 'after head') this.#open.pop();
    this.#headDone = true;
    this.#openBody();
    this.#textInBody(start, end);
  }

  #textInBody(start: number, end: number): void {
    if (!hasMoreThanNul(this.bytes, start, end)) return;
    this.#open.reconstruct();
    if (hasTextBesideNul(this.bytes, start, end)) this.#framesetOk = false;
  }

  // Shared

  #resetMode(): void {
    const { stack } = this.#open;
    for (let index = stack.length - 1; index >= 0; index--) {
      const { id: name, space: at } = stack[index] as OpenElement;
      if (at !== space.html) continue;
      const mode = this.#modeFor(name, index);
      if (mode !== null) {
        this.#mode = mode;
        return;
      }
    }
    this.#mode = 'in body';
  }

  #modeFor(name: number, index: number): Mode | null {
    if (rowGroups.has(name)) return 'in table body';
    if (cells.has(name)) return index > 0 ? 'in cell' : null;
    switch (name) {
      case id.select: {
        const below = this.#open.stack
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
        return this.#templateModes.at(-1) ?? 'in body';
      case id.head:
        return index > 0 ? 'in head' : null;
      case id.body:
        return 'in body';
      case id.frameset:
        return 'in frameset';
      case id.html:
        return this.#headDone || this.#head !== null ? 'after head' : 'before head';
      default:
        return null;
    }
  }

  #isHidden(tag: Tag): boolean {
    return this.#value(tag, attributes.id.type)?.toLowerCase() === 'hidden';
  }

  #attributesOf(tag: Tag): string {
    if (tag.attributeCount === 0) return '';
    return String.fromCharCode(
      ...this.bytes.subarray(tag.nameEnd, Math.min(tag.end - 1, tag.nameEnd + 4096)),
    ).trim();
  }
}

function hasTextBesideNul(bytes: Uint8Array, start: number, end: number): boolean {
  let from = start;
  for (let at = start; at <= end; at++) {
    if (at < end && bytes[at] !== 0) continue;
    if (hasText(bytes, from, at)) return true;
    from = at + 1;
  }
  return false;
}

function hasMoreThanNul(bytes: Uint8Array, start: number, end: number): boolean {
  for (let at = start; at < end; at++) if (bytes[at] !== 0) return true;
  return false;
}
