/** Resolves the addresses of a whole site, each distinct one of a folder once. */
import { folderOf, type Inventory } from '../site/inventory.ts';
import { locate } from './locate.ts';
import { resolve, type Target } from './resolve.ts';

/** What an address without its fragment leads to. */
export interface Outcome {
  /** The file that a host answers with; null where there is none, or where it is not the site's. */
  readonly found: string | null;
  readonly elsewhere: boolean;
  /** Something in how it is written may be worth a word, whatever it leads to. */
  readonly odd: boolean;
}

/** Written so that no rule about spelling has anything to say: visible ASCII, relative, no escapes or backslashes. */
const PLAIN = /^[!-$&-.0-[\]-~][!-$&-[\]-~]*$/;
const SCHEME = /^[a-z][a-z0-9+.-]*:/i;
/** Addresses of other hosts that load for nobody else, or only without encryption. */
const DOUBTFUL_ELSEWHERE =
  /^\s*(?:file:|[a-z]:[\\/]|http:|[/\\]{2})|^\s*[a-z][a-z0-9+.-]*:[/\\]{2}(?:[^/?#]*@)?(?:localhost|127\.|10\.|192\.168\.|172\.(?:1[6-9]|2[0-9]|3[01])\.|0\.0\.0\.0|\[(?:::1?|f[cd]|fe80))/i;

export class Resolver {
  /** By folder, by address as written: worth it, since pages of a folder repeat most of their addresses. */
  readonly #known = new Map<string, Map<string, Outcome>>();

  constructor(
    readonly inventory: Inventory,
    readonly published: Published | null,
  ) {}

  /** `address` is not empty and has no fragment; `base` is null where the base lies outside of the site. */
  look(base: string | null, address: string): Outcome {
    const folder = base === null ? '\0' : folderOf(base);
    let known = this.#known.get(folder);
    if (known === undefined) {
      known = new Map();
      this.#known.set(folder, known);
    }
    let outcome = known.get(address);
    if (outcome === undefined) {
      outcome = this.#judge(base, address);
      // A text cut out of a page would keep the whole page in memory.
      known.set(detach(address), outcome);
    }
    return outcome;
  }

  #judge(base: string | null, address: string): Outcome {
    const target = resolveIn(address, base, this.published);
    const found = target.in === 'site' ? locate(this.inventory, target.path) : null;
    const elsewhere = target.in === 'elsewhere';
    const odd = elsewhere
      ? DOUBTFUL_ELSEWHERE.test(address)
      : !PLAIN.test(address) ||
        address.includes('//') ||
        SCHEME.test(address) ||
        found !== (target as { path?: string }).path;
    return { found, elsewhere, odd };
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

/** Copies a text that may be a slice of a whole page, which would stay in memory with it. */
export function detach(text: string): string {
  // Joining makes a new string; taking the end off it again keeps no more than that.
  return `${text}\0`.slice(0, -1);
}
