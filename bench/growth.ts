/**
 * `npm run bench -- --growth`: each thing that a site can grow in, doubled four times: how much more than twice the
 * processor time and the memory each doubling takes, on average. 1 is linear, 2 the square; the machine's caches and the
 * collector alone make it 1.1. Each size is measured in a process of its own; rows that grow by more than a quarter are
 * named at the end. `--growth=<words>` measures only rows with these words in their names.
 */
import { spawnSync } from 'node:child_process';
import { type Row, rows } from './growth-rows.ts';

const FACTORS = [1, 2, 4, 8, 16];
const MOST = 1.25;
/** The smallest size is doubled until it takes as many milliseconds: below, it is the engine's start that is measured. */
const LEAST = 50;
/** A shared machine is slow now and then: a row that fails is measured again, and the least of all times counts. */
const TRIES = 2;
/** Megabytes below which it is the engine's own that is measured. */
const LITTLE = 32;

interface Taken {
  readonly time: number;
  readonly memory: number;
}

const [, argument = ''] = process.argv.find((word) => word.startsWith('--growth'))?.split('=') ?? [];
const asked = process.argv.find((word) => word.startsWith('--row='))?.slice('--row='.length);

if (asked !== undefined) await measure(asked);
else race();

/** One size of one row, measured in this process: `<row>:<size>`. */
async function measure(name: string): Promise<void> {
  const [index, size] = name.split(':').map(Number);
  const row = rows[index as number];
  if (row === undefined) throw new Error(`no row ${name}`);
  // The engine gets to know the code by a small size.
  for (let round = 0; round < 2; round++) await (await row.prepare(Math.max(1, Math.round(row.size / 4))))();
  const run = await row.prepare(size as number);
  globalThis.gc?.();
  const before = process.memoryUsage().rss;
  const begun = performance.now();
  let time = Number.POSITIVE_INFINITY;
  for (let round = 0; round < 4 && (round < 2 || performance.now() - begun < 500); round++) {
    const started = process.cpuUsage();
    await run();
    const { user, system } = process.cpuUsage(started);
    time = Math.min(time, (user + system) / 1000);
  }
  const memory = process.resourceUsage().maxRSS / 1024 - before / 2 ** 20;
  console.log(JSON.stringify({ time, memory: Math.max(0, memory) }));
}

function race(): void {
  const words = argument.split('+');
  const wanted = [...rows.entries()].filter(([, { name }]) => words.every((word) => name.includes(word)));
  const heads = FACTORS.map((factor) => `× ${factor}`.padStart(9)).join('');
  console.log(`${'row'.padEnd(58)}${'smallest'.padStart(10)}${heads}   time  memory\n`);
  const failing: string[] = [];
  for (const [index, row] of wanted) if (!raceOne(index, row)) failing.push(row.name);
  console.log(
    failing.length === 0
      ? '\nEvery row grows as its input.'
      : `\nThese grow faster than their input:\n  ${failing.join('\n  ')}`,
  );
  process.exitCode = failing.length === 0 ? 0 : 1;
}

/** True where a row grows as its input does. */
function raceOne(index: number, { name, size, most = Number.POSITIVE_INFINITY }: Row): boolean {
  let smallest = size;
  let first = takenBy(index, smallest);
  while (first.time < LEAST && smallest * 32 <= most) {
    smallest *= 2;
    first = takenBy(index, smallest);
  }
  let taken = [first, ...FACTORS.slice(1).map((factor) => takenBy(index, smallest * factor))];
  const growth = () => ({ time: growthOf(taken, 'time', 10), memory: growthOf(taken, 'memory', LITTLE) });
  const fails = () => growth().time > MOST || growth().memory > MOST;
  for (let tries = 1; tries < TRIES && fails(); tries++) {
    const again = FACTORS.map((factor) => takenBy(index, smallest * factor));
    taken = taken.map((one, at) => least(one, again[at] as Taken));
  }
  const times = taken.map(({ time }) => `${time.toFixed(0)} ms`.padStart(9)).join('');
  const shown = `${growth().time.toFixed(2).padStart(7)} ${growth().memory.toFixed(2).padStart(7)}`;
  console.log(
    `${name.padEnd(58)}${smallest.toLocaleString('en').padStart(10)}${times}${shown}${fails() ? '  fails' : ''}`,
  );
  return !fails();
}

function least(one: Taken, other: Taken): Taken {
  return { time: Math.min(one.time, other.time), memory: Math.min(one.memory, other.memory) };
}

/** How much more than twice as much each doubling takes, by the line that fits all best (least squares of the logarithms). */
function growthOf(taken: readonly Taken[], what: keyof Taken, floor: number): number {
  const points = taken.map((one, at) => ({
    x: Math.log(FACTORS[at] as number),
    y: Math.log(Math.max(one[what], floor)),
  }));
  const mean = (of: (point: { x: number; y: number }) => number) =>
    points.reduce((sum, point) => sum + of(point), 0) / points.length;
  const [x, y] = [mean((point) => point.x), mean((point) => point.y)];
  const slope = mean((point) => (point.x - x) * (point.y - y)) / mean((point) => (point.x - x) ** 2);
  return 2 ** (slope - 1);
}

function takenBy(index: number, size: number): Taken {
  const { stdout, stderr, signal } = spawnSync(
    process.execPath,
    ['--expose-gc', '--single-threaded-gc', process.argv[1] as string, '--growth', `--row=${index}:${size}`],
    { encoding: 'utf8', timeout: 180_000, killSignal: 'SIGKILL' },
  );
  if (signal !== null) return { time: 180_000, memory: 0 };
  try {
    return JSON.parse(stdout);
  } catch {
    throw new Error(stderr);
  }
}
