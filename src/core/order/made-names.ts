/** What a script is to the scripts beside it: the names that it makes, and those that it needs of others, as it runs. */
import { factsOfCode } from './code-facts.ts';
import { isGiven, serverNames } from './given-names.ts';
import type { ScriptFacts } from './steps.ts';

export interface ScriptNames {
  /** What a page must load it as; null for what no browser reads. */
  readonly runsAs: 'script' | 'module' | null;
  readonly makes: readonly string[];
  /** It makes names that nobody can tell. */
  readonly isOpen: boolean;
  /** Names that it needs and does not make before, and that no browser gives. */
  readonly needs: readonly string[];
  /** Names of other scripts that it looks for, and does without where they are not there. */
  readonly asks: readonly string[];
  /** Members that it reads of what others make, as `Tideclock.start`. */
  readonly reads: readonly string[];
}

export const NO_NAMES: ScriptNames = {
  runsAs: null,
  makes: [],
  isOpen: false,
  needs: [],
  asks: [],
  reads: [],
};

/** Of a classic script (ECMA-262 16.1), in the order in which things happen; a module makes and needs no names. */
export function namesOfScript(text: string): ScriptNames {
  const facts = factsOfCode(text, 'script');
  if (facts !== null) return namesByFacts(facts);
  return { ...NO_NAMES, runsAs: factsOfCode(text, 'module') === null ? null : 'module' };
}

function namesByFacts({ atLoad, askedAbout, membersRead, isUnknown }: ScriptFacts): ScriptNames {
  const makes = new Set<string>();
  const needs = new Set<string>();
  let isOpen = isUnknown;
  for (const { does, name, isSure, piece } of atLoad) {
    if (does === 'unknown') isOpen = true;
    else if (does === 'makes' && isSure && !isGiven(name)) makes.add(name);
    else if (does === 'needs' && isSure && piece === 0 && !makes.has(name)) needs.add(name);
  }
  const asks = [...askedAbout].filter((name) => !serverNames.has(name) && !makes.has(name));
  const reads = [...membersRead].filter((path) => path.indexOf('.') === path.lastIndexOf('.'));
  return { runsAs: 'script', makes: [...makes], isOpen, needs: [...needs], asks, reads };
}

/** True for what a script can say as a name (ECMA-262 12.7). */
export function isIdentifier(name: string): boolean {
  return /^[\p{ID_Start}$_][\p{ID_Continue}$]*$/u.test(name);
}

/** True for a script that throws in a browser, since it needs what only servers give. */
export function isForServers({ needs }: ScriptNames): boolean {
  return needs.some((name) => serverNames.has(name));
}

/** See {@link isForServers}. */
export function throwsInBrowsers(facts: ScriptFacts): boolean {
  return isForServers(namesByFacts(facts));
}
