/** Runs the scripts of pages, by what their elements and the other files of the site have besides. */
import { runPage } from '../order/page-run.ts';
import type { FindElement, HasMember, IsThere, PageRun } from '../order/page-script.ts';
import type { Resolver } from '../resolve/resolver.ts';
import { elementPlace } from './name-context.ts';
import type { ScriptTag } from './page-code.ts';
import { finderFor } from './page-elements.ts';
import { type Entry, factsIn, type RunList, runListOf } from './run-list.ts';
import { openNames, type RunningPage } from './running-page.ts';
import type { ScriptFiles } from './script-files.ts';
import type { Share } from './share.ts';

type BytesOf = (path: string) => Uint8Array;

export class PageRuns {
  /** Members that scripts call, and whether a file of the site is known to give them to what another one makes. */
  readonly #added = new Map<string, boolean>();
  /** Those of which that is not known yet. */
  readonly #open = new Set<string>();

  constructor(
    readonly files: ScriptFiles,
    /** The pieces that are put into a page. */
    readonly piecesOf: (page: Share) => readonly Share[],
  ) {}

  /** Scripts of the site have changed. */
  forget(): void {
    this.#added.clear();
  }

  /** Pages in groups that run the same, each as it runs. */
  all(
    groups: Iterable<readonly Share[]>,
    resolver: Resolver,
    bytesOf: BytesOf,
    pageOf: BytesOf,
  ): RunningPage[] {
    const runs = Array.from(groups, (alike) => {
      this.#open.clear();
      const running = this.alike(alike, resolver, bytesOf, pageOf);
      return { alike, running, open: [...this.#open] };
    });
    const open = new Set(runs.flatMap((one) => one.open));
    // Where so many are open, nobody wrote them by hand.
    const makers = open.size > MOST_OPEN ? new Map() : this.files.makersOf(open, bytesOf);
    for (const path of open) this.#added.set(path, makers.has(path));
    return runs.flatMap(({ alike, running, open: own }) =>
      own.some((path) => makers.has(path)) ? this.alike(alike, resolver, bytesOf, pageOf) : running,
    );
  }

  /**
   * Pages that run the same; those whose elements make a difference are run by themselves. The bytes of `pageOf` are good
   * until the next are asked for.
   */
  alike(
    alike: readonly Share[],
    resolver: Resolver,
    bytesOf: BytesOf,
    pageOf: BytesOf = bytesOf,
  ): RunningPage[] {
    const [first] = alike as [Share];
    const list = runListOf(first, first.scripts, { files: this.files, resolver, bytesOf });
    const isMade = this.#isMadeIn(list, bytesOf);
    const hasMember = this.#hasMemberIn(list, bytesOf);
    const sought: Parameters<FindElement>[] = [];
    const noteSought: FindElement = (...query) => {
      sought.push(query);
      return 'there';
    };
    const run = runPage(list.entries, isMade, noteSought, hasMember);
    const wanted = wantedBy(first, run);
    const isByElements = wanted.length + sought.length > 0;
    return alike.map((share) => {
      const own = wanted.filter((name) => elementPlace(share, name, bytesOf) !== null);
      const pieces = this.piecesOf(share);
      const find = finderFor(share, list, this.files, pageOf, pieces);
      const lacksElements = sought.some((query) => find(...query) !== 'there');
      if (own.length === 0 && !lacksElements) return { share, list, run, isByElements };
      const isThere: IsThere = (name, script, before, isAfterLoad) => {
        if (isMade(name, script, before)) return true;
        const place = own.includes(name) ? elementPlace(share, name, bytesOf) : null;
        const entry = list.entries[script] as Entry;
        const tag = share.scripts[entry.tag] as ScriptTag;
        const isParsed = place !== null && (isAfterLoad || entry.runs !== 'at-once' || place < tag.offset);
        return isParsed && 'as-element';
      };
      return { share, list, run: runPage(list.entries, isThere, find, hasMember), isByElements };
    });
  }

  /** What a library does by itself as it runs is known; what it may do besides its text tells. */
  #isMadeIn(
    { entries }: RunList,
    bytesOf: BytesOf,
  ): (name: string, script: number, before: ReadonlySet<number>) => boolean {
    return (name, script, before) =>
      entries.some(
        (entry, index) => index !== script && before.has(index) && this.files.mayMake(entry, name, bytesOf),
      );
  }

  /** A member is missed only where a file of the site is known to give it. */
  #hasMemberIn({ entries }: RunList, bytesOf: BytesOf): HasMember {
    return (path, script, before) => {
      const name = path.slice(path.lastIndexOf('.') + 1);
      const isSet = (entry: Entry, index: number) =>
        index !== script && before.has(index) && this.files.setsProperty(entry, name, bytesOf);
      if (entries.some(isSet)) return true;
      if (entries.some((entry) => factsIn(entry)?.adds.has(path))) return false;
      const isAdded = this.#added.get(path);
      if (isAdded === undefined) this.#open.add(path);
      return isAdded !== true;
    };
  }
}

const MOST_OPEN = 200;

/** Names that are missing so far. */
function wantedBy(page: Share, run: PageRun): string[] {
  return [...new Set([...run.missing.map(({ step }) => step.name), ...openNames(page, run)])];
}
