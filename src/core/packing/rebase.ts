/** Addresses that start from the root of a host, or that name the host, for a site that is published elsewhere. */
import type { Files } from '../change/files.ts';
import { positionsIn } from '../read/lines.ts';
import type { Published } from '../resolve/published.ts';
import { type FileRead, leadsIn } from './readings.ts';
import { rewriteAddresses } from './rewrite.ts';

/** The address that a site is to be published at; the host is not always known. */
export interface NewPlace {
  /** Scheme and host; null where they stay as they are. */
  readonly origin: string | null;
  /** From `/` to `/`. */
  readonly folder: string;
}

/** Reads what somebody says: an http(s) address, or a path from the root of the host; null for anything else. */
export function newPlace(written: string): NewPlace | null {
  const [, origin, path] = /^(https?:\/\/[^/?#\\\s]+)?(\/[^?#\\\s]*)?$/i.exec(written.trim()) ?? [];
  if (origin === undefined && path === undefined) return null;
  const folder = (path ?? '/').replace(/\/*$/, '/');
  return folder.startsWith('//') ? null : { origin: origin?.toLowerCase() ?? null, folder };
}

/** A string in a script that may be such an address: nobody can tell for sure. */
export interface UnsureAddress {
  readonly file: string;
  readonly line: number;
  readonly written: string;
}

/** Writes them anew, from where the site was to be published. Gives how many, and the strings that may be more of them. */
export function rebase(
  files: Files,
  from: Published | null,
  to: NewPlace,
): { readonly references: number; readonly unsure: readonly UnsureAddress[] } {
  const anew = (written: string) => rebased(written, from, to);
  const leadOf = leadsIn(files, from);
  const unsure: UnsureAddress[] = [];
  const look = ({ file, bytes, reading }: FileRead) => {
    for (const { written, offset } of reading.hints)
      if (written.startsWith('/') && anew(written) !== null && leadOf(written, file) !== null)
        unsure.push({ file, line: positionsIn(bytes, reading.encoding)(offset).line, written });
  };
  const references = rewriteAddresses(files, ({ reference }) => anew(reference.written.trim()), look);
  return { references, unsure };
}

/** Null for an address that stays as it is. */
export function rebased(written: string, from: Published | null, to: NewPlace): string | null {
  const old = from?.folder ?? '/';
  const [, scheme = '', host, path = ''] = /^([a-z][a-z0-9+.-]*:)?\/\/([^/?#\\]+)(.*)$/is.exec(written) ?? [];
  if (host === undefined) {
    if (!written.startsWith(old)) return null;
    const address = to.folder + written.slice(old.length);
    return address === written ? null : address;
  }
  if (from === null || host.toLowerCase() !== from.origin.replace(/^https?:\/\//, '')) return null;
  const rest = path === '' ? '/' : path;
  if (!rest.startsWith(old)) return null;
  const origin =
    to.origin === null ? `${scheme}//${host}` : scheme === '' ? to.origin.replace(/^https?:/, '') : to.origin;
  const address = origin + to.folder + rest.slice(old.length);
  return address === written ? null : address;
}
