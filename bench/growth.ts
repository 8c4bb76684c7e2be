/**
 * `npm run bench -- --growth`: each thing that a site can grow in, doubled four times: how much more processor time and
 * memory the last size takes than sixteen times the first. 1 is linear. Each size is measured in a process of its own;
 * rows that grow by more than a quarter of that are named at the end. `--growth=<words>` measures only rows with these
 * words in their names.
 */
import { spawnSync } from 'node:child_process';
import { rows } from './growth-rows.ts';

const SIZES = [1, 2, 4, 8, 16];
const MOST = 1.25;
/** Below this, what is measured is the machine: milliseconds and megabytes. */
const FLOOR = { time: 30, memory: 16 };

type Measure = keyof typeof FLOOR;
type Taken = Readonly<Record<Measure, number>>;

const [, argument = ''] = process.argv.find((word) => word.startsWith('--growth'))?.split('=') ?? [];
const asked = process.argv.find((word) => word.startsWith('--row='))?.slice('--row='.length);

if (asked !== undefined) await measure(asked);
else race();

/** One size of one row, measured in this process: `<row>:<factor>`. */
async function measure(name: string): Promise<void> {
  const [index, factor] = name.split(':').map(Number);
  const row = rows[index as number];
  if (row === undefined) throw new Error(`no row ${name}`);
  // The engine gets to know the code by a small size.
  for (let round = 0; round < 3; round++) await (await row.prepare(Math.max(1, Math.round(row.size / 4))))();
  const run = await row.prepare(row.size * (factor as number));
  globalThis.gc?.();
  const before = process.memoryUsage().rss;
  let time = Number.POSITIVE_INFINITY;
  const begun = performance.now();
  for (let round = 0; round < 5 && (round < 2 || performance.now() - begun < 1500); round++) {
    const started = process.cpuUsage();
    await run();
    const { user, system } = process.cpuUsage(started);
    time = Math.min(time, (user + system) / 1000);
  }
  const memory = process.resourceUsage().maxRSS / 1024 - before / 2 ** 20;
  console.log(JSON.stringify({ time, memory: Math.max(0, memory) }));
}

function race(): void {
  const wanted = [...rows.entries()].filter(([, { name }]) =>
    argument.split('+').every((word) => name.includes(word)),
  );
  console.log(
    `${'row'.padEnd(58)}${'smallest'.padStart(10)}${SIZES.map((size) => `× ${size}`.padStart(9)).join('')}   time  memory\n`,
  );
  const failing: string[] = [];
  for (const [index, { name, size }] of wanted) {
    const taken = SIZES.map((factor) => takenBy(index, factor));
    const growth = { time: growthOf(taken, 'time'), memory: growthOf(taken, 'memory') };
    const times = taken.map(({ time }) => `${time.toFixed(0)} ms`.padStart(9)).join('');
    const shown = `${growth.time.toFixed(2).padStart(7)} ${growth.memory.toFixed(2).padStart(7)}`;
    const fails = growth.time > MOST || growth.memory > MOST;
    console.log(
      `${name.padEnd(58)}${size.toLocaleString('en').padStart(10)}${times}${shown}${fails ? '  fails' : ''}`,
    );
    if (fails) failing.push(name);
  }
  console.log(
    failing.length === 0
      ? '\nEvery row grows as its input.'
      : `\nThese grow faster than their input:\n  ${failing.join('\n  ')}`,
  );
  process.exitCode = failing.length === 0 ? 0 : 1;
}

function growthOf(taken: readonly Taken[], what: Measure): number {
  const first = Math.max((taken[0] as Taken)[what], FLOOR[what]);
  const last = Math.max((taken.at(-1) as Taken)[what], FLOOR[what]);
  return last / first / (SIZES.at(-1) as number);
}

function takenBy(index: number, factor: number): Taken {
  const { stdout, stderr, signal } = spawnSync(
    process.execPath,
    ['--expose-gc', process.argv[1] as string, '--growth', `--row=${index}:${factor}`],
    { encoding: 'utf8', timeout: 120_000 },
  );
  if (signal !== null) return { time: 120_000, memory: FLOOR.memory };
  try {
    return JSON.parse(stdout);
  } catch {
    throw new Error(stderr);
  }
}
