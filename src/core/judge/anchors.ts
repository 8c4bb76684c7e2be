/** Fragments that wait until the page they point into was read. */
import { detach } from '../resolve/resolver.ts';

/** References in a file at most; a file's number and a reference's make one number, since there are a million of them. */
const MOST_REFERENCES = 2 ** 24;

export class WaitingAnchors {
  readonly #asked = new Map<string, Map<string, number[]>>();

  /** `reference` is the number of a reference in the file of number `file`. */
  ask(page: string, fragment: string, file: number, reference: number): void {
    const by = file * MOST_REFERENCES + reference;
    let fragments = this.#asked.get(page);
    if (fragments === undefined) {
      fragments = new Map();
      this.#asked.set(page, fragments);
    }
    const all = fragments.get(fragment);
    if (all === undefined) fragments.set(detach(fragment), [by]);
    else all.push(by);
  }

  /** Who asks a page for what it does not have. */
  unanswered(isThere: (page: string, fragment: string) => boolean): Map<number, number[]> {
    const failing = new Map<number, number[]>();
    for (const [page, fragments] of this.#asked) {
      for (const [fragment, all] of fragments) {
        if (isThere(page, fragment)) continue;
        for (const by of all) {
          const file = Math.floor(by / MOST_REFERENCES);
          const known = failing.get(file);
          if (known === undefined) failing.set(file, [by % MOST_REFERENCES]);
          else known.push(by % MOST_REFERENCES);
        }
      }
    }
    return failing;
  }
}
