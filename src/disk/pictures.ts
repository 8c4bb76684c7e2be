/** Writes pictures to a folder that somebody named, which is made where it is missing. */
import { fail } from '../core/errors.ts';
import { around, below, type DiskPath } from './disk-path.ts';
import { mkdirSync } from './fs.ts';
import { reasonOf } from './reason.ts';
import { writeWhole } from './write-whole.ts';

/** Throws a `CravelError` where it cannot be written. */
export function writePicture(folder: DiskPath, path: string, bytes: Uint8Array): void {
  const file = below(folder, path);
  try {
    mkdirSync(around(file), { recursive: true });
  } catch (error) {
    throw fail('refused', around(file), reasonOf(error));
  }
  writeWhole(file, [bytes]);
}
