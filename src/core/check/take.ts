/** Takes one file: makes its share of the report. */

import { isBlank } from '../bytes.ts';
import { type Draft, draftOfRemark, judgePlace, placed } from '../judge/drafts.ts';
import { concerned, fileRules, pageRules, repeatRules } from '../judge/index.ts';
import type { PageRecord, RepeatRule } from '../judge/rule.ts';
import { menusIn } from '../page/menus.ts';
import { openPage } from '../page/page.ts';
import { detach, detachAll, detachReference, detachShared } from '../read/detach.ts';
import { holderOf, isSpecifier, isWorker } from '../read/holder.ts';
import { type Extent, extentOf, positionsIn } from '../read/lines.ts';
import { isLoaded, leadsToPage } from '../read/loaded.ts';
import { byteOffsets } from '../read/offsets.ts';
import type { Hint, Kind, Reading, Reference, Span } from '../read/reading.ts';
import { kindByName } from '../read/script/addresses.ts';
import type { Finding } from '../report.ts';
import { leadsSomewhere } from '../resolve/fragment.ts';
import { resolveIn } from '../resolve/published.ts';
import { baseAddress, type Target } from '../resolve/resolve.ts';
import type { Found, Lead, Leads } from '../resolve/resolver.ts';
import { isOfLibrary } from '../site/places.ts';
import { type Question, questionOf } from './elsewhere.ts';
import { framesOf } from './frames.ts';
import { isBareSpecifier, isJudged } from './judged.ts';
import type { FileMarks, Marks } from './marks.ts';
import { handlerNeedsOf, handlersReadFragment, scriptsOf } from './page-code.ts';
import type { RunAddress, Share, Surroundings, Suspect } from './share.ts';

/** Kinds whose place in the page is judged. */
const judgedByPlace: ReadonlySet<Kind> = new Set<Kind>(['stylesheet']);
const noLoads: ReadonlyMap<string, Kind> = new Map();
const noPaths: ReadonlySet<string> = new Set();
const noAnchors: ReadonlyMap<string, number> = new Map();

let serial = 0;

/** The share of one file; `isApart` for an HTML file that is no page. Keeps nothing of `bytes`. */
export function shareOf(
  file: string,
  bytes: Uint8Array,
  reading: Reading,
  surroundings: Surroundings,
  isApart = false,
): Share {
  return new Taking(file, bytes, reading, surroundings, isApart).share();
}

const endOf = ({ offset, length }: Span) => offset + length;

function withOwnKeys(places: ReadonlyMap<string, number>): ReadonlyMap<string, number> {
  return new Map(Array.from(places, ([id, place]) => [detachShared(id), place]));
}

class Taking {
  /** Marks what this file had, each thing once. */
  readonly #serial = ++serial;
  readonly #marks: FileMarks;
  readonly #base: string | null;
  /** Something of the page was swallowed. */
  readonly #isTorn: boolean;
  readonly #leads: Leads;
  readonly #own: Found;
  #references = 0;
  #external = 0;
  #loads: Map<string, Kind> | null = null;
  readonly #leadsTo: string[] = [];
  #navigation: Set<string> | null = null;
  readonly #names: string[] = [];
  readonly #findings: Finding[] = [];
  readonly #suspected: Finding[] = [];
  readonly #suspects: Suspect[] = [];
  readonly #spots: number[] = [];
  /** What documents in `srcdoc` load, each for itself. */
  #loadedInside: Set<string> | null = null;
  readonly #runAddresses: RunAddress[] = [];
  readonly #workers: string[] = [];
  readonly #modules: string[] = [];
  readonly #data: string[] = [];
  /** It is not the site's own code: what it holds may never be asked for. */
  readonly #isOfLibrary: boolean;
  readonly #questions: Question[] = [];
  #hasOpenHints = false;
  readonly #extentOf: (span: Span) => Extent;

  constructor(
    readonly file: string,
    readonly bytes: Uint8Array,
    readonly reading: Reading,
    readonly around: Surroundings,
    readonly isApart: boolean,
  ) {
    this.#marks = around.marks;
    this.#isTorn = (reading.page?.swallowed.length ?? 0) > 0;
    this.#base = baseAddress(file, reading.base);
    this.#leads = around.resolver.leadsFrom(this.#base, reading.base !== null);
    this.#own = around.resolver.fileAt(file);
    this.#isOfLibrary = isOfLibrary(file, around.site.places);
    const positionOf = positionsIn(bytes, reading.encoding);
    this.#extentOf = (span) => extentOf(positionOf, span);
  }

  share(): Share {
    const { file, reading } = this;
    const { page, encoding } = reading;
    if (this.isApart) this.#takeApart();
    else this.#takeReferences();
    for (const { references } of page?.swallowed ?? []) this.#takeSwallowed(references);
    for (const hint of reading.hints) this.#takeGuess(hint);
    for (const folder of reading.folders) this.#takeFolder(folder);
    this.#judgeFile();
    const loads = this.#loads ?? noLoads;
    const marksParts = page !== null && page.partMarks.length > 0;
    const isAlias = this.around.site.inventory.aliases.has(file);
    const isPage = page !== null && !isAlias && !this.isApart;
    const record: PageRecord | null = isPage
      ? {
          file,
          title: this.#isTorn ? null : page.title && { ...page.title, text: detach(page.title.text) },
          description: this.#isTorn ? null : page.description && detach(page.description),
          loads,
          leadsTo: this.#leadsTo,
          navigation: this.#navigation ?? noPaths,
          marksParts,
          samples: this.#samples(),
        }
      : null;
    // What was swallowed may hold scripts.
    const scripts = this.#isTorn || !isPage ? [] : scriptsOf(reading, this.#leads, this.#extentOf);
    const share: Share = {
      file,
      encoding,
      base: this.#base,
      references: this.#references,
      external: this.#external,
      form: page?.form ?? null,
      isApart: this.isApart,
      record,
      anchors: page && detachAll(reading.anchors),
      firstAnchors: scripts.length === 0 ? noAnchors : withOwnKeys(reading.firstAnchors),
      lastAnchor: reading.lastAnchor,
      loads,
      leadsTo: this.#leadsTo,
      names: this.#names,
      findings: this.#findings,
      suspected: this.#suspected,
      suspects: this.#suspects,
      spots: this.#spots,
      runAddresses: this.#runAddresses,
      workers: this.#workers,
      modules: this.#modules,
      data: this.#data,
      prefixes: this.#isOfLibrary ? [] : (reading.prefixes?.map(detachShared) ?? null),
      hasOpenHints: this.#hasOpenHints,
      imports: page?.importMap ?? null,
      scripts,
      handlers: this.#isTorn || !isPage ? [] : handlerNeedsOf(page),
      frames: [],
      readsFragment: handlersReadFragment(page),
      questions: this.#questions,
      marksParts,
    };
    const frames = this.#isTorn || !isPage ? [] : framesOf(share, page.frames, this.#leads);
    return frames.length === 0 ? share : { ...share, frames };
  }

  /** Addresses of a piece count from the pages that it is put into; those of a source from nobody knows where. */
  #takeApart(): void {
    const isPiece = this.reading.page?.form === 'piece';
    for (const reference of this.reading.references) {
      const { kind, from, written } = reference;
      const address = written.replace(/#.*/s, '');
      if (isPiece && address.trim() !== '' && from === 'file' && kind !== 'module')
        this.#await(reference, 'address');
      if (kind !== 'page' && kind !== 'anchor') this.#takeHint(written);
      const { found } = this.#leads.of(address);
      if (found !== null && found !== this.#own && leadsToPage(reference))
        this.#note(this.#leadsTo, found.path);
    }
  }

  #takeReferences(): void {
    const { references, page } = this.reading;
    const menus = page !== null && this.around.comparesMenus ? menusIn(this.bytes) : [];
    let menu = 0;
    for (let index = 0; index < references.length; index++) {
      const reference = references[index] as Reference;
      const { kind, from, written } = reference;
      const isLink = kind === 'page' || kind === 'anchor';
      if ((!isLink || from !== 'file') && this.#isApart(reference)) continue;
      const hash = written.indexOf('#');
      const lead = this.#leads.of(hash < 0 ? written : written.slice(0, hash));
      this.#references++;
      if (lead.isHosted) this.#external++;
      while (menu < menus.length && endOf(menus[menu] as Span) < reference.offset) menu++;
      if (isLink && menu < menus.length && (menus[menu] as Span).offset < reference.offset) {
        const found = lead.isOwn ? this.#own : lead.found;
        this.#navigation ??= new Set();
        if (found !== null) this.#navigation.add(found.path);
      }
      // Pages lead to the same addresses over and over: one link to each is enough, unless there is something to say.
      if (isLink && lead.isSettled && !this.#marks.asked.isFirst(lead.number, this.#serial)) {
        if (hash >= 0 && lead.found !== null) this.#takeSpot(lead.found, written.slice(hash + 1));
      } else this.#take(reference, lead, hash);
    }
  }

  /** What was swallowed is not judged; what it names is neither unused nor unreached. */
  #takeSwallowed(references: readonly Reference[]): void {
    for (const { written, kind } of references) {
      const { found } = this.#leads.of(written.replace(/#.*/s, ''));
      if (found === null || found === this.#own) continue;
      if (leadsToPage({ kind })) this.#note(this.#leadsTo, found.path);
      else this.#note(this.#names, found.path);
      if (isLoaded({ kind })) this.#noteLoad(found, kind);
    }
  }

  #noteLoad(found: Found, kind: Kind): void {
    this.#loads ??= new Map();
    if (!this.#loads.has(found.path)) this.#loads.set(found.path, kind);
  }

  /** Takes references that need more than their file to be resolved. */
  #isApart(reference: Reference): boolean {
    if (isBareSpecifier(reference)) this.#await(reference, 'specifier');
    else if (isJudged(this.file, reference)) return false;
    else if (reference.from !== 'file' && !this.#isOfLibrary)
      this.#await(reference, isWorker(reference) ? 'worker' : 'address');
    this.#takeHint(reference.written);
    return true;
  }

  #await(reference: Reference, as: RunAddress['as'], isLoading = false): void {
    if (as !== 'guess') this.#references++;
    const extent = this.#extentOf(reference);
    this.#runAddresses.push({ reference: detachReference(reference), extent, as, isLoading });
  }

  /** A string that looks like a path: where it is not that of a file, a file may nearly be called so. */
  #takeGuess({ written, offset, length, use }: Hint): void {
    const isThere = this.#takeHint(written);
    if (use === 'piece' || this.#isOfLibrary || /\s/.test(written) || (isThere && use !== 'loading')) return;
    const kind = kindByName(written) ?? 'data';
    const holder = holderOf('script', '', 'string');
    const reference: Reference = { kind, holder, offset, length, written, from: 'page', standing: null };
    this.#await(reference, 'guess', use === 'loading');
  }

  #take(reference: Reference, lead: Lead, hash: number): void {
    const { kind, written } = reference;
    const isLink = kind === 'page' || kind === 'anchor';
    if (lead.elsewhere && this.around.isOnline) this.#ask(reference, lead);
    const found = lead.isOwn ? this.#own : lead.found;
    if (this.#isSuspect(reference, lead, found)) {
      const target = hash < 0 ? lead.target : null;
      this.#suspect(reference, target, found?.path ?? null);
    }
    if (reference.standing !== null && judgedByPlace.has(kind))
      this.#judgePlace(reference, found?.path ?? null);
    if (found === null) return;
    if (hash >= 0) this.#takeSpot(found, written.slice(hash + 1));
    if (found === this.#own) return;
    if (isLink || kind === 'frame') {
      if (this.#marks.led.isFirst(found.number, this.#serial)) this.#note(this.#leadsTo, found.path);
    } else if (this.#marks.named.isFirst(found.number, this.#serial)) this.#note(this.#names, found.path);
    if (isLoaded({ kind })) this.#load(reference, found);
    else if (kind === 'data' && reference.holder.syntax === 'script') this.#data.push(found.path);
  }

  /** A file that is there by way of a link is so by its own path as well. */
  #note(paths: string[], path: string): void {
    paths.push(path);
    const own = this.around.site.inventory.aliases.get(path);
    if (own !== undefined) paths.push(own);
  }

  /** Notes a spot that is to be looked for once all pages are known. */
  #takeSpot(found: Found, fragment: string): void {
    if (fragment === '') return;
    // Of its own spots only those that are missing are worth a second look.
    if (found === this.#own && leadsSomewhere(fragment, this.reading.anchors)) return;
    const spot = this.around.resolver.spotOf(found, fragment);
    if (this.#marks.spots.isFirst(spot, this.#serial)) this.#spots.push(spot);
  }

  #ask(reference: Reference, lead: Lead): void {
    const question = questionOf(reference, lead);
    if (question !== null) this.#questions.push(question);
  }

  /** Whether a rule is to be asked: see `Concerns`. */
  #isSuspect(reference: Reference, { odd, isEmpty }: Lead, found: Found | null): boolean {
    if (isEmpty && reference.written.trim() === '') return concerned.nothing;
    if (odd) return true;
    return (
      found !== null && isLoaded(reference) && concerned.loading(reference, found.path, this.around.site)
    );
  }

  #judgePlace(reference: Reference, found: string | null): void {
    for (const draft of judgePlace(this.file, reference, found))
      this.#suspected.push(placed(draft, this.#extentOf(draft)));
  }

  #suspect(reference: Reference, known: Target | null, found: string | null): void {
    const { site, sayings } = this.around;
    const written = detachShared(reference.written);
    const target = known ?? resolveIn(written, this.#base, site.published);
    const subject = {
      file: this.file,
      base: this.#base,
      reference: { ...reference, written },
      target,
      found,
      site,
    };
    // What was meant by an address with a fragment is told by the spots of other pages.
    if (target.in === 'site' && target.fragment !== null) {
      const extent = this.#extentOf(reference);
      this.#suspects.push({ reference: detachReference({ ...reference, written }), target, found, extent });
      return;
    }
    const draft = sayings.of(subject);
    if (draft !== null) this.#suspected.push(placed(draft, this.#extentOf(draft)));
  }

  #load(reference: Reference, found: Found): void {
    this.#noteLoad(found, reference.kind);
    if (isWorker(reference)) this.#workers.push(found.path);
    else if (isSpecifier(reference)) this.#modules.push(found.path);
    if (this.reading.page === null) return;
    for (let index = 0; index < repeatRules.length; index++) {
      const rule = repeatRules[index] as RepeatRule;
      if (!rule.counts(reference)) continue;
      const recorded = this.around.builds.get(found.path);
      const builds = recorded === undefined ? rule.otherBuilds(found.path) : [recorded];
      const other = builds.find((path) => this.#loads?.has(path));
      const isFirst = this.#isFirstLoaded(index, reference, found);
      if (isFirst && other === undefined) continue;
      const { offset, length, holder, written, kind } = reference;
      const message = isFirst
        ? rule.judgeOtherBuild(found.path, other as string)
        : rule.judgeRepeat(found.path);
      const remark = { offset, length, holder, written, kind, target: found.path, message };
      this.#add(draftOfRemark(rule, this.file, remark));
    }
  }

  /** True the first time that one document loads a file. */
  #isFirstLoaded(rule: number, { standing }: Reference, { number }: Found): boolean {
    if (standing === null || standing.document === 0)
      return (this.#marks.loaded[rule] as Marks).isFirst(number, this.#serial);
    this.#loadedInside ??= new Set();
    const before = this.#loadedInside.size;
    return this.#loadedInside.add(`${rule} ${standing.document} ${number}`).size > before;
  }

  /** Strings that name a file keep it from being unused; true where one is there, as seen from this file. */
  #takeHint(written: string): boolean {
    const { resolver } = this.around;
    const address = written.replace(/[?#].*$/, '');
    const bases = this.#bases();
    const all = bases.map((base) => resolver.leadsFrom(base, false).of(address).found);
    for (const found of all)
      if (found === null) this.#hasOpenHints = true;
      else this.#names.push(found.path);
    return all[0] !== null;
  }

  /** Names of files that a script puts together keep what lies in their folder from being unused. */
  #takeFolder(written: string): void {
    const { site } = this.around;
    for (const base of this.#bases()) {
      const target = resolveIn(written, base, site.published);
      if (target.in !== 'site' || target.path === '') continue;
      if (site.inventory.folders.has(target.path)) this.#names.push(target.path);
      else this.#hasOpenHints = true;
    }
  }

  /** A script names files from its own folder, or from that of the page that runs it. */
  #bases(): readonly string[] {
    const { entry } = this.around.site;
    return this.file === entry ? [entry] : [this.file, entry];
  }

  #judgeFile(): void {
    const { file, bytes, reading } = this;
    const { site, masters } = this.around;
    const { page } = reading;
    if (this.isApart && page?.form === 'source') return;
    const view = { file, reading, site, isBlank: isBlank(bytes) };
    for (const rule of fileRules)
      for (const remark of rule.judgeFile(view)) this.#add(draftOfRemark(rule, file, remark));
    // What a page lacks may stand in what was swallowed.
    if (page === null || this.#isTorn || this.isApart) return;
    const pageView = { ...view, page, masters, open: () => openPage(file, bytes, reading) };
    for (const rule of pageRules)
      for (const remark of rule.judgePage(pageView)) this.#add(draftOfRemark(rule, file, remark));
  }

  /** Where the page has the texts of its starter. */
  #samples(): PageRecord['samples'] {
    const { file, bytes, reading } = this;
    const { samples } = this.around;
    if (samples.length === 0) return [];
    const page = openPage(file, bytes, reading);
    const whole = page.text(0, page.source.bytes.length);
    const offsetOf = byteOffsets(page.source, whole);
    const found = samples.flatMap((sample, text) => {
      const start = whole.indexOf(sample);
      if (start < 0) return [];
      const offset = page.offsetInFile(offsetOf(start));
      return [{ text, offset, length: page.offsetInFile(offsetOf(start + sample.length)) - offset }];
    });
    return found.sort((one, other) => one.offset - other.offset);
  }

  #add(draft: Draft): void {
    this.#findings.push(placed(draft, this.#extentOf(draft)));
  }
}
