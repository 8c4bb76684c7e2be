/** The rules for tables, selects and templates (HTML 13.2.6.4.9 to 18). */
import { BodyRules } from './body-rules.ts';
import { cells, headRules, rowGroups, tableParts } from './element-sets.ts';
import { elements } from './names.ts';
import { space } from './open-elements.ts';
import type { Tag } from './scan.ts';
import type { Mode } from './tree-state.ts';

const { id } = elements;

export abstract class TableRules extends BodyRules {
  protected startInTable(name: number, tag: Tag): void {
    const open = this.open;
    if (name === id.caption) {
      this.clearToTable();
      this.insert(name);
      open.pushMarker();
      this.mode = 'in caption';
    } else if (name === id.colgroup || name === id.col) {
      this.clearToTable();
      this.insert(id.colgroup);
      this.mode = 'in column group';
      if (name === id.col) this.start(name, tag);
    } else if (rowGroups.has(name) || cells.has(name) || name === id.tr) {
      this.clearToTable();
      this.insert(rowGroups.has(name) ? name : id.tbody);
      this.mode = 'in table body';
      if (!rowGroups.has(name)) this.start(name, tag);
    } else if (name === id.table) {
      if (!open.hasInScope(id.table, 'table')) return;
      open.popUntil(id.table);
      this.resetMode();
      this.restart(name, tag);
    } else if (name === id.style || name === id.script || name === id.template) {
      this.startInHead(name, tag);
    } else if (name === id.input && this.isHidden(tag)) {
      this.insertAndPop();
    } else if (name === id.form) {
      if (this.form !== null || open.has(id.template)) return;
      this.form = this.insert(name);
      open.pop();
    } else {
      this.startInBody(name, tag);
    }
  }

  protected startInTableBody(name: number, tag: Tag): void {
    if (name === id.tr) {
      this.clearToTableBody();
      this.insert(name);
      this.mode = 'in row';
    } else if (cells.has(name)) {
      this.clearToTableBody();
      this.insert(id.tr);
      this.mode = 'in row';
      this.start(name, tag);
    } else if (tableParts.has(name)) {
      if (this.closeTableBody()) this.start(name, tag);
    } else {
      this.startInTable(name, tag);
    }
  }

  protected startInRow(name: number, tag: Tag): void {
    if (cells.has(name)) {
      this.open.clearBackTo((other) => other === id.tr);
      this.insert(name);
      this.mode = 'in cell';
      this.open.pushMarker();
    } else if (tableParts.has(name)) {
      if (this.closeRow()) this.start(name, tag);
    } else {
      this.startInTable(name, tag);
    }
  }

  protected startInSelect(name: number, tag: Tag): void {
    const open = this.open;
    switch (name) {
      case id.html:
        return this.startInBody(name, tag);
      case id.option:
      case id.optgroup:
      case id.hr:
        if (open.isCurrent(id.option)) open.pop();
        if (name !== id.option && open.isCurrent(id.optgroup)) open.pop();
        if (name === id.hr) this.insertAndPop();
        else this.insert(name);
        return;
      case id.select:
      case id.input:
      case id.keygen:
      case id.textarea:
        if (!open.hasInScope(id.select, 'select')) return;
        open.popUntil(id.select);
        this.resetMode();
        return name === id.select ? undefined : this.restart(name, tag);
      case id.script:
      case id.template:
        return this.startInHead(name, tag);
      default:
    }
  }

  protected startInTemplate(name: number, tag: Tag): void {
    if (headRules.has(name)) return this.startInHead(name, tag);
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
    this.templateModes[this.templateModes.length - 1] = mode;
    this.mode = mode;
    this.start(name, tag);
  }

  protected endInTable(name: number): void {
    if (name === id.table) {
      if (!this.open.hasInScope(id.table, 'table')) return;
      this.open.popUntil(id.table);
      return this.resetMode();
    }
    if (name === id.template) return this.endTemplate();
    if (name === id.body || name === id.html || tableParts.has(name)) return;
    this.endInBody(name);
  }

  protected endInTableBody(name: number): void {
    if (rowGroups.has(name)) {
      if (!this.open.hasInScope(name, 'table')) return;
      this.clearToTableBody();
      this.open.pop();
      this.mode = 'in table';
    } else if (name === id.table) {
      if (this.closeTableBody()) this.end(name);
    } else if (name !== id.body && name !== id.html && !tableParts.has(name)) {
      this.endInTable(name);
    }
  }

  protected endInRow(name: number): void {
    if (name === id.tr) this.closeRow();
    else if (name === id.table) {
      if (this.closeRow()) this.end(name);
    } else if (rowGroups.has(name)) {
      if (this.open.hasInScope(name, 'table') && this.closeRow()) this.end(name);
    } else if (name !== id.body && name !== id.html && !tableParts.has(name)) {
      this.endInTable(name);
    }
  }

  protected endInCell(name: number): void {
    const open = this.open;
    if (cells.has(name)) {
      if (!open.hasInScope(name, 'table')) return;
      open.generateImpliedEndTags();
      open.popUntil(name);
      open.clearToMarker();
      this.mode = 'in row';
    } else if (name === id.table || name === id.tr || rowGroups.has(name)) {
      if (open.hasInScope(name, 'table') && this.closeCell()) this.end(name);
    } else if (name !== id.body && name !== id.html && !tableParts.has(name)) {
      this.endInBody(name);
    }
  }

  protected endInSelect(name: number): void {
    const open = this.open;
    if (name === id.optgroup) {
      const below = open.stack.at(-2);
      if (open.isCurrent(id.option) && below?.id === id.optgroup && below.space === space.html) open.pop();
      if (open.isCurrent(id.optgroup)) open.pop();
    } else if (name === id.option) {
      if (open.isCurrent(id.option)) open.pop();
    } else if (name === id.select) {
      if (!open.hasInScope(id.select, 'select')) return;
      open.popUntil(id.select);
      this.resetMode();
    } else if (name === id.template) {
      this.endTemplate();
    }
  }

  protected clearToTable(): void {
    this.open.clearBackTo((name) => name === id.table);
  }

  protected clearToTableBody(): void {
    this.open.clearBackTo((name) => rowGroups.has(name));
  }

  protected closeCaption(): boolean {
    if (!this.open.hasInScope(id.caption, 'table')) return false;
    this.open.generateImpliedEndTags();
    this.open.popUntil(id.caption);
    this.open.clearToMarker();
    this.mode = 'in table';
    return true;
  }

  protected closeColumnGroup(): boolean {
    if (!this.open.isCurrent(id.colgroup)) return false;
    this.open.pop();
    this.mode = 'in table';
    return true;
  }

  protected closeTableBody(): boolean {
    if (!this.open.hasOneInScope((name) => rowGroups.has(name), 'table')) return false;
    this.clearToTableBody();
    this.open.pop();
    this.mode = 'in table';
    return true;
  }

  protected closeRow(): boolean {
    if (!this.open.hasInScope(id.tr, 'table')) return false;
    this.open.clearBackTo((name) => name === id.tr);
    this.open.pop();
    this.mode = 'in table body';
    return true;
  }

  protected closeCell(): boolean {
    if (!this.open.hasOneInScope((name) => cells.has(name), 'table')) return false;
    this.open.generateImpliedEndTags();
    this.open.popUntilOne((name) => cells.has(name));
    this.open.clearToMarker();
    this.mode = 'in row';
    return true;
  }
}
