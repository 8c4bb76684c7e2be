/** Reads whole files of a project. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fail } from '../core/errors.ts';
import { reasonOf } from './reason.ts';

/** The bytes of a file below `root`. Throws a `CravelError` that names it where it cannot be read. */
export function loadFile(root: string, path: string): Uint8Array {
  try {
    return readFileSync(join(root, path));
  } catch (error) {
    throw fail('refused', join(root, path), reasonOf(error));
  }
}
