/** Puts the files of a library in place of what other hosts hold. */

import { applyEdits, type Edit } from '../change/edit.ts';
import type { Files } from '../change/files.ts';
import { fail } from '../errors.ts';
import { groupBy } from '../group-by.ts';
import { addressFor } from '../mend/address.ts';
import { attributeRemoval, loadedPath } from '../page/attributes.ts';
import { openPage, type Page } from '../page/page.ts';
import { rangesOf } from '../page/ranges.ts';
import { removal } from '../page/removal.ts';
import { type Tagged, type Tags, tagsOf } from '../page/tags.ts';
import { isLoadedAhead } from '../read/html/relations.ts';
import { isPage, isRead, readFile } from '../read/read.ts';
import type { Reference } from '../read/reading.ts';
import { integrityHolds } from '../site/integrity.ts';
import { extensionOf, folderOf, nameOf } from '../site/inventory.ts';
import { type Digest, fileNameOf, holdersIn, hostedIn, isHosted } from './hosted.ts';
import { buildOf } from './names.ts';
import type { ShapedLibrary } from './shape.ts';

/** Files that may take the place of hosted ones: site path of each, with its bytes. */
type Replacements = ReadonlyMap<string, Uint8Array>;

/** The file that is plainly the one at a hosted address: the same thing, else the only one of its type; null for neither. */
export function counterpart(written: string, mains: readonly string[]): string | null {
  const { stem, extension } = buildOf(fileNameOf(written));
  const sameType = mains.filter((file) => (extensionOf(file) === 'css') === (extension === 'css'));
  const same = sameType.filter((file) => {
    const build = buildOf(nameOf(file));
    return build.stem.toLowerCase() === stem.toLowerCase() && build.extension === extension;
  });
  if (same.length === 1) return same[0] as string;
  return sameType.length === 1 && /^(?:css|js)$/.test(extension) ? (sameType[0] as string) : null;
}

/** What became of a file that referred to hosted ones. */
export interface Replaced {
  readonly bytes: Uint8Array;
  readonly amount: number;
  /** Hosted references whose integrity was kept, and dropped since the file differs. */
  readonly kept: number;
  readonly dropped: number;
}

export interface ReplaceOptions {
  readonly address: string;
  /** The file for each hosted address. */
  fileFor(written: string): string;
  readonly files: Replacements;
  readonly digest: Digest;
}

export interface HostedReplaced {
  readonly references: number;
  readonly files: number;
  /** How often an integrity value stayed, and how often it went. */
  readonly kept: number;
  readonly dropped: number;
}

/**
 * Puts the files of a library, which lie in `folder`, in place of what the site's files refer to below `address`; `known`
 * are those that addresses stand for, by their paths in the download. Throws a `CravelError` where nothing refers to it,
 * or where no file of the library is plainly what an address holds.
 */
export function replaceHosted(
  site: Files,
  folder: string,
  { styles, scripts, taken, places }: Pick<ShapedLibrary, 'styles' | 'scripts' | 'taken' | 'places'>,
  address: string,
  known: ReadonlyMap<string, string>,
  digest: Digest,
): HostedReplaced {
  const mains = [...styles, ...scripts].map((file) => `${folder}/${file}`);
  const options: ReplaceOptions = {
    address,
    files: new Map([...taken].map(([path, bytes]) => [`${folder}/${path}`, bytes])),
    digest,
    fileFor(written) {
      const place = places.get(known.get(written) ?? '');
      const file = place === undefined ? counterpart(written, mains) : `${folder}/${place}`;
      if (file === null) throw fail('no-counterpart', written, mains.join(', '));
      return file;
    },
  };
  const sum = { references: 0, files: 0, kept: 0, dropped: 0 };
  for (const path of site.paths()) {
    if (!isRead(path) || path.startsWith(`${folder}/`)) continue;
    const replaced = isPage(path)
      ? replaceInPage(openPage(path, site.read(path)), options)
      : replaceInFile(path, site.read(path), options);
    if (replaced === null) continue;
    site.write(path, replaced.bytes);
    sum.files++;
    sum.references += replaced.amount;
    sum.kept += replaced.kept;
    sum.dropped += replaced.dropped;
  }
  if (sum.files === 0) throw fail('address-absent', address);
  return sum;
}

/** Replaces what a page refers to; null where it refers to nothing of it. */
export function replaceInPage(page: Page, options: ReplaceOptions): Replaced | null {
  const hosted = hostedIn(page, options.address);
  if (hosted.length === 0 || page.base === null) return null;
  const outline = tagsOf(page);
  const holderOf = holdersIn(outline);
  const edits: Edit[] = [];
  const loaded = loadedBy(outline);
  let [kept, dropped] = [0, 0];
  for (const reference of hosted) {
    const holder = holderOf(reference);
    const file = options.fileFor(reference.written);
    if (holder?.name === 'link' && isLoadedAhead(holder.attribute('rel'))) {
      edits.push(removal(outline, holder));
      continue;
    }
    if (holder !== null && loaded.get(keyOf(holder, file))?.some(({ element }) => element !== holder)) {
      // The page has the local file as well: two of them would be one too many.
      edits.push(removal(outline, holder));
      continue;
    }
    edits.push(addressEdit(reference, page.base, file));
    if (holder === null || !/^(?:link|script)$/.test(holder.name)) continue;
    const integrity = holder.attribute('integrity');
    const holds =
      integrity !== null &&
      integrityHolds(integrity, (algorithm) =>
        options.digest(algorithm, options.files.get(file) as Uint8Array),
      );
    if (integrity !== null && holds) kept++;
    if (integrity !== null && !holds) {
      dropped++;
      edits.push(...attributeRemoval(page, holder, 'integrity'));
    }
    // The site's own files need no permission of another host (HTML 2.5.4).
    edits.push(...attributeRemoval(page, holder, 'crossorigin'));
  }
  edits.push(...idleConnections(outline, hosted));
  return { bytes: page.edited(withoutOverlap(edits)), amount: hosted.length, kept, dropped };
}

/** Replaces what a stylesheet or a script refers to; null where it refers to nothing of it. */
export function replaceInFile(file: string, bytes: Uint8Array, options: ReplaceOptions): Replaced | null {
  const reading = readFile(file, bytes);
  const hosted = reading?.references.filter(({ written }) => isHosted(written, options.address)) ?? [];
  if (hosted.length === 0) return null;
  const edits = hosted.map((reference) => addressEdit(reference, file, options.fileFor(reference.written)));
  // Addresses are ASCII, whose characters need no escapes in any syntax.
  const changed = applyEdits(bytes, edits, reading?.encoding);
  return { bytes: changed, amount: hosted.length, kept: 0, dropped: 0 };
}

function addressEdit(reference: Reference, base: string, file: string): Edit {
  const { offset, length } = reference;
  const local = { ...reference, written: '' };
  const text = addressFor(local, folderOf(base), { path: file, fragment: null, sure: true });
  return { start: offset, end: offset + length, text };
}

const keyOf = ({ name }: Tagged, path: string) => `${name} ${path}`;

/** The elements that load a file of the site, by their names and its path. */
function loadedBy({ elements, page }: Tags): Map<string, { readonly element: Tagged }[]> {
  const loading = elements.flatMap((element) => {
    const path = loadedPath(page, element);
    return path === null ? [] : [{ element, path }];
  });
  return groupBy(loading, ({ element, path }) => keyOf(element, path));
}

/** Connections to hosts that the page needs no more. */
function idleConnections({ elements, page }: Tags, gone: readonly Reference[]): Edit[] {
  const hostOf = (written: string) =>
    /^(?:https?:)?\/\/([^/?#]+)/i.exec(written.trim())?.[1]?.toLowerCase() ?? null;
  const goneHosts = new Set(gone.map(({ written }) => hostOf(written)));
  const connections = elements.filter(
    (link) =>
      link.name === 'link' &&
      /(?:^|\s)(?:preconnect|dns-prefetch)(?:\s|$)/i.test(link.attribute('rel') ?? ''),
  );
  const inConnection = rangesOf(connections);
  const isGone = new Set(gone);
  const needed = new Set(
    page.reading.references
      .filter((one) => !isGone.has(one) && !inConnection.hold(one.offset))
      .map(({ written }) => hostOf(written)),
  );
  return connections
    .filter((link) => {
      const host = hostOf(link.attribute('href') ?? '');
      return host !== null && goneHosts.has(host) && !needed.has(host);
    })
    .map((link) => removal({ elements, page } as Tags, link));
}

/** What lies inside a removal needs no edit of its own. */
function withoutOverlap(edits: readonly Edit[]): Edit[] {
  const kept: Edit[] = [];
  let around: Edit | undefined;
  for (const edit of edits.toSorted((a, b) => a.start - b.start || b.end - a.end)) {
    const isInside =
      around !== undefined && edit.end <= around.end && edit.end - edit.start < around.end - around.start;
    if (isInside) continue;
    kept.push(edit);
    if (around === undefined || edit.end > around.end) around = edit;
  }
  return kept;
}
