/** Fragments that wait until the page they point into was read. */
import { detach } from '../resolve/resolver.ts';

/** Where a fragment is asked for: a file's number, and the number of the reference in it. */
export type Asking = readonly [file: number, reference: number];

export class WaitingAnchors {
  readonly #asked = new Map<string, Map<string, Asking[]>>();

  ask(page: string, fragment: string, by: Asking): void {
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
        for (const [file, reference] of all) failing.set(file, [...(failing.get(file) ?? []), reference]);
      }
    }
    return failing;
  }
}
