/** The check: inventory, then readings, then each file's share, then what only the whole site tells. */
import { groupBy } from './group-by.ts';
import { Contents } from './judge/contents.ts';
import { type Draft, draftOfRemark, judgeAddress, placed } from './judge/drafts.ts';
import {
  type Answer,
  draftsOfAnswer,
  inOneList,
  isTelling,
  type Question,
  questionOf,
} from './judge/elsewhere.ts';
import { siteRules } from './judge/index.ts';
import { isJudged } from './judge/judged.ts';
import type { Grade, PageRecord, SiteFacts, SiteView } from './judge/rule.ts';
import { mastersIn } from './judge/rules/part-drift.ts';
import { draftOfSpot, type Share, type Surroundings, type Suspect, shareOf } from './judge/share.ts';
import { judgeSpecifiers } from './judge/specifiers.ts';
import type { Algorithm } from './library/integrity.ts';
import { type Position, positionsIn } from './read/lines.ts';
import { notText } from './read/not-text.ts';
import { isPage, isRead, readFile } from './read/read.ts';
import type { Kind, Reference } from './read/reading.ts';
import { countGrades, type Finding, type Report, type Unread } from './report.ts';
import { leadsSomewhere } from './resolve/fragment.ts';
import { type Lead, type Published, Resolver, type Spot, spotOf } from './resolve/resolver.ts';
import type { Inventory } from './site/inventory.ts';
import { inferPlaces, type Places } from './site/places.ts';

/** A check under way. Give it the bytes of every file in {@link Check.wanted}, then ask for the report. */
export interface Check {
  /** Site paths of the files whose bytes are needed, in order. */
  readonly wanted: readonly string[];
  /** Reads one file; keeps nothing of `bytes`, and only what the report needs. */
  take(path: string, bytes: Uint8Array): void;
  /** Notes that a file could not be read. */
  skip(path: string, why: string): void;
  /** Judges all that was taken. `bytesOf` is asked once for each file with findings, for their lines. */
  report(folder: string, bytesOf: (path: string) => Uint8Array): Report;
  /** What other hosts are to be asked for by the files that were taken, each address once. */
  questions(): readonly Question[];
  /** Notes what they answered, by address. */
  answer(answers: ReadonlyMap<string, Answer>): void;
  /**
   * Notes what became of the site: what it holds now, and which files were changed. The files in
   * {@link Check.wanted} are then those to take again before the next report: what the change touches, no more.
   */
  renew(inventory: Inventory, changed: ReadonlySet<string>, places?: Places): void;
}

export interface CheckOptions {
  /** The page that holds the masters of parts. */
  readonly entry?: string;
  readonly places?: Places;
  readonly published?: Published | null;
  /** Rules whose grade is another one, or that are switched off. */
  readonly grades?: Readonly<Record<string, Grade | 'off'>>;
  /** The first bytes of a file. */
  readonly headOf: (path: string) => Uint8Array;
  /** The digest of a file, in base64. */
  readonly digestOf: (path: string, algorithm: Algorithm) => string;
  /** Other hosts are to be asked: see {@link Check.questions}. */
  readonly isOnline?: boolean;
}

export function startCheck(inventory: Inventory, options: CheckOptions): Check {
  return new SiteCheck(inventory, options);
}

class SiteCheck implements Check {
  wanted: readonly string[];
  /** What the site holds now; what was judged sees it change. */
  readonly #site: { -readonly [Key in keyof SiteView]: SiteView[Key] };
  #surroundings: Surroundings;
  readonly #shares = new Map<string, Share>();
  readonly #unread = new Map<string, string>();
  /** What was said of shares by what the rest of the site holds; kept until that changes. */
  readonly #judged = new Map<Share, readonly Finding[]>();
  readonly #missing = new Map<
    Share,
    { readonly spots: readonly Spot[]; readonly findings: readonly Finding[] }
  >();
  #answers: ReadonlyMap<string, Answer> = new Map();
  #reports = 0;

  constructor(
    inventory: Inventory,
    readonly options: CheckOptions,
  ) {
    const { entry = 'index.html', places = inferPlaces(inventory.folders), published = null } = options;
    const contents = new Contents(inventory, options.headOf, options.digestOf);
    this.#site = {
      inventory,
      published,
      places,
      entry,
      anchorsOf: (path) => this.#shares.get(path)?.anchors ?? null,
      contentOf: contents.of,
      holds: contents.holds,
    };
    this.#surroundings = {
      site: this.#site,
      resolver: new Resolver(inventory, published),
      contents,
      isOnline: options.isOnline ?? false,
      masters: [],
    };
    this.wanted = inOrder([...inventory.files.keys()].filter(isRead), entry);
  }

  renew(inventory: Inventory, changed: ReadonlySet<string>, places = inferPlaces(inventory.folders)): void {
    const before = this.#site.inventory.files;
    const isGone = (path: string) => !inventory.files.has(path);
    const named = [...before.keys()].filter(isGone);
    const added = [...inventory.files.keys()].filter((path) => !before.has(path));
    const moved = new Set([...named, ...added]);
    const altered = new Set([...changed, ...moved]);
    const contents = new Contents(inventory, this.options.headOf, this.options.digestOf);
    this.#site.inventory = inventory;
    this.#site.places = places;
    this.#site.contentOf = contents.of;
    this.#site.holds = contents.holds;
    const { resolver } = this.#surroundings;
    this.#surroundings = {
      ...this.#surroundings,
      resolver: moved.size === 0 ? resolver : new Resolver(inventory, this.#site.published),
      contents,
    };
    const touched = new Set([...altered].filter((path) => isRead(path) && !isGone(path)));
    for (const share of this.#shares.values()) {
      if (isGone(share.file)) continue;
      if (isTouched(share, moved, altered) || (share.marksParts && altered.has(this.#site.entry)))
        touched.add(share.file);
    }
    for (const path of [...touched, ...named]) this.#forget(path);
    for (const path of this.#unread.keys()) if (isGone(path)) this.#unread.delete(path);
    if (isGone(this.#site.entry)) this.#surroundings.masters = [];
    this.wanted = inOrder([...touched], this.#site.entry);
  }

  #forget(path: string): void {
    const share = this.#shares.get(path);
    this.#unread.delete(path);
    if (share === undefined) return;
    this.#shares.delete(path);
    this.#judged.delete(share);
    this.#missing.delete(share);
    if (share.anchors === null) return;
    // What is said of other files may have to do with the spots of this page.
    for (const other of this.#judged.keys())
      if (other.suspects.some(({ subject }) => subject.reference.written.includes('#')))
        this.#judged.delete(other);
    for (const [other, { spots }] of this.#missing)
      if (spots.some(({ page }) => page.path === path)) this.#missing.delete(other);
  }

  skip(file: string, why: string): void {
    this.#unread.set(file, why);
  }

  take(file: string, bytes: Uint8Array): void {
    const binary = notText(bytes);
    if (binary !== null) this.skip(file, binary);
    const reading = binary === null ? readFile(file, bytes) : null;
    if (reading === null) return;
    if (file === this.#surroundings.site.entry)
      this.#surroundings.masters = mastersIn(file, new Uint8Array(bytes));
    this.#shares.set(file, shareOf(file, bytes, reading, this.#surroundings));
  }

  questions(): readonly Question[] {
    return inOneList([...this.#shares.values()].flatMap(({ questions }) => questions));
  }

  answer(answers: ReadonlyMap<string, Answer>): void {
    this.#answers = answers;
  }

  report(folder: string, bytesOf: (path: string) => Uint8Array): Report {
    this.#reports++;
    const shares = [...this.#shares.values()].sort(byFile);
    const { site, resolver } = this.#surroundings;
    const specifiers = judgeSpecifiers(new Map(shares.map((share) => [share.file, share])), site, resolver);
    const suspected = shares.flatMap((share) => [...share.suspected, ...this.#judgeSuspects(share)]);
    const facts = factsOf(shares, site, specifiers.used, suspected);
    const found = [
      shares.flatMap((share) => share.findings),
      shares.flatMap((share) => this.#missingSpots(share, bytesOf)),
      shares.flatMap((share) => this.#judgeAnswers(share, bytesOf)),
      specifiers.findings,
      suspected,
      this.#judgeSite(facts, bytesOf),
    ].flat();
    const findings = this.#graded(found).sort(byPlace);
    const counted = (count: (share: Share) => number) => shares.reduce((sum, share) => sum + count(share), 0);
    return {
      cravel: 1,
      site: {
        folder,
        pages: [...site.inventory.files.keys()].filter(isPage).length,
        files: site.inventory.files.size,
        references: counted(({ references }) => references),
        external: counted(({ external }) => external),
        ...(this.options.isOnline ? { asked: this.questions().length } : {}),
      },
      counts: countGrades(findings),
      findings,
      unread: Array.from(this.#unread, ([file, why]): Unread => ({ file, why })),
    };
  }

  #judgeSuspects(share: Share): readonly Finding[] {
    let findings = this.#judged.get(share);
    if (findings === undefined) {
      findings = share.suspects.flatMap(judgeSuspect);
      if (findings.length > 0) this.#judged.set(share, findings);
    }
    return findings;
  }

  #missingSpots(share: Share, bytesOf: (path: string) => Uint8Array): readonly Finding[] {
    const spots = share.spots.filter((spot) => !this.#isThere(spot));
    if (spots.length === 0) return [];
    const known = this.#missing.get(share);
    if (known !== undefined && isSame(known.spots, spots)) return known.findings;
    const findings = this.#judgeSpots(share, bytesOf);
    this.#missing.set(share, { spots, findings });
    return findings;
  }

  /** Findings on spots of other pages that are not there. */
  #judgeSpots(share: Share, bytesOf: (path: string) => Uint8Array): Finding[] {
    const { file, base } = share;
    return this.#readAgain(share, bytesOf, (reference, lead) => {
      const hash = reference.written.indexOf('#');
      // Spots of the file itself are part of its share.
      if (hash < 0 || lead.found === null || lead.found.path === file) return [];
      if (this.#isThere(spotOf(lead.found, reference.written.slice(hash + 1)))) return [];
      return draftOfSpot(file, base, reference, this.#site) ?? [];
    });
  }

  /** Findings on what other hosts answered. */
  #judgeAnswers(share: Share, bytesOf: (path: string) => Uint8Array): Finding[] {
    const telling = share.questions.filter(({ address }) => {
      const answer = this.#answers.get(address);
      return answer !== undefined && isTelling(answer);
    });
    if (telling.length === 0) return [];
    return this.#readAgain(share, bytesOf, (reference, lead) => {
      const answer = this.#answers.get(questionOf(reference, lead)?.address ?? '');
      return answer === undefined ? [] : draftsOfAnswer(share.file, reference, answer);
    });
  }

  /** Reads a file again, to see where it says what turned out to be wrong. */
  #readAgain(
    { file, base }: Share,
    bytesOf: (path: string) => Uint8Array,
    judge: (reference: Reference, lead: Lead) => Draft | readonly Draft[],
  ): Finding[] {
    const bytes = bytesOf(file);
    const reading = readFile(file, bytes);
    if (reading === null) return [];
    const leads = this.#surroundings.resolver.leadsFrom(base, reading.base !== null);
    const positions = positionsIn(bytes, reading.encoding);
    return reading.references
      .filter((reference) => isJudged(file, reference))
      .flatMap((reference) => judge(reference, leads.of(reference.written.replace(/#.*$/s, ''))))
      .map((draft) => placed(draft, positions(draft.offset)));
  }

  /** True where the page has the spot, or could not be read and so may have any. */
  #isThere(spot: Spot): boolean {
    if (spot.lookedUp === this.#reports) return spot.holds;
    spot.lookedUp = this.#reports;
    const anchors = this.#site.anchorsOf(spot.page.path);
    spot.holds = anchors === null || leadsSomewhere(spot.fragment, anchors);
    return spot.holds;
  }

  #judgeSite(facts: SiteFacts, bytesOf: (path: string) => Uint8Array): Finding[] {
    return siteRules.flatMap((rule) =>
      rule.judgeSite(facts).map(({ file, ...remark }) => {
        // What is said of a file as a whole needs no look at it.
        const position = remark.offset > 0 ? this.#positionIn(file, remark.offset, bytesOf) : START;
        return placed(draftOfRemark(rule, file, remark), position);
      }),
    );
  }

  #positionIn(file: string, offset: number, bytesOf: (path: string) => Uint8Array): Position {
    return positionsIn(bytesOf(file), this.#shares.get(file)?.encoding)(offset);
  }

  #graded(findings: Finding[]): Finding[] {
    const { grades = {} } = this.options;
    if (Object.keys(grades).length === 0) return findings;
    return findings.flatMap((finding) => {
      const grade = grades[finding.rule];
      return grade === 'off' ? [] : grade === undefined ? finding : { ...finding, grade };
    });
  }
}

/** True where what a share says depends on files that came, went or changed. */
function isTouched(share: Share, moved: ReadonlySet<string>, altered: ReadonlySet<string>): boolean {
  if (moved.size > 0) {
    if (share.suspected.length > 0 || share.suspects.length > 0 || share.hasOpenHints) return true;
    if ([...share.leadsTo, ...share.names].some((path) => moved.has(path))) return true;
  }
  for (const path of share.loads.keys()) if (altered.has(path)) return true;
  return false;
}

/** In order; the masters of parts come first, so that copies can be compared as they pass. */
function inOrder(paths: readonly string[], entry: string): readonly string[] {
  const others = paths.filter((path) => path !== entry).sort();
  return others.length === paths.length ? others : [entry, ...others];
}

function isSame(one: readonly Spot[], other: readonly Spot[]): boolean {
  return one.length === other.length && one.every((spot, index) => spot === other[index]);
}

function judgeSuspect({ subject, position }: Suspect): Finding[] {
  return judgeAddress(subject).map((draft) => placed(draft, position));
}

/** The site as a whole: what a broken reference was meant for is neither unused nor unreached. */
function factsOf(
  shares: readonly Share[],
  site: SiteView,
  mapped: ReadonlySet<string>,
  suspected: readonly Finding[],
): SiteFacts {
  const pages = new Map<string, PageRecord>();
  const used = new Set<string>(mapped);
  const loadedAs = new Map<string, Kind>();
  for (const { record, file, loads, leadsTo, names } of shares) {
    if (record !== null) pages.set(file, record);
    for (const path of leadsTo) used.add(path);
    for (const path of names) used.add(path);
    for (const [path, kind] of loads) if (!loadedAs.has(path)) loadedAs.set(path, kind);
  }
  for (const [file, findings] of groupBy(suspected, (finding) => finding.file)) {
    const meant = findings.flatMap(({ mends }) => mends.flatMap(({ target }) => fileMeant(target)));
    for (const path of meant) used.add(path);
    const record = pages.get(file);
    if (record !== undefined) pages.set(file, { ...record, leadsTo: [...record.leadsTo, ...meant] });
  }
  return { site, pages, used, loadedAs };
}

function fileMeant(target: string | null): string[] {
  if (target === null) return [];
  return [target === '' || target.endsWith('/') ? `${target}index.html` : target];
}

const START: Position = { line: 1, column: 1 };

function byFile(a: Share, b: Share): number {
  return a.file < b.file ? -1 : 1;
}

/** In the order of files and offsets. */
function byPlace(a: Finding, b: Finding): number {
  if (a.file !== b.file) return a.file < b.file ? -1 : 1;
  return a.offset - b.offset;
}
