/** The digest of a file, however large it is. */

import { createHash } from 'node:crypto';
import type { Algorithm } from '../core/site/integrity.ts';
import type { DiskPath } from './disk-path.ts';
import { closeSync, openSync, readSync } from './fs.ts';

/** In base64. */
export function digestOf(bytes: Uint8Array, algorithm: Algorithm): string {
  return createHash(algorithm).update(bytes).digest('base64');
}

/** In base64; null where the file cannot be read. */
export function digestOfFile(path: DiskPath, algorithm: Algorithm): string | null {
  const hash = createHash(algorithm);
  const piece = Buffer.allocUnsafe(1 << 20);
  let handle: number | null = null;
  try {
    handle = openSync(path, 'r');
    for (let length = -1; length !== 0; ) {
      length = readSync(handle, piece, 0, piece.length, null);
      hash.update(piece.subarray(0, length));
    }
    return hash.digest('base64');
  } catch {
    return null;
  } finally {
    if (handle !== null) closeSync(handle);
  }
}
