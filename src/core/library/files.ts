/** The files of a library as it was downloaded, and what its package.json says of it. */

export class LibraryFiles {
  readonly #files: ReadonlyMap<string, Uint8Array>;

  constructor(files: ReadonlyMap<string, Uint8Array>) {
    this.#files = files;
  }

  paths(): string[] {
    return [...this.#files.keys()].sort();
  }

  has(path: string): boolean {
    return this.#files.has(path);
  }

  read(path: string): Uint8Array {
    return this.#files.get(path) ?? new Uint8Array();
  }

  /** Packages that its package.json says it needs beside it. */
  dependencies(): string[] {
    const about = packageOf(this.#files);
    const lists = [about?.dependencies, about?.peerDependencies];
    return lists.flatMap((list) => (list !== null && typeof list === 'object' ? Object.keys(list) : []));
  }
}

/** The files without the one folder that wraps them all, and that folder's name. */
export function unwrapped(files: ReadonlyMap<string, Uint8Array>): {
  readonly files: ReadonlyMap<string, Uint8Array>;
  readonly wrapper: string;
} {
  const paths = [...files.keys()];
  const [first = ''] = paths;
  const wrapper = first.slice(0, first.indexOf('/') + 1);
  if (wrapper === '' || !paths.every((path) => path.startsWith(wrapper))) return { files, wrapper: '' };
  const inside = [...files].map(([path, bytes]) => [path.slice(wrapper.length), bytes] as const);
  return { files: new Map(inside), wrapper: wrapper.slice(0, -1) };
}

/** The name in the package.json of a downloaded library; empty where there is none. */
export function packageName(files: ReadonlyMap<string, Uint8Array>): string {
  const name = packageOf(files)?.name;
  return typeof name === 'string' ? name.replace(/^@[^/]*\//, '') : '';
}

interface PackageAbout {
  readonly name?: unknown;
  readonly dependencies?: unknown;
  readonly peerDependencies?: unknown;
}

function packageOf(files: ReadonlyMap<string, Uint8Array>): PackageAbout | null {
  const bytes = files.get('package.json');
  if (bytes === undefined) return null;
  try {
    const about: unknown = JSON.parse(new TextDecoder().decode(bytes));
    return about !== null && typeof about === 'object' ? about : null;
  } catch {
    return null;
  }
}
