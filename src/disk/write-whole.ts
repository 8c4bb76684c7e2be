/** Writes a file as a whole or not at all. */
import { renameSync, rmSync, writeFileSync } from 'node:fs';
import { fail } from '../core/errors.ts';
import { reasonOf } from './reason.ts';

/** Replaces what is there. Throws a `CravelError` where the file cannot be written. */
export function writeWhole(file: string, text: string): void {
  const beside = `${file}.${process.pid}.part`;
  try {
    writeFileSync(beside, text);
    renameSync(beside, file);
  } catch (error) {
    rmSync(beside, { force: true });
    throw fail('refused', file, reasonOf(error));
  }
}
