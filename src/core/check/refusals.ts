/** Scripts that parse, but not as what a page loads them: modules that are loaded as classic scripts, and the reverse. */
import type { FileEdit } from '../change/edit.ts';
import { groupBy } from '../group-by.ts';
import { draftOfRemark, placed } from '../judge/drafts.ts';
import { refusalRule } from '../judge/index.ts';
import { makeModule } from '../mend/script-tags.ts';
import { refusalOf } from '../order/script-facts.ts';
import type { Span } from '../read/reading.ts';
import { spotOfCode, textOfScript } from '../read/spot-of-code.ts';
import type { Finding, Mend } from '../report.ts';
import type { Ledger } from './ledger.ts';
import { codeOf, type ScriptTag } from './page-code.ts';
import type { Entry } from './run-list.ts';
import type { RunningPage, Sources } from './running-page.ts';
import type { RunFacts, WorkerGoal } from './runs.ts';
import type { ScriptFiles } from './script-files.ts';
import type { Share } from './share.ts';

/** One script of one page that nothing of is run. */
interface Refused {
  readonly share: Share;
  readonly entry: Entry;
  readonly tag: ScriptTag;
}

/** `workers`: those that are started, each with what it is run as. */
export function refusalsOf(
  running: readonly RunningPage[],
  workers: RunFacts['workers'],
  files: ScriptFiles,
  sources: Sources,
): Finding[] {
  const refused = running.flatMap(({ share, list }) =>
    list.entries.flatMap((entry): Refused[] => {
      const tag = share.scripts[entry.tag] as ScriptTag;
      const isHere = entry.file !== null || tag.source.in === 'page';
      return entry.facts === 'missing' && isHere ? [{ share, entry, tag }] : [];
    }),
  );
  const keyOf = ({ share, entry: { file, goal }, tag }: Refused) =>
    file === null ? `${share.file}\n${tag.offset}` : `${file}\n${goal}`;
  const groups = groupBy(refused, keyOf);
  const brought = [...modulesBroughtIn(running, files.ledger)].filter(
    (file) => workers.get(file) !== 'module',
  );
  const others: readonly Other[] = [
    ...Array.from(workers, ([file, goal]) => ({ file, goal, isWorker: true })),
    ...brought.map((file) => ({ file, goal: 'module', isWorker: false }) as const),
  ];
  // What a page runs as the same is told by that.
  const untold = others.filter(({ file, goal }) => !groups.has(`${file}\n${goal}`));
  return [
    ...[...groups.values()].flatMap((alike) => refusalIn(alike, files.ledger, sources)),
    ...untold.flatMap((other) => refusalOfOther(other, files, sources)),
  ];
}

/** Modules that scripts import, by import calls, too (ECMA-262 13.3.10), and what those import. */
function modulesBroughtIn(running: readonly RunningPage[], ledger: Ledger): Set<string> {
  const starts = running.flatMap(({ share, list }) => [
    share.file,
    ...list.entries.flatMap(({ file }) => file ?? []),
  ]);
  const brought = new Set<string>();
  const take = (file: string) => {
    for (const path of ledger.get(file)?.modules ?? []) if (/\.m?js$/.test(path)) brought.add(path);
  };
  for (const file of new Set(starts)) take(file);
  for (const file of brought) take(file);
  return brought;
}

/** What is run, and by no tag of a page. */
interface Other {
  readonly file: string;
  readonly goal: WorkerGoal;
  readonly isWorker: boolean;
}

/** What a worker, or a module, cannot be run as; which of those that start it says it nobody needs to know. */
function refusalOfOther({ file, goal, isWorker }: Other, files: ScriptFiles, sources: Sources): Finding[] {
  const { bytesOf } = sources;
  if (files.factsAs(goal, file, bytesOf) !== null) return [];
  // What does not parse was read.
  const owner = files.ledger.get(file) as Share;
  const refusal = refusedAs(textOfScript(bytesOf(file), owner.encoding), goal);
  return refusal === null ? [] : findingOf({ file, owner, within: null, isWorker }, refusal, sources);
}

function refusalIn(alike: readonly Refused[], ledger: Ledger, sources: Sources): Finding[] {
  const { bytesOf } = sources;
  const [{ share, entry, tag }] = alike as [Refused];
  const file = entry.file ?? share.file;
  const isInPage = entry.file === null;
  // What does not parse was read.
  const owner = isInPage ? share : (ledger.get(file) as Share);
  const within = isInPage ? tag : null;
  const text = isInPage ? codeOf(bytesOf(file), share, tag) : textOfScript(bytesOf(file), owner.encoding);
  const refusal = refusedAs(text, entry.goal);
  if (refusal === null) return [];
  const mends = refusal.isModular ? mendsOf(alike, entry, bytesOf) : [];
  return findingOf({ file, owner, within, isWorker: false }, refusal, sources).map((one) => ({
    ...one,
    mends,
  }));
}

/** Why code is refused, and where. */
interface Refusal {
  readonly why: string;
  readonly at: number;
  /** It is a module that is run as a classic script. */
  readonly isModular: boolean;
}

/** Null for what would run, and lacks what it imports, and for what parses in no way: its reading tells that. */
function refusedAs(text: string, goal: Entry['goal']): Refusal | null {
  const refusal = refusalOf(text, goal);
  if (refusal === null || refusalOf(text, goal === 'script' ? 'module' : 'script') !== null) return null;
  return { ...refusal, isModular: goal === 'script' };
}

/** Code that is refused. */
interface Code {
  readonly file: string;
  readonly owner: Share;
  /** Where it stands in a page. */
  readonly within: Span | null;
  readonly isWorker: boolean;
}

/** None where its reading told the same. */
function findingOf(
  { file, owner, within, isWorker }: Code,
  { why, at, isModular }: Refusal,
  { bytesOf, extentIn }: Sources,
): Finding[] {
  const span = spotOfCode(bytesOf(file), owner.encoding, within, { start: at, end: at + 1 });
  if (owner.findings.some(({ rule, offset }) => rule === refusalRule.name && offset === span.offset))
    return [];
  const said = refusalRule.judgeRefusal({ why, isModular, isWorker, syntax: 'script' });
  const draft = draftOfRemark(refusalRule, file, { ...span, written: '', target: file, ...said });
  return [placed(draft, extentIn(file, span))];
}

/** The pages say what it is. */
function mendsOf(alike: readonly Refused[], { file }: Entry, bytesOf: Sources['bytesOf']): Mend[] {
  const edits = alike.map(({ share, tag }): FileEdit | null => {
    const edit = makeModule(bytesOf(share.file), tag);
    return edit && { file: share.file, ...edit };
  });
  if (!edits.every((edit) => edit !== null)) return [];
  const title = `load ${file ?? 'it'} with type="module"`;
  return [{ sure: true, title, target: null, walk: [], edits }];
}
