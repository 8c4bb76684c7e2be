/** Who refers to whom, gathered while files are read, for rules that look at the site as a whole. */
import { isLoaded } from '../read/loaded.ts';
import type { Kind, PageFacts } from '../read/reading.ts';
import { detach } from '../resolve/resolver.ts';
import type { PageRecord, SiteFacts, SiteView } from './rule.ts';

/** Kinds that run or apply once more where a page has them twice. */
const once: ReadonlySet<Kind> = new Set<Kind>(['stylesheet', 'script', 'module']);
/** Kinds that lead a visitor on to another page. */
const leading: ReadonlySet<Kind> = new Set<Kind>(['page', 'anchor', 'frame']);

export class SiteGraph {
  readonly #pages = new Map<string, PageRecord & { readonly leadsTo: Set<string> }>();
  readonly #used = new Set<string>();
  readonly #loadedAs = new Map<string, Kind>();
  #file = '';
  #loads = new Set<string>();
  #leadsTo = new Set<string>();

  /** Starts with the next file; `page` is what it says of itself, null for files that are no pages. */
  open(file: string, page: PageFacts | null): void {
    this.#file = file;
    this.#loads = new Set();
    this.#leadsTo = new Set();
    if (page === null) return;
    const { title, description } = page;
    this.#pages.set(file, {
      file,
      title: title && { ...title, text: detach(title.text) },
      description: description === null ? null : detach(description),
      loads: this.#loads,
      leadsTo: this.#leadsTo,
    });
  }

  /** Notes a reference of the file at hand. True where its page has loaded the same thing before. */
  note(found: string, kind: Kind, isAnotherFile: boolean): boolean {
    if (!isAnotherFile || found === this.#file) return false;
    this.#used.add(found);
    if (leading.has(kind)) this.#leadsTo.add(found);
    if (!isLoaded({ kind })) return false;
    if (!this.#loadedAs.has(found)) this.#loadedAs.set(found, kind);
    if (!this.#pages.has(this.#file)) return false;
    const isRepeated = once.has(kind) && this.#loads.has(found);
    this.#loads.add(found);
    return isRepeated;
  }

  /** Notes a file that a script names. */
  hint(found: string): void {
    this.#used.add(found);
  }

  /** Notes what a reference that fails was probably meant for. */
  meant(file: string, target: string): void {
    const found = target === '' || target.endsWith('/') ? `${target}index.html` : target;
    this.#used.add(found);
    this.#pages.get(file)?.leadsTo.add(found);
  }

  facts(site: SiteView): SiteFacts {
    return { site, pages: this.#pages, used: this.#used, loadedAs: this.#loadedAs };
  }
}
