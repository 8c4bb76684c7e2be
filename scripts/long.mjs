// Runs the tests that make things up with far more of it: `npm run long`, or `npm run long -- 100` for the amount.
import { spawnSync } from 'node:child_process';

const [runs = '40'] = process.argv.slice(2);
const env = { ...process.env, CRAVEL_RUNS: runs, CRAVEL_SOUP: String(Number(runs) * 2000) };
const files = [
  'test/browser/scaffold.test.ts',
  'test/core/html-tokens.test.ts',
  'test/core/css-tokens.test.ts',
];
const { status } = spawnSync(process.execPath, ['--import', 'tsx', '--test', ...files], {
  env,
  stdio: 'inherit',
});
process.exitCode = status ?? 1;
