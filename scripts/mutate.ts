/**
 * `npm run mutate`: makes small changes of meaning to rooms of the core, one after the other, and tells which of them no
 * test notices; with `--every=4` one in four, with `--from=1` other ones. Takes the names of rooms, or of files in them
 * (`check/reach.ts`); all of {@link tests} unless said. The tool for it is fetched when it is not there.
 */
import { execFileSync, spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import { parseArgs } from 'node:util';

const VERSION = '9.6.1';
const project = join(import.meta.dirname, '..');
const folder = join(project, 'node_modules/.cache/cravel/mutate');
const packages = join(folder, 'node_modules/@stryker-mutator');

/** The tests that are to notice a change in a room. */
const tests: Readonly<Record<string, readonly string[]>> = {
  judge: [
    'causes',
    'said',
    'corners',
    'sayings',
    'rules',
    'check',
    'grading',
    'parts',
    'asking',
    'load-order',
    'fragments',
    'apart',
    'meant',
    'runs',
    'mend',
    'rule-units',
    'visits',
  ],
  resolve: ['resolve', 'specifier', 'asking', 'corners', 'escape', 'check'],
  mend: [
    'corners',
    'check',
    'meant',
    'rules',
    'parts',
    'page',
    'load-order',
    'elements',
    'mend',
    'tag-edits',
    'wire',
    'move',
    'packing',
  ],
  check: [
    'taken',
    'names',
    'settled',
    'elements',
    'needed',
    'loads',
    'beside',
    'waits',
    'reach',
    'refused',
    'ledger',
    'second-look',
    'check',
    'load-order',
    'fragments',
    'apart',
    'runs',
    'who',
    'renewed',
    'rules',
    'grading',
    'asking',
    'corners',
    'specifier',
    'parts',
    'settings',
    'renew',
    'map',
    'causes',
  ],
  settings: ['settings', 'settings-edits', 'grading', 'corners', 'library', 'rules', 'move'],
};

interface Mutant {
  readonly id: string;
  readonly status: string;
  readonly mutatorName: string;
  readonly replacement?: string;
  readonly location: { readonly start: { readonly line: number; readonly column: number } };
}

fetchTool();
const { values, positionals } = parseArgs({
  options: { every: { type: 'string', default: '1' }, from: { type: 'string', default: '0' } },
  allowPositionals: true,
});
const rooms = positionals.length > 0 ? positionals : Object.keys(tests);
let [noticed, all] = [0, 0];
for (const room of rooms) {
  const { files } = mutate(room);
  let [ownNoticed, ownAll] = [0, 0];
  for (const [file, { mutants }] of Object.entries(files)) {
    for (const { id, status, mutatorName, replacement = '', location } of mutants) {
      const isMade = Number(id) % Number(values.every) === Number(values.from);
      if (!isMade || status === 'Ignored' || status === 'CompileError') continue;
      ownAll++;
      if (status === 'Killed' || status === 'Timeout') ownNoticed++;
      else
        console.log(`${file}:${location.start.line}:${location.start.column} ${mutatorName}: ${replacement}`);
    }
  }
  console.log(`${room}: ${share(ownNoticed, ownAll)}\n`);
  noticed += ownNoticed;
  all += ownAll;
}
console.log(`All: ${share(noticed, all)}`);

function share(some: number, whole: number): string {
  return `${some} of ${whole} changes are noticed, ${((100 * some) / whole).toFixed(1)} %`;
}

function mutate(roomOrFile: string): {
  readonly files: Readonly<Record<string, { readonly mutants: readonly Mutant[] }>>;
} {
  const [room = '', file] = roomOrFile.split('/');
  const report = join(folder, `${roomOrFile.replace('/', '-')}.json`);
  const settings = join(folder, `${room}.settings.json`);
  writeFileSync(
    settings,
    JSON.stringify({
      testRunner: 'core-tests',
      plugins: [join(import.meta.dirname, 'mutate-runner.mjs')],
      buildCommand: `node scripts/build-tests.mjs ${tests[room]?.join(' ') ?? ''}`,
      mutate: [file === undefined ? `src/core/${room}/**/*.ts` : `src/core/${roomOrFile}`],
      // Words are for people; tests hold those that matter.
      mutator: { excludedMutations: ['StringLiteral'] },
      coverageAnalysis: 'perTest',
      // What was loaded for a change stays in memory.
      maxTestRunnerReuse: 60,
      concurrency: availableParallelism(),
      // A test that has much to do is not one that never ends.
      timeoutMS: 20_000,
      reporters: ['json', 'progress-append-only'],
      jsonReporter: { fileName: report },
      tempDirName: join(folder, 'work'),
      // The compiler has no interface of the kind that is looked for.
      tsconfigFile: 'none.json',
    }),
  );
  rmSync(report, { force: true });
  spawnSync(process.execPath, [join(packages, 'core/bin/stryker.js'), 'run', settings], {
    cwd: project,
    stdio: ['ignore', 'inherit', 'inherit'],
    // What is made up by the hundred shows most in a few.
    env: { ...process.env, CRAVEL_MADE_UP: '25', CRAVEL_EVERY: values.every, CRAVEL_FROM: values.from },
  });
  return JSON.parse(readFileSync(report, 'utf8'));
}

function fetchTool(): void {
  if (existsSync(join(packages, 'core'))) return;
  console.log('Fetching the tool that makes the changes.');
  mkdirSync(folder, { recursive: true });
  writeFileSync(join(folder, 'package.json'), '{ "private": true }');
  execFileSync(
    'npm',
    ['install', '--ignore-scripts', '--no-audit', '--no-fund', `@stryker-mutator/core@${VERSION}`],
    {
      cwd: folder,
      stdio: 'inherit',
    },
  );
}
