/** Reads the notes that Cravel makes for itself: they lie where anybody may have written to them. */

import { shape } from '../core/shape/shape.ts';
import type { DiskPath } from './disk-path.ts';
import { readFileSync } from './fs.ts';
import { statOrNull } from './stat.ts';

/** What a file holds; null where there is none, and where it is not of that shape. */
export function ownJson<T extends object>(form: new () => T, path: DiskPath): T | null {
  if (statOrNull(path)?.isFile() !== true) return null;
  try {
    const { value, problems } = shape(form, JSON.parse(readFileSync(path).toString()));
    return problems.length === 0 ? value : null;
  } catch {
    return null;
  }
}
