/** Candidates: the files and anchors that a failing reference probably meant. */
import { groupBy } from '../group-by.ts';
import { onceFor } from '../once-for.ts';
import { leadsToPage } from '../read/loaded.ts';
import { leadsSomewhere } from '../resolve/fragment.ts';
import { asFolder, locate } from '../resolve/locate.ts';
import { resolve } from '../resolve/resolve.ts';
import type { Subject } from '../resolve/subject.ts';
import { foldersOf } from '../site/folders.ts';
import { INDEX, isIndexName, isPageName, sortOfFile } from '../site/formats.ts';
import { fold, folderOf, type Inventory, nameOf } from '../site/inventory.ts';
import { lookalikesOf } from '../site/lookalikes.ts';
import { stemOf } from './name-distance.ts';

/** Something that exists and that a reference may have meant. */
export interface Candidate {
  /** Site path of the file, or of a folder that has an index page. */
  readonly path: string;
  /** The fragment to write; null keeps the one that was written, if any. */
  readonly fragment: string | null;
  /** True where no other answer makes sense. */
  readonly sure: boolean;
  /** Written relative to what its addresses start from, however it was written before. */
  readonly relative?: boolean;
  /** What was written for a query or a fragment is a part of its name. */
  readonly isWhole?: boolean;
}

/** Most candidates shown for one reference. */
export const MOST = 3;

/** Paths that differ from `path` by letter case or Unicode form only and lead to a file. */
export function caseVariants(subject: Subject, path: string): Candidate[] {
  const { inventory } = subject.site;
  const lookalikes = lookalikesOf(inventory);
  // A folder is found by both.
  const paths = [...new Set([...lookalikes.sameFold(path), ...lookalikes.sameFold(asFolder(path))])];
  return judged(
    subject,
    paths.filter((other) => other !== path && locate(inventory, other) !== null),
  );
}

/**
 * Files of the same name elsewhere, the likeliest first: those whose folders agree with the steps as
 * written, then the nearest. Sure when exactly one file has the name and the name says something.
 */
export function sameNameElsewhere(subject: Subject): Candidate[] {
  const { target } = subject;
  if (target.in === 'elsewhere') return [];
  const { folder } = target;
  const segments = target.segments.filter((segment) => segment !== '..');
  const isFolder = segments.at(-1) === '';
  const steps = isFolder ? [...segments.slice(0, -1), INDEX] : segments;
  const name = steps.at(-1);
  if (name === undefined) return [];
  // Every other folder has an index page: that name alone says nothing.
  const least = isIndexName(name) ? 2 : 1;
  const endings = lookalikesOf(subject.site.inventory).sameEnd(steps, folder, least);
  const [first, second] = endings;
  if (first === undefined) return [];
  const clear = second === undefined || first.shared > second.shared;
  const paths = endings.map(({ path }) => path).filter((path) => isLike(subject, path));
  const meant = isFolder ? paths.map(folderOf) : paths;
  return judged(subject, meant, clear || paths.length === 1);
}

/** Never one of another kind: a stylesheet is not meant by a picture. */
export function isLike({ reference, target }: Subject, path: string): boolean {
  const name = nameOf(
    target.in === 'site' ? target.path : target.in === 'beyond' ? (target.segments.at(-1) ?? '') : '',
  );
  if (name.includes('.')) return sortOfFile(name) === sortOfFile(path);
  return !leadsToPage(reference) || isPageName(path);
}

/** The entry page, where a page in a folder leads to an index page of its own that is not there. */
export function wayHome({ reference: { kind, written }, target, site }: Subject): Candidate[] {
  const isWay = kind === 'page' || kind === 'anchor';
  if (!isWay || target.in !== 'site' || target.folder === '' || !isIndexName(target.path)) return [];
  if (!/^\s*(?:\.\/)?[^/?#]+(?:[?#].*)?$/s.test(written) || !site.inventory.files.has(site.entry)) return [];
  return [{ path: site.entry, fragment: null, sure: true }];
}

/** A file whose name has what ends a path in an address (RFC 3986, 3.3): it was written as it is called. */
export function writtenAsCalled({ reference: { written }, target, site }: Subject): Candidate[] {
  if (target.in !== 'site' || !/[?#]/.test(written)) return [];
  const path = resolvedName(target.folder, written.trim());
  return path !== null && site.inventory.files.has(path)
    ? [{ path, fragment: null, sure: true, isWhole: true }]
    : [];
}

function resolvedName(folder: string, written: string): string | null {
  const steps = folder.split('/').slice(0, -1);
  for (const step of written.split('/')) {
    if (step === '..') {
      if (steps.pop() === undefined) return null;
    } else if (step !== '.') steps.push(step);
  }
  return steps.join('/');
}

/** Files of the same name and kind with another extension, in other folders. */
export function sameStemElsewhere(subject: Subject): Candidate[] {
  const { target, site } = subject;
  if (target.in !== 'site') return [];
  const name = fold(nameOf(target.path));
  const stem = stemOf(name);
  if (stem.length < 3 || stem === name || isIndexName(name)) return [];
  const paths = (stemsOf(site.inventory).get(stem) ?? []).filter((path) => isLike(subject, path));
  return judged(subject, paths, false);
}

const stemsOf = onceFor(({ files }: Inventory) => groupBy(files, (path) => stemOf(fold(nameOf(path)))));

/** The most steps that a file of the site has. */
const deepestOf = onceFor((inventory: Inventory) => {
  let deepest = 1;
  for (const { depth } of foldersOf(inventory).values()) deepest = Math.max(deepest, depth + 1);
  return deepest;
});

/** Files of the site that an address of a disk ends with, the longest end first. */
export function diskCandidates(subject: Subject): Candidate[] {
  const steps = subject.reference.written.split(/[\\/]+/);
  const deepest = deepestOf(subject.site.inventory);
  for (let from = Math.max(0, steps.length - deepest); from < steps.length; from++) {
    const path = steps.slice(from).join('/');
    if (subject.site.inventory.files.has(path)) return [{ path, fragment: null, sure: true, relative: true }];
  }
  return namedAlone(subject, (steps.at(-1) ?? '').replace(/[?#].*/s, ''));
}

/** The only file of the site that has a name. */
function namedAlone({ site }: Subject, name: string): Candidate[] {
  const [first, second] = name === '' ? [] : lookalikesOf(site.inventory).sameEnd([name], '', 1);
  if (first === undefined || second !== undefined || isIndexName(name)) return [];
  return [{ path: first.path, fragment: null, sure: true, relative: true }];
}

/** What the path of an address of this machine leads to in the site, from its root or from further in. */
export function hostCandidates(subject: Subject): Candidate[] {
  const {
    reference: { written },
    site,
  } = subject;
  const [, path = ''] = /^[^/\\]*[/\\]{2}[^/\\?#]*[/\\]?([^?#]*)/.exec(written.trim()) ?? [];
  const steps = path.split(/[/\\]/);
  for (let from = Math.max(0, steps.length - deepestOf(site.inventory) - 1); from < steps.length; from++) {
    const rest = steps.slice(from).join('/');
    const isWhole = from === 0;
    if ((rest !== '' || isWhole) && locate(site.inventory, rest) !== null)
      return [{ path: rest, fragment: null, sure: isWhole || rest.includes('/'), relative: true }];
  }
  return namedAlone(subject, steps.at(-1) ?? '');
}

/** The file of the site that an address is the path of, but for a scheme and slashes in front. */
export function hostlessCandidates({ base: own, reference: { written }, site }: Subject): Candidate[] {
  const rest = written.trim().replace(/^(?:[a-z]+:)?[/\\]+/i, '');
  for (const base of [own, '']) {
    const target = resolve(rest, base);
    if (target.in === 'site' && target.path !== base && locate(site.inventory, target.path) !== null)
      return [{ path: target.path, fragment: null, sure: true, relative: true }];
  }
  return [];
}

/** Drops what would itself be broken, because the page lacks the anchor that was asked for. */
export function judged(
  subject: Subject,
  paths: readonly string[],
  firstIsSure = paths.length === 1,
): Candidate[] {
  const { target, site } = subject;
  const fragment = target.in === 'site' ? target.fragment : null;
  const candidates: Candidate[] = [];
  for (const path of paths) {
    const anchors = fragment === null ? null : site.anchorsOf(locate(site.inventory, path) ?? path);
    if (fragment !== null && anchors !== null && !leadsSomewhere(fragment, anchors)) continue;
    candidates.push({ path, fragment: null, sure: firstIsSure && path === paths[0] });
    if (candidates.length === MOST) break;
  }
  return candidates;
}

/** The words for a path in a message: its name, or the site's root. */
export function describePath(path: string): string {
  return path === '' ? "the site's root" : nameOf(path);
}
