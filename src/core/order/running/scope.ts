/** The names that are known in a piece of a script, each with what is known of its value (ECMA-262 9.1). */
import { joined, UNDEFINED, type Value } from './values.ts';

interface Variable {
  value: Value;
  /** False before the declaration of a `let`, a `const` or a class was come to. */
  isBorn: boolean;
  readonly isConstant: boolean;
}

export class Scope {
  readonly #variables = new Map<string, Variable>();

  constructor(
    readonly parent: Scope | null,
    /** The branch in which it was made: see {@link Scope.assign}. */
    readonly branch: number,
  ) {}

  declare(name: string, isBorn: boolean, value: Value = UNDEFINED, isConstant = false): void {
    const known = this.#variables.get(name);
    if (known === undefined || isConstant) this.#variables.set(name, { value, isBorn, isConstant });
    else if (value !== UNDEFINED) known.value = value;
  }

  /** The scope that has the name; null where none has. */
  ownerOf(name: string): Scope | null {
    for (let scope: Scope | null = this; scope !== null; scope = scope.parent)
      if (scope.#variables.has(name)) return scope;
    return null;
  }

  get(name: string): Variable {
    return this.#variables.get(name) as Variable;
  }

  /** In another branch than the one that made the scope the variable may also have kept its value. */
  assign(name: string, value: Value, branch: number): void {
    const variable = this.#variables.get(name) as Variable;
    variable.value = branch === this.branch ? value : joined(variable.value, value);
    variable.isBorn = true;
  }

  get names(): Iterable<string> {
    return this.#variables.keys();
  }
}
