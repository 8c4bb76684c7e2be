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
  ledger: Ledger,
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
  const ofWorkers = [...workers].flatMap(([file, goal]) =>
    groups.has(`${file}\n${goal}`) ? [] : refusalOfWorker(file, goal, ledger, sources),
  );
  return [...[...groups.values()].flatMap((alike) => refusalIn(alike, ledger, sources)), ...ofWorkers];
}

/** What a worker cannot be run as; which of its starters says it nobody needs to know. */
function refusalOfWorker(file: string, goal: WorkerGoal, ledger: Ledger, sources: Sources): Finding[] {
  const share = ledger.get(file);
  if (share === undefined) return [];
  const text = textOfScript(sources.bytesOf(file), share.encoding);
  return findingOf({ file, owner: share, text, goal, within: null, isWorker: true }, sources);
}

function refusalIn(alike: readonly Refused[], ledger: Ledger, sources: Sources): Finding[] {
  const { bytesOf } = sources;
  const [{ share, entry, tag }] = alike as [Refused];
  const file = entry.file ?? share.file;
  const owner = entry.file === null ? share : ledger.get(file);
  if (owner === undefined) return [];
  const within = entry.file === null ? tag : null;
  const text =
    entry.file === null ? codeOf(bytesOf(file), share, tag) : textOfScript(bytesOf(file), owner.encoding);
  const finding = findingOf({ file, owner, text, goal: entry.goal, within, isWorker: false }, sources);
  return finding.map((one) => ({
    ...one,
    mends: isModular(text, entry.goal) ? mendsOf(alike, entry, bytesOf) : [],
  }));
}

/** Code, and what it is run as. */
interface Code {
  readonly file: string;
  readonly owner: Share;
  readonly text: string;
  readonly goal: Entry['goal'];
  /** Where it stands in a page. */
  readonly within: Span | null;
  readonly isWorker: boolean;
}

/** True for a module that is run as a classic script. */
function isModular(text: string, goal: Entry['goal']): boolean {
  return goal === 'script' && refusalOf(text, 'module') === null;
}

function findingOf(
  { file, owner, text, goal, within, isWorker }: Code,
  { bytesOf, extentIn }: Sources,
): Finding[] {
  const refusal = refusalOf(text, goal);
  // Null where it would run, and what it imports does not.
  if (refusal === null) return [];
  const isModule = isModular(text, goal);
  // What parses in no way is told by its reading.
  if (goal === 'script' ? !isModule : refusalOf(text, 'script') !== null) return [];
  const span = spotOfCode(bytesOf(file), owner.encoding, within, { start: refusal.at, end: refusal.at + 1 });
  if (owner.findings.some(({ rule, offset }) => rule === refusalRule.name && offset === span.offset))
    return [];
  const said = refusalRule.judgeRefusal({
    why: refusal.why,
    isModular: isModule,
    isWorker,
    syntax: 'script',
  });
  const draft = draftOfRemark(refusalRule, file, { ...span, written: '', target: file, ...said });
  return [placed(draft, extentIn(file, span))];
}

/** The pages say what it is. */
function mendsOf(alike: readonly Refused[], { file }: Entry, bytesOf: Sources['bytesOf']): Mend[] {
  const edits = alike.map(({ share, tag }): FileEdit | null => {
    const edit = makeModule(bytesOf(share.file), tag);
    return edit && { file: share.file, ...edit };
  });
  const whole = edits.filter((edit) => edit !== null);
  if (whole.length < edits.length) return [];
  const title = `load ${file ?? 'it'} with type="module"`;
  return [{ sure: true, title, target: null, walk: [], edits: whole }];
}
