/** The digest of a file, however large it is. */

import { createHash, type Hash } from 'node:crypto';
import type { Algorithm } from '../core/site/integrity.ts';
import type { DiskPath } from './disk-path.ts';
import { closeSync, openSync, readSync } from './fs.ts';

const PIECE = 1 << 20;

/** In base64. */
export function digestOf(bytes: Uint8Array, algorithm: Algorithm): string {
  return createHash(algorithm).update(bytes).digest('base64');
}

/** In base64; null where the file cannot be read. */
export function digestOfFile(path: DiskPath, algorithm: Algorithm): string | null {
  try {
    return hashOf(path, algorithm).digest('base64');
  } catch {
    return null;
  }
}

/** SHA-256 in hex; throws where the file cannot be read. */
export function hashOfFile(path: DiskPath): string {
  return hashOf(path, 'sha256').digest('hex');
}

function hashOf(path: DiskPath, algorithm: Algorithm): Hash {
  const hash = createHash(algorithm);
  for (const piece of piecesOf(path)) hash.update(piece);
  return hash;
}

/** What a file holds, never in memory as a whole: each piece is valid until the next is asked for. */
export function* piecesOf(path: DiskPath): Iterable<Uint8Array> {
  const handle = openSync(path, 'r');
  const buffer = Buffer.allocUnsafe(PIECE);
  try {
    for (let length = -1; length !== 0; ) {
      length = readSync(handle, buffer, 0, PIECE, null);
      if (length > 0) yield buffer.subarray(0, length);
    }
  } finally {
    closeSync(handle);
  }
}
