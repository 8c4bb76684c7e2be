/** The rules for head and body (HTML 13.2.6.4.4 to 7). */
import { contentOf } from './construction.ts';
import {
  blockEnds,
  blocks,
  formatting,
  formattingEnds,
  headings,
  headRules,
  headText,
  headVoid,
  ignoredInBody,
  markers,
  voids,
} from './element-sets.ts';
import { elements } from './names.ts';
import { isSpecial, type OpenElement, space } from './open-elements.ts';
import { ContentMode, type Tag } from './scan.ts';
import { TreeState } from './tree-state.ts';

const { id } = elements;

export abstract class BodyRules extends TreeState {
  protected closeParagraph(): void {
    if (!this.open.hasInScope(id.p, 'button')) return;
    this.open.generateImpliedEndTags(id.p);
    this.open.popUntil(id.p);
  }

  protected startInHead(name: number, tag: Tag): void {
    if (name === id.html) return this.startInBody(name, tag);
    if (headVoid.has(name)) return this.insertAndPop();
    if (headText.has(name)) {
      this.insert(name);
      this.content = contentOf[name] as ContentMode;
      return;
    }
    if (name === id.template) {
      this.insert(name);
      this.open.pushMarker();
      this.framesetOk = false;
      this.mode = 'in template';
      this.templateModes.push('in template');
      return;
    }
    if (name === id.head) return;
    this.open.pop();
    this.mode = 'after head';
    this.headDone = true;
    this.start(name, tag);
  }

  protected startAfterHead(name: number, tag: Tag): void {
    if (name === id.html) return this.startInBody(name, tag);
    if (name === id.body) {
      this.openBody();
      this.framesetOk = false;
      return;
    }
    if (name === id.frameset) {
      this.insert(name);
      this.mode = 'in frameset';
      return;
    }
    if (headRules.has(name)) {
      const head = this.head as OpenElement;
      this.open.push(head);
      this.startInHead(name, tag);
      this.open.remove(head);
      return;
    }
    if (name === id.head) return;
    this.openBody();
    this.start(name, tag);
  }

  protected startInBody(name: number, tag: Tag): void {
    const open = this.open;
    if (blocks.has(name)) {
      this.closeParagraph();
      this.insert(name);
    } else if (formatting.has(name)) {
      open.reconstruct();
      open.pushFormatting(this.insert(name, space.html, { attributes: this.attributesOf(tag) }));
    } else if (headings.has(name)) {
      this.closeParagraph();
      const { current } = open;
      if (current !== undefined && current.space === space.html && headings.has(current.id)) open.pop();
      this.insert(name);
    } else if (headRules.has(name) && name !== id.noframes) {
      this.startInHead(name, tag);
    } else if (voids.has(name)) {
      open.reconstruct();
      this.insertAndPop();
      this.framesetOk = false;
    } else if (!ignoredInBody.has(name)) {
      this.startOtherInBody(name, tag);
    }
  }

  protected startOtherInBody(name: number, tag: Tag): void {
    const open = this.open;
    switch (name) {
      case id.html:
        return;
      case id.body:
        if (open.stack[1]?.id === id.body && !open.has(id.template)) this.framesetOk = false;
        return;
      case id.frameset: {
        const isBody = open.stack[1]?.id === id.body;
        if (!isBody || !this.framesetOk) return;
        while (open.stack.length > 1) open.pop();
        this.insert(name);
        this.mode = 'in frameset';
        return;
      }
      case id.pre:
      case id.listing:
        this.closeParagraph();
        this.insert(name);
        this.framesetOk = false;
        return;
      case id.form: {
        const inTemplate = open.has(id.template);
        if (this.form !== null && !inTemplate) return;
        this.closeParagraph();
        const form = this.insert(name);
        if (!inTemplate) this.form = form;
        return;
      }
      case id.li:
        this.closeItem((other) => other === id.li);
        this.closeParagraph();
        this.insert(name);
        return;
      case id.dd:
      case id.dt:
        this.closeItem((other) => other === id.dd || other === id.dt);
        this.closeParagraph();
        this.insert(name);
        return;
      case id.plaintext:
        this.closeParagraph();
        this.insert(name);
        this.content = ContentMode.Plaintext;
        return;
      case id.button:
        if (open.hasInScope(id.button, 'plain')) {
          open.generateImpliedEndTags();
          open.popUntil(id.button);
        }
        open.reconstruct();
        this.insert(name);
        this.framesetOk = false;
        return;
      case id.a: {
        const other = open.lastFormatting(id.a);
        if (other !== null) {
          if (!open.adopt(id.a)) this.endOther(id.a);
          open.removeFormatting(other);
          open.remove(other);
        }
        open.reconstruct();
        open.pushFormatting(this.insert(name, space.html, { attributes: this.attributesOf(tag) }));
        return;
      }
      case id.nobr:
        open.reconstruct();
        if (open.hasInScope(id.nobr, 'plain')) {
          if (!open.adopt(id.nobr)) this.endOther(id.nobr);
          open.reconstruct();
        }
        open.pushFormatting(this.insert(name, space.html, { attributes: this.attributesOf(tag) }));
        return;
      case id.applet:
      case id.marquee:
      case id.object:
        open.reconstruct();
        this.insert(name);
        open.pushMarker();
        this.framesetOk = false;
        return;
      case id.table:
        if (!this.quirks) this.closeParagraph();
        this.insert(name);
        this.framesetOk = false;
        this.mode = 'in table';
        return;
      case id.input:
        open.reconstruct();
        this.insertAndPop();
        if (!this.isHidden(tag)) this.framesetOk = false;
        return;
      case id.param:
      case id.source:
      case id.track:
        return this.insertAndPop();
      case id.hr:
        this.closeParagraph();
        this.insertAndPop();
        this.framesetOk = false;
        return;
      case id.textarea:
        this.insert(name);
        this.content = ContentMode.Rcdata;
        this.framesetOk = false;
        return;
      case id.xmp:
        this.closeParagraph();
        open.reconstruct();
        this.framesetOk = false;
        this.insert(name);
        this.content = ContentMode.Rawtext;
        return;
      case id.iframe:
        this.framesetOk = false;
        this.insert(name);
        this.content = ContentMode.Rawtext;
        return;
      case id.noembed:
      case id.noframes:
        this.insert(name);
        this.content = ContentMode.Rawtext;
        return;
      case id.noscript:
        if (this.isWithin) open.reconstruct();
        else this.content = ContentMode.Noscript;
        this.insert(name);
        return;
      case id.select:
        open.reconstruct();
        this.insert(name);
        this.framesetOk = false;
        this.mode = /^in (?:table|caption|table body|row|cell)$/.test(this.mode)
          ? 'in select in table'
          : 'in select';
        return;
      case id.optgroup:
      case id.option:
        if (open.isCurrent(id.option)) open.pop();
        open.reconstruct();
        this.insert(name);
        return;
      case id.rb:
      case id.rtc:
        if (open.hasInScope(id.ruby, 'plain')) open.generateImpliedEndTags();
        this.insert(name);
        return;
      case id.rp:
      case id.rt:
        if (open.hasInScope(id.ruby, 'plain')) open.generateImpliedEndTags(id.rtc);
        this.insert(name);
        return;
      case id.math:
      case id.svg: {
        const at = name === id.math ? space.math : space.svg;
        open.reconstruct();
        if (tag.selfClosing) this.insertAndPop(at);
        else this.insert(name, at);
        return;
      }
      default:
        open.reconstruct();
        this.insert(name);
    }
  }

  protected closeItem(isItem: (name: number) => boolean): void {
    this.framesetOk = false;
    const { stack } = this.open;
    for (let index = stack.length - 1; index >= 0; index--) {
      const element = stack[index] as OpenElement;
      if (element.space === space.html && isItem(element.id)) {
        this.open.generateImpliedEndTags(element.id);
        this.open.popUntil(element.id);
        return;
      }
      const passable =
        element.space === space.html &&
        (element.id === id.address || element.id === id.div || element.id === id.p);
      if (isSpecial(element) && !passable) return;
    }
  }

  protected endInBody(name: number): void {
    const open = this.open;
    if (blockEnds.has(name) || markers.has(name)) {
      if (!open.hasInScope(name, 'plain')) return;
      open.generateImpliedEndTags();
      open.popUntil(name);
      if (markers.has(name)) open.clearToMarker();
      return;
    }
    if (formattingEnds.has(name)) {
      if (!open.adopt(name)) this.endOther(name);
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
        return this.endTemplate();
      case id.body:
      case id.html:
        if (!open.hasInScope(id.body, 'plain')) return;
        this.mode = 'after body';
        return name === id.html ? this.end(name) : undefined;
      case id.form:
        return this.endForm();
      case id.p:
        if (!open.hasInScope(id.p, 'button')) {
          const { region, inside, foreign } = this;
          this.insert(id.p);
          Object.assign(this, { region, inside, foreign });
        }
        return this.closeParagraph();
      case id.li:
      case id.dd:
      case id.dt:
        if (!open.hasInScope(name, name === id.li ? 'list item' : 'plain')) return;
        open.generateImpliedEndTags(name);
        open.popUntil(name);
        return;
      case id.br:
        open.reconstruct();
        this.framesetOk = false;
        return;
      default:
        this.endOther(name);
    }
  }

  protected endForm(): void {
    const open = this.open;
    if (open.has(id.template)) {
      if (!open.hasInScope(id.form, 'plain')) return;
      open.generateImpliedEndTags();
      return open.popUntil(id.form);
    }
    const form = this.form;
    this.form = null;
    if (form === null || !open.hasInScope(id.form, 'plain')) return;
    open.generateImpliedEndTags();
    open.remove(form);
  }

  /** Any other end tag (13.2.6.4.7). */
  protected endOther(name: number): void {
    const open = this.open;
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

  protected endTemplate(): void {
    const open = this.open;
    if (!open.has(id.template)) return;
    open.generateImpliedEndTags(0, true);
    open.popUntil(id.template);
    open.clearToMarker();
    this.templateModes.pop();
    this.resetMode();
  }
}
