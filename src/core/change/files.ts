/** Files under change: what a project holds, and what a command is about to make of it. */

/** What a file has besides its bytes: permission bits, owner, and when it was last written. */
export interface OwnMarks {
  readonly mode: number;
  readonly uid: number;
  readonly gid: number;
  readonly mtime?: Date;
}

/** A change to one file; null stands for no file. */
export interface FileChange {
  /** From the project's folder, `/`-separated. */
  readonly path: string;
  readonly before: Uint8Array | null;
  readonly after: Uint8Array | null;
  /** Of a file that comes: what it has of the one that it was, and where that lay. */
  readonly like?: OwnMarks;
  readonly from?: string;
}

/** Everything that one command changes, as one step. */
export interface Change {
  /** The command, for people: `wire css/print.css`. */
  readonly title: string;
  readonly files: readonly FileChange[];
  /** Folders to make even where they stay empty; they end in `/`. */
  readonly folders: readonly string[];
  /** Folders that hold nothing and go; they end in `/`. */
  readonly gone?: readonly string[];
}

/** The files of a change as people are told of them: one that goes to another path is told there alone. */
export function toldOf(files: readonly FileChange[]): FileChange[] {
  const left = new Set(files.flatMap(({ from }) => from ?? []));
  return files.filter(({ path, after }) => after !== null || !left.has(path));
}

/** Files by path; what is written or removed is seen by whoever reads afterwards. */
export interface Files {
  /** Paths in order. */
  paths(): string[];
  has(path: string): boolean;
  /** The bytes of a file that is there. */
  read(path: string): Uint8Array;
  write(path: string, bytes: Uint8Array): void;
  /** A file goes to another path, as these bytes; `like`: what it has besides. */
  move(from: string, path: string, bytes: Uint8Array, like?: OwnMarks): void;
  remove(path: string): void;
}

/** Files whose changes are gathered instead of carried out. */
export class ChangedFiles implements Files {
  readonly #load: (path: string) => Uint8Array;
  readonly #present: Set<string>;
  readonly #before = new Map<string, Uint8Array>();
  readonly #after = new Map<string, Uint8Array | null>();
  readonly #from = new Map<string, Pick<FileChange, 'from' | 'like'>>();

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

  /** A file that is there besides is one of them. */
  include(path: string): void {
    this.#present.add(path);
  }

  /** The bytes that were put there; null for a file that was taken away, undefined where nothing has changed. */
  written(path: string): Uint8Array | null | undefined {
    return this.#after.get(path);
  }

  write(path: string, bytes: Uint8Array): void {
    this.#after.set(path, bytes);
  }

  move(from: string, path: string, bytes: Uint8Array, like?: OwnMarks): void {
    // What has come there meanwhile stays.
    if (!this.#from.has(from)) this.#after.set(from, null);
    this.#after.set(path, bytes);
    this.#from.set(path, { from, ...(like === undefined ? {} : { like }) });
  }

  remove(path: string): void {
    this.#after.set(path, null);
  }

  /** What differs from what was there, in the order of paths. */
  changes(): FileChange[] {
    const changes: FileChange[] = [];
    for (const [path, after] of this.#after) {
      const before = this.#present.has(path) ? this.#original(path) : null;
      const come = before === null ? this.#from.get(path) : undefined;
      if (!areEqual(before, after)) changes.push({ path, before, after, ...come });
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
    move: (from, path, bytes, like) => files.move(folder + from, folder + path, bytes, like),
    remove: (path) => files.remove(folder + path),
  };
}

export function areEqual(one: Uint8Array | null, other: Uint8Array | null): boolean {
  if (one === null || other === null) return one === other;
  if (one.length !== other.length) return false;
  for (let at = 0; at < one.length; at++) if (one[at] !== other[at]) return false;
  return true;
}
