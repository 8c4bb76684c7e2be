/** The scripts that a page runs, those among them that modules import included, in the order of the page. */
import type { PageScript } from '../order/page-script.ts';
import { NOTHING_KNOWN, type ScriptFacts, type WantedExport } from '../order/steps.ts';
import { resolveIn } from '../resolve/published.ts';
import type { Resolver } from '../resolve/resolver.ts';
import { isBare, mapSpecifier } from '../resolve/specifier.ts';
import { nearestName } from './near-name.ts';
import type { ScriptTag } from './page-code.ts';
import type { ScriptFiles } from './script-files.ts';
import type { Share } from './share.ts';

/** A script of a page; what modules import comes before what imports it, with its tag. */
export interface Entry extends PageScript {
  /** The number of its tag in the page. */
  readonly tag: number;
  /** Its file; null for code of the page, and for what is not in the site. */
  readonly file: string | null;
  /** The address of a script of another host, or of one that is not there. */
  readonly address: string | null;
  readonly goal: ScriptTag['goal'];
}

/** A name that a module wants, and that the other one does not give. */
interface NotExported {
  readonly entry: Entry;
  readonly wanted: WantedExport;
  readonly from: string;
  readonly near: string | null;
}

export interface RunList {
  readonly entries: readonly Entry[];
  readonly notExported: readonly NotExported[];
}

/** What a list is made with. */
export interface Listing {
  readonly files: ScriptFiles;
  readonly resolver: Resolver;
  bytesOf(path: string): Uint8Array;
}

export function runListOf(page: Share, tags: readonly ScriptTag[], listing: Listing): RunList {
  return new Lister(page, listing).list(tags);
}

class Lister {
  readonly #entries: Entry[] = [];
  readonly #notExported: NotExported[] = [];
  /** Modules that are in the list, by file, address or tag: each runs once (ECMA-262 16.2.1.5). */
  readonly #modules = new Set<string | number>();

  constructor(
    readonly page: Share,
    readonly listing: Listing,
  ) {}

  list(tags: readonly ScriptTag[]): RunList {
    for (const [number, tag] of tags.entries()) {
      if (tag.goal === 'module') this.#addModules(number, tag);
      else this.#entries.push(this.#entryOf(number, tag));
    }
    return { entries: this.#entries, notExported: this.#notExported };
  }

  #entryOf(tag: number, { source, goal, runs }: ScriptTag): Entry {
    const { files, bytesOf } = this.listing;
    const nothing = { tag, goal, runs, file: null, address: null } as const;
    switch (source.in) {
      case 'page':
        return { ...nothing, facts: source.facts ?? 'missing' };
      case 'nowhere':
        return { ...nothing, address: source.written, facts: 'missing' };
      case 'host': {
        const same = files.sameAs(source.address);
        const facts = same === null ? null : files.factsOf(same, goal, bytesOf);
        return { ...nothing, address: source.address, facts: facts ?? 'unknown' };
      }
      default:
        return {
          ...nothing,
          file: source.path,
          facts: files.factsOf(source.path, goal, bytesOf) ?? 'missing',
        };
    }
  }

  /** A module, after all that it imports; where one of them cannot be had, none of them runs. */
  #addModules(number: number, tag: ScriptTag): void {
    const { entries, isWhole } = this.#graphOf(this.#entryOf(number, tag));
    for (const entry of entries) {
      const name = entry.file ?? entry.address ?? number;
      if (this.#modules.has(name)) continue;
      if (isWhole) this.#modules.add(name);
      this.#entries.push(isWhole ? entry : { ...entry, facts: 'missing' });
    }
  }

  /** What a module imports, before itself; a long row of imports takes no stack. */
  #graphOf(root: Entry): { readonly entries: readonly Entry[]; readonly isWhole: boolean } {
    const entries: Entry[] = [];
    const seen = new Set<string>();
    let isWhole = true;
    const open: Opened[] = [opened(root)];
    for (let top = open.at(-1); top !== undefined; top = open.at(-1)) {
      const { entry, imports, specifiers, wanted } = top;
      if (entry.facts === 'missing') isWhole = false;
      const specifier = specifiers.shift();
      if (specifier === undefined) {
        entries.push({ ...entry, module: entry.file, imports });
        open.pop();
        continue;
      }
      const path = this.#find(specifier, entry.file);
      if (path === null) isWhole = false;
      else if (path === 'elsewhere')
        entries.push({ ...entry, file: null, address: specifier, facts: 'unknown' });
      else {
        imports.set(specifier, path);
        const { files, bytesOf } = this.listing;
        const facts = files.factsOf(path, 'module', bytesOf) ?? 'missing';
        const asked = wanted.filter((one) => one.from === specifier);
        if (!this.#compare(entry, asked, path, facts)) isWhole = false;
        if (!seen.has(path)) open.push(opened({ ...entry, file: path, facts }));
        seen.add(path);
      }
    }
    return { entries, isWhole };
  }

  #compare(entry: Entry, asked: readonly WantedExport[], from: string, facts: Entry['facts']): boolean {
    const exports = asked.length === 0 ? null : this.#exportsOf(from, facts, new Set());
    if (exports === null) return true;
    const lacking = asked.filter((one) => !exports.has(one.name));
    for (const wanted of lacking)
      this.#notExported.push({ entry, wanted, from, near: nearestName(wanted.name, exports) });
    return lacking.length === 0;
  }

  /** All names that a module gives to others (ECMA-262 16.2.1.7.2.1); null where nobody can tell. */
  #exportsOf(path: string, facts: Entry['facts'], above: Set<string>): ReadonlySet<string> | null {
    if (typeof facts === 'string' || facts.isUnknown) return null;
    if (facts.passesOn.length === 0 || above.has(path)) return facts.exports;
    if (above.size > DEEPEST) return null;
    above.add(path);
    const all = new Set(facts.exports);
    const { files, bytesOf } = this.listing;
    for (const specifier of facts.passesOn) {
      const next = this.#find(specifier, path);
      const given =
        next === null || next === 'elsewhere'
          ? null
          : this.#exportsOf(next, files.factsOf(next, 'module', bytesOf) ?? 'missing', above);
      if (given === null) return null;
      for (const name of given) if (name !== 'default') all.add(name);
    }
    return all;
  }

  /** The file that a specifier leads to; null where there is none. */
  #find(specifier: string, importer: string | null): string | null | 'elsewhere' {
    const { page } = this;
    const { resolver } = this.listing;
    let [address, base] = [specifier, importer ?? page.base];
    if (isBare(specifier)) {
      const mapped = mapSpecifier(specifier, page.imports, page.base, importer ?? page.file);
      if (mapped.by === 'nothing') return null;
      address = mapped.address;
      base = page.base;
    }
    const found = resolver.leadsFrom(base, false).of(address.replace(/#.*/s, '')).found;
    if (found !== null) return found.path;
    return resolveIn(address, base, resolver.published).in === 'elsewhere' ? 'elsewhere' : null;
  }
}

/** Modules that pass on each other's names, in a row. */
const DEEPEST = 200;

/** A module whose imports are gone through. */
interface Opened {
  readonly entry: Entry;
  /** Those that are still to come. */
  readonly specifiers: string[];
  readonly wanted: readonly WantedExport[];
  readonly imports: Map<string, string>;
}

function opened(entry: Entry): Opened {
  const { imports, wanted } = factsIn(entry) ?? NOTHING_KNOWN;
  return { entry, specifiers: [...imports], wanted, imports: new Map() };
}

/** True where nobody can tell what a script does as it runs. */
export function isUncertain({ isUnknown, atLoad }: ScriptFacts): boolean {
  return isUnknown || atLoad.some(({ does }) => does === 'unknown');
}

/** The facts of an entry, where there are any. */
export function factsIn({ facts }: PageScript): ScriptFacts | null {
  return typeof facts === 'string' ? null : facts;
}
