/** Which references are judged, and what an address without a path leads to. */

import { isPage } from '../read/read.ts';
import type { Reference } from '../read/reading.ts';
import type { Outcome } from '../resolve/resolver.ts';
import { isBare } from '../resolve/specifier.ts';

/** True where nothing stands before the query. */
export function isEmptyAddress(address: string): boolean {
  if (address === '') return true;
  const first = address.charCodeAt(0);
  return first === 0x3f || (first <= 0x20 && /^\s*(?:\?|$)/.test(address));
}

/** An address without a path leads to the document itself. */
export function sameDocument(base: string | null, written: string): Outcome {
  return {
    found: base === null ? null : base.endsWith('/') || base === '' ? `${base}index.html` : base,
    elsewhere: base === null,
    odd: written.trim() === '',
  };
}

/**
 * True for references whose target is known from their file alone. Not so are those that a script starts from the
 * page that runs it, and bare module specifiers.
 */
export function isJudged(file: string, reference: Reference): boolean {
  if (reference.from === 'page' && !isPage(file)) return false;
  // The value of a prefix in an import map is the start of addresses, not one of its own.
  if (reference.holder.startsWith('importmap') && reference.written.endsWith('/')) return false;
  return !isSpecifier(reference) || !isBare(reference.written);
}

/** `import` and `export … from`, as against what only holds the address of a module. */
export function isSpecifier({ kind, holder }: Reference): boolean {
  return kind === 'module' && /^(?:import|export)(?!map)/.test(holder);
}
