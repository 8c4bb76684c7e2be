/** The files of a copy: each as it stands in the site, under the same path or another one, or as it was written anew. */
import { areEqual, type Files } from '../change/files.ts';

/** Nothing of what stays as it is is kept in memory. */
export class CopiedFiles implements Files {
  /** Where each lies in the site, or what it is now. */
  readonly #content: Map<string, string | Uint8Array>;

  /** `load` gives the bytes of a file of the site. */
  constructor(
    paths: Iterable<string>,
    readonly load: (path: string) => Uint8Array,
  ) {
    this.#content = new Map(Array.from(paths, (path) => [path, path]));
  }

  paths(): string[] {
    return [...this.#content.keys()].sort();
  }

  has(path: string): boolean {
    return this.#content.has(path);
  }

  read(path: string): Uint8Array {
    return this.#bytesOf(this.#content.get(path) ?? path);
  }

  #bytesOf(content: string | Uint8Array): Uint8Array {
    return typeof content === 'string' ? this.load(content) : content;
  }

  /** The bytes of a file that was written, or the path in the site of one that stays as it is. */
  contentOf(path: string): string | Uint8Array {
    return this.#content.get(path) ?? path;
  }

  write(path: string, bytes: Uint8Array): void {
    this.#content.set(path, bytes);
  }

  move(from: string, path: string, bytes: Uint8Array): void {
    const before = this.contentOf(from);
    this.#content.delete(from);
    this.#content.set(path, areEqual(this.#bytesOf(before), bytes) ? before : bytes);
  }

  remove(path: string): void {
    this.#content.delete(path);
  }

  /** Reads files as they are now, whatever becomes of them. */
  asNow(): (path: string) => Uint8Array {
    const now = new Map(this.#content);
    return (path) => this.#bytesOf(now.get(path) ?? path);
  }
}
