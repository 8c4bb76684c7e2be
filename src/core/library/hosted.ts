/** What a site's files refer to on other hosts, and which files of a downloaded library that is. */
import type { Files } from '../change/files.ts';
import { openPage, type Page } from '../page/page.ts';
import { type Tagged, type Tags, tagsOf } from '../page/tags.ts';
import { type Holder, isAttribute } from '../read/holder.ts';
import { isPage, isRead, readFile } from '../read/read.ts';
import type { Reference } from '../read/reading.ts';
import { lastNotAfter } from '../rising.ts';
import { type Algorithm, integrityHolds } from '../site/integrity.ts';
import { extensionOf, nameOf } from '../site/inventory.ts';
import { buildOf, withoutVersion } from './names.ts';

/** The digest of bytes by an algorithm of Subresource Integrity (3.2), in base64. */
export type Digest = (algorithm: Algorithm, bytes: Uint8Array) => string;

/** True where `written` is the address, or lies below it where it ends in `/`; the scheme aside. */
export function isHosted(written: string, address: string): boolean {
  const bare = (text: string) =>
    text
      .trim()
      .replace(/^https?:/i, '')
      .replace(/^(\/\/[^/]*)/, (host) => host.toLowerCase());
  const [one, wanted] = [bare(written), bare(address)];
  return (
    one === wanted ||
    (wanted.endsWith('/') && one.startsWith(wanted)) ||
    one.replace(/[?#].*$/, '') === wanted
  );
}

/** A link that a visitor follows names a page of another host, not a file of ours. */
function isFollowed(holder: Holder): boolean {
  return isAttribute(holder, 'a', 'href') || isAttribute(holder, 'area', 'href');
}

/** What a page loads below an address. */
export function hostedIn({ reading }: Page, address: string): Reference[] {
  return reading.references.filter(
    ({ written, holder }) => isHosted(written, address) && !isFollowed(holder),
  );
}

/** Tells the element that has a reference, if it is an element's. */
export function holdersIn({ elements }: Tags): (reference: Reference) => Tagged | null {
  const starts = elements.map(({ start }) => start);
  return ({ offset }) => {
    const nearest = elements[lastNotAfter(starts, offset)];
    const isWithin = nearest !== undefined && offset > nearest.start && offset < nearest.startTag.end;
    return isWithin ? nearest : null;
  };
}

/** The files of a library that a site's addresses stand for, by the addresses as written. */
export function filesAt(
  site: Files,
  addresses: readonly string[],
  library: ReadonlyMap<string, Uint8Array>,
  digest: Digest,
): Map<string, string> {
  const found = new Map<string, string>();
  const tell = (written: string, integrity: string | null) => {
    if (found.has(written)) return;
    const file = (integrity && byHash(integrity, written, library, digest)) || byName(written, library);
    if (file !== null) found.set(written, file);
  };
  for (const path of addresses.length > 0 ? site.paths() : []) {
    if (!isRead(path)) continue;
    if (!isPage(path)) {
      for (const { written } of readFile(path, site.read(path))?.references ?? [])
        if (addresses.some((address) => isHosted(written, address))) tell(written, null);
      continue;
    }
    const page = openPage(path, site.read(path));
    const hosted = addresses.flatMap((address) => hostedIn(page, address));
    if (hosted.length === 0) continue;
    const holderOf = holdersIn(tagsOf(page));
    for (const one of hosted) tell(one.written, holderOf(one)?.attribute('integrity') ?? null);
  }
  return found;
}

/** The file whose bytes a browser would take for those at an address (Subresource Integrity 3.3.5). */
function byHash(
  integrity: string,
  written: string,
  library: ReadonlyMap<string, Uint8Array>,
  digest: Digest,
): string | null {
  if (!/(?:^|\s)sha(?:256|384|512)-/.test(integrity)) return null;
  const { extension } = buildOf(fileNameOf(written));
  for (const [path, bytes] of library)
    if (extensionOf(path) === extension && integrityHolds(integrity, (algorithm) => digest(algorithm, bytes)))
      return path;
  return null;
}

/** The file of the very name, its version aside; of several the one that lies highest. */
function byName(written: string, library: ReadonlyMap<string, Uint8Array>): string | null {
  const plain = (name: string) => withoutVersion(name).toLowerCase();
  const wanted = plain(fileNameOf(written));
  const same = [...library.keys()].filter((path) => wanted !== '' && plain(nameOf(path)) === wanted);
  const steps = (path: string) => path.split('/').length;
  return same.sort((one, other) => steps(one) - steps(other) || one.length - other.length)[0] ?? null;
}

/** The last step of an address, as written. */
export function fileNameOf(written: string): string {
  return nameOf(written.trim().replace(/[?#].*$/, ''));
}
