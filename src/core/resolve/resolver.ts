/** Resolves the addresses of a whole site, each distinct one of a folder once. */
import { detach } from '../read/detach.ts';
import { folderOf, type Inventory } from '../site/inventory.ts';
import { locate } from './locate.ts';
import { plainPath, resolve, type Target } from './resolve.ts';

/** A file of the site that something leads to. One object for each file. */
export interface Found {
  readonly path: string;
  /** Numbers of the files that last led to it, named it and loaded it. */
  ledFrom: number;
  namedBy: number;
  loadedBy: number;
}

/** Where an address leads, as written in the files of one folder. */
export interface Lead {
  /** What stands before the fragment. */
  readonly address: string;
  /** True where it leads to the file that has it, whichever that is. */
  readonly isOwn: boolean;
  /** As written, without its `#`; null where there is none. */
  readonly fragment: string | null;
  /** The file that a host answers with; null where there is none, or where it is not the site's. */
  readonly found: Found | null;
  readonly elsewhere: boolean;
  /** Something in how it is written may be worth a word, whatever it leads to. */
  readonly odd: boolean;
  /** True where a link has nothing to be said of, whatever page of the folder has it. */
  readonly isSettled: boolean;
  /** Number of the file that had it last. */
  askedBy: number;
  /** Number of the report that last looked for its fragment, and whether it was there. */
  lookedUp: number;
  holds: boolean;
}

/** Steps in visible ASCII with nothing between two slashes missing: no rule about spelling has anything to say. */
const PLAIN_STEPS = /^(?!.*\/\/)(?![a-z][a-z0-9+.-]*:)[!-$&-.0-[\]-~][!-$&-[\]-~]*$/i;
/** Addresses of other hosts that load for nobody else, or only without encryption. */
const DOUBTFUL_ELSEWHERE =
  /^\s*(?:file:|[a-z]:[\\/]|http:|[/\\]{2})|^\s*[a-z][a-z0-9+.-]*:[/\\]{2}(?:[^/?#]*@)?(?:localhost|127\.|10\.|192\.168\.|172\.(?:1[6-9]|2[0-9]|3[01])\.|0\.0\.0\.0|\[(?:::1?|f[cd]|fe80))/i;

/** The addresses that files with one base folder have had, by how they are written. */
export class Leads {
  readonly #byWritten = new Map<string, Lead>();
  readonly #byAddress = new Map<string, Outcome>();

  /** `document` is what an address without a path leads to; null where that is the file that has it. */
  constructor(
    readonly base: string | null,
    readonly document: string | null,
    readonly resolver: Resolver,
  ) {}

  of(written: string): Lead {
    let lead = this.#byWritten.get(written);
    if (lead === undefined) {
      // A text cut out of a page would keep the whole page in memory.
      const key = detach(written);
      lead = this.#lead(key);
      this.#byWritten.set(key, lead);
    }
    return lead;
  }

  #lead(written: string): Lead {
    const hash = written.indexOf('#');
    const address = hash < 0 ? written : written.slice(0, hash);
    const fragment = hash < 0 ? null : written.slice(hash + 1);
    let outcome: Outcome;
    if (isEmptyAddress(address)) {
      const found = this.document === null ? null : this.resolver.fileAt(this.document);
      outcome = { found, elsewhere: this.base === null, odd: written.trim() === '' };
      if (found === null && this.base !== null) return leadOf(address, fragment, outcome, false, true);
    } else {
      outcome = this.#byAddress.get(address) ?? this.resolver.judge(this.base, address);
      this.#byAddress.set(address, outcome);
    }
    const { found, elsewhere, odd } = outcome;
    return leadOf(address, fragment, outcome, !odd && (elsewhere || (found !== null && fragment === null)));
  }
}

function leadOf(
  address: string,
  fragment: string | null,
  { found, elsewhere, odd }: Outcome,
  isSettled: boolean,
  isOwn = false,
): Lead {
  return {
    address,
    fragment,
    isOwn,
    found,
    elsewhere,
    odd,
    isSettled,
    askedBy: -1,
    lookedUp: -1,
    holds: true,
  };
}

/** True where nothing stands before the query. */
function isEmptyAddress(address: string): boolean {
  if (address === '') return true;
  const first = address.charCodeAt(0);
  return first === 0x3f || (first <= 0x20 && /^\s*(?:\?|$)/.test(address));
}

type Outcome = Pick<Lead, 'found' | 'elsewhere' | 'odd'>;

export class Resolver {
  /** By base folder: worth it, since pages of a folder repeat most of their addresses. */
  readonly #leads = new Map<string, Leads>();
  readonly #found = new Map<string, Found>();

  constructor(
    readonly inventory: Inventory,
    readonly published: Published | null,
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
      found = { path, ledFrom: -1, namedBy: -1, loadedBy: -1 };
      this.#found.set(path, found);
    }
    return found;
  }

  /** Where an address that is not empty and has no fragment leads. */
  judge(base: string | null, address: string): Outcome {
    const plain = base === null ? null : plainPath(address, base);
    if (plain !== null) {
      const path = locate(this.inventory, plain);
      return { found: path === null ? null : this.fileAt(path), elsewhere: false, odd: path !== plain };
    }
    const target = resolveIn(address, base, this.published);
    if (target.in === 'elsewhere')
      return { found: null, elsewhere: true, odd: DOUBTFUL_ELSEWHERE.test(address) };
    const path = target.in === 'site' ? locate(this.inventory, target.path) : null;
    const isPlain = target.in === 'site' && target.path === path && PLAIN_STEPS.test(address);
    return { found: path === null ? null : this.fileAt(path), elsewhere: false, odd: !isPlain };
  }
}

/** The address that a site is published at. */
export interface Published {
  /** Scheme and host, `https://gullhaven.example`. */
  readonly origin: string;
  /** The folder there, from `/` to `/`. */
  readonly folder: string;
}

/** Reads `published-at`; null where it is no http(s) address. */
export function publishedAt(address: string | undefined): Published | null {
  const [, origin, path] = /^(https?:\/\/[^/?#]+)(\/[^?#]*)?$/i.exec(address?.trim() ?? '') ?? [];
  if (origin === undefined) return null;
  const folder = (path ?? '/').replace(/[^/]*$/, '');
  return { origin: origin.toLowerCase(), folder };
}

/** Like {@link resolve}, with the site where it is published: addresses of its own host are the site's. */
export function resolveIn(address: string, base: string | null, published: Published | null): Target {
  if (published === null) return resolve(address, base);
  const text = address.trim();
  const host = published.origin.replace(/^https?:/, '');
  const own = text.replace(/^https?:/i, '');
  if (/^\/\//.test(own)) {
    if (!own.toLowerCase().startsWith(host) || !/^(?:$|[/?#])/.test(own.slice(host.length)))
      return { in: 'elsewhere' };
    return fromHostRoot(own.slice(host.length) || '/', published);
  }
  if (/^[/\\]/.test(text)) return fromHostRoot(text, published);
  return resolve(address, base);
}

/** A path from the host's root: below the published folder it is the site's. */
function fromHostRoot(path: string, { folder }: Published): Target {
  if (!path.startsWith(folder)) return { in: 'elsewhere' };
  return resolve(`/${path.slice(folder.length)}`, '');
}
