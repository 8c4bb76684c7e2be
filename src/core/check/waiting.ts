/** Scripts in the head that pages wait for, and what can be done about each without breaking what runs behind it. */
import { draftOfRemark, placed } from '../judge/drafts.ts';
import { waitingRule } from '../judge/index.ts';
import type { Waiting } from '../judge/rule.ts';
import { onceFor } from '../once-for.ts';
import { runPage } from '../order/page-run.ts';
import type { PageScript } from '../order/page-script.ts';
import { holderOf } from '../read/holder.ts';
import type { Finding } from '../report.ts';
import { type Entry, factsIn, isUncertain, type RunList } from './run-list.ts';
import { calledIn, type RunningPage, type Sources } from './running-page.ts';

const SOURCE = holderOf('markup', 'script', 'src');

export function waitingOn(page: RunningPage, sources: Sources): Finding[] {
  const { share, list } = page;
  return share.scripts.flatMap((tag, number) => {
    const { blocking, offset, length, source } = tag;
    if (blocking === null) return [];
    const { written, extent } = blocking;
    const { behind, together } = waitsIn(list)[number] ?? ALONE;
    const called = behind.map((one) => calledIn(page, list.entries[one] as Entry, sources));
    const message = waitingRule.judgeWaiting({ behind: called, together });
    const target = source.in === 'file' ? source.path : null;
    const remark = { offset, length, holder: SOURCE, written, kind: 'script', target, message } as const;
    return [placed(draftOfRemark(waitingRule, share.file, remark), extent)];
  });
}

interface Wait extends Pick<Waiting, 'together'> {
  /** Numbers of the list. */
  readonly behind: readonly number[];
}

/** Scripts of a page whose waiting is tried one by one. */
const MOST_TRIED = 200;
const ALONE: Wait = { behind: [], together: 'defer' };

/** For each tag that a page waits for; pages that run the same have one list. */
const waitsIn = onceFor(({ entries }: RunList): readonly Wait[] => {
  const waits: Wait[] = [];
  for (const [index, { tag, runs, goal }] of entries.entries())
    if (runs === 'at-once' && goal === 'script') waits[tag] = waitOf(entries, index);
  return waits;
});

function waitOf(entries: readonly Entry[], index: number): Wait {
  if (entries.length > MOST_TRIED) return { behind: [], together: 'unknown' };
  const behind = [...entries.keys()].filter((one) => one > index && entries[one]?.runs === 'at-once');
  if (factsIn(entries[index] as Entry)?.writesPage) return { behind: [], together: 'stay' };
  if (behind.length === 0) return ALONE;
  const isKnown = [index, ...behind].every((one) => {
    const facts = factsIn(entries[one] as Entry);
    return facts !== null && !isUncertain(facts);
  });
  if (!isKnown) return { behind: [], together: 'unknown' };
  const before = lacking(entries, () => false);
  const alone = lacking(entries, (one) => one === index);
  const needing = behind.filter((one) => alone.has(one) && !before.has(one));
  if (needing.length === 0) return ALONE;
  // Code of the page cannot wait by itself.
  const isAlike = needing.every((one) => entries[one]?.file !== null);
  const group = lacking(entries, (one) => one === index || needing.includes(one));
  const isWhole = isAlike && [...group].every((one) => before.has(one));
  return { behind: needing, together: isWhole ? 'defer' : 'move' };
}

/** The scripts that lack a name where some of them wait. */
function lacking(entries: readonly Entry[], waits: (index: number) => boolean): ReadonlySet<number> {
  const scripts = entries.map(
    (entry, index): PageScript => (waits(index) ? { ...entry, runs: 'deferred' } : entry),
  );
  return new Set(runPage(scripts, () => false).missing.map(({ script }) => script));
}
