/** The check: inventory, then readings, then each file's share, then what only the whole site tells. */

import { causesOf } from '../judge/causes.ts';
import { type GradeSettings, gradedBy } from '../judge/grading.ts';
import { concerned, spotRule } from '../judge/index.ts';
import type { Answer, Answering } from '../judge/rule.ts';
import { withOwnNames } from '../mend/own-name.ts';
import { onceFor } from '../once-for.ts';
import { openPage } from '../page/page.ts';
import { mastersIn } from '../page/parts.ts';
import { AT_START, type Extent, extentOf, type Position, positionsIn } from '../read/lines.ts';
import { notText } from '../read/not-text.ts';
import { isOwnReport } from '../read/own-report.ts';
import { isPage, isRead, readFile } from '../read/read.ts';
import { type Span, toldBy } from '../read/reading.ts';
import { byPlace, countGrades, type Finding, type SiteReport, type Unread } from '../report.ts';
import type { Published } from '../resolve/published.ts';
import { Resolver } from '../resolve/resolver.ts';
import type { SiteView } from '../resolve/subject.ts';
import { isSameSet } from '../same.ts';
import { INDEX } from '../site/formats.ts';
import type { Algorithm } from '../site/integrity.ts';
import type { Inventory } from '../site/inventory.ts';
import { inferPlaces, type Places } from '../site/places.ts';
import { apartFrom, NONE_APART, piecesPutInto } from './apart.ts';
import { brokenDataOf } from './broken-data.ts';
import { Contents } from './contents.ts';
import { inOneList, type Question } from './elsewhere.ts';
import { Ledger } from './ledger.ts';
import { LoadOrder } from './load-order.ts';
import { type Loads, loadsOf, type Sizes } from './loads.ts';
import { FileMarks } from './marks.ts';
import { type ScriptOfPage, scriptsOfPage } from './page-scripts.ts';
import { Reach } from './reach.ts';
import { judgeRuns, type RunFacts } from './runs.ts';
import { Sayings } from './sayings.ts';
import { buildsOf, type StatedLibraries } from './script-files.ts';
import { SecondLook } from './second-look.ts';
import type { Share, Surroundings } from './share.ts';
import { type Leads, meantBy, missedBy, SiteJudgement } from './site-facts.ts';
import { type SiteMap, siteMapOf } from './site-map.ts';
import { shareOf } from './take.ts';
import { toldOnce, withReach } from './told.ts';
import { Dependents } from './touched.ts';
import { followingCommand, type Recorded } from './vanished.ts';
import { type Who, whoRefersTo } from './who.ts';

/** A check under way. Give it the bytes of every file in {@link Check.wanted}, then ask for the report. */
export interface Check {
  /** Site paths of the files whose bytes are needed, in order. */
  readonly wanted: readonly string[];
  /** Reads one file; keeps nothing of `bytes`, and only what the report needs. */
  take(path: string, bytes: Uint8Array): void;
  /** Notes that a file could not be read. */
  skip(path: string, why: string): void;
  /**
   * Judges all that was taken. `bytesOf` is asked once for each file with findings, for their lines; `choose` says which
   * of them are told.
   */
  report(folder: string, bytesOf: (path: string) => Uint8Array, choose?: Choose): SiteReport;
  /** What other hosts are to be asked for by the files that were taken, each address once. */
  questions(): readonly Question[];
  /** Notes what they answered, by address. */
  answer(answers: ReadonlyMap<string, Answer>): void;
  /** Who refers to files of the site; `folder` where they are all that it holds. */
  who(files: ReadonlySet<string>, folder: string | null, bytesOf: (path: string) => Uint8Array): Who;
  /** What a page of the site loads, and its scripts in the order in which they run. */
  loads(page: string, sizes: Sizes): Loads & { readonly scripts: readonly ScriptOfPage[] };
  /** The pages that load a file by any chain, as of the last report. */
  pagesThatLoad(file: string): readonly string[];
  /** Files, and folders of files whose names a script puts together, that something refers to; as of the last report. */
  usedFiles(): ReadonlySet<string>;
  /** The site as a whole; `report` is the last one. */
  siteMap(report: SiteReport, sizeOf: (path: string) => number): SiteMap;
  /** Makes ready for {@link Check.renew}, which else takes longer the first time: worth it while nobody waits. */
  prepare(): void;
  /**
   * Notes what became of the site: what it holds now, and which files were changed. The files in
   * {@link Check.wanted} are then those to take again before the next report: what the change touches, no more.
   */
  renew(inventory: Inventory, changed: ReadonlySet<string>, places?: Places): void;
}

/** Of all findings, which are told and which are accepted; the others are left out. */
type Choose = (findings: readonly Finding[]) => Pick<SiteReport, 'findings' | 'accepted'>;

export interface CheckOptions {
  /** The page that holds the masters of parts. */
  readonly entry?: string;
  readonly places?: Places;
  readonly published?: Published | null;
  /** Rules whose grade is another one, or of which nothing is told. */
  readonly grades?: GradeSettings;
  /** The first bytes of a file; null where it cannot be read. */
  readonly headOf: (path: string) => Uint8Array | null;
  /** The digest of a file, in base64; null where it cannot be read. */
  readonly digestOf: (path: string, algorithm: Algorithm) => string | null;
  /** The SHA-256 in base64 that a file had when something was last kept of it; null where nothing is known. */
  readonly digestBefore?: (path: string) => string | null;
  /** The texts that the project's starter has in place of the site's own. */
  readonly samples?: readonly string[];
  /** Libraries, as the settings state them. */
  readonly libraries?: StatedLibraries;
  /** Other hosts are to be asked: see {@link Check.questions}. */
  readonly isOnline?: boolean;
}

/** Files whose lines are kept while findings are placed. */
const MOST_COUNTED = 50;
/** Most pages of a site whose navigations are compared. */
const MOST_BY_HAND = 500;

export function startCheck(inventory: Inventory, options: CheckOptions): Check {
  return new SiteCheck(inventory, options);
}

class SiteCheck implements Check {
  wanted: readonly string[];
  /** What the site holds now; what was judged sees it change. */
  readonly #site: SiteView;
  #surroundings: Surroundings;
  readonly #ledger = new Ledger();
  readonly #unread = new Map<string, string>();
  /** HTML files that are no pages. */
  #apart = NONE_APART;
  /** Reports of checks that lie in the site. */
  readonly #ownReports = new Set<string>();
  readonly #secondLook: SecondLook;
  readonly #judgement: SiteJudgement;
  readonly #loadOrder: LoadOrder;
  /** Who depends on what; made when the site first changes. */
  #dependents: Dependents | null = null;
  readonly #contents: Contents;
  #reach: { readonly key: string; readonly reach: Reach } | null = null;
  #runs: { readonly version: string; readonly facts: RunFacts } | null = null;

  constructor(
    inventory: Inventory,
    readonly options: CheckOptions,
  ) {
    const { entry = INDEX, places = inferPlaces(inventory.folders), published = null } = options;
    this.#contents = new Contents(options.headOf, options.digestOf);
    this.#site = {
      inventory,
      published,
      places,
      entry,
      anchorsOf: (path) => this.#ledger.get(path)?.anchors ?? null,
      contentOf: this.#contents.of,
      holds: this.#contents.holds,
    };
    this.#surroundings = {
      site: this.#site,
      resolver: new Resolver(inventory, published, concerned.address),
      sayings: new Sayings(),
      marks: new FileMarks(),
      isOnline: options.isOnline ?? false,
      comparesMenus: pageAmount(inventory) <= MOST_BY_HAND,
      builds: buildsOf(options.libraries ?? {}),
      samples: options.samples ?? [],
      masters: new Map(),
    };
    this.#secondLook = new SecondLook(this.#site, this.#ledger, this.#surroundings.resolver);
    this.#judgement = new SiteJudgement(this.#site, this.#ledger, options.samples ?? []);
    this.#loadOrder = new LoadOrder(this.#ledger, options.libraries ?? {});
    this.wanted = inOrder([...inventory.files].filter(isRead), entry);
  }

  prepare(): void {
    this.#prepared();
  }

  loads(page: string, sizes: Sizes): Loads & { readonly scripts: readonly ScriptOfPage[] } {
    const { resolver } = this.#surroundings;
    const { bytesOf } = sizes;
    this.#tellApart(bytesOf);
    const share = this.#ledger.get(page) as Share;
    const running = this.#loadOrder.runOf(share, resolver, bytesOf);
    const scripts = scriptsOfPage(running, { bytesOf, extentIn: this.#extentsIn(bytesOf) });
    return { ...loadsOf(page, resolver, sizes), scripts };
  }

  pagesThatLoad(file: string): readonly string[] {
    return this.#reach?.reach.pagesThatLoad(file) ?? [];
  }

  usedFiles(): ReadonlySet<string> {
    return this.#judgement.used;
  }

  siteMap(report: SiteReport, sizeOf: (path: string) => number): SiteMap {
    return siteMapOf(this.#ledger, this.#site.entry, report, sizeOf);
  }

  who(files: ReadonlySet<string>, folder: string | null, bytesOf: BytesOf): Who {
    this.#tellApart(bytesOf);
    const { entry } = this.#site;
    const { resolver } = this.#surroundings;
    const { used } = this.#judgeRuns();
    return whoRefersTo(files, folder, { ledger: this.#ledger, resolver, used, entry, bytesOf });
  }

  /** Who depends on what, from now on kept up. */
  #prepared(): Dependents {
    this.#ledger.prepare();
    this.#secondLook.prepare();
    this.#dependents ??= new Dependents(this.#ledger.shares.values());
    return this.#dependents;
  }

  renew(inventory: Inventory, changed: ReadonlySet<string>, places = inferPlaces(inventory.folders)): void {
    const { entry, published } = this.#site;
    const before = this.#site.inventory;
    const { moved, touched, gone } = this.#prepared().changeOf(
      before,
      inventory,
      { changed, othersOf: (files) => this.#others(files) },
      entry,
    );
    // What was worked out of an inventory stays good for as long as its files do.
    const isSame = moved.size === 0 && isSameSet(before.closed, inventory.closed);
    const kept = isSame ? before : inventory;
    const isSamePlaces = JSON.stringify(places) === JSON.stringify(this.#site.places);
    if (!isSame || !isSamePlaces) this.#ledger.note('names');
    if (!isSame) this.#loadOrder.forget();
    Object.assign(this.#site, {
      inventory: kept,
      places: isSamePlaces ? this.#site.places : places,
      // Another one: what was worked out by the one before is out of date.
      contentOf: (path: string) => this.#contents.of(path),
    });
    const resolver = isSame
      ? this.#surroundings.resolver
      : new Resolver(inventory, published, concerned.address, this.#surroundings.resolver.spots);
    const masters = gone.includes(entry) ? new Map() : this.#surroundings.masters;
    this.#surroundings = { ...this.#surroundings, resolver, sayings: new Sayings(), masters };
    this.#secondLook.changed(resolver);
    for (const path of gone) {
      this.#forget(path);
      this.#ownReports.delete(path);
    }
    for (const path of this.#unread.keys())
      if (touched.has(path) || !inventory.files.has(path)) this.#unread.delete(path);
    this.wanted = inOrder([...touched], entry);
  }

  /** Files of which something is no longer true that was answered before; what scripts get is judged again then. */
  #others(altered: ReadonlySet<string>): ReadonlySet<string> {
    const others = this.#contents.renewed(altered);
    if (others.size > 0) this.#ledger.modules++;
    return others;
  }

  #forget(file: string): void {
    const share = this.#ledger.get(file);
    if (share === undefined) return;
    this.#judgement.forget(file);
    this.#ledger.delete(file);
    this.#loadOrder.note(share, undefined);
    this.#secondLook.forget(share);
    this.#dependents?.remove(share);
  }

  skip(file: string, why: string): void {
    this.#unread.set(file, why);
    this.#forget(file);
  }

  take(file: string, bytes: Uint8Array): void {
    if (isOwnReport(bytes)) {
      this.#forget(file);
      this.#ownReports.add(file);
      return;
    }
    this.#ownReports.delete(file);
    const binary = notText(bytes);
    if (binary !== null) this.skip(file, binary);
    const reading = binary === null ? readFile(file, bytes) : null;
    if (reading === null) return;
    if (reading.faults.some(({ code }) => toldBy[code] === 'unread'))
      this.#unread.set(
        file,
        'its code is nested too deeply to be read: the rest of the site is judged without it',
      );
    if (file === this.#surroundings.site.entry)
      this.#surroundings.masters = mastersIn(openPage(file, new Uint8Array(bytes), reading));
    const before = this.#ledger.get(file);
    const share = shareOf(file, bytes, reading, this.#surroundings, this.#apart.files.has(file));
    if (before !== undefined) {
      this.#judgement.forget(file);
      this.#dependents?.remove(before);
    }
    this.#ledger.set(share);
    this.#loadOrder.note(before, share);
    this.#secondLook.note(share, before);
    this.#dependents?.add(share);
  }

  /** Tells pages from other HTML files, once all were taken: those that turn out to be something else are taken again. */
  #tellApart(bytesOf: BytesOf): void {
    const before = this.#apart.files;
    this.#apart = apartFrom(this.#ledger.shares, this.#site.entry, this.#surroundings.resolver, bytesOf);
    const { files } = this.#apart;
    for (const file of files) if (!before.has(file)) this.take(file, bytesOf(file));
    for (const file of before)
      if (!files.has(file) && this.#ledger.get(file) !== undefined) this.take(file, bytesOf(file));
  }

  questions(): readonly Question[] {
    return inOneList([...this.#ledger.shares.values()].flatMap(({ questions }) => questions));
  }

  answer(answers: ReadonlyMap<string, Answer>): void {
    this.#secondLook.answers = answers;
  }

  report(folder: string, bytesOf: BytesOf, choose: Choose = chooseAll): SiteReport {
    this.#tellApart(bytesOf);
    const { inventory } = this.#site;
    const ledger = this.#ledger;
    const all = [...ledger.speaking].flatMap((share) => [
      ...share.suspected,
      ...this.#secondLook.suspected(share),
    ]);
    const suspected = withOwnNames(all, this.#site, (file) => (ledger.get(file) as Share).base);
    const meant = meantBy(suspected);
    const found = toldOnce(this.#found(suspected, meant, bytesOf), inventory);
    const reach = this.#reachNow(meant);
    const recorded = this.#recorded();
    const graded = gradedBy(this.options.grades ?? {}, withReach(found, reach));
    const { findings, accepted } = choose(graded.toSorted(byPlace));
    return {
      folder,
      pages: pageAmount(inventory) - this.#ownReports.size - this.#apart.files.size,
      files: inventory.files.size,
      references: ledger.references,
      external: ledger.external,
      asked: this.options.isOnline ? this.questions().length : null,
      counts: countGrades(findings),
      causes: causesOf(findings, reach, (all) => followingCommand(all, ledger, inventory, recorded)),
      findings,
      accepted,
      unread: Array.from(this.#unread, ([file, why]): Unread => ({ file, why })),
    };
  }

  /** Each file is looked at once for all causes. */
  #recorded(): Recorded {
    const { digestOf, digestBefore = () => null } = this.options;
    const known = new Map<string, string | null>();
    return {
      digestBefore,
      digestNow(path) {
        const digest = known.get(path) ?? digestOf(path, 'sha256');
        known.set(path, digest);
        return digest;
      },
    };
  }

  /** `suspected`: what is said of addresses; `meant`: what those were meant for. */
  #found(suspected: readonly Finding[], meant: Leads, bytesOf: BytesOf): readonly Finding[] {
    const runs = this.#judgeRuns();
    const extentIn = this.#extentsIn(bytesOf);
    return [
      [...this.#ledger.speaking].flatMap((share) => share.findings),
      this.#missingSpots(bytesOf),
      this.options.isOnline ? this.#answered(bytesOf) : [],
      runs.findings,
      this.#loadOrder.judge(this.#surroundings.resolver, runs, { bytesOf, extentIn }),
      brokenDataOf(runs.used, this.#ledger, { bytesOf, extentIn }),
      suspected,
      this.#judgement.judge(
        {
          mapped: runs.used,
          meant,
          missed: missedBy(suspected, this.#site.inventory),
          isWhole: this.#isWhole,
          ownReports: this.#ownReports,
        },
        extentIn,
      ),
    ].flat();
  }

  /** False where what could not be read may lead anywhere. */
  get #isWhole(): boolean {
    return this.#site.inventory.closed.size === 0 && ![...this.#unread.keys()].some(isPage);
  }

  /** Who loads what; kept for as long as it stays so. */
  #reachNow(meant: Leads): Reach {
    const { links } = this.#ledger;
    const { inventory } = this.#site;
    const isWhole = this.#isWhole;
    const leads = [this.#judgeRuns().used, meant];
    const key = JSON.stringify([links, isWhole, ...leads.map((one) => [...one])]);
    const known = this.#reach;
    if (known?.key === key && known.reach.inventory === inventory) return known.reach;
    const reach = new Reach(this.#ledger, inventory, leads, isWhole);
    this.#reach = { key, reach };
    return reach;
  }

  #judgeRuns(): RunFacts {
    const { site, resolver } = this.#surroundings;
    const { files, putIn } = this.#apart;
    const version = JSON.stringify([
      this.#ledger.modules + this.#ledger.versionOf(['names']),
      [...files],
      [...putIn],
    ]);
    if (this.#runs?.version !== version) {
      const facts: RunFacts =
        this.#ledger.isAwaitingRuns || files.size > 0
          ? judgeRuns(this.#ledger.shares, this.#apart.putIn, site, resolver)
          : { findings: [], used: new Map(), workers: new Map() };
      this.#runs = { version, facts };
    }
    return this.#runs.facts;
  }

  /** Spots that no element of their page answers, no piece that is put into it, and no script. */
  #missingSpots(bytesOf: BytesOf): readonly Finding[] {
    const { resolver } = this.#surroundings;
    const { used } = this.#judgeRuns();
    const answering = onceFor((page: Share): Answering => {
      const scripts = this.#loadOrder.answeringOf(page, resolver, bytesOf);
      const pieces = piecesPutInto(page, used, this.#ledger).flatMap(({ anchors }) => [...(anchors ?? [])]);
      return pieces.length === 0 ? scripts : { ...scripts, ids: new Set([...scripts.ids, ...pieces]) };
    });
    return [...this.#secondLook.missingSpots(bytesOf)].flat().flatMap((finding) => {
      const page = this.#ledger.get(finding.target ?? '');
      return page === undefined ? finding : (spotRule.answered(finding, answering(page)) ?? []);
    });
  }

  #answered(bytesOf: BytesOf): Finding[] {
    return [...this.#ledger.shares.values()].flatMap((share) => this.#secondLook.answered(share, bytesOf));
  }

  /** Where something stands in a file; the lines of the last ones are not counted again. Bytes are good until the next are asked for. */
  #extentsIn(bytesOf: BytesOf): (file: string, span: Span) => Extent {
    const known = new Map<string, (offset: number) => Position>();
    return (file, span) => {
      // What is said of a file as a whole needs no look at it.
      if (span.offset === 0 && span.length === 0) return AT_START;
      let positions = known.get(file);
      if (positions === undefined) {
        if (known.size >= MOST_COUNTED) known.clear();
        positions = positionsIn(new Uint8Array(bytesOf(file)), this.#ledger.get(file)?.encoding);
        known.set(file, positions);
      }
      return extentOf(positions, span);
    };
  }
}

const chooseAll: Choose = (findings) => ({ findings, accepted: [] });

/** In order; the masters of parts come first, so that copies can be compared as they pass. */
function inOrder(paths: readonly string[], entry: string): readonly string[] {
  const others = paths.filter((path) => path !== entry).sort();
  return others.length === paths.length ? others : [entry, ...others];
}

type BytesOf = (path: string) => Uint8Array;

const pageAmount = onceFor(
  ({ files, aliases }: Inventory) => [...files].filter((path) => isPage(path) && !aliases.has(path)).length,
);
