// Builds the tests for `npm test`, one file each and one for all of the core: so they start in a quarter of the time.
// With the names of tests of the core, these alone.
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
const named = process.argv.slice(2).map((name) => `${name}.test.ts`);
const core = (named.length > 0 ? named : filesIn('core')).map((name) => `import './core/${name}';`);

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
  // Asked for by name, as a copy that lies in the packages' folder has to.
  tsconfig: join(root, 'tsconfig.json'),
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
    ...(named.length > 0 ? [] : ['browser', 'disk', 'program', 'web']).flatMap((folder) =>
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
