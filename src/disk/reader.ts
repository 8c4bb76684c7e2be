/** Reads one file after the other into the same memory. */

import { constants } from 'node:buffer';
import type { DiskPath } from './disk-path.ts';
import { closeSync, fstatSync, openSync, readSync } from './fs.ts';
import { TooLong } from './reason.ts';

/**
 * Reads whole files; the bytes are good until the next read. Worth it: a buffer of its own for each file takes the
 * collector as long as reading them.
 */
export class FileReader {
  // Searches in a Buffer are several times as fast as in other arrays of bytes.
  #buffer = Buffer.allocUnsafeSlow(1 << 20);

  /** Throws the system's error where the file cannot be read. */
  read(path: DiskPath): Uint8Array {
    const file = openSync(path, 'r');
    try {
      // Nothing is read of what could not be made a text.
      if (fstatSync(file).size > constants.MAX_STRING_LENGTH) throw new TooLong();
      for (let length = 0; ; this.#grow()) {
        const room = this.#buffer.length - length;
        length += readSync(file, this.#buffer, length, room, null);
        // A file of the disk gives less than there is room for at its end only.
        if (length < this.#buffer.length) return this.#buffer.subarray(0, length);
      }
    } finally {
      closeSync(file);
    }
  }

  #grow(): void {
    const larger = Buffer.allocUnsafeSlow(this.#buffer.length * 2);
    this.#buffer.copy(larger);
    this.#buffer = larger;
  }
}
