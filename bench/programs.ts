/**
 * `npm run bench -- <folder>`, second part: the built program against the yardsticks, each a process of its own, in
 * turn: a whole check in one thread against htmlparser2's bare event loop over the same pages, reading the files
 * included, and how long the program takes to start against `node -e 0`. The fastest of several rounds counts.
 */
import { spawnSync } from 'node:child_process';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const root = join(import.meta.dirname, '../../..');
const program = join(root, 'dist/cravel.js');

interface Taken {
  readonly seconds: number;
  readonly megabytes: number;
}

/** Processor time and memory of a program that is loaded with its measure. */
function work(args: readonly string[]): Taken {
  const usage = join(root, 'bench/usage.mjs');
  const { stderr } = spawnSync(process.execPath, ['--single-threaded', '--import', usage, ...args], {
    encoding: 'utf8',
    stdio: ['ignore', 'ignore', 'pipe'],
  });
  const [, seconds, megabytes] = /^took (\S+) (\S+)$/m.exec(stderr) ?? [];
  if (seconds === undefined) throw new Error(`${args.join(' ')}: ${stderr}`);
  return { seconds: Number(seconds), megabytes: Number(megabytes) };
}

/** The time that somebody waits for a program with nothing else loaded. */
function wait(args: readonly string[]): Taken {
  const started = performance.now();
  spawnSync(process.execPath, args, { stdio: 'ignore' });
  return { seconds: (performance.now() - started) / 1000, megabytes: 0 };
}

type Call = readonly [name: string, args: readonly string[]];

/** The least that each call takes in any of the rounds; the first call is the yardstick. */
function compare(rounds: number, measure: (args: readonly string[]) => Taken, calls: readonly Call[]): void {
  const best = new Map<string, Taken>();
  for (let round = 0; round < rounds; round++) {
    for (const [name, args] of calls) {
      const taken = measure(args);
      if (taken.seconds < (best.get(name)?.seconds ?? Number.POSITIVE_INFINITY)) best.set(name, taken);
    }
  }
  const yardstick = calls[0]?.[0] as string;
  const unit = (best.get(yardstick) as Taken).seconds;
  for (const [name, { seconds, megabytes }] of best) {
    const memory = megabytes > 0 ? `, ${megabytes.toFixed(0)} MB` : '';
    const ratio = `${(seconds / unit).toFixed(2).padStart(7)} × ${yardstick}`;
    console.log(`  ${name.padEnd(36)} ${seconds.toFixed(2).padStart(7)} s  ${ratio}${memory}`);
  }
  console.log();
}

export function raceOfPrograms(folder: string): void {
  console.log('Whole check, one thread');
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
