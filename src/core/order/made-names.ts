/** What a script is to the scripts beside it: the names that it makes, and those that it needs of others, as it runs. */
import { isGiven, serverNames } from './given-names.ts';
import { scriptFacts } from './script-facts.ts';

export interface ScriptNames {
  readonly makes: readonly string[];
  /** Names that it needs and does not make before, and that no browser gives. */
  readonly needs: readonly string[];
  /** It throws in a browser, since it needs what only servers give. */
  readonly isForServers: boolean;
  /** It is no classic script: a page can run it as a module, or not at all. */
  readonly isModular: boolean;
}

const NONE: ScriptNames = { makes: [], needs: [], isForServers: false, isModular: false };

/** Of a classic script (ECMA-262 16.1), in the order in which things happen. */
export function namesOfScript(text: string): ScriptNames {
  const facts = scriptFacts(text, 'script');
  if (facts === null) return { ...NONE, isModular: scriptFacts(text, 'module') !== null };
  const makes = new Set<string>();
  const needs = new Set<string>();
  for (const { does, name, isSure, piece } of facts.atLoad) {
    if (does === 'makes' && isSure && !isGiven(name)) makes.add(name);
    else if (does === 'needs' && isSure && piece === 0 && !makes.has(name)) needs.add(name);
  }
  const isForServers = [...needs].some((name) => serverNames.has(name));
  return { makes: [...makes], needs: [...needs], isForServers, isModular: false };
}
