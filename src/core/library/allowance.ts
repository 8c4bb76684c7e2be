/** How much of a source is taken in. */

import { fail } from '../errors.ts';
import { withCommas } from '../with-commas.ts';

/** How much of a source is taken at most. */
export interface Limits {
  readonly files: number;
  readonly bytes: number;
}

/** Counts what comes in. Throws a `CravelError` where it is too much. */
export class Allowance {
  #files = 0;
  #bytes = 0;
  constructor(
    readonly source: string,
    readonly limits: Limits,
  ) {}

  file(): void {
    if (++this.#files > this.limits.files) {
      const { files } = this.limits;
      const what = `holds more than ${files === 1 ? '1 file' : `${withCommas(files)} files`}`;
      throw fail('too-large', this.source, what, '--most-files <number>');
    }
  }

  bytes(amount: number): void {
    this.#bytes += amount;
    if (this.#bytes > this.limits.bytes) {
      const what = `holds more than ${withCommas(Math.round(this.limits.bytes / 1e6))} MB`;
      throw fail('too-large', this.source, what, '--most-megabytes <number>');
    }
  }
}
