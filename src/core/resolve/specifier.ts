/** Module specifiers and what an import map makes of them (HTML 8.1.6.2, resolve a module specifier). */

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

export function mapSpecifier(specifier: string, imports: ReadonlyMap<string, string> | null): Mapped {
  if (imports === null) return { by: 'nothing' };
  if (imports.has(specifier)) return { by: 'name' };
  // The longest prefix counts.
  const prefixes = [...imports.keys()].filter((key) => key.endsWith('/') && specifier.startsWith(key));
  const [prefix] = prefixes.sort((a, b) => b.length - a.length);
  if (prefix === undefined) return { by: 'nothing' };
  return { by: 'prefix', address: `${imports.get(prefix)}${specifier.slice(prefix.length)}` };
}
