/** Media types that match no device (Media Queries 4, 2.3). */
import { isOneSlip } from '../../site/near-names.ts';

const MATCHING = ['all', 'print', 'screen'];
/** Browsers know them, and none of them is any device's any more. */
const DEPRECATED: ReadonlySet<string> = new Set([
  'tty',
  'tv',
  'projection',
  'handheld',
  'braille',
  'embossed',
  'aural',
  'speech',
]);

/** The type for which a list of media queries never holds, and what was probably meant; null where it may hold. */
export function deadMediaType(
  query: string,
): { readonly type: string; readonly meant: string | null } | null {
  const queries = query.trim() === '' ? [] : query.split(',');
  const types = queries.map((one) =>
    /^\s*(?:only\s+)?([a-z][\w-]*)\s*(?:$|and\b)/i.exec(one)?.[1]?.toLowerCase(),
  );
  if (
    types.length === 0 ||
    types.some((type) => type === undefined || MATCHING.includes(type) || DEPRECATED.has(type))
  )
    return null;
  const type = types[0] as string;
  return { type, meant: MATCHING.find((one) => isOneSlip(type, one)) ?? null };
}
