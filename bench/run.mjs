// Builds a benchmark as the program is built, since a test loader's code is slower, and runs it.
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { build } from 'esbuild';

const benches = [
  ['--hostile', 'bench/hostile.ts'],
  ['--growth', 'bench/growth.ts'],
  ['--fuzz', 'bench/fuzz.ts'],
  ['--changes', 'bench/changes.ts'],
  ['--preview', 'bench/preview.ts'],
];
const root = join(import.meta.dirname, '..');
const outfile = join(root, 'node_modules/.cache/cravel/bench.mjs');
await build({
  absWorkingDir: root,
  entryPoints: [
    benches.find(([option]) => process.argv.some((word) => word.startsWith(option)))?.[1] ??
      'bench/reading.ts',
  ],
  outfile,
  bundle: true,
  minify: true,
  packages: 'external',
  loader: { '.css': 'text', '.script': 'text' },
  platform: 'node',
  target: 'node20',
  format: 'esm',
});
process.argv[1] = outfile;
await import(pathToFileURL(outfile).href);
