/** The scripts of a page in the order in which they run, each with the names that it makes and needs. */
import { namesOf } from '../order/page-run.ts';
import type { ScriptFacts } from '../order/steps.ts';
import type { ScriptTag } from './page-code.ts';
import { type Entry, factsIn, isUncertain } from './run-list.ts';
import { calledIn, type RunningPage, type Sources } from './running-page.ts';

interface NeededName {
  readonly name: string;
  /** Null where it is there as the script needs it. */
  readonly missing: 'made later' | 'nobody makes it' | null;
}

export interface ScriptOfPage {
  readonly script: string;
  readonly runs: ScriptTag['runs'];
  readonly goal: ScriptTag['goal'];
  /** What it makes as it runs, and what it may make later. */
  readonly makes: readonly string[];
  readonly mayMake: readonly string[];
  readonly needs: readonly NeededName[];
  /** What it may need: where something says so, or once the page is there. */
  readonly mayNeed: readonly string[];
  /** Why nothing more is known of it; null where all is. */
  readonly unknown: 'does not run' | 'another host' | 'not to be told' | null;
}

export function scriptsOfPage(page: RunningPage, sources: Sources): ScriptOfPage[] {
  const { list, run } = page;
  return run.order.map((index) => {
    const entry = list.entries[index] as Entry;
    const facts = factsIn(entry);
    const made =
      facts === null ? [] : facts.atLoad.flatMap(({ does, name }) => (does === 'makes' ? name : []));
    const makes = [...new Set(made)];
    const needed =
      facts === null
        ? []
        : facts.atLoad.filter(({ does, isSure, piece }) => does === 'needs' && isSure && piece === 0);
    const own = new Set(makes);
    return {
      script: calledIn(page, entry, sources),
      runs: entry.runs,
      goal: entry.goal,
      makes,
      mayMake: facts === null ? [] : [...namesOf(facts)].filter((name) => !own.has(name)),
      needs: needed.map(({ name }): NeededName => {
        const missing = run.missing.find((one) => one.at === index && one.step.name === name);
        const isLater = missing !== undefined && missing.later.length > 0;
        return { name, missing: missing === undefined ? null : isLater ? 'made later' : 'nobody makes it' };
      }),
      mayNeed: facts === null ? [] : mayBeNeeded(facts, own),
      unknown: unknownOf(entry),
    };
  });
}

function mayBeNeeded({ atLoad, afterLoad }: ScriptFacts, own: ReadonlySet<string>): string[] {
  const sure = new Set(atLoad.flatMap(({ does, name, isSure }) => (does === 'needs' && isSure ? name : [])));
  const perhaps = [...atLoad, ...afterLoad].filter(
    ({ does, name }) => does === 'needs' && !own.has(name) && !sure.has(name),
  );
  return [...new Set(perhaps.map(({ name }) => name))];
}

function unknownOf({ facts, address }: Entry): ScriptOfPage['unknown'] {
  if (facts === 'missing') return 'does not run';
  if (facts === 'unknown') return address === null ? 'not to be told' : 'another host';
  return isUncertain(facts) ? 'not to be told' : null;
}
