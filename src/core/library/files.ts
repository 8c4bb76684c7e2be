/** The files of a library as it was downloaded, and what its package.json says of it. */
import { onceFor } from '../once-for.ts';

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

  /** Files that its package.json names for pages, those first that are meant for nothing else. */
  entries(): string[] {
    const about = packageOf(this.#files);
    if (about === null) return [];
    const { unpkg, jsdelivr, browser, style, main } = about;
    const named = [style, unpkg, jsdelivr, browser, ...exportedBy(about.exports), main];
    const paths = named.flatMap((one) => (typeof one === 'string' ? (this.#found(one) ?? []) : []));
    return [...new Set(paths)];
  }

  /** A module may be named without its extension, or by its folder. */
  #found(named: string): string | null {
    const path = named.replace(/^(?:\.?\/)+/, '');
    return [path, `${path}.js`, `${path}/index.js`].find((one) => this.#files.has(one)) ?? null;
  }
}

/** Conditions that a page meets, and those that a file for pages may stand under all the same. */
const CONDITIONS = ['browser', 'script', 'default', 'require', 'style'];

/** What a package.json exports under its own name. */
function exportedBy(exported: unknown): string[] {
  if (typeof exported === 'string') return [exported];
  if (exported === null || typeof exported !== 'object') return [];
  const table = exported as Readonly<Record<string, unknown>>;
  if (Object.hasOwn(table, '.')) return exportedBy(table['.']);
  return CONDITIONS.flatMap((condition) => exportedBy(table[condition]));
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

/** Fields of a package.json, whatever they hold. */
type PackageAbout = Readonly<Partial<Record<string, unknown>>>;

const packageOf = onceFor((files: ReadonlyMap<string, Uint8Array>): PackageAbout | null => {
  const bytes = files.get('package.json');
  if (bytes === undefined) return null;
  try {
    const about: unknown = JSON.parse(new TextDecoder().decode(bytes));
    return about !== null && typeof about === 'object' ? (about as PackageAbout) : null;
  } catch {
    return null;
  }
});
