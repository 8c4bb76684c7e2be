/** What runs in workers (HTML 10.2): each is a page in small, with names of its own. */
import { runPage } from '../order/page-run.ts';
import type { Resolver } from '../resolve/resolver.ts';
import { type Entry, factsIn } from './run-list.ts';
import type { RunningPage } from './running-page.ts';
import type { RunFacts } from './runs.ts';
import type { ScriptFiles } from './script-files.ts';

type BytesOf = (path: string) => Uint8Array;

/** The workers that are started, as they run. */
export function workersOf(
  workers: RunFacts['workers'],
  files: ScriptFiles,
  resolver: Resolver,
  bytesOf: BytesOf,
): RunningPage[] {
  const { ledger } = files;
  const found: RunningPage[] = [];
  for (const [path, goal] of workers) {
    const share = ledger.get(path);
    // Of one that is refused nothing is run.
    if (share === undefined || files.factsAs(goal, path, bytesOf) === null) continue;
    const entries = entriesOf(path, files, resolver, bytesOf);
    // One that cannot bring in what it wants stops there; what only parses as a module is one.
    if (entries.some(({ facts }) => facts === 'missing')) continue;
    const list = { entries, notExported: [] };
    found.push({ share, list, run: runPage(entries, () => false), isByElements: false });
  }
  return found;
}

/** The scripts that it brings in, each before the one that does, and itself. */
function entriesOf(worker: string, files: ScriptFiles, resolver: Resolver, bytesOf: BytesOf): Entry[] {
  const entries: Entry[] = [];
  const seen = new Set([worker]);
  const leads = resolver.leadsFrom(worker, false);
  const add = (path: string | null, address: string | null, isElsewhere: boolean) => {
    const facts = path === null ? null : files.factsOf(path, 'worker', bytesOf);
    const entry: Entry = {
      tag: 0,
      goal: 'script',
      runs: 'at-once',
      file: path,
      address,
      facts: facts ?? (isElsewhere ? 'unknown' : 'missing'),
    };
    for (const written of factsIn(entry)?.imports ?? []) {
      // All of them count from the worker (HTML 10.3.1).
      const lead = leads.of(written);
      const next = lead.found?.path ?? null;
      if (next !== null && seen.has(next)) continue;
      if (next !== null) seen.add(next);
      add(next, written, lead.elsewhere);
    }
    entries.push(entry);
  };
  add(worker, null, false);
  return entries;
}
