// Builds the tests for `npm test`, one file each and one for all of the core: so they start in a quarter of the time.
import { readdirSync, readFileSync, rmSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { build } from 'esbuild';

const root = join(import.meta.dirname, '..');
const outdir = join(root, '.tests');
rmSync(outdir, { recursive: true, force: true });

const filesIn = (folder) =>
  readdirSync(join(root, 'test', folder))
    .filter((name) => name.endsWith('.test.ts'))
    .sort();
const core = filesIn('core').map((name) => `import './core/${name}';`);

/** What a file says of its own place stays true. */
const places = {
  name: 'places',
  setup({ onLoad }) {
    onLoad({ filter: /[\\/](?:test[\\/].*|src[\\/]disk[\\/]package)\.ts$/ }, ({ path }) => ({
      contents: readFileSync(path, 'utf8')
        .replaceAll('import.meta.dirname', JSON.stringify(dirname(path)))
        .replaceAll('import.meta.filename', JSON.stringify(path))
        .replaceAll('fileURLToPath(import.meta.url)', JSON.stringify(path)),
      loader: 'ts',
    }));
  },
};

const common = {
  absWorkingDir: root,
  outdir,
  bundle: true,
  platform: 'node',
  target: 'node20',
  format: 'esm',
  packages: 'external',
  outExtension: { '.js': '.mjs' },
  plugins: [places],
  loader: { '.css': 'text', '.script': 'text' },
  logLevel: 'warning',
};
// What lies in several of them is one module in a process, but two processes share nothing.
await build({
  ...common,
  outbase: 'test',
  entryPoints: [
    'test/support/seeded.ts',
    ...['browser', 'disk', 'program', 'web'].flatMap((folder) =>
      filesIn(folder).map((name) => `test/${folder}/${name}`),
    ),
  ],
});
await build({
  ...common,
  entryPoints: undefined,
  outdir: undefined,
  outfile: join(outdir, 'core.test.mjs'),
  outExtension: undefined,
  stdin: {
    contents: core.join('\n'),
    resolveDir: join(root, 'test'),
    sourcefile: 'core.test.ts',
    loader: 'ts',
  },
});
