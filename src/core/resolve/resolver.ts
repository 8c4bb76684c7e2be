/** Resolves the addresses of a whole site, each distinct one of a folder once. */
import { detach } from '../read/detach.ts';
import { folderOf, type Inventory } from '../site/inventory.ts';
import { locate } from './locate.ts';
import { type Published, resolveIn } from './published.ts';
import { plainPath, type Target } from './resolve.ts';
import { Spots } from './spots.ts';

/** A file of the site that something leads to. One object for each file. */
export interface Found {
  readonly path: string;
  /** Files of one resolver are numbered from 0 in the order in which they were found; so are leads. */
  readonly number: number;
  /** The numbers of spots of it that others lead to, by fragment as written. */
  readonly spots: Map<string, number>;
}

/** Where an address without its fragment leads, as written in the files of one folder. */
export interface Lead {
  readonly address: string;
  /** True where nothing stands before the query: it leads to the document itself. */
  readonly isEmpty: boolean;
  /**
   * The file that a host answers with; null where there is none, where it is not the site's, and where the document
   * itself is meant and no base says which that is.
   */
  readonly found: Found | null;
  readonly elsewhere: boolean;
  /** What {@link resolveIn} makes of it, where that was needed to tell. */
  readonly target: Target | null;
  /** Something in how it is written may be worth a word, whatever it leads to. */
  readonly odd: boolean;
  /** True where a link has nothing to be said of, whatever page of the folder has it. */
  readonly isSettled: boolean;
  readonly number: number;
}

/** Steps in visible ASCII with nothing between two slashes missing: no rule about spelling has anything to say. */
const PLAIN_STEPS = /^(?!.*\/\/)(?![a-z][a-z0-9+.-]*:)[!-$&-.0-[\]-~][!-$&-[\]-~]*$/i;
/** Addresses of other hosts that load for nobody else, or only without encryption. */
const DOUBTFUL_ELSEWHERE =
  /^\s*(?:file:|[a-z]:[\\/]|http:|[/\\]{2})|^\s*[a-z][a-z0-9+.-]*:[/\\]{2}(?:[^/?#]*@)?(?:localhost|127\.|10\.|192\.168\.|172\.(?:1[6-9]|2[0-9]|3[01])\.|0\.0\.0\.0|\[(?:::1?|f[cd]|fe80))/i;

/** The addresses, without their fragments, that files with one base folder have had. */
export class Leads {
  readonly #known = new Map<string, Lead>();

  /** `document` is what an address without a path leads to; null where that is the file that has it. */
  constructor(
    readonly base: string | null,
    readonly document: string | null,
    readonly resolver: Resolver,
  ) {}

  of(address: string): Lead {
    let lead = this.#known.get(address);
    if (lead === undefined) {
      // A text cut out of a page would keep the whole page in memory.
      const key = detach(address);
      lead = this.#lead(key);
      this.#known.set(key, lead);
    }
    return lead;
  }

  #lead(address: string): Lead {
    const isEmpty = isEmptyAddress(address);
    const outcome = isEmpty ? this.#own() : this.resolver.judge(this.base, address);
    const { found, elsewhere, target, odd } = outcome;
    const isSettled = !odd && (elsewhere || (found !== null && !isEmpty));
    const number = this.resolver.nextLead();
    return { address, isEmpty, found, elsewhere, target, odd, isSettled, number };
  }

  #own(): Outcome {
    const found = this.document === null ? null : this.resolver.fileAt(this.document);
    return { found, elsewhere: this.base === null, target: null, odd: false };
  }
}

/** True where nothing stands before the query. */
function isEmptyAddress(address: string): boolean {
  if (address === '') return true;
  const first = address.charCodeAt(0);
  return first === 0x3f || (first <= 0x20 && /^\s*(?:\?|$)/.test(address));
}

type Outcome = Pick<Lead, 'found' | 'elsewhere' | 'target' | 'odd'>;

export class Resolver {
  /** By base folder: worth it, since pages of a folder repeat most of their addresses. */
  readonly #leads = new Map<string, Leads>();
  readonly #found = new Map<string, Found>();
  #leadAmount = 0;

  constructor(
    readonly inventory: Inventory,
    readonly published: Published | null,
    readonly spots = new Spots(),
  ) {}

  /**
   * The leads of files with this base, null where it lies outside of the site; `isStated` where a `<base>` states it.
   */
  leadsFrom(base: string | null, isStated: boolean): Leads {
    const key = base === null ? '\0' : isStated ? `\0${base}` : folderOf(base);
    let leads = this.#leads.get(key);
    if (leads === undefined) {
      const document =
        base === null || !isStated ? null : base.endsWith('/') || base === '' ? `${base}index.html` : base;
      leads = new Leads(base, document, this);
      this.#leads.set(key, leads);
    }
    return leads;
  }

  /** The one object for a file of the site. */
  fileAt(path: string): Found {
    let found = this.#found.get(path);
    if (found === undefined) {
      found = { path, number: this.#found.size, spots: new Map() };
      this.#found.set(path, found);
    }
    return found;
  }

  /** The number of a spot of a page. */
  spotOf(page: Found, fragment: string): number {
    let spot = page.spots.get(fragment);
    if (spot === undefined) {
      const key = detach(fragment);
      spot = this.spots.add(page.path, key);
      page.spots.set(key, spot);
    }
    return spot;
  }

  nextLead(): number {
    return this.#leadAmount++;
  }

  /** Where an address that is not empty and has no fragment leads. */
  judge(base: string | null, address: string): Outcome {
    const plain = base === null ? null : plainPath(address, base);
    if (plain !== null) {
      const path = locate(this.inventory, plain);
      const found = path === null ? null : this.fileAt(path);
      return { found, elsewhere: false, target: null, odd: path !== plain };
    }
    const target = resolveIn(address, base, this.published);
    if (target.in === 'elsewhere')
      return { found: null, elsewhere: true, target, odd: DOUBTFUL_ELSEWHERE.test(address) };
    const path = target.in === 'site' ? locate(this.inventory, target.path) : null;
    const isPlain = target.in === 'site' && target.path === path && PLAIN_STEPS.test(address);
    return { found: path === null ? null : this.fileAt(path), elsewhere: false, target, odd: !isPlain };
  }
}
