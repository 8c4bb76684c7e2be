/** Elements that scripts of pages need and do not find, told once for all pages, with what settles it. */
import type { FileEdit } from '../change/edit.ts';
import { groupBy } from '../group-by.ts';
import { draftOfRemark, placed } from '../judge/drafts.ts';
import { elementRules } from '../judge/index.ts';
import { addAttribute, deferAsync, deferAsyncTitle, moveTagToEnd } from '../mend/script-tags.ts';
import { type ElementQuery, selectorOf } from '../order/element-query.ts';
import { runPage } from '../order/page-run.ts';
import type { MissingElement, PageScript } from '../order/page-script.ts';
import { agreesWithAscii } from '../read/encoding.ts';
import { holderOf } from '../read/holder.ts';
import { isPage } from '../read/read.ts';
import type { Finding, Mend } from '../report.ts';
import { nearestName } from './near-name.ts';
import type { ScriptTag } from './page-code.ts';
import { elementsOf, finderFor, placeOfElement } from './page-elements.ts';
import type { Entry } from './run-list.ts';
import { calledIn, type RunningPage, runnersOf, type Sources } from './running-page.ts';
import type { ScriptFiles } from './script-files.ts';
import { spotIn } from './spot-in.ts';

const ELEMENT = holderOf('script', '', 'element');
/** Of so many pages the tags are changed by one mend. */
const MOST_PAGES = 500;
/** Of pages with so many scripts no order is tried. */
const MOST_TRIED = 200;
/** Where so many are missing, nothing is misspelt. */
const MOST_SOUGHT = 100;

interface ElementLack {
  readonly page: RunningPage;
  readonly found: MissingElement;
}

export function elementFindings(
  running: readonly RunningPage[],
  files: ScriptFiles,
  sources: Sources,
): Finding[] {
  const lacks = running.flatMap((page): ElementLack[] =>
    page.run.missingElements.map((found) => ({ page, found })),
  );
  if (lacks.length === 0) return [];
  const runners = runnersOf(running);
  const groups = groupBy(lacks, ({ page, found }) => {
    const { file } = page.list.entries[found.at] as Entry;
    const isNowhere = found.is === 'nowhere';
    return [
      file ?? page.share.file,
      file === null ? tagOf(page, found.at) : '',
      found.step.start,
      isNowhere,
    ].join('\n');
  });
  return [...groups.values()].flatMap((alike, number) =>
    new Telling(alike, runners, files, sources).findings(number < MOST_SOUGHT),
  );
}

function tagOf(page: RunningPage, script: number): number {
  return (page.list.entries[script] as Entry).tag;
}

class Telling {
  readonly #first: ElementLack;

  constructor(
    readonly alike: readonly ElementLack[],
    readonly runners: ReadonlyMap<string, readonly string[]>,
    readonly files: ScriptFiles,
    readonly sources: Sources,
  ) {
    this.#first = alike[0] as ElementLack;
  }

  findings(isSought: boolean): Finding[] {
    const { page, found } = this.#first;
    const { list, share } = page;
    const entry = list.entries[found.at] as Entry;
    const { file, span } = spotIn(share, entry, found.step, this.files, this.sources.bytesOf);
    const pages = [...new Set(this.alike.map((one) => one.page.share.file))];
    const all = this.runners.get(entry.file ?? share.file) ?? pages;
    const near = isSought ? this.#near() : null;
    const missing = {
      selector: selectorOf(found.query),
      user: this.#user,
      page: share.file,
      is: found.is,
      at: this.#place(),
      isAfterLoad: found.isAfterLoad && found.query.isLate,
      near,
      others: all.filter((path) => !pages.includes(path)),
    };
    for (const rule of elementRules) {
      const said = rule.judgeElement(missing);
      if (said === null) continue;
      const remark = { ...span, holder: ELEMENT, written: missing.selector, ...said };
      const finding = placed(draftOfRemark(rule, file, remark), this.sources.extentIn(file, span));
      const isEverywhere = isPage(file) || pages.length === all.length;
      return [{ ...finding, pages: isEverywhere ? null : pages, mends: this.#mends(near) }];
    }
    return [];
  }

  /** The script that looks for it, as people call it. */
  get #user(): string {
    const { page, found } = this.#first;
    return calledIn(page, page.list.entries[found.script] as Entry, this.sources);
  }

  /** Where the page has it, as people find it. */
  #place(): string | null {
    const { page, found } = this.#first;
    const { share } = page;
    const place = placeOfElement(share, found.query, this.sources.bytesOf);
    if (place === null) return null;
    const { line } = this.sources.extentIn(share.file, { offset: place, length: 1 });
    return `${share.file}:${line}`;
  }

  /** What the page has and is called nearly so, as a selector. */
  #near(): string | null {
    const { page, found } = this.#first;
    const { by, word } = singleWord(found.query);
    if (word === null) return null;
    const words = elementsOf(page.share, this.sources.bytesOf).wordsOf(by === 'id' ? 'id' : 'class');
    const near = nearestName(word, words);
    return near && selectorOf({ by, value: near, index: 0 });
  }

  #mends(near: string | null): Mend[] {
    const { found } = this.#first;
    if (found.is !== 'nowhere') return this.#later();
    const { literal, by } = found.query;
    if (near === null || literal === null) return [];
    return this.#written(by === 'selector' ? near : near.slice(1), literal);
  }

  /** Another word in the place of the one that was written. */
  #written(text: string, literal: { readonly start: number; readonly end: number }): Mend[] {
    const { page, found } = this.#first;
    const within = { start: literal.start + 1, end: literal.end - 1 };
    const { file, span } = spotIn(
      page.share,
      page.list.entries[found.at] as Entry,
      within,
      this.files,
      this.sources.bytesOf,
    );
    const edits = [{ file, start: span.offset, end: span.offset + span.length, text }];
    return [{ sure: false, title: `write ${text}`, target: null, walk: [], edits }];
  }

  /** The script waits until the page is there, or stands at its end. */
  #later(): Mend[] {
    if (this.alike.length > MOST_PAGES) return [];
    for (const propose of [this.#deferred, this.#moved]) {
      const proposals = this.alike.map((lack) => propose.call(this, lack));
      if (!proposals.every((one) => one !== null)) continue;
      const edits = proposals.flat();
      const user = this.#user;
      const title =
        propose === this.#deferred ? this.#deferredTitle(user) : `move ${user} to the end of the body`;
      return [{ sure: true, title, target: null, walk: [], edits }];
    }
    return [];
  }

  #deferredTitle(user: string): string {
    const { page, found } = this.#first;
    const { share, list } = page;
    const { tag, runs } = list.entries[found.script] as Entry;
    if (runs !== 'async') return `defer ${user}`;
    return deferAsyncTitle(user, this.sources.bytesOf(share.file), share.scripts[tag] as ScriptTag);
  }

  #deferred({ page, found }: ElementLack): FileEdit[] | null {
    const { share, list } = page;
    const { tag: number, file, runs } = list.entries[found.script] as Entry;
    if (file === null || !agreesWithAscii(share.encoding)) return null;
    const scripts = list.entries.map(
      (one): Entry => (one.tag === number ? { ...one, runs: 'deferred' } : one),
    );
    if (!this.#holds(page, number, scripts, share.scripts)) return null;
    const [bytes, tag] = [this.sources.bytesOf(share.file), share.scripts[number] as ScriptTag];
    const edit = runs === 'async' ? deferAsync(bytes, tag) : addAttribute(bytes, tag, 'defer');
    return edit && [{ file: share.file, ...edit }];
  }

  #moved({ page, found }: ElementLack): FileEdit[] | null {
    const { share, list } = page;
    const { tag: number, runs } = list.entries[found.script] as Entry;
    if (runs !== 'at-once' || !agreesWithAscii(share.encoding)) return null;
    const isMoved = ({ tag }: Entry) => Number(tag === number);
    const scripts = list.entries.toSorted((one, other) => isMoved(one) - isMoved(other));
    const tags = share.scripts.map((tag, index) =>
      index === number ? { ...tag, offset: Number.POSITIVE_INFINITY, isInHead: false } : tag,
    );
    if (!this.#holds(page, number, scripts, tags)) return null;
    const edits = moveTagToEnd(
      this.sources.bytesOf(share.file),
      share.encoding,
      share.scripts[number] as ScriptTag,
    );
    return edits?.map((edit) => ({ file: share.file, ...edit })) ?? null;
  }

  /**
   * True where nothing comes too early for the script of that tag then, and nothing is missing that was not before; of many
   * scripts nothing is tried.
   */
  #holds(
    { share, list, run }: RunningPage,
    number: number,
    entries: readonly Entry[],
    tags: readonly ScriptTag[],
  ): boolean {
    if (entries.length > MOST_TRIED) return false;
    const { bytesOf } = this.sources;
    const find = finderFor(share, { entries }, this.files, bytesOf, [], tags);
    const after = runPage(entries as readonly PageScript[], () => false, find);
    const names = new Set(run.missing.map(({ step }) => step.name));
    const tagIn = (among: readonly Entry[], script: number) => (among[script] as Entry).tag;
    const early = new Set(
      run.missingElements.map(({ script, step }) => `${tagIn(list.entries, script)} ${step.start}`),
    );
    return (
      after.missing.every(({ step }) => names.has(step.name)) &&
      after.missingElements.every(({ is, script, step }) => {
        const tag = tagIn(entries, script);
        return is === 'nowhere' || (tag !== number && early.has(`${tag} ${step.start}`));
      })
    );
  }
}

/** The one id or class that is looked for; the word is null where there is more to it. */
function singleWord({ by, value }: ElementQuery): {
  readonly by: 'id' | 'class';
  readonly word: string | null;
} {
  if (by === 'id' || by === 'class') return { by, word: /\s/.test(value) ? null : value };
  const [, mark, word] = (by === 'selector' && /^([#.])([\w-]+)$/.exec(value)) || [];
  return { by: mark === '.' ? 'class' : 'id', word: word ?? null };
}
