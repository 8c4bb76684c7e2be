/** The check: inventory, then readings, resolved references and findings, one stage after the other. */
import { WaitingAnchors } from './judge/anchors.ts';
import { Contents } from './judge/contents.ts';
import { type Draft, draftOf, draftOfRemark, judgeReference } from './judge/drafts.ts';
import { SiteGraph } from './judge/graph.ts';
import { fileRules, pageRules, siteRules } from './judge/index.ts';
import { isEmptyAddress, isJudged, isSpecifier, sameDocument } from './judge/judged.ts';
import type { Grade, SiteView, Subject } from './judge/rule.ts';
import { absent } from './judge/rules/absent.ts';
import { absentAnchor } from './judge/rules/absent-anchor.ts';
import { driftsOf, mastersIn, maybeMarked, partDrift } from './judge/rules/part-drift.ts';
import { twice } from './judge/rules/twice.ts';
import type { Master } from './page/parts.ts';
import { type Position, positionsIn } from './read/lines.ts';
import { isLoaded } from './read/loaded.ts';
import { notText } from './read/not-text.ts';
import { isPage, isRead, readFile } from './read/read.ts';
import type { Kind, PageFacts, Reading, Reference } from './read/reading.ts';
import { countGrades, type Finding, type Report, type Unread } from './report.ts';
import { leadsSomewhere } from './resolve/fragment.ts';
import { baseAddress } from './resolve/resolve.ts';
import { detach, type Outcome, type Published, Resolver, resolveIn } from './resolve/resolver.ts';
import { isBare, mapSpecifier } from './resolve/specifier.ts';
import type { Inventory } from './site/inventory.ts';
import { inferPlaces, type Places } from './site/places.ts';

/** A check under way. Give it the bytes of every file in {@link Check.wanted}, then ask for the report. */
export interface Check {
  /** Site paths of the files whose bytes are needed, in order. */
  readonly wanted: readonly string[];
  /** Reads one file; keeps only what the report needs. */
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

/** Kinds whose place in the page and whose content are judged. */
const judgedByPlace: ReadonlySet<Kind> = new Set<Kind>(['stylesheet', 'script']);

class SiteCheck implements Check {
  readonly wanted: readonly string[];
  readonly #site: SiteView;
  readonly #pages: ReadonlySet<string>;
  readonly #resolver: Resolver;
  readonly #graph: SiteGraph;
  readonly #anchors = new Map<string, ReadonlySet<string>>();
  readonly #waiting = new WaitingAnchors();
  readonly #findings: Finding[] = [];
  /** References to judge once everything is known, each with its place. */
  readonly #suspects: { readonly subject: Subject; readonly position: Position }[] = [];
  /** Positions in the file at hand, made when first asked for. */
  #positions: (offset: number) => Position = () => START;
  /** Files in the order in which they were read; their numbers. */
  readonly #files: string[] = [];
  /** Encodings of files that are not UTF-8. */
  readonly #encodings = new Map<string, string>();
  readonly #unread: Unread[] = [];
  readonly #contents: Contents;
  #masters: readonly Master[] = [];
  #references = 0;
  #external = 0;

  constructor(
    readonly inventory: Inventory,
    readonly options: CheckOptions,
  ) {
    const { entry = 'index.html', places = inferPlaces(inventory.folders), published = null } = options;
    const wanted = [...inventory.files.keys()].filter((path) => isRead(path)).sort();
    // The masters of parts come first, so that copies can be compared as they pass.
    if (wanted.includes(entry)) wanted.unshift(...wanted.splice(wanted.indexOf(entry), 1));
    this.wanted = wanted;
    this.#pages = new Set(wanted.filter(isPage));
    this.#contents = new Contents(inventory, options.headOf);
    this.#site = {
      inventory,
      published,
      places,
      entry,
      anchorsOf: (path) => this.#anchors.get(path) ?? null,
      contentOf: this.#contents.of,
    };
    this.#resolver = new Resolver(inventory, published);
    this.#graph = new SiteGraph();
  }

  skip(file: string, why: string): void {
    this.#unread.push({ file, why });
  }

  take(file: string, bytes: Uint8Array): void {
    const binary = notText(bytes);
    const reading = binary === null ? readFile(file, bytes) : null;
    if (binary !== null) this.#unread.push({ file, why: binary });
    if (reading === null) return;
    if (reading.encoding !== 'utf-8') this.#encodings.set(file, reading.encoding);
    this.#openPositions(bytes, reading.encoding);
    const number = this.#files.push(file) - 1;
    const isAPage = isPage(file);
    if (isAPage) this.#anchors.set(file, detachAll(reading.anchors));
    this.#graph.open(file, isAPage ? reading.page : null);
    this.#takeReferences(file, number, reading);
    this.#takeHints(file, reading);
    this.#judgeFile(file, bytes, reading);
  }

  #takeReferences(file: string, number: number, reading: Reading): void {
    const base = baseAddress(file, reading.base);
    const { references } = reading;
    for (let index = 0; index < references.length; index++) {
      const reference = references[index] as Reference;
      if (reading.page !== null && isSpecifier(reference) && isBare(reference.written)) {
        this.#references++;
        this.#takeSpecifier(file, base, reference, reading.page.importMap);
        continue;
      }
      if (!isJudged(file, reference)) {
        this.#takeHint(file, reference.written);
        continue;
      }
      this.#references++;
      const { written, kind } = reference;
      const hash = written.indexOf('#');
      const address = hash < 0 ? written : written.slice(0, hash);
      const outcome = isEmptyAddress(address)
        ? sameDocument(base, written)
        : this.#resolver.look(base, address);
      if (outcome.elsewhere) this.#external++;
      if (this.#isSuspect(reference, outcome)) this.#suspect(file, base, reference, outcome.found);
      const { found } = outcome;
      if (found === null) continue;
      if (this.#graph.note(found, kind, address !== '')) this.#draftTwice(file, reference, found);
      if (hash >= 0) this.#askForAnchor(file, found, written.slice(hash + 1), number, index, base, reference);
    }
  }

  /** A bare specifier in a page's own module: its import map says what it names. */
  #takeSpecifier(
    file: string,
    base: string | null,
    reference: Reference,
    imports: PageFacts['importMap'],
  ): void {
    const mapped = mapSpecifier(reference.written, imports);
    if (mapped.by === 'name') return;
    const written = detach(reference.written);
    if (mapped.by === 'nothing') {
      const message =
        'no import map of the page names it, and without one only addresses that start with ./, ../ or / name a file';
      this.#add(
        draftOfRemark(absent, file, {
          ...spanOf(reference),
          holder: reference.holder,
          written,
          kind: reference.kind,
          message,
        }),
      );
      return;
    }
    const { found, elsewhere } = this.#resolver.look(base, mapped.address);
    if (found !== null) this.#graph.note(found, reference.kind, true);
    if (found !== null || elsewhere) return;
    const target = resolveIn(mapped.address, base, this.#site.published);
    const subject = {
      file,
      reference: { ...reference, written: mapped.address },
      target,
      found,
      site: this.#site,
    };
    for (const draft of judgeReference(subject)) this.#add({ ...draft, written });
  }

  #isSuspect({ kind, spot, holder }: Reference, { found, elsewhere, odd }: Outcome): boolean {
    if (odd || (found === null && !elsewhere)) return true;
    if (
      judgedByPlace.has(kind) &&
      spot !== null &&
      (kind === 'script' ? spot.region === 'head' : spot.region === 'body')
    )
      return true;
    return (
      found !== null && isLoaded({ kind }) && holder !== 'embed src' && this.#contents.isMisfit(kind, found)
    );
  }

  #suspect(file: string, base: string | null, reference: Reference, found: string | null): void {
    // Nothing that is kept holds a slice of the page.
    const kept = { ...reference, written: detach(reference.written) };
    const target = resolveIn(kept.written, base, this.#site.published);
    const subject = { file, reference: kept, target, found, site: this.#site };
    this.#suspects.push({ subject, position: this.#positions(reference.offset) });
  }

  #askForAnchor(
    file: string,
    page: string,
    fragment: string,
    number: number,
    index: number,
    base: string | null,
    reference: Reference,
  ): void {
    if (fragment === '' || !this.#pages.has(page)) return;
    const anchors = this.#anchors.get(page);
    if (anchors === undefined) {
      if (this.inventory.files.has(page)) this.#waiting.ask(page, fragment, number, index);
    } else if (!leadsSomewhere(fragment, anchors)) {
      this.#draftAnchor(file, base, { ...reference, written: detach(reference.written) });
    }
  }

  #draftAnchor(file: string, base: string | null, reference: Reference): void {
    const target = resolveIn(reference.written, base, this.#site.published);
    const subject = { file, reference, target, found: null, site: this.#site };
    const verdict = absentAnchor.judge(subject);
    if (verdict !== null) this.#add(draftOf(absentAnchor, subject, verdict));
  }

  #draftTwice(file: string, { offset, length, holder, written, kind }: Reference, found: string): void {
    const remark = { offset, length, holder, written: detach(written), kind, target: found };
    const message = `this page loads ${found} already`;
    this.#add(draftOfRemark(twice, file, { ...remark, message }));
  }

  /** Strings that name a file keep it from being unused. */
  #takeHints(file: string, { hints }: Reading): void {
    for (const { written } of hints) this.#takeHint(file, written);
  }

  /** A script names files from its own folder, or from that of the page that runs it. */
  #takeHint(file: string, written: string): void {
    const address = written.replace(/[?#].*$/, '');
    if (isEmptyAddress(address)) return;
    for (const base of file === this.#site.entry ? [file] : [file, this.#site.entry]) {
      const { found } = this.#resolver.look(base, address);
      if (found !== null) this.#graph.hint(found);
    }
  }

  #judgeFile(file: string, bytes: Uint8Array, reading: Reading): void {
    const view = { file, reading, bytes, site: this.#site };
    for (const rule of fileRules)
      for (const remark of rule.judgeFile(view)) this.#add(draftOfRemark(rule, file, remark));
    const { page } = reading;
    if (page === null) return;
    for (const rule of pageRules)
      for (const remark of rule.judgePage({ ...view, page })) this.#add(draftOfRemark(rule, file, remark));
    if (!maybeMarked(bytes)) return;
    const { entry } = this.#site;
    if (file === entry) this.#masters = mastersIn(entry, bytes);
    for (const { part, ...drift } of driftsOf(file, bytes, entry, this.#masters))
      this.#add(draftOfRemark(partDrift, file, { ...drift, holder: `part ${part}`, written: part }));
  }

  report(folder: string, bytesOf: (path: string) => Uint8Array): Report {
    this.#judgeWaiting(bytesOf);
    for (const { subject, position } of this.#suspects) {
      for (const draft of judgeReference(subject)) {
        this.#findings.push({ ...draft, ...position });
        // What a broken reference was meant for is neither unused nor unreached.
        for (const { target } of draft.mends) if (target !== null) this.#graph.meant(draft.file, target);
      }
    }
    this.#judgeSite(bytesOf);
    const findings = this.#graded(this.#findings).map(inOrder).sort(byPlace);
    const pages = this.#pages.size;
    const files = this.inventory.files.size;
    const site = { folder, pages, files, references: this.#references, external: this.#external };
    return { cravel: 1, site, counts: countGrades(findings), findings, unread: this.#unread };
  }

  /** Puts a finding of the file at hand in its place. */
  #add(draft: Draft): void {
    this.#findings.push({ ...draft, ...this.#positions(draft.offset) });
  }

  #openPositions(bytes: Uint8Array, encoding: string): void {
    let positions: ((offset: number) => Position) | null = null;
    this.#positions = (offset) => {
      positions ??= positionsIn(bytes, encoding);
      return positions(offset);
    };
  }

  #judgeSite(bytesOf: (path: string) => Uint8Array): void {
    const facts = this.#graph.facts(this.#site);
    for (const rule of siteRules) {
      for (const { file, ...remark } of rule.judgeSite(facts)) {
        // What is said of a file as a whole needs no look at it.
        if (remark.offset > 0) this.#openPositions(bytesOf(file), this.#encodings.get(file) ?? 'utf-8');
        else this.#positions = () => START;
        this.#add(draftOfRemark(rule, file, remark));
      }
    }
  }

  /** References to spots of pages that were read later are read again, where they fail. */
  #judgeWaiting(bytesOf: (path: string) => Uint8Array): void {
    const isThere = (page: string, fragment: string) => {
      const anchors = this.#anchors.get(page);
      // A page that could not be read may have any spot.
      return anchors === undefined || leadsSomewhere(fragment, anchors);
    };
    for (const [number, references] of this.#waiting.unanswered(isThere)) {
      const file = this.#files[number] as string;
      const bytes = bytesOf(file);
      const reading = readFile(file, bytes);
      this.#openPositions(bytes, reading?.encoding ?? 'utf-8');
      const base = baseAddress(file, reading?.base ?? null);
      for (const index of references) {
        const reference = reading?.references[index];
        if (reference !== undefined)
          this.#draftAnchor(file, base, { ...reference, written: detach(reference.written) });
      }
    }
  }

  #graded(findings: readonly Finding[]): Finding[] {
    const { grades = {} } = this.options;
    return findings.flatMap((finding) => {
      const grade = grades[finding.rule];
      return grade === 'off' ? [] : grade === undefined ? finding : { ...finding, grade };
    });
  }
}

function detachAll(texts: ReadonlySet<string>): ReadonlySet<string> {
  return texts.size === 0 ? texts : new Set([...texts].join('\0').split('\0'));
}

const START: Position = { line: 1, column: 1 };

/** The fields in the order of the report. */
function inOrder({ rule, grade, file, line, column, ...rest }: Finding): Finding {
  return { rule, grade, file, line, column, ...rest };
}

/** In the order of files and offsets. */
function byPlace(a: Finding, b: Finding): number {
  if (a.file !== b.file) return a.file < b.file ? -1 : 1;
  return a.offset - b.offset;
}

function spanOf({ offset, length }: Reference) {
  return { offset, length };
}
