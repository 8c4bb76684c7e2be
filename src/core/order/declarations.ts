/** The names that the scripts of a page declare for all of them, and those that may not be declared again. */
import { fixedNames } from './given-names.ts';
import type { Declared } from './steps.ts';

/** A name that a script may not declare: by the script that did before, or since every page has it. */
export interface Clash {
  readonly declared: Declared;
  readonly declaredBy: number | 'browser';
}

export class Declarations {
  /** Each name with the first script that declared it (ECMA-262 9.1.1.4). */
  readonly #lexicals = new Map<string, number>();
  readonly #variables = new Map<string, number>();

  /** Declares what a script declares; where it may not, that is given, and nothing is (ECMA-262 16.1.7). */
  declare(script: number, all: readonly Declared[]): Clash | null {
    for (const declared of all) {
      const { name, by } = declared;
      const before = this.#lexicals.get(name) ?? (by === 'let' ? this.#variables.get(name) : undefined);
      const declaredBy = before ?? (by !== 'var' && fixedNames.has(name) ? 'browser' : undefined);
      if (declaredBy !== undefined) return { declared, declaredBy };
    }
    for (const { name, by } of all) {
      const names = by === 'let' ? this.#lexicals : this.#variables;
      if (!names.has(name)) names.set(name, script);
    }
    return null;
  }
}
