/** Module specifiers and what an import map makes of them (HTML 8.1.6.2, resolve a module specifier). */
import { onceFor } from '../once-for.ts';
import type { ImportMap } from '../read/reading.ts';
import { resolve } from './resolve.ts';

/** True for a specifier that starts with no scheme, slash or dots: it names nothing without an import map. */
export function isBare(specifier: string): boolean {
  return !/^\s*(?:\.{0,2}\/|[a-z][a-z0-9+.-]*:)/i.test(specifier);
}

/** How a map answers a bare specifier. */
export type Mapped =
  /** The map has it word for word: what it leads to is judged where the map says so. */
  | { readonly by: 'name'; readonly address: string }
  /** The map has a prefix of it. The address is relative to the page, in both cases. */
  | { readonly by: 'prefix'; readonly address: string }
  | { readonly by: 'nothing' };

const NOTHING: Mapped = { by: 'nothing' };

/** What `map`, of a page whose base address is `base`, makes of a specifier in the file `importer`. */
export function mapSpecifier(
  specifier: string,
  map: ImportMap | null,
  base: string | null,
  importer: string,
): Mapped {
  if (map === null) return NOTHING;
  for (const addresses of scopesOf(map, base, importer)) {
    const mapped = lookUp(specifier, addresses);
    if (mapped.by !== 'nothing') return mapped;
  }
  return lookUp(specifier, map.imports);
}

type Addresses = ReadonlyMap<string, string>;

/** The scopes of a map by the paths that they are for, by the base address that they are resolved against. */
const scopesByBase = onceFor((_map: ImportMap) => new Map<string | null, ReadonlyMap<string, Addresses>>());

function scopesAt(map: ImportMap, base: string | null): ReadonlyMap<string, Addresses> {
  const known = scopesByBase(map);
  let scopes = known.get(base);
  if (scopes === undefined) {
    const made = new Map<string, Addresses>();
    for (const [scope, addresses] of map.scopes) {
      const target = resolve(scope, base);
      if (target.in === 'site') made.set(target.path, addresses);
    }
    scopes = made;
    known.set(base, scopes);
  }
  return scopes;
}

/** The scopes that the file `importer` lies in, the narrowest first. */
function scopesOf(map: ImportMap, base: string | null, importer: string): Addresses[] {
  if (map.scopes.size === 0) return [];
  const scopes = scopesAt(map, base);
  return [importer, ...startsOf(importer, importer.length), ''].flatMap((path) => scopes.get(path) ?? []);
}

/** What stands up to each slash, the longest first, of at most that length. */
function startsOf(text: string, longest: number): string[] {
  const starts: string[] = [];
  for (
    let end = text.lastIndexOf('/', longest - 1);
    end >= 0;
    end = end === 0 ? -1 : text.lastIndexOf('/', end - 1)
  )
    starts.push(text.slice(0, end + 1));
  return starts;
}

const longestKeyOf = onceFor((addresses: Addresses) => {
  let longest = 0;
  for (const key of addresses.keys()) longest = Math.max(longest, key.length);
  return longest;
});

function lookUp(specifier: string, addresses: Addresses): Mapped {
  const own = addresses.get(specifier);
  if (own !== undefined) return { by: 'name', address: own };
  // The longest prefix counts.
  const prefix = startsOf(specifier, longestKeyOf(addresses)).find((start) => addresses.has(start));
  if (prefix === undefined) return NOTHING;
  return { by: 'prefix', address: `${addresses.get(prefix)}${specifier.slice(prefix.length)}` };
}
