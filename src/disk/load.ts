/** Reads whole files of a project. */

import { fail } from '../core/errors.ts';
import { below, type DiskPath } from './disk-path.ts';
import { readFileSync } from './fs.ts';
import { reasonOf } from './reason.ts';

/** The bytes of a file below `root`. Throws a `CravelError` that names it where it cannot be read. */
export function loadFile(root: DiskPath, path: string): Uint8Array {
  try {
    return readFileSync(below(root, path));
  } catch (error) {
    throw fail('refused', below(root, path), reasonOf(error));
  }
}
