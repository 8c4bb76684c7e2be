/**
 * Times several ways of doing one job so that their ratios hold on a machine whose speed drifts: the input
 * is cut into batches, every way takes each batch in turn, and the fastest of several rounds counts. The clock is
 * that of the processor, since a shared machine takes time away.
 */

export interface Contestant<Item> {
  readonly name: string;
  run(items: readonly Item[]): void;
}

/** Processor seconds that each contestant needs for all items, by name. */
export function race<Item>(
  contestants: readonly Contestant<Item>[],
  items: readonly Item[],
  sizeOf: (item: Item) => number,
  { batchBytes = 4e6, rounds = 5 } = {},
): Map<string, number> {
  const seconds = new Map<string, number>(contestants.map(({ name }) => [name, 0]));
  for (const batch of batchesOf(items, sizeOf, batchBytes)) {
    const best = new Map<string, number>();
    for (let round = 0; round < rounds; round++) {
      for (const { name, run } of contestants) {
        const started = process.cpuUsage();
        run(batch);
        const { user, system } = process.cpuUsage(started);
        const spent = (user + system) / 1e6;
        best.set(name, Math.min(best.get(name) ?? Number.POSITIVE_INFINITY, spent));
      }
    }
    for (const [name, spent] of best) seconds.set(name, (seconds.get(name) as number) + spent);
  }
  return seconds;
}

function batchesOf<Item>(items: readonly Item[], sizeOf: (item: Item) => number, bytes: number): Item[][] {
  const batches: Item[][] = [];
  let size = Number.POSITIVE_INFINITY;
  for (const item of items) {
    if (size >= bytes) {
      batches.push([]);
      size = 0;
    }
    (batches.at(-1) as Item[]).push(item);
    size += sizeOf(item);
  }
  return batches;
}
