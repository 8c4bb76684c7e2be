/** Lookalikes: files and folders of a site that one may have had in mind when writing another path. */
import { groupBy } from '../group-by.ts';
import { onceFor } from '../once-for.ts';
import { foldersOf } from './folders.ts';
import { fold, type Inventory, nameOf } from './inventory.ts';
import { Nearest } from './nearest.ts';

export interface Lookalikes {
  /** Paths (folders end in `/`) that differ from `path` by letter case or Unicode form at most. */
  sameFold(path: string): readonly string[];
  /**
   * Files that end in the same steps as `steps`, letter case and Unicode form aside: a few of those that share the most,
   * the nearest to `folder` first, then of those that share fewer, down to `least`.
   */
  sameEnd(steps: readonly string[], folder: string, least: number): readonly Ending[];
}

/** A file, and how many of its last steps are shared. */
interface Ending {
  readonly path: string;
  readonly shared: number;
}

/** Files that come into question for one end, and steps that are compared, at most. */
const MOST = 16;
const MOST_STEPS = 16;

/** The lookalikes of an inventory, indexed once when first asked for. */
export const lookalikesOf = onceFor((inventory: Inventory): Lookalikes => {
  const byFold = groupBy([...inventory.files, ...inventory.folders], fold);
  const ends = new End([...inventory.files], 0, inventory);
  return {
    sameFold: (path) => byFold.get(fold(path)) ?? [],
    sameEnd: (steps, folder, least) => sameEnd(ends, steps, folder, least),
  };
});

function sameEnd(ends: End, steps: readonly string[], folder: string, least: number): Ending[] {
  const way: End[] = [];
  let end: End | undefined = ends;
  for (let back = 1; back <= Math.min(steps.length, MOST_STEPS); back++) {
    end = end?.before(fold(steps[steps.length - back] as string));
    if (end === undefined) break;
    way.push(end);
  }
  const endings = new Map<string, Ending>();
  for (let shared = way.length; shared >= least && endings.size < MOST; shared--) {
    for (const path of (way[shared - 1] as End).nearest(folder))
      if (!endings.has(path)) endings.set(path, { path, shared });
  }
  return [...endings.values()].slice(0, MOST);
}

/** The files that end in some steps, by the step before; worked out as far as somebody asks. */
class End {
  #before: Map<string, End> | null = null;
  #nearest: Nearest | null = null;

  constructor(
    readonly paths: readonly string[],
    readonly steps: number,
    readonly inventory: Inventory,
  ) {}

  before(step: string): End | undefined {
    this.#before ??= new Map(
      [...groupBy(this.paths, (path) => fold(stepFromEnd(path, this.steps)))].map(([name, paths]) => [
        name,
        new End(paths, this.steps + 1, this.inventory),
      ]),
    );
    return step === '' ? undefined : this.#before.get(step);
  }

  nearest(folder: string): string[] {
    this.#nearest ??= new Nearest(this.paths, foldersOf(this.inventory), MOST);
    return this.#nearest.to(folder);
  }
}

/** The name of a file, or of the folder so many steps before it; empty where there is none. */
function stepFromEnd(path: string, back: number): string {
  if (back === 0) return nameOf(path);
  let end = path.length;
  for (let step = 0; step < back && end >= 0; step++) end = end === 0 ? -1 : path.lastIndexOf('/', end - 1);
  return end <= 0 ? '' : path.slice(path.lastIndexOf('/', end - 1) + 1, end);
}
