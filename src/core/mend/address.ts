/** Writes the address of a file as it should stand in a reference. */
import { isSpecifier } from '../read/holder.ts';
import type { Reference } from '../read/reading.ts';
import { segmentsTo } from '../site/walk.ts';
import type { Candidate } from './candidates.ts';

/**
 * The text to put in place of a reference so that it leads to `candidate`. Relative to `folder`, or from
 * the host's root where it was written so, by way of `root`, the site's folder there; query and fragment are
 * kept. Percent-encoded (RFC 3986, 3.3 to 3.5) so that it can stand in any attribute, quoted or not, and in
 * an unquoted `url()`.
 */
export function addressFor(
  reference: Reference,
  folder: string,
  { path, fragment, relative = false, isWhole = false }: Candidate,
  root = '/',
): string {
  const written = reference.written.trim();
  const { head, query } = partsOf(written);
  // Browsers take a backslash for a slash (URL 4.4), a stylesheet for an escape.
  const kept = head.replaceAll('\\', '/') + query;
  if (fragment !== null) return `${escapeTail(kept, reference)}#${encodeSegment(fragment)}`;
  const isRooted = !relative && /^[/\\]/.test(head);
  const text = isRooted ? root + encodePath(path) : relativePath(folder, path);
  // A module specifier without a leading dot or slash is a bare one, and names no file (HTML 8.1.6.2).
  const isNamed =
    reference.kind === 'module' && (reference.holder.syntax !== 'script' || isSpecifier(reference));
  const lead = isNamed && !/^[./]/.test(text) ? './' : '';
  return lead + text + (isWhole ? '' : escapeTail(written.slice(head.length), reference));
}

/** An address with what its query may not hold percent-encoded as UTF-8 (RFC 3986, 2.1 and 3.4); what is encoded stays. */
export function withEncodedQuery(written: string): string {
  const { head, query } = partsOf(written);
  const encoded = query.replace(/[^!-~]+/g, encodeSegment).replace(/%(?![0-9a-f]{2})/gi, '%25');
  return head + encoded + written.slice(head.length + query.length);
}

/** What stands before a query, and the query with its `?`. */
function partsOf(written: string): { readonly head: string; readonly query: string } {
  const [, head = '', query = ''] = /^([^?#]*)([^#]*)/.exec(written) as RegExpExecArray;
  return { head, query };
}

/** The relative address from a folder to a file or folder, percent-encoded (RFC 3986, 4.2). */
export function relativePath(folder: string, target: string): string {
  return segmentsTo(folder, target).map(encodeSegment).join('/') || './';
}

/** An address of another host as it may stand in the reference's file: see {@link addressFor}. */
export function hostedAddress(address: string, reference: Reference): string {
  return escapeTail(address, reference);
}

/** Query and fragment as written, with what could end the address or start a character reference escaped. */
export function escapeTail(tail: string, { holder }: Reference): string {
  const text = tail.replace(/["'()<>`\\\s]/g, percent);
  const isMarkup = holder.syntax === 'markup' || holder.syntax === 'xml';
  return isMarkup ? text.replaceAll('&', '&amp;') : text;
}

/** A site path as it may stand in an address. */
export function encodePath(path: string): string {
  return path.split('/').map(encodeSegment).join('/');
}

export function encodeSegment(segment: string): string {
  return encodeURIComponent(segment.replace(/\p{Surrogate}/gu, '\uFFFD')).replace(/[!'()*]/g, percent);
}

function percent(character: string): string {
  return `%${character.charCodeAt(0).toString(16).toUpperCase().padStart(2, '0')}`;
}
