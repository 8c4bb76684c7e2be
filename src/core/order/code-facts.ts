/** What the code of pages makes and needs: pages repeat theirs word for word, so what is known of a text is kept. */
import { type Goal, scriptFacts } from './script-facts.ts';
import type { ScriptFacts } from './steps.ts';

const kept = new Map<string, ScriptFacts | null>();
const MOST_KEPT = 500;
const LONGEST_KEPT = 20_000;

/** See {@link scriptFacts}. */
export function factsOfCode(text: string, goal: Goal): ScriptFacts | null {
  if (text.length > LONGEST_KEPT) return scriptFacts(text, goal);
  const key = `${goal} ${text}`;
  let facts = kept.get(key);
  if (facts === undefined) {
    facts = scriptFacts(text, goal);
    if (kept.size >= MOST_KEPT) kept.clear();
    kept.set(key, facts);
  }
  return facts;
}
