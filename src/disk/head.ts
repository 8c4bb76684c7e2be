/** Reads the first bytes of a file. */

import { HEAD_SIZE } from '../core/read/content.ts';
import type { DiskPath } from './disk-path.ts';
import { closeSync, openSync, readSync } from './fs.ts';

/** Null where the file cannot be read. */
export function readHead(path: DiskPath): Uint8Array | null {
  const head = new Uint8Array(HEAD_SIZE);
  let handle: number | null = null;
  try {
    handle = openSync(path, 'r');
    return head.subarray(0, readSync(handle, head, 0, HEAD_SIZE, 0));
  } catch {
    return null;
  } finally {
    if (handle !== null) closeSync(handle);
  }
}
