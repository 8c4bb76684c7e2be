/** The inventory: every file of a site by its site path, and the folders that hold them. */

/**
 * The files of one site. A site path is `/`-separated, starts at the site's root and never
 * starts with `/`; a folder path ends in `/`, the root folder is the empty string.
 */
export interface Inventory {
  /** Site path of each file. */
  readonly files: ReadonlySet<string>;
  /** Every folder that holds anything, directly or further down, and the root. */
  readonly folders: ReadonlySet<string>;
  /** Folders of which nobody can tell what they hold. */
  readonly closed: ReadonlySet<string>;
  /** Files, and folders (theirs end in `/`), that are there and never published, each with the reason. */
  readonly hidden: ReadonlyMap<string, string>;
  /** Folders that are projects of their own, and so no part of this site. */
  readonly borders: ReadonlySet<string>;
  /** Links that lead nowhere, each with what is written in it. */
  readonly deadLinks: ReadonlyMap<string, string>;
  /** Files that are there once more by way of a link in the site, each with its own path. */
  readonly aliases: ReadonlyMap<string, string>;
}

/** What is known of a site beside its files. */
export type BesideFiles = Omit<Inventory, 'files' | 'folders'>;

const nothing: BesideFiles = {
  closed: new Set(),
  hidden: new Map(),
  borders: new Set(),
  deadLinks: new Map(),
  aliases: new Map(),
};

export function makeInventory(paths: Iterable<string>, beside: Partial<BesideFiles> = {}): Inventory {
  const files = new Set(paths);
  const folders = new Set<string>(['']);
  const { hidden, deadLinks, borders } = { ...nothing, ...beside };
  for (const path of [...files, ...hidden.keys(), ...borders, ...deadLinks.keys()]) {
    const last = path.endsWith('/') ? path.slice(0, -1) : path;
    for (let folder = folderOf(last); !folders.has(folder); folder = folderOf(folder.slice(0, -1))) {
      folders.add(folder);
    }
  }
  return { ...nothing, ...beside, files, folders };
}

/** True where a path leads into a folder of which nobody can tell what it holds. */
export function isBehindClosed({ closed }: Inventory, path: string): boolean {
  if (closed.size === 0) return false;
  for (
    let folder = path.endsWith('/') ? path : `${path}/`;
    folder !== '';
    folder = folderOf(folder.slice(0, -1))
  )
    if (closed.has(folder)) return true;
  return false;
}

/** The folder of another project that a path leads into; null where it leads into none. */
export function borderOn({ borders }: Inventory, path: string): string | null {
  if (borders.size === 0) return null;
  for (
    let folder = path.endsWith('/') ? path : `${path}/`;
    folder !== '';
    folder = folderOf(folder.slice(0, -1))
  )
    if (borders.has(folder)) return folder;
  return null;
}

/** The path of the file itself, where one of that name is there once more by way of a link. */
export function ownPath({ aliases }: Inventory, path: string): string {
  const own = aliases.get(path);
  return own !== undefined && nameOf(own) === nameOf(path) ? own : path;
}

/** The folder a file is in, with its closing `/`; the empty string for the root. */
export function folderOf(path: string): string {
  return path.slice(0, path.lastIndexOf('/') + 1);
}

/** The last step of a path: a file's name, or a folder's name without its `/`. */
export function nameOf(path: string): string {
  const whole = path.endsWith('/') ? path.slice(0, -1) : path;
  return whole.slice(whole.lastIndexOf('/') + 1);
}

/** A file name's extension in lower case, without the dot; empty where there is none. */
export function extensionOf(path: string): string {
  const name = nameOf(path);
  const dot = name.lastIndexOf('.');
  return dot >= 0 ? name.slice(dot + 1).toLowerCase() : '';
}

/** Letter case and Unicode form (NFC) taken away: two paths with one fold are easily confused. */
export function fold(path: string): string {
  return path.normalize('NFC').toLowerCase();
}
