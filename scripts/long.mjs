// Runs the tests that make things up with far more of it: `npm run long`, or `npm run long -- 100` for the amount. What
// was done is noted in a file, and not done again; `npm run long -- --again` starts anew.
import { spawnSync } from 'node:child_process';
import { mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';

const words = process.argv.slice(2);
const amount = Number(words.find((word) => /^\d+$/.test(word)) ?? 40);
const results = join(import.meta.dirname, '../node_modules/.cache/cravel/long.json');
if (words.includes('--again')) rmSync(results, { force: true });

const kills = (call) => ({
  name: `kills of ${call}`,
  file: 'test/program/kills.test.ts',
  env: { CRAVEL_KILLS: String(amount * 4), CRAVEL_KILL_PAGES: '300', CRAVEL_KILL_CALL: call },
});
const parts = [
  { name: 'loads', file: 'test/browser/loads.test.ts', env: { CRAVEL_PAGES: String(amount * 10) } },
  { name: 'moved starters', file: 'test/browser/safely.test.ts', env: { CRAVEL_RUNS: '1' } },
  { name: 'projects', file: 'test/browser/scaffold.test.ts', env: { CRAVEL_RUNS: String(amount) } },
  ...['judge', 'load-order'].map((name) => ({
    name: `the browser's word: ${name}`,
    file: `test/browser/${name}.test.ts`,
    env: { CRAVEL_BROWSER_SAYS: 'again' },
  })),
  { name: 'packed', file: 'test/browser/packed.test.ts', env: { CRAVEL_RUNS: '1' } },
  ...['html', 'css'].map((format) => ({
    name: `${format} soup`,
    file: `test/core/${format}-tokens.test.ts`,
    env: { CRAVEL_SOUP: String(amount * 2000) },
  })),
  { name: 'turns', file: 'test/disk/turns.test.ts', env: { CRAVEL_TURNS: String(amount * 85) } },
  { name: 'swaps', file: 'test/disk/swaps.test.ts', env: { CRAVEL_SWAPS: String(amount * 25) } },
  {
    name: 'mutations',
    file: 'test/core/mutations.test.ts',
    env: { CRAVEL_MUTATIONS: String(amount * 250) },
  },
  {
    name: 'changes',
    file: 'test/core/renew.test.ts',
    env: { CRAVEL_MADE_UP: String(amount * 250) },
  },
  ...['settled', 'mend', 'reach'].map((name) => ({
    name,
    file: `test/core/${name}.test.ts`,
    env: { CRAVEL_MADE_UP: String(amount * 50) },
  })),
  { name: 'moves', file: 'test/core/move.test.ts', env: { CRAVEL_MOVES: String(amount * 2500) } },
  { name: 'odd values', file: 'test/program/odd-values.test.ts', env: { CRAVEL_ODD_STEP: '1' } },
  ...['wire', 'page', 'parts', 'adopt', 'mend', 'move', 'pack', 'scaffold', 'keep'].map(kills),
];

const done = readResults();
for (const { name, file, env } of parts) {
  const known = done[name];
  if (known?.amount >= amount && known.passed) {
    console.log(`${name}: passed before, with ${known.amount}`);
    continue;
  }
  const started = performance.now();
  const { status, stdout } = spawnSync(process.execPath, ['--import', 'tsx', '--test', file], {
    env: { ...process.env, ...env },
    stdio: ['ignore', 'pipe', 'inherit'],
    encoding: 'utf8',
  });
  const told = stdout
    .split('\n')
    .filter((line) => /^# (?!Subtest|tests|suites|pass|cancel|skip|todo)/.test(line));
  done[name] = {
    amount,
    passed: status === 0,
    seconds: Math.round((performance.now() - started) / 1000),
    told,
  };
  mkdirSync(dirname(results), { recursive: true });
  writeFileSync(results, JSON.stringify(done, null, 2));
  console.log(status === 0 ? `${name}: passed\n${told.join('\n')}` : stdout);
  if (status !== 0) process.exitCode = 1;
}

function readResults() {
  try {
    return JSON.parse(readFileSync(results, 'utf8'));
  } catch {
    return {};
  }
}
