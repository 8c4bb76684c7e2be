/** Lines of files, for reports that show them. */

import { decoderFor } from '../core/read/encoding.ts';
import { encodingOf } from '../core/read/written-as.ts';
import { below, type DiskPath } from './disk-path.ts';
import { readFileSync } from './fs.ts';

/** Gives lines of files below `root`, counted from 1; null where there is none. The last file is kept. */
export function linesOf(root: DiskPath): (file: string, line: number) => string | null {
  let known = '';
  let lines: readonly string[] = [];
  return (file, line) => {
    if (file !== known) {
      known = file;
      lines = read(below(root, file), file);
    }
    return lines[line - 1] ?? null;
  };
}

function read(path: DiskPath, file: string): string[] {
  try {
    const bytes = readFileSync(path);
    const text = decoderFor(encodingOf(file, bytes)).decode(bytes);
    return text.replace(/^\uFEFF/, '').split(/\r\n|\n|\r/);
  } catch {
    return [];
  }
}
