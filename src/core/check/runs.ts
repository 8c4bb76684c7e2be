/** What addresses in scripts come to on the pages that run them: those that count from there, and bare module specifiers. */

import { groupBy, pushTo } from '../group-by.ts';
import { draftOfRemark, judgeAddress, placed } from '../judge/drafts.ts';
import { judgeGuess } from '../judge/guess.ts';
import { IN_SCRIPTS } from '../judge/in-scripts.ts';
import { absent } from '../judge/rules/absent.ts';
import { letterCase } from '../judge/rules/letter-case.ts';
import type { Finding, Mend } from '../report.ts';
import { resolveIn } from '../resolve/published.ts';
import type { Resolver } from '../resolve/resolver.ts';
import { mapSpecifier } from '../resolve/specifier.ts';
import type { SiteView, Subject } from '../resolve/subject.ts';
import { folderOf } from '../site/inventory.ts';
import type { RunAddress, Share } from './share.ts';

/** As what a worker is run; by several, as what most scripts cannot be. */
export type WorkerGoal = 'script' | 'module';

/** What is known of all addresses that the pages tell. */
export interface RunFacts {
  readonly findings: readonly Finding[];
  /** Files that pages get by them, by page. */
  readonly used: ReadonlyMap<string, readonly string[]>;
  /** The workers that they start, and that those start. */
  readonly workers: ReadonlyMap<string, WorkerGoal>;
}

/** What one address comes to on the pages that run it. */
interface Outcome {
  readonly failing: { readonly finding: Finding; readonly pages: readonly string[] }[];
  holds: boolean;
}

/** Code that runs with one address to start from: pages that run the same, or a worker of theirs (HTML 8.1.3.2). */
interface Realm {
  readonly pages: readonly Share[];
  readonly base: string | null;
  readonly imports: Share['imports'];
  /** The files that run in it; more come as they are found. */
  readonly files: Set<string>;
  /** What its scripts may put in front of paths; null where that may be anything. */
  readonly prefixes: ReadonlySet<string> | null;
}

/** Judges the addresses of all files; what no page runs is not judged. `putIn`: pieces that pages name in attributes. */
export function judgeRuns(
  shares: ReadonlyMap<string, Share>,
  putIn: ReadonlyMap<string, readonly string[]>,
  site: SiteView,
  resolver: Resolver,
): RunFacts {
  const runs = new Runs(shares, putIn, site, resolver);
  const pages = [...shares.values()]
    .filter(({ record }) => record !== null)
    .sort((one, other) => (one.file < other.file ? -1 : 1));
  const keyIn = (page: Share) => (runs.piecesOf(page.file).length > 0 ? page.file : keyOf(page));
  for (const alike of groupBy(pages, keyIn).values()) runs.judgePages(alike);
  return runs.facts();
}

/** Pages of one folder that run the same, and say nothing of it themselves, are alike. */
function keyOf({ file, base, loads, imports, runAddresses, workers, prefixes }: Share): string {
  if (runAddresses.length > 0 || workers.length > 0 || imports !== null) return file;
  const scripts = [...loads].flatMap(([path, kind]) => (isRun(kind) ? path : [])).sort();
  return JSON.stringify([base === null ? null : folderOf(base), scripts, prefixes]);
}

function isRun(kind: string): boolean {
  return kind === 'module' || kind === 'script';
}

function goalOf(kind: string | undefined): WorkerGoal {
  return kind === 'module' ? 'module' : 'script';
}

const NO_LOADS: Share['loads'] = new Map();

function noteWorker(workers: Map<string, WorkerGoal>, path: string, goal: WorkerGoal): void {
  if (goal === 'script' || !workers.has(path)) workers.set(path, goal);
}

/** Most that are tried in front of each string. */
const MOST_PREFIXES = 50;

class Runs {
  readonly #outcomes = new Map<RunAddress, Outcome>();
  readonly #used = new Map<string, string[]>();
  readonly #workers = new Map<string, WorkerGoal>();
  /** Pieces by their folders. */
  readonly #piecesIn: ReadonlyMap<string, readonly string[]>;

  constructor(
    readonly shares: ReadonlyMap<string, Share>,
    readonly putIn: ReadonlyMap<string, readonly string[]>,
    readonly site: SiteView,
    readonly resolver: Resolver,
  ) {
    const pieces = [...shares.values()].flatMap(({ file, isApart }) => (isApart ? file : []));
    this.#piecesIn = groupBy(pieces, folderOf);
  }

  facts(): RunFacts {
    return {
      findings: [...this.#outcomes].flatMap(([address, outcome]) => findingOf(address, outcome)),
      used: this.#used,
      workers: this.#workers,
    };
  }

  judgePages(pages: readonly Share[]): void {
    const [{ file, base, imports }] = pages as [Share];
    const workers = this.#judge(pages, base, imports, [file]);
    // No import map is for a worker.
    for (const [worker] of workers)
      for (const [more, goal] of this.#judge(pages, worker, null, [worker])) noteWorker(workers, more, goal);
    for (const [worker, goal] of workers) noteWorker(this.#workers, worker, goal);
  }

  /** Judges what runs from there, by way of other files too; returns the workers that it starts. */
  #judge(
    pages: readonly Share[],
    base: string | null,
    imports: Share['imports'],
    starts: readonly string[],
  ): Map<string, WorkerGoal> {
    const workers = new Map<string, WorkerGoal>();
    const files = new Set(starts);
    for (const file of files) {
      const { loads = NO_LOADS, runAddresses = [], workers: own = [] } = this.shares.get(file) ?? {};
      for (const path of own) noteWorker(workers, path, goalOf(loads.get(path)));
      for (const [path, kind] of loads) if (isRun(kind) && !own.includes(path)) files.add(path);
      for (const piece of this.piecesOf(file)) {
        files.add(piece);
        for (const page of pages) pushTo(this.#used, page.file, piece);
      }
      for (const address of runAddresses) {
        if (address.as === 'guess') continue;
        const found = this.#found(address, file, { pages, base, imports });
        if (found === null) continue;
        for (const page of pages) pushTo(this.#used, page.file, found);
        if (address.as === 'worker') noteWorker(workers, found, goalOf(address.reference.kind));
        else if (isRun(address.reference.kind)) files.add(found);
      }
    }
    const realm = { pages, base, imports, files, prefixes: this.#prefixesOf(files) };
    for (const file of files)
      for (const address of this.shares.get(file)?.runAddresses ?? []) this.#note(address, file, realm);
    return workers;
  }

  /** Pieces that a file puts in: those that it names, all of a folder that it names, and those of its attributes. */
  piecesOf(file: string): readonly string[] {
    const names = this.shares.get(file)?.names ?? [];
    const isPiece = (path: string) => this.shares.get(path)?.isApart === true;
    const named = names.flatMap((path) =>
      path.endsWith('/') ? (this.#piecesIn.get(path) ?? []) : isPiece(path) ? path : [],
    );
    return [...named, ...(this.putIn.get(file) ?? [])];
  }

  #prefixesOf(files: ReadonlySet<string>): Realm['prefixes'] {
    const all = new Set<string>();
    for (const file of files) {
      const { prefixes = [] } = this.shares.get(file) ?? {};
      if (prefixes === null) return null;
      for (const prefix of prefixes) all.add(prefix);
    }
    // Where so much may stand in front, any may.
    return all.size > MOST_PREFIXES ? null : all;
  }

  /** The file that the realm gets by an address; null where there is none. */
  #found(
    { reference: { written }, as }: RunAddress,
    file: string,
    { base, imports }: Pick<Realm, 'pages' | 'base' | 'imports'>,
  ): string | null {
    const mapped = as === 'specifier' ? mapSpecifier(written, imports, base, file) : null;
    if (mapped !== null && mapped.by !== 'prefix') return null;
    return this.#fileAt(base, mapped?.address ?? written);
  }

  #fileAt(base: string | null, address: string): string | null {
    return this.resolver.leadsFrom(base, false).of(address.replace(/#.*/s, '')).found?.path ?? null;
  }

  #note(address: RunAddress, file: string, realm: Realm): void {
    let outcome = this.#outcomes.get(address);
    // A string that is the path of a file from one page is told on none.
    if (outcome?.holds === true && address.as === 'guess' && !address.isLoading) return;
    const finding = this.#judgeIn(address, file, realm);
    if (finding === 'unknown') return;
    if (outcome === undefined) {
      outcome = { failing: [], holds: false };
      this.#outcomes.set(address, outcome);
    }
    if (finding === null) outcome.holds = true;
    else outcome.failing.push({ finding, pages: realm.pages.map((page) => page.file) });
  }

  /** What is wrong with an address in a realm; null where it holds there. */
  #judgeIn(address: RunAddress, file: string, realm: Realm): Finding | null | 'unknown' {
    const { reference, extent, as } = address;
    const { base } = realm;
    if (as === 'specifier') return this.#judgeSpecifier(address, file, realm);
    if (as === 'guess' && this.#holdsSomehow(address, file, realm)) return null;
    const target = resolveIn(reference.written, base, this.site.published);
    const found = this.#fileAt(base, reference.written);
    const subject: Subject = { file, base, reference, target, found, site: this.site };
    const draft = as === 'guess' ? judgeGuess(subject) : judgeAddress(subject);
    if (draft === null) return as === 'guess' ? 'unknown' : null;
    const isElsewhere = base !== null && folderOf(base) !== folderOf(file);
    const message = isElsewhere ? `${draft.message}, as seen from ${base}` : draft.message;
    // A script that is named otherwise than it is called does not mean itself.
    const mends = draft.mends.filter((mend) => mend.target !== file || draft.rule === letterCase.name);
    return placed({ ...draft, message, mends }, extent);
  }

  /** True where the string is the path of a file from anywhere that the script may start it from. */
  #holdsSomehow({ reference: { written }, isLoading }: RunAddress, file: string, realm: Realm): boolean {
    const { base, prefixes } = realm;
    if (prefixes === null) return true;
    if (this.#fileAt(base, written) !== null) return true;
    if (!isLoading && this.#fileAt(file, written) !== null) return true;
    return [...prefixes].some((prefix) => this.#fileAt(base, prefix + written) !== null);
  }

  #judgeSpecifier(
    address: RunAddress,
    file: string,
    { base, imports, pages: [page] }: Realm,
  ): Finding | null {
    const { reference, extent } = address;
    const { written } = reference;
    const mapped = mapSpecifier(written, imports, base, file);
    if (mapped.by === 'name') return null;
    if (mapped.by === 'nothing') {
      // A worker starts from itself.
      const isOfPage = page?.base === base;
      const owner = page?.file === file ? 'the page' : page?.file;
      const lacks = isOfPage ? `no import map of ${owner} names it` : 'no import map is there for workers';
      const message = `${lacks}, and without one only addresses that start with ./, ../ or / name a file`;
      const { offset, length, holder, kind } = reference;
      return placed(draftOfRemark(absent, file, { offset, length, holder, written, kind, message }), extent);
    }
    if (this.#fileAt(base, mapped.address) !== null) return null;
    const target = resolveIn(mapped.address, base, this.site.published);
    const subject = {
      file,
      base,
      reference: { ...reference, written: mapped.address },
      target,
      found: null,
      site: this.site,
    };
    const draft = judgeAddress(subject);
    // In a file of its own, what is to be mended is the map.
    if (draft === null) return null;
    return placed({ ...draft, written, mends: page?.file === file ? draft.mends : [] }, extent);
  }
}

/** Where it holds on other pages, those where it fails are named, and no edit is right for all. */
function findingOf({ reference, as, isLoading }: RunAddress, { failing, holds }: Outcome): Finding[] {
  const [first, ...others] = failing;
  if (first === undefined) return [];
  const { finding } = first;
  if (!holds) return [{ ...finding, mends: mendsForAll(finding, others) }];
  if (as === 'guess' && !isLoading) return [];
  const isMilder = reference.from === 'some-page' && finding.grade === 'broken';
  const grade = isMilder ? IN_SCRIPTS.grade : finding.grade;
  // On a page that runs a module of its own, what it says holds or fails as a whole.
  const mends = as === 'specifier' ? finding.mends : [];
  const message = as === 'specifier' ? finding.message : `${finding.message}; on other pages it holds`;
  return [{ ...finding, grade, message, mends, pages: failing.flatMap(({ pages }) => pages) }];
}

/** Those that are right for all pages; where none is, those of the first, as guesses. */
function mendsForAll({ mends }: Finding, others: Outcome['failing']): readonly Mend[] {
  const isForAll = ({ title }: Mend) =>
    others.every(({ finding }) => finding.mends.some((mend) => mend.title === title));
  const forAll = mends.filter(isForAll);
  return forAll.length > 0 ? forAll : mends.map((mend) => ({ ...mend, sure: false }));
}
