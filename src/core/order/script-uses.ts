/** Which script uses, as it runs, what another one makes. */
import { namesOfScript, type ScriptNames } from './made-names.ts';

const NOTHING: ScriptNames = { makes: [], needs: [] };

/** A script of a page: a file of the site, or code of its own. */
export interface UsingScript {
  readonly path: string | null;
  readonly code: string | null;
}

export class ScriptUses {
  readonly #known = new Map<string, ScriptNames>();

  /** `textOf` gives the text of a file; null where there is none. */
  constructor(readonly textOf: (path: string) => string | null) {}

  namesOf(path: string): ScriptNames {
    let names = this.#known.get(path);
    if (names === undefined) {
      const text = this.textOf(path);
      names = text === null ? NOTHING : namesOfScript(text);
      this.#known.set(path, names);
    }
    return names;
  }

  uses({ path, code }: UsingScript, maker: string): boolean {
    const { makes } = this.namesOf(maker);
    if (makes.length === 0 || path === maker) return false;
    const { needs } = path !== null ? this.namesOf(path) : code !== null ? namesOfScript(code) : NOTHING;
    return needs.some((name) => makes.includes(name));
  }
}
