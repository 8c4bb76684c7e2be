/** Judges in which order pages run their scripts: names that are not there when a script needs them. */
import { groupBy } from '../group-by.ts';
import { draftOfRemark, placed } from '../judge/drafts.ts';
import { nameRules } from '../judge/index.ts';
import type { Answering } from '../judge/rule.ts';
import { onceFor } from '../once-for.ts';
import { shownPath } from '../order/member-path.ts';
import { holderOf } from '../read/holder.ts';
import { isPage } from '../read/read.ts';
import type { Finding, Mend } from '../report.ts';
import type { Resolver } from '../resolve/resolver.ts';
import { piecesPutInto } from './apart.ts';
import { elementFindings } from './element-lacks.ts';
import { framesAlone, saidOfPages, withFrames } from './frames.ts';
import type { Ledger } from './ledger.ts';
import { elementPlace, NameContext, namedIn } from './name-context.ts';
import { mendsFor } from './order-mends.ts';
import type { ScriptTag } from './page-code.ts';
import { PageRuns } from './page-runs.ts';
import { refusalsOf } from './refusals.ts';
import { type Entry, factsIn, runListOf } from './run-list.ts';
import { type Lack, openNames, type RunningPage, runnersOf, type Sources } from './running-page.ts';
import type { RunFacts } from './runs.ts';
import { ScriptFiles, type StatedLibraries } from './script-files.ts';
import type { Share } from './share.ts';
import { spotIn } from './spot-in.ts';
import { lackingNeeds, statedLacks } from './stated-needs.ts';
import { waitingOn } from './waiting.ts';
import { workersOf } from './worker-runs.ts';

type BytesOf = (path: string) => Uint8Array;

export class LoadOrder {
  readonly #files: ScriptFiles;
  /** What was said, until something changes that it depends on. */
  #said: readonly Finding[] | null = null;
  /** Pages of which something is said, or whose elements decide whether it is. */
  #concerned: ReadonlySet<string> = new Set();

  /** What scripts do about fragments, by what a page runs. */
  readonly #answering = new Map<string, Answering>();
  readonly #runs: PageRuns;
  /** Files that pages get by what scripts name. */
  #used: RunFacts['used'] = new Map();

  constructor(
    readonly ledger: Ledger,
    readonly libraries: StatedLibraries,
  ) {
    this.#files = new ScriptFiles(ledger, libraries);
    this.#runs = new PageRuns(this.#files, (page) => piecesPutInto(page, this.#used, ledger));
  }

  /** Everything may be another one: which files there are has changed. */
  forget(): void {
    this.#said = null;
    this.#answering.clear();
    this.#runs.forget();
  }

  /** Takes note of the share of a file, in place of `before`. */
  note(before: Share | undefined, after: Share | undefined): void {
    const isScript = ((after ?? before) as Share).record === null;
    if (isScript) {
      this.#answering.clear();
      this.#runs.forget();
    }
    if (this.#said !== null && this.#isTelling(before, after)) this.#said = null;
  }

  #isTelling(before: Share | undefined, after: Share | undefined): boolean {
    const { file, record, isApart } = (after ?? before) as Share;
    if (record === null) return isApart || /\.m?js$/.test(file);
    const keys = [before, after].map((share) => (share && isRunning(share) ? keyOf(share) : null));
    return this.#concerned.has(file) || keys[0] !== keys[1];
  }

  /** `runs`: what addresses in scripts come to. */
  judge(resolver: Resolver, runs: RunFacts, sources: Sources): readonly Finding[] {
    this.#used = runs.used;
    this.#said ??= saidOfPages(this.#judge(resolver, runs.workers, sources), sources.bytesOf);
    return this.#said;
  }

  #judge(resolver: Resolver, started: RunFacts['workers'], given: Sources): readonly Finding[] {
    const sources = withFrames({ ...given, bytesOf: lastOnes(given.bytesOf) });
    const pages = [...this.ledger.pages.keys()].flatMap((path) => {
      const share = this.ledger.get(path);
      return share !== undefined && isRunning(share) ? share : [];
    });
    const groups = groupBy(pages, keyOf).values();
    const whole = this.#runs.all(groups, resolver, sources.bytesOf, given.bytesOf);
    const frames = whole.flatMap((page) => framesAlone(page, this.#files, sources.bytesOf));
    const inside = this.#runs.all(
      groupBy(frames, keyOf).values(),
      resolver,
      sources.bytesOf,
      sources.bytesOf,
    );
    const running = [...whole, ...inside];
    const told = [
      ...refusalsOf(running, started, this.#files, sources),
      ...running.flatMap((page) => waitingOn(page, sources)),
      ...elementFindings(running, this.#files, sources),
    ];
    const workers = workersOf(started, this.#files, resolver, sources.bytesOf);
    const failing = [...running, ...workers].filter(
      (page) => isFailing(page) || lackingNeeds(page.list, this.libraries).length > 0,
    );
    this.#concerned = new Set([
      ...told.flatMap(({ file, mends }) => [
        file,
        ...mends.flatMap(({ edits }) => edits.map((edit) => edit.file)),
      ]),
      ...failing.map(({ share }) => share.file),
      ...running.flatMap(({ share, isByElements }) =>
        isByElements || share.frames.length > 0 ? share.file : [],
      ),
    ]);
    if (failing.length === 0) return told;
    const context = new NameContext(failing, running, this.#files, sources);
    const lacks = failing.flatMap((page) => lacksOf(page, context, sources));
    return [...told, ...findingsOf(lacks, runnersOf([...running, ...workers]), context, sources)];
  }

  /** What the scripts of a page do about fragments. */
  answeringOf(page: Share, resolver: Resolver, bytesOf: BytesOf): Answering {
    const key = keyOf(page);
    let answering = this.#answering.get(key);
    if (answering === undefined) {
      const { entries } = runListOf(page, page.scripts, { files: this.#files, resolver, bytesOf });
      const facts = entries.flatMap((entry) => factsIn(entry) ?? []);
      answering = {
        readsFragment: facts.some((one) => one.readsFragment),
        isUnknown: entries.some((one) => one.facts === 'unknown') || facts.some((one) => one.isUnknown),
        ids: new Set(facts.flatMap(({ ids }) => [...ids])),
      };
      this.#answering.set(key, answering);
    }
    return page.readsFragment ? { ...answering, readsFragment: true } : answering;
  }

  /** The scripts of one page as they run. */
  runOf(page: Share, resolver: Resolver, bytesOf: BytesOf): RunningPage {
    return this.#runs.alike([page], resolver, bytesOf)[0] as RunningPage;
  }
}

/** False for a page that load order says nothing of. */
function isRunning({ scripts, handlers, frames }: Share): boolean {
  return scripts.length + handlers.length + frames.length > 0;
}

/** The bytes of the last files that were asked for are not read again. */
function lastOnes(bytesOf: BytesOf): BytesOf {
  const kept = new Map<string, Uint8Array>();
  return (path) => {
    let bytes = kept.get(path);
    if (bytes === undefined) {
      if (kept.size >= MOST_KEPT) kept.clear();
      bytes = new Uint8Array(bytesOf(path));
      kept.set(path, bytes);
    }
    return bytes;
  };
}

const MOST_KEPT = 8;

/** Pages with one key run the same, and their handlers need the same. */
const keyOf = onceFor(({ scripts, handlers, imports, base, frames }: Share): string => {
  const isModular = scripts.some(({ goal }) => goal === 'module');
  return JSON.stringify([
    scripts.map(({ source, goal, runs }) => [source.in === 'page' ? numberOf(source) : source, goal, runs]),
    [...new Set(handlers.map(({ name }) => name))],
    isModular
      ? [base, imports && [[...imports.imports], [...imports.scopes].map(([key, map]) => [key, [...map]])]]
      : null,
    frames.map(keyOf),
  ]);
}) as (share: Share) => string;

let numbers = 0;
const numberOfFacts = onceFor((_facts: object) => ++numbers);

function numberOf({ facts }: Extract<ScriptTag['source'], { in: 'page' }>): number {
  return facts === null ? 0 : numberOfFacts(facts);
}

function isFailing({ share, list, run }: RunningPage): boolean {
  return run.missing.length > 0 || list.notExported.length > 0 || openNames(share, run).length > 0;
}

function lacksOf(page: RunningPage, context: NameContext, { bytesOf }: Sources): Lack[] {
  const { share, list, run } = page;
  const lacks: Lack[] = run.missing.map((found) => {
    const entry = list.entries[found.at] as Entry;
    const spot = spotIn(share, entry, found.step, context.files, bytesOf);
    const named = context.missingOf(page, found);
    return {
      page,
      ...spot,
      ...named,
      holder: NAME,
      meant: named.missing.near,
      user: found.script,
      makers: context.makersOf(page, found),
    };
  });
  for (const { entry, wanted, from, near } of list.notExported) {
    const spot = spotIn(share, entry, wanted, context.files, bytesOf);
    const missing = { ...context.plainly(page, entry, wanted.name), notExported: from, near };
    const meant = near !== null && wanted.isShort ? `${near} as ${wanted.name}` : near;
    lacks.push({ page, ...spot, missing, target: from, holder: NAME, meant, user: null, makers: [] });
  }
  const open = new Set(openNames(share, run));
  for (const name of open)
    if (elementPlace(share, name, bytesOf) !== null || namedIn(share, 'form', bytesOf).has(name))
      open.delete(name);
  for (const need of share.handlers) {
    if (!open.has(need.name)) continue;
    const { missing, target } = context.handlerNeed(page, need);
    const { span, holder } = context.handlerSpot(share, need);
    lacks.push({
      page,
      file: share.file,
      span,
      holder,
      missing,
      target,
      meant: missing.near,
      user: null,
      makers: [],
    });
  }
  return [...lacks, ...statedLacks(page, context)];
}

const NAME = holderOf('script', '', 'name');

/** One finding for what a rule says of a spot, with the pages of which it does, where that is not all. */
function findingsOf(
  lacks: readonly Lack[],
  runners: ReadonlyMap<string, readonly string[]>,
  context: NameContext,
  sources: Sources,
): Finding[] {
  const judged = lacks.flatMap((lack) => {
    for (const rule of nameRules) {
      const said = rule.judgeName(lack.missing);
      if (said !== null) return [{ lack, rule, said }];
    }
    return [];
  });
  const groups = groupBy(judged, ({ lack: { file, span, missing }, rule }) =>
    [file, span.offset, missing.name, rule.name].join('\n'),
  );
  return [...groups.values()].map((group): Finding => {
    const [{ lack: first, rule, said }] = group as [(typeof group)[number]];
    const { file, span, holder, missing, target } = first;
    const remark = { ...span, holder, written: shownPath(missing.name), target, ...said };
    const finding = placed(draftOfRemark(rule, file, remark), sources.extentIn(file, span));
    const alike = group.map(({ lack }) => lack);
    const pages = [...new Set(alike.map(({ page }) => page.share.file))];
    const isEverywhere = isPage(file) || pages.length === runners.get(file)?.length;
    const mends: readonly Mend[] = mendsFor(alike, context, sources);
    return { ...finding, pages: isEverywhere ? null : pages, order: context.orderOf(first), mends };
  });
}
