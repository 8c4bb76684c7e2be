/** What files are by their content, and what they can be loaded as; each asked for once. */

import { type Content, contentOfHead } from '../read/content.ts';
import { type Algorithm, integrityHolds } from '../site/integrity.ts';

export class Contents {
  readonly #contents = new Map<string, Content>();
  /** By path, then by integrity value. */
  readonly #holding = new Map<string, Map<string, boolean>>();

  /** `headOf` gives the first bytes of a file, `digestOf` the digest of all of them in base64; null for what cannot be read. */
  constructor(
    readonly headOf: (path: string) => Uint8Array | null,
    readonly digestOf: (path: string, algorithm: Algorithm) => string | null,
  ) {}

  /** True where a file is what an integrity value promises, or cannot be read. */
  readonly holds = (path: string, integrity: string): boolean => {
    let known = this.#holding.get(path);
    if (known === undefined) {
      known = new Map();
      this.#holding.set(path, known);
    }
    let holding = known.get(integrity);
    if (holding === undefined) {
      holding = this.#holdsNow(path, integrity);
      known.set(integrity, holding);
    }
    return holding;
  };

  readonly of = (path: string): Content => {
    let content = this.#contents.get(path);
    if (content === undefined) {
      content = contentOfHead(this.headOf(path));
      this.#contents.set(path, content);
    }
    return content;
  };

  /** Those of the files that were written of which something is no longer true that was answered before. */
  renewed(written: Iterable<string>): Set<string> {
    const others = new Set<string>();
    for (const path of written) {
      const content = this.#contents.get(path);
      const holding = this.#holding.get(path) ?? new Map<string, boolean>();
      this.#contents.delete(path);
      this.#holding.delete(path);
      const isAlike =
        (content === undefined || this.of(path) === content) &&
        [...holding].every(([integrity, was]) => this.holds(path, integrity) === was);
      if (!isAlike) others.add(path);
    }
    return others;
  }

  #holdsNow(path: string, integrity: string): boolean {
    let isRead = true;
    const digest = (algorithm: Algorithm) => {
      const one = this.digestOf(path, algorithm);
      isRead &&= one !== null;
      return one ?? '';
    };
    return integrityHolds(integrity, digest) || !isRead;
  }
}
