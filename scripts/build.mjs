// Builds the program: one file that starts quickly, and a chunk for each command that is loaded when called.
import { execFileSync } from 'node:child_process';
import {
  chmodSync,
  copyFileSync,
  existsSync,
  readdirSync,
  readFileSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { build } from 'esbuild';

const root = join(dirname(fileURLToPath(import.meta.url)), '..');
const { version } = JSON.parse(readFileSync(join(root, 'package.json'), 'utf8'));
rmSync(join(root, 'dist'), { recursive: true, force: true });

const common = {
  absWorkingDir: root,
  outdir: 'dist',
  bundle: true,
  minify: true,
  metafile: true,
  mainFields: ['module', 'main'],
  legalComments: 'none',
  format: 'esm',
};

const { metafile } = await build({
  ...common,
  entryPoints: ['src/cravel.ts', 'src/api.ts'],
  splitting: true,
  platform: 'node',
  target: 'node20',
  // Two that make `ws` faster where somebody has them.
  external: ['bufferutil', 'utf-8-validate'],
  // Parts of the report's page are built in as they are.
  loader: { '.css': 'text', '.script': 'text' },
  chunkNames: 'part-[hash]',
  define: { CRAVEL_VERSION: JSON.stringify(version) },
  // Bundled CommonJS packages ask for Node's own modules by `require`.
  banner: {
    js: "import { createRequire as makeRequire } from 'node:module'; const require = makeRequire(import.meta.url);",
  },
});
// The core alone: one file without a module of Node's.
const core = await build({ ...common, entryPoints: ['src/core.ts'], platform: 'browser', target: 'es2022' });
// Scripts for pages of a site, and the deck.
const pages = await build({
  ...common,
  entryPoints: {
    added: 'src/serve/page/added.ts',
    looked: 'src/serve/page/looked.ts',
    deck: 'src/serve/page/deck/deck.tsx',
  },
  outdir: 'dist/preview',
  format: 'iife',
  platform: 'browser',
  target: 'es2022',
  jsx: 'automatic',
  jsxImportSource: 'preact',
});
const deck = join(root, 'src/serve/page/deck');
copyFileSync(join(deck, 'deck.html'), join(root, 'dist/preview/deck.html'));
// The deck has the colours of the report.
const styles = [join(root, 'src/show/html/colours.css'), join(deck, 'deck.css')];
writeFileSync(
  join(root, 'dist/preview/deck.css'),
  styles.map((path) => readFileSync(path, 'utf8')).join('\n'),
);
chmodSync(join(root, 'dist/cravel.js'), 0o755);
writeFileSync(
  join(root, 'dist/LICENSES.txt'),
  licences(Object.keys({ ...metafile.inputs, ...core.metafile.inputs, ...pages.metafile.inputs })),
);

const compiler = createRequire(import.meta.url).resolve('typescript/package.json');
execFileSync(
  process.execPath,
  [join(dirname(compiler), 'bin/tsc'), '-p', join(root, 'tsconfig.types.json')],
  {
    stdio: 'inherit',
  },
);

/** The licences of the packages that are bundled. */
function licences(inputs) {
  const packages = new Set(
    inputs.flatMap((path) => /node_modules\/((?:@[^/]+\/)?[^/]+)\//.exec(path)?.[1] ?? []),
  );
  return [...packages]
    .sort()
    .map((name) => {
      const folder = join(root, 'node_modules', name);
      const about = JSON.parse(readFileSync(join(folder, 'package.json'), 'utf8'));
      const file = readdirSync(folder).find((entry) => /^licen[cs]e/i.test(entry));
      const text =
        file !== undefined && existsSync(join(folder, file)) ? readFileSync(join(folder, file), 'utf8') : '';
      return `${name} ${about.version} (${about.license})\n\n${text.trim()}\n`;
    })
    .join(`\n${'-'.repeat(80)}\n\n`);
}
