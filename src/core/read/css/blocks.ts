/** The blocks of a stylesheet that are open, and which of them was left so by mistake. */

interface Block {
  /** Where its rule starts, and its brace. */
  readonly start: number;
  readonly brace: number;
  /** Where the rules in it start. */
  readonly inner: number[];
}

/** White space before a rule that is looked at. */
const WIDEST = 200;

export class Blocks {
  readonly #open: Block[] = [];
  /** Where the statement at hand may begin. */
  #from = 0;

  constructor(readonly plain: string) {}

  get depth(): number {
    return this.#open.length;
  }

  open(brace: number): void {
    const start = this.#from + (this.plain.slice(this.#from, brace).search(/\S|$/) as number);
    // A declaration that lacks its semicolon may stand before it, on another line.
    const prelude = this.plain.slice(start, brace + 1);
    const line = prelude.lastIndexOf('\n');
    const own = line < 0 ? start : start + line + 1 + prelude.slice(line + 1).search(/\S/);
    this.#open.at(-1)?.inner.push(own);
    this.#open.push({ start, brace, inner: [] });
  }

  /** False where there is nothing to close. */
  close(): boolean {
    return this.#open.pop() !== undefined;
  }

  statementEnds(at: number): void {
    this.#from = at + 1;
  }

  /** A comment before a rule is no part of it. */
  commentEnds(start: number, end: number): void {
    if (!/\S/.test(this.plain.slice(this.#from, start))) this.#from = end;
  }

  /**
   * The block that the end of the file finds open, and that holds a rule which begins no further right than its own: that
   * one was not meant to be in it. A stylesheet may end without its last braces (CSS Syntax 3, 5.4.8).
   */
  leftOpen(): { readonly start: number; readonly end: number; readonly from: number } | null {
    for (const { start, brace, inner } of this.#open) {
      const column = this.#columnOf(start);
      if (column === null) continue;
      const from = inner.find((rule) => (this.#columnOf(rule) ?? column + 1) <= column);
      if (from !== undefined) return { start, end: brace + 1, from };
    }
    return null;
  }

  /** How far from the start of its line; null where something stands before. */
  #columnOf(at: number): number | null {
    const before = this.plain.slice(Math.max(0, at - WIDEST), at);
    const line = before.slice(before.lastIndexOf('\n') + 1);
    return /\S/.test(line) || line.length === WIDEST ? null : line.length;
  }
}
