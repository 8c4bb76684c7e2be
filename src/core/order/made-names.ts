/** What a script is to the scripts beside it: the names that it makes, and those that it needs of others, as it runs. */
import { factsOfCode } from './code-facts.ts';
import { isGiven, serverNames } from './given-names.ts';
import type { ScriptFacts } from './steps.ts';

export interface ScriptNames {
  readonly makes: readonly string[];
  /** Names that it needs and does not make before, and that no browser gives. */
  readonly needs: readonly string[];
}

/** Of a classic script (ECMA-262 16.1), in the order in which things happen; of what does not parse there are none. */
export function namesOfScript(text: string): ScriptNames {
  const facts = factsOfCode(text, 'script');
  return facts === null ? { makes: [], needs: [] } : namesByFacts(facts);
}

function namesByFacts({ atLoad }: ScriptFacts): ScriptNames {
  const makes = new Set<string>();
  const needs = new Set<string>();
  for (const { does, name, isSure, piece } of atLoad) {
    if (does === 'makes' && isSure && !isGiven(name)) makes.add(name);
    else if (does === 'needs' && isSure && piece === 0 && !makes.has(name)) needs.add(name);
  }
  return { makes: [...makes], needs: [...needs] };
}

/** True for a script that throws in a browser, since it needs what only servers give. */
export function isForServers({ needs }: ScriptNames): boolean {
  return needs.some((name) => serverNames.has(name));
}

/** See {@link isForServers}. */
export function throwsInBrowsers(facts: ScriptFacts): boolean {
  return isForServers(namesByFacts(facts));
}
