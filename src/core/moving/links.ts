/** What a site loads by way of its scripts, as far as moving needs it: which pages run which script. */

import { addTo } from '../group-by.ts';

/** Scripts and pages with what they run, and what that runs. */
export class Runs {
  readonly #runBy = new Map<string, Set<string>>();

  /** A page, or a script, runs a script. */
  add(file: string, script: string): void {
    addTo(this.#runBy, script, file);
  }

  /** The pages that run a script, by any chain. */
  pagesOf(script: string, isPage: (path: string) => boolean): string[] {
    const seen = new Set([script]);
    for (const path of seen) for (const by of this.#runBy.get(path) ?? []) seen.add(by);
    return [...seen].filter((path) => path !== script && isPage(path));
  }
}
