/** Edits of several mends, made together: none meets another one, and where each stands then. */
import type { FileEdit } from '../change/edit.ts';

/** Where edits are made already. */
export class Edited {
  readonly #byFile = new Map<string, FileEdit[]>();
  readonly #keys = new Set<string>();
  /** What is taken away, with all else that is done along with it. */
  readonly #gone = new Map<string, string>();

  /**
   * False where one of the edits meets another one that is made; the same one twice is one. What is taken away is either
   * moved or gone: it is one only where all that is done along with it is the same.
   */
  take(edits: readonly FileEdit[]): boolean {
    const fresh = edits.filter((edit) => !this.#keys.has(JSON.stringify(edit)));
    const gone = edits.filter(({ text }) => text === '').map((edit) => JSON.stringify(edit));
    const whole = JSON.stringify(edits);
    if (gone.some((edit) => (this.#gone.get(edit) ?? whole) !== whole)) return false;
    if (fresh.some((edit) => this.#meets(edit))) return false;
    for (const edit of gone) this.#gone.set(edit, whole);
    for (const edit of fresh) {
      this.#keys.add(JSON.stringify(edit));
      const all = this.#byFile.get(edit.file) ?? [];
      all.splice(firstBehind(all, edit.start), 0, edit);
      this.#byFile.set(edit.file, all);
    }
    return true;
  }

  #meets({ file, start, end }: FileEdit): boolean {
    const all = this.#byFile.get(file) ?? [];
    const at = firstBehind(all, start);
    const [before, behind] = [all[at - 1], all[at]];
    const isIn = (one: FileEdit | undefined) => one !== undefined && start < one.end && end > one.start;
    // What is put in where something else is taken out stands in the way of it.
    const touches = (one: FileEdit | undefined) =>
      one !== undefined && one.start < one.end && start === end && start > one.start && start < one.end;
    return isIn(before) || isIn(behind) || touches(before);
  }
}

function firstBehind(all: readonly FileEdit[], start: number): number {
  let [low, high] = [0, all.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((all[middle] as FileEdit).start <= start) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** Where edits of one file stand when all of them are made; places near enough for what is not ASCII. */
export class Places {
  readonly #moved = new Map<string, number>();

  constructor(edits: readonly FileEdit[]) {
    let by = 0;
    for (const edit of edits.toSorted((one, other) => one.start - other.start)) {
      this.#moved.set(JSON.stringify(edit), edit.start + by);
      by += edit.text.length - (edit.end - edit.start);
    }
  }

  after(edit: FileEdit): number {
    return this.#moved.get(JSON.stringify(edit)) ?? edit.start;
  }
}
