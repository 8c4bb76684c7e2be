/** What a page loads, in the order in which a browser comes to ask for it. */
import { isAttribute, isWorker } from '../read/holder.ts';
import { isLoadedAhead, linkTypes } from '../read/html/relations.ts';
import { type Extent, extentOf, positionsIn } from '../read/lines.ts';
import { isLoaded } from '../read/loaded.ts';
import { isPage, readFile } from '../read/read.ts';
import type { Kind, Reading, Reference } from '../read/reading.ts';
import type { Finding } from '../report.ts';
import { baseAddress } from '../resolve/resolve.ts';
import type { Resolver } from '../resolve/resolver.ts';
import { mapSpecifier } from '../resolve/specifier.ts';
import { isBareSpecifier } from './judged.ts';
import { whenRun } from './page-code.ts';

/** How a browser takes it, and what waits for it. */
type Way =
  | 'blocks parsing'
  | 'blocks rendering'
  | 'deferred'
  | 'module'
  | 'async'
  | 'with the page'
  | 'lazy'
  | 'ahead'
  | 'one of several'
  | 'if it applies'
  | 'if used'
  | 'by script'
  | 'perhaps by script';

/** One file that is asked for: the first time, later ones are had from memory. */
export interface LoadStep extends Extent {
  /** Its place, from 1. */
  readonly step: number;
  /** 0 for what the page itself names, one more for what that names. */
  readonly depth: number;
  /** Where it is named. */
  readonly file: string;
  readonly holder: Finding['holder'];
  readonly written: string;
  readonly kind: Kind;
  /** The site path; null where it is none of the site, or not there. */
  readonly target: string | null;
  /** `elsewhere`: on another host. */
  readonly found: boolean | 'elsewhere';
  /** Null where nobody knows. */
  readonly bytes: number | null;
  readonly way: Way;
}

export interface Loads {
  readonly page: string;
  /** Of the page itself. */
  readonly bytes: number;
  readonly steps: readonly LoadStep[];
  /** Files that wait for each other, the longest such row, the page first. */
  readonly chain: readonly string[];
  /** Bytes of all that a browser waits for before it shows anything. */
  readonly beforePaint: number;
}

export interface Sizes {
  bytesOf(path: string): Uint8Array;
  sizeOf(path: string): number | null;
}

export function loadsOf(page: string, resolver: Resolver, sizes: Sizes): Loads {
  return new Loading(page, resolver, sizes).loads();
}

/** Files that load each other in a row, as far as they are followed. */
const DEEPEST = 200;

/** Where code runs: what it asks for starts from there (HTML 8.1.3.2). */
interface Realm {
  /** Null where it lies on another host. */
  readonly base: string | null;
  readonly imports: NonNullable<Reading['page']>['importMap'];
  /** A frame of the page, or a worker: the page is shown without it. */
  readonly isApart: boolean;
}

/** A file on the way from the page, `way` as which it is loaded itself: null for the page. */
interface Visit {
  readonly way: Way | null;
  /** From the page to the file. */
  readonly chain: readonly string[];
  readonly realm: Realm;
}

class Loading {
  readonly #steps: LoadStep[] = [];
  readonly #seen = new Set<string>();
  #chain: readonly string[];
  /** Bytes of what a browser waits for before it shows anything, the page itself apart. */
  #early = 0;

  constructor(
    readonly page: string,
    readonly resolver: Resolver,
    readonly sizes: Sizes,
  ) {
    this.#chain = [page];
    this.#seen.add(page);
  }

  loads(): Loads {
    const { page, sizes } = this;
    const realm = { base: page, imports: null, isApart: false };
    this.#visit(page, { way: null, chain: [page], realm });
    const bytes = sizes.sizeOf(page) ?? 0;
    return { page, bytes, steps: this.#steps, chain: this.#chain, beforePaint: bytes + this.#early };
  }

  #visit(file: string, { way: parent, chain, realm }: Visit): void {
    const bytes = this.sizes.bytesOf(file);
    const reading = readFile(file, bytes);
    if (reading === null || chain.length > DEEPEST) return;
    const positionOf = positionsIn(new Uint8Array(bytes), reading.encoding);
    const base = baseAddress(file, reading.base);
    const own =
      reading.page === null ? realm : { base, imports: reading.page.importMap, isApart: file !== this.page };
    for (const reference of reading.references) {
      const way = wayOf(reference, file, reading, parent);
      if (way === null) continue;
      this.#take(reference, file, base, extentOf(positionOf, reference), { way, chain, realm: own });
    }
  }

  #take(
    reference: Reference,
    file: string,
    base: string | null,
    extent: Extent,
    { way, chain, realm }: Visit & { readonly way: Way },
  ): void {
    const { kind, written, holder } = reference;
    const lead = this.#leadOf(reference, file, base, realm);
    const target = lead.found?.path ?? null;
    const key = target ?? written;
    if (this.#seen.has(key) || (lead.elsewhere && !lead.isHosted)) return;
    this.#seen.add(key);
    const found = target !== null ? true : lead.elsewhere ? 'elsewhere' : false;
    const bytes = target === null ? null : this.sizes.sizeOf(target);
    const step = this.#steps.length + 1;
    const depth = chain.length - 1;
    if (!realm.isApart && isBeforePaint(reference, way)) this.#early += bytes ?? 0;
    this.#steps.push({ step, depth, file, holder, written, kind, target, found, bytes, way, ...extent });
    const longer = [...chain, key];
    if (longer.length > this.#chain.length) this.#chain = longer;
    if (target === null || !leadsOn(kind, target)) return;
    const next = isWorker(reference) ? { base: target, imports: null, isApart: true } : realm;
    this.#visit(target, { way, chain: longer, realm: next });
  }

  #leadOf(reference: Reference, file: string, base: string | null, realm: Realm) {
    const { written, from } = reference;
    const address = written.replace(/#.*/s, '');
    if (isBareSpecifier(reference)) {
      const mapped = mapSpecifier(written, realm.imports, realm.base, file);
      const way = mapped.by === 'nothing' ? written : mapped.address;
      return this.resolver.leadsFrom(realm.base, false).of(way);
    }
    // What a script asks for starts from where it runs.
    return this.resolver.leadsFrom(from === 'file' ? base : realm.base, false).of(address);
  }
}

/** What names other files that are loaded with it. */
function leadsOn(kind: Kind, target: string): boolean {
  if (kind === 'frame') return isPage(target);
  return kind === 'stylesheet' || kind === 'script' || kind === 'module';
}

function isBeforePaint({ standing }: Reference, way: Way): boolean {
  return way === 'blocks rendering' || (way === 'blocks parsing' && standing?.region === 'head');
}

/** Null for what is not loaded with the page. */
function wayOf(reference: Reference, file: string, reading: Reading, parent: Way | null): Way | null {
  const { kind, holder, standing, from } = reference;
  if (standing?.inside === 'template' || standing?.inside === 'noscript') return null;
  // What a page says itself is loaded as that says, however the page is.
  const as = reading.page === null ? parent : null;
  if (holder.syntax === 'script') {
    if (holder.name === 'import' || holder.name === 'export from') return as ?? 'module';
    // What a visitor's doing leads to is not loaded with the page.
    if (kind === 'page' || kind === 'anchor') return null;
    return from === 'some-page' || holder.name === 'import()' ? 'perhaps by script' : 'by script';
  }
  if (!isLoaded({ kind })) return null;
  if (holder.syntax === 'css' && holder.name === '@import') return as ?? 'blocks rendering';
  if (isAttribute(holder, 'script', 'src')) return wayOfScript(reference);
  if (isAttribute(holder, 'link', 'href')) return wayOfLink(reference);
  if (holder.syntax === 'css') return 'if used';
  if (isAttribute(holder, 'img', 'srcset') || holder.element === 'source' || holder.name === 'imagesrcset')
    return 'one of several';
  if (standing?.attributes?.loading?.toLowerCase() === 'lazy') return 'lazy';
  return holder.syntax === 'markup' && isPage(file) && holder.element !== 'meta' ? 'with the page' : null;
}

function wayOfScript(reference: Reference): Way | null {
  const runs = whenRun(reference);
  if (runs === 'deferred' && reference.kind === 'module') return 'module';
  return runs === 'at-once' ? 'blocks parsing' : runs;
}

/** Queries that a screen does not answer with yes. */
const NOT_ON_SCREENS = /^\s*(?:print|speech|aural|braille|embossed|not\s+(?:all|screen))\b/i;

function wayOfLink({ kind, standing }: Reference): Way | null {
  const { rel = null, media = '' } = standing?.attributes ?? {};
  if (isLoadedAhead(rel)) return 'ahead';
  if (kind === 'icon') return 'with the page';
  if (!linkTypes(rel).has('stylesheet')) return kind === 'manifest' ? 'with the page' : null;
  if (linkTypes(rel).has('alternate')) return 'if it applies';
  return NOT_ON_SCREENS.test(media) ? 'if it applies' : 'blocks rendering';
}
