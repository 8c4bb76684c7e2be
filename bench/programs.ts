/**
 * `npm run bench -- <folder>`, second part: the built program against the yardsticks, each a process of its own, in
 * turn: a whole check against htmlparser2's bare event loop over the same pages, reading the files included, and how
 * long the program takes to start against `node -e 0`. The fastest of several rounds counts.
 */
import { spawnSync } from 'node:child_process';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const root = join(import.meta.dirname, '../../..');
const program = join(root, 'dist/cravel.js');

/** By what is measured, in seconds and megabytes. */
type Taken = Readonly<Record<string, number>>;

/** Runs a program in a process of its own. */
function run(args: readonly string[]): { readonly waited: number; readonly stderr: string } {
  const started = performance.now();
  const { stderr } = spawnSync(process.execPath, args, {
    encoding: 'utf8',
    stdio: ['ignore', 'ignore', 'pipe'],
  });
  return { waited: (performance.now() - started) / 1000, stderr };
}

/** What a program takes that is loaded with its measure: both run our code in one thread. */
function work(args: readonly string[]): Taken {
  const { waited, stderr } = run(['--import', join(root, 'bench/usage.mjs'), ...args]);
  const [, processor, memory] = /^took (\S+) (\S+)$/m.exec(stderr) ?? [];
  if (processor === undefined) throw new Error(`${args.join(' ')}: ${stderr}`);
  return { waited, processor: Number(processor), memory: Number(memory) };
}

/** The time that somebody waits for a program with nothing else loaded. */
function wait(args: readonly string[]): Taken {
  return { waited: run(args).waited };
}

type Call = readonly [name: string, args: readonly string[]];

/** The least that each call takes in any of the rounds, as multiples of the first call. */
function compare(rounds: number, measure: (args: readonly string[]) => Taken, calls: readonly Call[]): void {
  const best = new Map<string, Record<string, number>>();
  for (let round = 0; round < rounds; round++) {
    for (const [name, args] of calls) {
      const least = best.get(name) ?? {};
      for (const [what, amount] of Object.entries(measure(args)))
        least[what] = Math.min(amount, least[what] ?? amount);
      best.set(name, least);
    }
  }
  const yardstick = calls[0]?.[0] as string;
  const unit = best.get(yardstick) as Record<string, number>;
  for (const [name, least] of best) {
    console.log(`  ${name}`);
    for (const [what, amount] of Object.entries(least)) {
      const shown = what === 'memory' ? `${amount.toFixed(0)} MB` : `${amount.toFixed(2)} s`;
      const ratio = `${(amount / (unit[what] as number)).toFixed(2)} × ${yardstick}`;
      console.log(`    ${what.padEnd(12)} ${shown.padStart(9)}  ${ratio}`);
    }
  }
  console.log();
}

export function raceOfPrograms(folder: string): void {
  console.log('Whole check');
  const report = join(tmpdir(), 'cravel-bench.txt');
  compare(4, work, [
    ['the bare loop', [join(root, 'bench/loop.mjs'), folder]],
    ['cravel check', [program, 'check', folder, '--out', report]],
  ]);
  console.log('Start');
  compare(10, wait, [
    ['node -e 0', ['-e', '0']],
    ['cravel --help', [program, '--help']],
    ['cravel check, the demo site', [program, 'check', join(root, 'demo/gullhaven'), '--out', report]],
  ]);
}
