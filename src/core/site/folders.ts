/** The folders of a site as a tree: from each the way up without taking paths apart. */
import { onceFor } from '../once-for.ts';
import { folderOf, type Inventory } from './inventory.ts';

export interface Folder {
  /** Ends in `/`; the root is the empty string. */
  readonly path: string;
  /** The folder around it; null for the root. */
  readonly above: Folder | null;
  readonly depth: number;
}

/** Every folder of the inventory by its path; made once. */
export const foldersOf = onceFor(({ folders }: Inventory) => treeOf(folders));

function treeOf(paths: ReadonlySet<string>): ReadonlyMap<string, Folder> {
  const folders = new Map<string, Folder>();
  // What is shorter comes first, and so does what a folder lies in.
  for (const path of [...paths].sort((a, b) => a.length - b.length)) {
    const above = path === '' ? null : (folders.get(folderOf(path.slice(0, -1))) ?? null);
    folders.set(path, { path, above, depth: above === null ? 0 : above.depth + 1 });
  }
  return folders;
}

/** The folder of that path, or the nearest one around it that there is. */
export function folderAround(folders: ReadonlyMap<string, Folder>, path: string): Folder {
  for (let here = path; ; here = folderOf(here.slice(0, -1))) {
    const folder = folders.get(here);
    if (folder !== undefined) return folder;
  }
}

/** What `say` says of each folder on the way from one to the root, itself first; each folder is asked once. */
export function inherited<T>(say: (folder: Folder) => T | null): (folder: Folder) => T | null {
  const said = new Map<Folder, T | null>();
  return (start) => {
    const way: Folder[] = [];
    let here: Folder | null = start;
    while (here !== null && !said.has(here)) {
      way.push(here);
      here = here.above;
    }
    let answer = here === null ? null : (said.get(here) as T | null);
    for (const folder of way.reverse()) {
      answer ??= say(folder);
      said.set(folder, answer);
    }
    return answer;
  };
}
