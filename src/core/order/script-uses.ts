/** Which script uses, as it runs, what another one makes. */
import { NO_NAMES, namesOfScript, type ScriptNames } from './made-names.ts';
import { inOrderOfNeeds, type Scripts } from './needs-first.ts';

/** A script of a page: a file of the site, or code of its own. */
export interface UsingScript {
  readonly path: string | null;
  readonly code: string | null;
}

export class ScriptUses implements Scripts {
  readonly #known = new Map<string, ScriptNames>();
  readonly #ordered = new Map<string, readonly string[]>();

  /** `textOf` gives the text of a file; null where there is none. */
  constructor(readonly textOf: (path: string) => string | null) {}

  namesOf(path: string): ScriptNames {
    let names = this.#known.get(path);
    if (names === undefined) {
      const text = this.textOf(path);
      names = text === null ? NO_NAMES : namesOfScript(text);
      this.#known.set(path, names);
    }
    return names;
  }

  /** See {@link inOrderOfNeeds}; pages are wired with the same scripts, one after the other. */
  inOrder(paths: readonly string[]): readonly string[] {
    const key = paths.join('\n');
    let ordered = this.#ordered.get(key);
    if (ordered === undefined) {
      ordered = inOrderOfNeeds(paths, this);
      this.#ordered.set(key, ordered);
    }
    return ordered;
  }

  uses({ path, code }: UsingScript, maker: string): boolean {
    const { makes } = this.namesOf(maker);
    if (makes.length === 0 || path === maker) return false;
    const { needs } = path !== null ? this.namesOf(path) : code !== null ? namesOfScript(code) : NO_NAMES;
    return needs.some((name) => makes.includes(name));
  }
}
