/** Files under change: what a project holds, and what a command is about to make of it. */

/** A change to one file; null stands for no file. */
export interface FileChange {
  /** From the project's folder, `/`-separated. */
  readonly path: string;
  readonly before: Uint8Array | null;
  readonly after: Uint8Array | null;
}

/** Everything that one command changes, as one step. */
export interface Change {
  /** The command, for people: `wire css/print.css`. */
  readonly title: string;
  readonly files: readonly FileChange[];
  /** Folders to make even where they stay empty; they end in `/`. */
  readonly folders: readonly string[];
}

/** Files by path; what is written or removed is seen by whoever reads afterwards. */
export interface Files {
  /** Paths in order. */
  paths(): string[];
  has(path: string): boolean;
  /** The bytes of a file that is there. */
  read(path: string): Uint8Array;
  write(path: string, bytes: Uint8Array): void;
  remove(path: string): void;
}

/** Files whose changes are gathered instead of carried out. */
export class ChangedFiles implements Files {
  readonly #load: (path: string) => Uint8Array;
  readonly #present: Set<string>;
  readonly #before = new Map<string, Uint8Array>();
  readonly #after = new Map<string, Uint8Array | null>();

  /** `load` gives the bytes of one of `paths`. */
  constructor(paths: Iterable<string>, load: (path: string) => Uint8Array) {
    this.#present = new Set(paths);
    this.#load = load;
  }

  paths(): string[] {
    const paths = [...this.#present].filter((path) => this.has(path));
    for (const [path, bytes] of this.#after) if (bytes !== null && !this.#present.has(path)) paths.push(path);
    return paths.sort();
  }

  has(path: string): boolean {
    const after = this.#after.get(path);
    return after === undefined ? this.#present.has(path) : after !== null;
  }

  read(path: string): Uint8Array {
    return this.#after.get(path) ?? this.#original(path);
  }

  write(path: string, bytes: Uint8Array): void {
    this.#after.set(path, bytes);
  }

  remove(path: string): void {
    this.#after.set(path, null);
  }

  /** What differs from what was there, in the order of paths. */
  changes(): FileChange[] {
    const changes: FileChange[] = [];
    for (const [path, after] of this.#after) {
      const before = this.#present.has(path) ? this.#original(path) : null;
      if (!areEqual(before, after)) changes.push({ path, before, after });
    }
    return changes.sort((a, b) => (a.path < b.path ? -1 : 1));
  }

  #original(path: string): Uint8Array {
    let bytes = this.#before.get(path);
    if (bytes === undefined) {
      bytes = this.#load(path);
      this.#before.set(path, bytes);
    }
    return bytes;
  }
}

/** The files below one folder (empty, or ending in `/`), by their paths from there. */
export function filesWithin(files: Files, folder: string): Files {
  if (folder === '') return files;
  return {
    paths: () =>
      files
        .paths()
        .filter((path) => path.startsWith(folder))
        .map((path) => path.slice(folder.length)),
    has: (path) => files.has(folder + path),
    read: (path) => files.read(folder + path),
    write: (path, bytes) => files.write(folder + path, bytes),
    remove: (path) => files.remove(folder + path),
  };
}

export function areEqual(one: Uint8Array | null, other: Uint8Array | null): boolean {
  if (one === null || other === null) return one === other;
  if (one.length !== other.length) return false;
  for (let at = 0; at < one.length; at++) if (one[at] !== other[at]) return false;
  return true;
}
