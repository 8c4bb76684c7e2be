/** Scripts that parse, but not as what a page loads them: modules that are loaded as classic scripts, and the reverse. */
import type { FileEdit } from '../change/edit.ts';
import { groupBy } from '../group-by.ts';
import { draftOfRemark, placed } from '../judge/drafts.ts';
import { refusalRule } from '../judge/index.ts';
import { makeModule } from '../mend/script-tags.ts';
import { refusalOf } from '../order/script-facts.ts';
import { spotOfCode, textOfScript } from '../read/spot-of-code.ts';
import type { Finding, Mend } from '../report.ts';
import type { Ledger } from './ledger.ts';
import { codeOf, type ScriptTag } from './page-code.ts';
import type { Entry } from './run-list.ts';
import type { RunningPage, Sources } from './running-page.ts';
import type { Share } from './share.ts';

/** One script of one page that nothing of is run. */
interface Refused {
  readonly share: Share;
  readonly entry: Entry;
  readonly tag: ScriptTag;
}

export function refusalsOf(running: readonly RunningPage[], ledger: Ledger, sources: Sources): Finding[] {
  const refused = running.flatMap(({ share, list }) =>
    list.entries.flatMap((entry): Refused[] => {
      const tag = share.scripts[entry.tag] as ScriptTag;
      const isHere = entry.file !== null || tag.source.in === 'page';
      return entry.facts === 'missing' && isHere ? [{ share, entry, tag }] : [];
    }),
  );
  const keyOf = ({ share, entry: { file, goal }, tag }: Refused) =>
    file === null ? `${share.file}\n${tag.offset}` : `${file}\n${goal}`;
  return [...groupBy(refused, keyOf).values()].flatMap((alike) => refusalIn(alike, ledger, sources));
}

function refusalIn(alike: readonly Refused[], ledger: Ledger, { bytesOf, extentIn }: Sources): Finding[] {
  const [{ share, entry, tag }] = alike as [Refused];
  const file = entry.file ?? share.file;
  const owner = entry.file === null ? share : ledger.get(file);
  if (owner === undefined) return [];
  const within = entry.file === null ? tag : null;
  const text =
    entry.file === null ? codeOf(bytesOf(file), share, tag) : textOfScript(bytesOf(file), owner.encoding);
  const refusal = refusalOf(text, entry.goal);
  // Null where it would run, and what it imports does not.
  if (refusal === null) return [];
  const isModular = entry.goal === 'script' && refusalOf(text, 'module') === null;
  // What parses in no way is told by its reading.
  if (entry.goal === 'script' ? !isModular : refusalOf(text, 'script') !== null) return [];
  const span = spotOfCode(bytesOf(file), owner.encoding, within, { start: refusal.at, end: refusal.at + 1 });
  if (owner.findings.some(({ rule, offset }) => rule === refusalRule.name && offset === span.offset))
    return [];
  const said = refusalRule.judgeRefusal({ why: refusal.why, isModular, syntax: 'script' });
  const draft = draftOfRemark(refusalRule, file, { ...span, written: '', target: file, ...said });
  const mends = isModular ? mendsOf(alike, entry, bytesOf) : [];
  return [{ ...placed(draft, extentIn(file, span)), mends }];
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
