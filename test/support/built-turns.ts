/** The program that takes turns, as one file that starts fast. */

import { join } from 'node:path';
import { buildSync } from 'esbuild';
import { projectFolder } from './program.ts';

/** Writes it to `file`, a module. */
export function buildTurns(file: string): void {
  buildSync({
    entryPoints: [join(projectFolder, 'test/support/turns.ts')],
    outfile: file,
    bundle: true,
    platform: 'node',
    format: 'esm',
    banner: {
      js: "import { createRequire } from 'node:module'; const require = createRequire(import.meta.url);",
    },
  });
}
