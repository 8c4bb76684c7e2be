/** What files are by their content, and what they can be loaded as; each asked for once. */

import { type Content, contentOfHead } from '../read/content.ts';
import { type Algorithm, integrityHolds } from '../site/integrity.ts';

export class Contents {
  readonly #contents = new Map<string, Content>();
  readonly #holding = new Map<string, boolean>();

  /** `headOf` gives the first bytes of a file, `digestOf` the digest of all of them in base64; null for what cannot be read. */
  constructor(
    readonly headOf: (path: string) => Uint8Array | null,
    readonly digestOf: (path: string, algorithm: Algorithm) => string | null,
  ) {}

  /** True where a file is what an integrity value promises, or cannot be read. */
  readonly holds = (path: string, integrity: string): boolean => {
    const key = `${path} ${integrity}`;
    let holding = this.#holding.get(key);
    if (holding === undefined) {
      let isRead = true;
      const digest = (algorithm: Algorithm) => {
        const one = this.digestOf(path, algorithm);
        isRead &&= one !== null;
        return one ?? '';
      };
      holding = integrityHolds(integrity, digest) || !isRead;
      this.#holding.set(key, holding);
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
}
