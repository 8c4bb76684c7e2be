// Builds a benchmark as the program is built, since a test loader's code is slower, and runs it.
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { build } from 'esbuild';

const root = join(import.meta.dirname, '..');
const outfile = join(root, 'node_modules/.cache/cravel/bench.mjs');
await build({
  absWorkingDir: root,
  entryPoints: [process.argv.includes('--hostile') ? 'bench/hostile.ts' : 'bench/reading.ts'],
  outfile,
  bundle: true,
  minify: true,
  packages: 'external',
  platform: 'node',
  target: 'node20',
  format: 'esm',
});
await import(pathToFileURL(outfile).href);
