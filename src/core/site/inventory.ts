/** The inventory: every file of a site by its site path, and the folders that hold them. */

/**
 * The files of one site. A site path is `/`-separated, starts at the site's root and never
 * starts with `/`; a folder path ends in `/`, the root folder is the empty string.
 */
export interface Inventory {
  /** Site path of each file. */
  readonly files: ReadonlySet<string>;
  /** Every folder that holds a file, directly or further down, and the root. */
  readonly folders: ReadonlySet<string>;
  /** Folders of which nobody can tell what they hold. */
  readonly closed: ReadonlySet<string>;
}

export function makeInventory(paths: Iterable<string>, closed: Iterable<string> = []): Inventory {
  const files = new Set(paths);
  const folders = new Set<string>(['']);
  for (const path of files) {
    for (let folder = folderOf(path); !folders.has(folder); folder = folderOf(folder.slice(0, -1))) {
      folders.add(folder);
    }
  }
  return { files, folders, closed: new Set(closed) };
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
