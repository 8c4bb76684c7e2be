/** Resolves the addresses of a whole site, each distinct one of a folder once. */
import { Byte } from '../bytes.ts';
import { detach } from '../read/detach.ts';
import { folderOf, type Inventory, ownPath } from '../site/inventory.ts';
import { locate } from './locate.ts';
import { type Published, resolveIn } from './published.ts';
import { pathAsked, plainPath, type Target } from './resolve.ts';
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
  /** True where it leads to the file that has it. */
  readonly isOwn: boolean;
  /**
   * The file that a host answers with; null where there is none, where it is not the site's, and where the document
   * itself is meant and no base says which that is.
   */
  readonly found: Found | null;
  readonly elsewhere: boolean;
  /** It is one of another host's, not of a scheme that asks none (mailto, data and the like). */
  readonly isHosted: boolean;
  /** What {@link resolveIn} makes of it, where that was needed to tell. */
  readonly target: Target | null;
  /** A rule is to be asked, whatever reference has it. */
  readonly odd: boolean;
  /** True where a link has nothing to be said of, whatever page of the folder has it. */
  readonly isSettled: boolean;
  readonly number: number;
}

/** An address without its fragment, as rules look at it. */
export interface Addressed {
  readonly address: string;
  /** True where it is a relative address in visible ASCII without escapes, backslashes and a slash at its start. */
  readonly isPlain: boolean;
  readonly elsewhere: boolean;
  /** The site path that it names; empty where it names none. */
  readonly path: string;
  /** The file that a host answers with. */
  readonly found: string | null;
}

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
    const outcome = isEmpty ? this.#own(address) : this.resolver.judge(this.base, address);
    const { found, elsewhere, target, odd } = outcome;
    const isSettled = !odd && (elsewhere || (found !== null && !isEmpty));
    const number = this.resolver.nextLead();
    const isOwn = isEmpty && !elsewhere && this.document === null;
    const isHosted = elsewhere && HOSTED.test(address);
    return { address, isEmpty, isOwn, found, elsewhere, isHosted, target, odd, isSettled, number };
  }

  /** The document itself, whichever that is. */
  #own(address: string): Outcome {
    const elsewhere = this.base === null;
    const file = this.document === null ? null : this.resolver.locate(this.document);
    const path = this.document ?? '';
    const odd = this.resolver.isOdd({
      address,
      isPlain: false,
      elsewhere,
      path,
      found: elsewhere ? null : this.document === null ? path : file,
    });
    return { found: file === null ? null : this.resolver.fileAt(file), elsewhere, target: null, odd };
  }
}

/** Schemes of hosts, written out or taken over (RFC 3986, 4.2: a network-path reference). */
const HOSTED = /^\s*(?:(?:https?|ftp|wss?):|[\\/]{2})/i;

/** True where nothing stands before the query. */
function isEmptyAddress(address: string): boolean {
  if (address === '') return true;
  const first = address.charCodeAt(0);
  return first === Byte.Question || (first <= Byte.Space && /^\s*(?:\?|$)/.test(address));
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
    readonly isOdd: (address: Addressed) => boolean,
    readonly spots = new Spots(),
  ) {}

  /**
   * The leads of files with this base, null where it lies outside of the site; `isStated` where a `<base>` states it.
   */
  leadsFrom(base: string | null, isStated: boolean): Leads {
    // No site path holds a zero; a base may be the root, which is the empty path.
    const key = base === null ? '\0\0' : isStated ? `\0${base}` : folderOf(base);
    let leads = this.#leads.get(key);
    if (leads === undefined) {
      const document = isStated ? base : null;
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

  locate(path: string): string | null {
    return locate(this.inventory, path);
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
    const target = plain === null ? resolveIn(address, base, this.published) : null;
    const elsewhere = target?.in === 'elsewhere';
    const path = plain ?? (target === null ? null : pathAsked(target));
    const file = path === null ? null : this.locate(path);
    const odd = this.isOdd({ address, isPlain: plain !== null, elsewhere, path: path ?? '', found: file });
    const found = file === null ? null : this.fileAt(ownPath(this.inventory, file));
    return { found, elsewhere, target, odd };
  }
}
