/** Re-bases references: the address that leads from another file to where it led from this one. */
import { isSpecifier } from '../read/holder.ts';
import type { Reference } from '../read/reading.ts';
import { leadsSomewhere } from '../resolve/fragment.ts';
import { resolve } from '../resolve/resolve.ts';
import { isBare } from '../resolve/specifier.ts';
import { folderOf } from '../site/inventory.ts';
import { addressFor } from './address.ts';

/** A document that references stand in. */
export interface Standpoint {
  /** What its references resolve against, as a site path; null where that lies outside of the site. */
  readonly base: string | null;
  /** The names that fragments can point at in it. */
  readonly anchors: Names;
}

export type Names = Pick<ReadonlySet<string>, 'has'>;

/**
 * The text of `reference`, moved from one document to another; null where it can stay as it is. A link to a
 * spot of the document itself stays one where the other document has that spot too.
 */
export function rebase(reference: Reference, from: Standpoint, to: Standpoint): string | null {
  const { written } = reference;
  const text = written.trim();
  if (text === '' || /^[/\\]/.test(text) || to.base === null) return null;
  if (isNaming(reference) && isBare(text)) return null;
  const target = resolve(text, from.base);
  if (target.in !== 'site') return null;
  const isLocal = text.startsWith('#');
  if (isLocal && leadsSomewhere(target.fragment ?? '', to.anchors)) return null;
  if (!/^[#?]/.test(text) && folderOf(from.base as string) === folderOf(to.base)) return null;
  if (from.base === to.base) return null;
  return addressFor(reference, folderOf(to.base), { path: target.path, fragment: null, sure: true });
}

/** True for what names a module in scripts and import maps: bare, it is no address. */
function isNaming(reference: Reference): boolean {
  const { kind, holder } = reference;
  return holder.syntax === 'script' ? isSpecifier(reference) : kind === 'module' && holder.syntax === 'json';
}
