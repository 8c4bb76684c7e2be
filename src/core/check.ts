/** The check: inventory, then readings, then each file's share, then what only the whole site tells. */
import { groupBy } from './group-by.ts';
import { Contents } from './judge/contents.ts';
import { draftOfRemark, judgeReference, placed } from './judge/drafts.ts';
import { siteRules } from './judge/index.ts';
import type { Grade, PageRecord, SiteFacts, SiteView } from './judge/rule.ts';
import { mastersIn } from './judge/rules/part-drift.ts';
import { draftOfSpot, type Share, type Surroundings, type Suspect, shareOf } from './judge/share.ts';
import { judgeSpecifiers } from './judge/specifiers.ts';
import { type Position, positionsIn } from './read/lines.ts';
import { notText } from './read/not-text.ts';
import { isPage, isRead, readFile } from './read/read.ts';
import type { Kind } from './read/reading.ts';
import { countGrades, type Finding, type Report, type Unread } from './report.ts';
import { leadsSomewhere } from './resolve/fragment.ts';
import { type Lead, type Published, Resolver } from './resolve/resolver.ts';
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
}

export function startCheck(inventory: Inventory, options: CheckOptions): Check {
  return new SiteCheck(inventory, options);
}

class SiteCheck implements Check {
  readonly wanted: readonly string[];
  readonly #surroundings: Surroundings;
  readonly #shares = new Map<string, Share>();
  readonly #unread: Unread[] = [];
  #reports = 0;

  constructor(
    readonly inventory: Inventory,
    readonly options: CheckOptions,
  ) {
    const { entry = 'index.html', places = inferPlaces(inventory.folders), published = null } = options;
    const wanted = [...inventory.files.keys()].filter((path) => isRead(path)).sort();
    // The masters of parts come first, so that copies can be compared as they pass.
    if (wanted.includes(entry)) wanted.unshift(...wanted.splice(wanted.indexOf(entry), 1));
    this.wanted = wanted;
    const contents = new Contents(inventory, options.headOf);
    const site: SiteView = {
      inventory,
      published,
      places,
      entry,
      anchorsOf: (path) => this.#shares.get(path)?.anchors ?? null,
      contentOf: contents.of,
    };
    this.#surroundings = { site, resolver: new Resolver(inventory, published), contents, masters: [] };
  }

  skip(file: string, why: string): void {
    this.#unread.push({ file, why });
  }

  take(file: string, bytes: Uint8Array): void {
    const binary = notText(bytes);
    if (binary !== null) this.skip(file, binary);
    const reading = binary === null ? readFile(file, bytes) : null;
    if (reading === null) return;
    if (file === this.#surroundings.site.entry) this.#surroundings.masters = mastersIn(file, bytes.slice());
    this.#shares.set(file, shareOf(file, bytes, reading, this.#surroundings));
  }

  report(folder: string, bytesOf: (path: string) => Uint8Array): Report {
    this.#reports++;
    const shares = [...this.#shares.values()];
    const { site, resolver } = this.#surroundings;
    const specifiers = judgeSpecifiers(this.#shares, site, resolver);
    const suspected = shares.flatMap(({ suspects }) => suspects.flatMap(judgeSuspect));
    const facts = factsOf(shares, site, specifiers.used, suspected);
    const found = [
      shares.flatMap((share) => share.findings),
      shares.flatMap((share) => this.#missingSpots(share, bytesOf)),
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
        pages: this.wanted.filter(isPage).length,
        files: this.inventory.files.size,
        references: counted(({ references }) => references),
        external: counted(({ external }) => external),
      },
      counts: countGrades(findings),
      findings,
      unread: this.#unread,
    };
  }

  /** Findings on spots of other pages that are not there: the file is read again to see where it names them. */
  #missingSpots({ file, spots }: Share, bytesOf: (path: string) => Uint8Array): Finding[] {
    if (spots.every((lead) => this.#isThere(lead))) return [];
    const bytes = bytesOf(file);
    const reading = readFile(file, bytes);
    const base = this.#shares.get(file)?.base ?? null;
    if (reading === null) return [];
    const { site, resolver } = this.#surroundings;
    const leads = resolver.leadsFrom(base, reading.base !== null);
    const positions = positionsIn(bytes, reading.encoding);
    return reading.references.flatMap((reference) => {
      const lead = leads.of(reference.written);
      // Spots of the file itself are part of its share.
      if (!lead.fragment || lead.found?.path === file || this.#isThere(lead)) return [];
      const draft = draftOfSpot(file, base, reference, site);
      return draft === null ? [] : [placed(draft, positions(draft.offset))];
    });
  }

  /** True where the page has the spot, or could not be read and so may have any. */
  #isThere(lead: Lead): boolean {
    if (lead.lookedUp === this.#reports) return lead.holds;
    lead.lookedUp = this.#reports;
    const anchors = this.#surroundings.site.anchorsOf(lead.found?.path ?? '');
    lead.holds = anchors === null || leadsSomewhere(lead.fragment ?? '', anchors);
    return lead.holds;
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

function judgeSuspect({ subject, position }: Suspect): Finding[] {
  return judgeReference(subject).map((draft) => placed(draft, position));
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

/** In the order of files and offsets. */
function byPlace(a: Finding, b: Finding): number {
  if (a.file !== b.file) return a.file < b.file ? -1 : 1;
  return a.offset - b.offset;
}
