/**
 * The tree construction stage (HTML 13.2.6) without a tree: insertion modes, open elements and formatting
 * elements are kept exactly as the standard says, so that it is known where a browser places each element and
 * how it reads what follows. Method and label names are those of the standard's insertion modes.
 */
import { breakouts } from './breakouts.ts';
import { type Construction, hasText } from './construction.ts';
import { selectLeavers, tableParts, tableTextHolders } from './element-sets.ts';
import { attributes, elements } from './names.ts';
import {
  isHtmlIntegrationPoint,
  isMathTextIntegrationPoint,
  type OpenElement,
  space,
} from './open-elements.ts';
import { isQuirky } from './quirks.ts';
import { ContentMode, type Tag } from './scan.ts';
import { TableRules } from './table-rules.ts';

const { id } = elements;

export class FullRules extends TableRules implements Construction {
  /** Reads what a noscript holds, up to its end tag. */
  #within: FullRules | null = null;

  inForeignContent(): boolean {
    if (this.#within !== null) return this.#within.inForeignContent();
    const { current } = this.open;
    return current !== undefined && current.space !== space.html;
  }

  doctype(start: number, end: number): void {
    if (this.mode !== 'initial') return;
    this.quirks = isQuirky(String.fromCharCode(...this.bytes.subarray(start, Math.min(end, start + 1024))));
    this.mode = 'before html';
  }

  startTag(known: number, tag: Tag): ContentMode {
    if (this.#within !== null) return this.#startWithin(this.#within, known, tag);
    this.content = ContentMode.Data;
    this.region = 'none';
    this.foreign = false;
    this.inside = null;
    const name = known !== 0 ? known : this.nameOf(tag);
    if (this.isForForeign(name)) this.startInForeign(name, tag);
    else this.start(name, tag);
    const content = this.content as ContentMode;
    this.raw = content !== ContentMode.Data;
    if (content === ContentMode.Noscript) {
      this.#within = new FullRules(this.bytes, true);
      this.#within.insert(id.html);
      this.#within.openBody();
    }
    return content;
  }

  #startWithin(within: FullRules, known: number, tag: Tag): ContentMode {
    const content = within.startTag(known, tag);
    this.foreign = within.foreign;
    this.inside = within.inside ?? 'noscript';
    return content;
  }

  endTag(tag: Tag): boolean {
    const known = elements.find(this.bytes, tag.nameStart, tag.nameEnd);
    if (this.#within !== null && known !== id.noscript) return this.#within.endTag(tag);
    this.#within = null;
    const name = known !== 0 ? known : this.nameOf(tag);
    if (this.raw) {
      this.raw = false;
      this.open.pop();
    } else if (this.inForeignContent()) {
      this.endInForeign(name);
    } else {
      this.end(name);
    }
    return true;
  }

  text(start: number, end: number): void {
    if (this.#within !== null) return this.#within.text(start, end);
    if (this.inForeignContent() && !this.isIntegrationForText()) {
      if (hasTextBesideNul(this.bytes, start, end)) this.framesetOk = false;
      return;
    }
    this.textInMode(start, end);
  }

  protected override start(name: number, tag: Tag): void {
    switch (this.mode) {
      case 'initial':
        this.quirks = true;
        this.mode = 'before html';
        return this.start(name, tag);
      case 'before html':
        this.insert(id.html);
        this.region = 'none';
        this.mode = 'before head';
        return name === id.html ? undefined : this.start(name, tag);
      case 'before head':
        if (name === id.html) return this.startInBody(name, tag);
        this.openHead();
        return name === id.head ? undefined : this.start(name, tag);
      case 'in head':
        return this.startInHead(name, tag);
      case 'after head':
        return this.startAfterHead(name, tag);
      case 'in body':
        return this.startInBody(name, tag);
      case 'in table':
        return this.startInTable(name, tag);
      case 'in caption':
        if (!tableParts.has(name)) return this.startInBody(name, tag);
        return this.closeCaption() ? this.start(name, tag) : undefined;
      case 'in column group':
        if (name === id.html) return this.startInBody(name, tag);
        if (name === id.col) return this.insertAndPop();
        if (name === id.template) return this.startInHead(name, tag);
        return this.closeColumnGroup() ? this.start(name, tag) : undefined;
      case 'in table body':
        return this.startInTableBody(name, tag);
      case 'in row':
        return this.startInRow(name, tag);
      case 'in cell':
        if (!tableParts.has(name)) return this.startInBody(name, tag);
        return this.closeCell() ? this.start(name, tag) : undefined;
      case 'in select in table':
        if (!selectLeavers.has(name)) return this.startInSelect(name, tag);
        this.open.popUntil(id.select);
        this.resetMode();
        return this.restart(name, tag);
      case 'in select':
        return this.startInSelect(name, tag);
      case 'in template':
        return this.startInTemplate(name, tag);
      case 'after body':
      case 'after after body':
        if (name === id.html) return this.startInBody(name, tag);
        this.mode = 'in body';
        return this.startInBody(name, tag);
      case 'in frameset':
        if (name === id.html) return this.startInBody(name, tag);
        if (name === id.frameset) return void this.insert(name);
        if (name === id.frame) return this.insertAndPop();
        return name === id.noframes ? this.startInHead(name, tag) : undefined;
      default:
        if (name === id.html) return this.startInBody(name, tag);
        return name === id.noframes ? this.startInHead(name, tag) : undefined;
    }
  }

  /** Processes a start tag anew, when open elements were closed for it. */
  protected override restart(name: number, tag: Tag): void {
    if (this.isForForeign(name)) this.startInForeign(name, tag);
    else this.start(name, tag);
  }

  protected override end(name: number): void {
    switch (this.mode) {
      case 'initial':
      case 'before html':
      case 'before head':
        if (this.mode === 'initial') {
          this.quirks = true;
          this.mode = 'before html';
        }
        if (name !== id.head && name !== id.body && name !== id.html && name !== id.br) return;
        if (this.mode === 'before html') {
          this.insert(id.html);
          this.mode = 'before head';
        }
        this.openHead();
        return this.end(name);
      case 'in head':
        if (name === id.template) return this.endTemplate();
        if (name !== id.head && name !== id.body && name !== id.html && name !== id.br) return;
        this.open.pop();
        this.mode = 'after head';
        this.headDone = true;
        return name === id.head ? undefined : this.end(name);
      case 'after head':
        if (name === id.template) return this.endTemplate();
        if (name !== id.body && name !== id.html && name !== id.br) return;
        this.openBody();
        return this.end(name);
      case 'in body':
        return this.endInBody(name);
      case 'in table':
        return this.endInTable(name);
      case 'in caption':
        if (name === id.caption) return void this.closeCaption();
        if (name === id.table) return this.closeCaption() ? this.end(name) : undefined;
        if (name === id.body || name === id.html || tableParts.has(name)) return;
        return this.endInBody(name);
      case 'in column group':
        if (name === id.colgroup) return void this.closeColumnGroup();
        if (name === id.col) return;
        if (name === id.template) return this.endTemplate();
        return this.closeColumnGroup() ? this.end(name) : undefined;
      case 'in table body':
        return this.endInTableBody(name);
      case 'in row':
        return this.endInRow(name);
      case 'in cell':
        return this.endInCell(name);
      case 'in select in table':
        if (!selectLeavers.has(name)) return this.endInSelect(name);
        if (!this.open.hasInScope(name, 'table')) return;
        this.open.popUntil(id.select);
        this.resetMode();
        return this.inForeignContent() ? this.endInForeign(name) : this.end(name);
      case 'in select':
        return this.endInSelect(name);
      case 'in template':
        return name === id.template ? this.endTemplate() : undefined;
      case 'after body':
        if (name === id.html) {
          this.mode = 'after after body';
          return;
        }
        this.mode = 'in body';
        return this.endInBody(name);
      case 'after after body':
        this.mode = 'in body';
        return this.endInBody(name);
      case 'in frameset':
        if (name !== id.frameset || this.open.stack.length <= 1) return;
        this.open.pop();
        if (!this.open.isCurrent(id.frameset)) this.mode = 'after frameset';
        return;
      case 'after frameset':
        if (name === id.html) this.mode = 'after after frameset';
        return;
      default:
    }
  }

  /** The tree construction dispatcher (13.2.6): is a start tag for the rules of foreign content? */
  protected isForForeign(name: number): boolean {
    const { current } = this.open;
    if (current === undefined || current.space === space.html) return false;
    if (isMathTextIntegrationPoint(current) && name !== id.mglyph && name !== id.malignmark) return false;
    if (current.space === space.math && current.id === id['annotation-xml'] && name === id.svg) return false;
    return !isHtmlIntegrationPoint(current);
  }

  protected isIntegrationForText(): boolean {
    const current = this.open.current as OpenElement;
    return isMathTextIntegrationPoint(current) || isHtmlIntegrationPoint(current);
  }

  protected startInForeign(name: number, tag: Tag): void {
    const breaksOut =
      breakouts.has(name) ||
      (name === id.font &&
        (['color', 'face', 'size'] as const).some(
          (key) => this.valueOfAttribute(tag, attributes.id[key]) !== null,
        ));
    if (breaksOut) {
      this.leaveForeign();
      return this.start(name, tag);
    }
    const at = (this.open.current as OpenElement).space;
    const encoding =
      name === id['annotation-xml']
        ? this.valueOfAttribute(tag, attributes.id.encoding)?.toLowerCase()
        : null;
    const integration =
      at === space.math && (encoding === 'text/html' || encoding === 'application/xhtml+xml');
    if (tag.selfClosing) this.insertAndPop(at);
    else this.insert(name, at, { integration });
  }

  protected leaveForeign(): void {
    for (;;) {
      const { current } = this.open;
      if (
        current === undefined ||
        current.space === space.html ||
        isMathTextIntegrationPoint(current) ||
        isHtmlIntegrationPoint(current)
      )
        return;
      this.open.pop();
    }
  }

  protected endInForeign(name: number): void {
    if (name === id.p || name === id.br) {
      this.leaveForeign();
      return this.end(name);
    }
    const { stack } = this.open;
    for (let index = stack.length - 1; index > 0; index--) {
      const element = stack[index] as OpenElement;
      if (element.space === space.html) break;
      if (element.id === name) {
        while (stack.length > index) this.open.pop();
        return;
      }
    }
    this.end(name);
  }

  protected textInMode(start: number, end: number): void {
    const { bytes } = this;
    switch (this.mode) {
      case 'initial':
      case 'before html':
      case 'before head':
      case 'in head':
      case 'after head':
        if (hasText(bytes, start, end)) this.textBeforeBody(start, end);
        return;
      case 'in table':
      case 'in table body':
      case 'in row': {
        const { current } = this.open;
        const held =
          current !== undefined && current.space === space.html && tableTextHolders.has(current.id);
        if (!held || hasTextBesideNul(bytes, start, end)) this.textInBody(start, end);
        return;
      }
      case 'in column group':
        if (hasText(bytes, start, end) && this.closeColumnGroup()) this.textInMode(start, end);
        return;
      case 'after body':
      case 'after after body':
        if (hasText(bytes, start, end)) this.mode = 'in body';
        return this.textInBody(start, end);
      case 'in body':
      case 'in caption':
      case 'in cell':
      case 'in template':
        return this.textInBody(start, end);
      default:
    }
  }

  protected textBeforeBody(start: number, end: number): void {
    if (this.mode === 'initial') this.quirks = true;
    if (this.mode === 'initial' || this.mode === 'before html') {
      this.insert(id.html);
      this.mode = 'before head';
    }
    if (this.mode === 'before head') this.openHead();
    if (this.mode !== 'after head') this.open.pop();
    this.headDone = true;
    this.openBody();
    this.textInBody(start, end);
  }

  protected textInBody(start: number, end: number): void {
    if (!hasMoreThanNul(this.bytes, start, end)) return;
    this.open.reconstruct();
    if (hasTextBesideNul(this.bytes, start, end)) this.framesetOk = false;
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
