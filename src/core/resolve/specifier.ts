/** Module specifiers and what an import map makes of them (HTML 8.1.6.2, resolve a module specifier). */
import type { ImportMap } from '../read/reading.ts';
import { resolve } from './resolve.ts';

/** True for a specifier that starts with no scheme, slash or dots: it names nothing without an import map. */
export function isBare(specifier: string): boolean {
  return !/^\s*(?:\.{0,2}\/|[a-z][a-z0-9+.-]*:)/i.test(specifier);
}

/** How a map answers a bare specifier. */
export type Mapped =
  /** The map has it word for word: what it leads to is judged where the map says so. */
  | { readonly by: 'name' }
  /** The map has a prefix of it; the address is relative to the page. */
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

/** The scopes that the file `importer` lies in, the narrowest first. */
function scopesOf(map: ImportMap, base: string | null, importer: string) {
  const scopes: { path: string; addresses: ReadonlyMap<string, string> }[] = [];
  for (const [scope, addresses] of map.scopes) {
    const target = resolve(scope, base);
    if (target.in !== 'site') continue;
    const { path } = target;
    const isFolder = path === '' || path.endsWith('/');
    if (importer === path || (isFolder && importer.startsWith(path))) scopes.push({ path, addresses });
  }
  return scopes.sort((a, b) => b.path.length - a.path.length).map(({ addresses }) => addresses);
}

function lookUp(specifier: string, addresses: ReadonlyMap<string, string>): Mapped {
  if (addresses.has(specifier)) return { by: 'name' };
  // The longest prefix counts.
  const prefixes = [...addresses.keys()].filter((key) => key.endsWith('/') && specifier.startsWith(key));
  const [prefix] = prefixes.sort((a, b) => b.length - a.length);
  if (prefix === undefined) return NOTHING;
  return { by: 'prefix', address: `${addresses.get(prefix)}${specifier.slice(prefix.length)}` };
}
