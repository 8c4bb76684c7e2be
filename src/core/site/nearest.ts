/** Which of many paths lie nearest to a folder, without looking at each. */
import { type Folder, folderAround } from './folders.ts';
import { folderOf } from './inventory.ts';
import { segmentsTo } from './walk.ts';

/** Fewer paths are all looked at. */
const FEW = 32;

/** Files by the folders around them: for each, the `most` that lie least deep. */
export class Nearest {
  #byFolder: Map<Folder, Placed[]> | null = null;

  constructor(
    readonly paths: readonly string[],
    readonly folders: ReadonlyMap<string, Folder>,
    readonly most: number,
  ) {}

  /** Up to `most` of the paths, those with the fewest steps from `folder` first, then in the order of their names. */
  to(folder: string): string[] {
    const candidates =
      this.paths.length <= FEW
        ? this.paths.map((path) => ({ path, distance: segmentsTo(folder, path).length }))
        : this.#around(folder);
    return candidates
      .sort((a, b) => a.distance - b.distance || (a.path < b.path ? -1 : 1))
      .slice(0, this.most)
      .map(({ path }) => path);
  }

  /**
   * Those that come into question. Of all paths below one folder the least deep are the nearest to whatever leads
   * there from elsewhere: from each folder on the way up a few are enough.
   */
  #around(start: string): { readonly path: string; readonly distance: number }[] {
    this.#byFolder ??= this.#leastDeep();
    const found = new Map<string, number>();
    const nearest = folderAround(this.folders, start);
    const missing = stepsOf(start) - nearest.depth;
    /** How many were found at each distance, and how many nearer than anything further up can be. */
    const amounts: number[] = [];
    let near = 0;
    let up = 0;
    for (let folder: Folder | null = nearest; folder !== null; folder = folder.above) {
      for (const { path, depth } of this.#byFolder.get(folder) ?? []) {
        if (found.has(path)) continue;
        // Right for the nearest: others may share a folder further in.
        const distance = missing + up + depth - folder.depth + 1;
        found.set(path, distance);
        if (distance < missing + up + 2) near++;
        else amounts[distance] = (amounts[distance] ?? 0) + 1;
      }
      if (near >= this.most) break;
      up++;
      near += amounts[missing + up + 1] ?? 0;
    }
    return Array.from(found, ([path, distance]) => ({ path, distance }));
  }

  /** For each folder on the way to any path, the `most` paths below it that lie least deep. */
  #leastDeep(): Map<Folder, Placed[]> {
    const byFolder = new Map<Folder, Placed[]>();
    const placed = this.paths.map((path) => {
      const folder = this.folders.get(folderOf(path)) as Folder;
      return { path, folder, depth: folder.depth };
    });
    placed.sort((a, b) => a.depth - b.depth || (a.path < b.path ? -1 : 1));
    for (const one of placed) {
      for (let folder: Folder | null = one.folder; folder !== null; folder = folder.above) {
        const some = byFolder.get(folder);
        if (some === undefined) byFolder.set(folder, [one]);
        else if (some.length < this.most) some.push(one);
        // Where a folder has enough, those around it have, too.
        else break;
      }
    }
    return byFolder;
  }
}

interface Placed {
  readonly path: string;
  readonly depth: number;
}

function stepsOf(folder: string): number {
  return folder.split('/').length - 1;
}
