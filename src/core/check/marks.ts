/** Marks on numbered things: which of them one file has had already. */

import { repeatRules } from '../judge/index.ts';

/** Beside the things themselves, which stay plain data. */
export class Marks {
  #last = new Int32Array(1024);

  /** True where `serial`, the number of a file and never 0, has not had the thing of this number before. */
  isFirst(number: number, serial: number): boolean {
    if (number >= this.#last.length) {
      const longer = new Int32Array(number * 2);
      longer.set(this.#last);
      this.#last = longer;
    }
    if (this.#last[number] === serial) return false;
    this.#last[number] = serial;
    return true;
  }
}

/** What one file had: addresses that it asked for, files that it led to, named and loaded, spots of pages. */
export class FileMarks {
  readonly asked = new Marks();
  readonly led = new Marks();
  readonly named = new Marks();
  /** One for each rule about what is loaded again. */
  readonly loaded = repeatRules.map(() => new Marks());
  readonly spots = new Marks();
}
