/** The check: inventory, then readings, then each file's share, then what only the whole site tells. */

import { draftOfRemark, placed } from '../judge/drafts.ts';
import { siteRules } from '../judge/index.ts';
import type { SiteFacts } from '../judge/rule.ts';
import { mastersIn } from '../judge/rules/part-drift.ts';
import { type Position, positionsIn } from '../read/lines.ts';
import { notText } from '../read/not-text.ts';
import { isPage, isRead, readFile } from '../read/read.ts';
import { TOO_DEEP } from '../read/script/depth.ts';
import type { Grade } from '../report.ts';
import { countGrades, type Finding, type Report, type Unread } from '../report.ts';
import { type Published } from '../resolve/published.ts';
import { Resolver } from '../resolve/resolver.ts';
import type { SiteView } from '../resolve/subject.ts';
import type { Algorithm } from '../site/integrity.ts';
import type { Inventory } from '../site/inventory.ts';
import { inferPlaces, type Places } from '../site/places.ts';
import { Contents } from './contents.ts';
import { type Answer, inOneList, type Question } from './elsewhere.ts';
import { Sayings } from './sayings.ts';
import { SecondLook } from './second-look.ts';
import type { Share, Surroundings } from './share.ts';
import { factsOf } from './site-facts.ts';
import { judgeSpecifiers } from './specifiers.ts';
import { shareOf } from './take.ts';
import { changeOf } from './touched.ts';

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
  /** The first bytes of a file; null where it cannot be read. */
  readonly headOf: (path: string) => Uint8Array | null;
  /** The digest of a file, in base64; null where it cannot be read. */
  readonly digestOf: (path: string, algorithm: Algorithm) => string | null;
  /** Other hosts are to be asked: see {@link Check.questions}. */
  readonly isOnline?: boolean;
}

export function startCheck(inventory: Inventory, options: CheckOptions): Check {
  return new SiteCheck(inventory, options);
}

class SiteCheck implements Check {
  wanted: readonly string[];
  /** What the site holds now; what was judged sees it change. */
  readonly #site: SiteView;
  #surroundings: Surroundings;
  readonly #shares = new Map<string, Share>();
  readonly #unread = new Map<string, string>();
  readonly #secondLook: SecondLook;

  constructor(
    inventory: Inventory,
    readonly options: CheckOptions,
  ) {
    const { entry = 'index.html', places = inferPlaces(inventory.folders), published = null } = options;
    const contents = new Contents(options.headOf, options.digestOf);
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
      sayings: new Sayings(),
      isOnline: options.isOnline ?? false,
      masters: new Map(),
    };
    this.#secondLook = new SecondLook(this.#site, this.#surroundings.resolver);
    this.wanted = inOrder([...inventory.files].filter(isRead), entry);
  }

  renew(inventory: Inventory, changed: ReadonlySet<string>, places = inferPlaces(inventory.folders)): void {
    const { entry, published } = this.#site;
    const { moved, touched, gone } = changeOf(
      this.#site.inventory,
      inventory,
      changed,
      this.#shares.values(),
      entry,
    );
    const contents = new Contents(this.options.headOf, this.options.digestOf);
    Object.assign(this.#site, { inventory, places, contentOf: contents.of, holds: contents.holds });
    const resolver = moved.size === 0 ? this.#surroundings.resolver : new Resolver(inventory, published);
    const masters = gone.includes(entry) ? new Map() : this.#surroundings.masters;
    this.#surroundings = { ...this.#surroundings, resolver, contents, sayings: new Sayings(), masters };
    this.#secondLook.resolver = resolver;
    for (const path of [...touched, ...gone]) {
      const share = this.#shares.get(path);
      if (share !== undefined) this.#secondLook.forget(share);
      this.#shares.delete(path);
    }
    for (const path of this.#unread.keys())
      if (touched.has(path) || !inventory.files.has(path)) this.#unread.delete(path);
    this.wanted = inOrder([...touched], entry);
  }

  skip(file: string, why: string): void {
    this.#unread.set(file, why);
  }

  take(file: string, bytes: Uint8Array): void {
    const binary = notText(bytes);
    if (binary !== null) this.skip(file, binary);
    const reading = binary === null ? readFile(file, bytes) : null;
    if (reading === null) return;
    if (reading.faults.some(({ message }) => message === TOO_DEEP))
      this.skip(file, `its code is ${TOO_DEEP}: the rest of the site is judged without it`);
    if (file === this.#surroundings.site.entry)
      this.#surroundings.masters = mastersIn(file, new Uint8Array(bytes));
    this.#shares.set(file, shareOf(file, bytes, reading, this.#surroundings));
  }

  questions(): readonly Question[] {
    return inOneList([...this.#shares.values()].flatMap(({ questions }) => questions));
  }

  answer(answers: ReadonlyMap<string, Answer>): void {
    this.#secondLook.answers = answers;
  }

  report(folder: string, bytesOf: (path: string) => Uint8Array): Report {
    this.#secondLook.begin();
    const shares = [...this.#shares.values()].sort(byFile);
    const { site, resolver } = this.#surroundings;
    const specifiers = judgeSpecifiers(new Map(shares.map((share) => [share.file, share])), site, resolver);
    const suspected = shares.flatMap((share) => [...share.suspected, ...this.#secondLook.suspected(share)]);
    const facts = factsOf(shares, site, specifiers.used, suspected);
    const found = [
      shares.flatMap((share) => share.findings),
      shares.flatMap((share) => this.#secondLook.missingSpots(share, bytesOf)),
      shares.flatMap((share) => this.#secondLook.answered(share, bytesOf)),
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
        pages: [...site.inventory.files].filter(isPage).length,
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

/** In order; the masters of parts come first, so that copies can be compared as they pass. */
function inOrder(paths: readonly string[], entry: string): readonly string[] {
  const others = paths.filter((path) => path !== entry).sort();
  return others.length === paths.length ? others : [entry, ...others];
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
