/** What was meant by a name that is nearly that of a file, a folder or an anchor. */
import { groupBy } from '../group-by.ts';
import { onceFor } from '../once-for.ts';
import { leadsToPage } from '../read/loaded.ts';
import type { Subject } from '../resolve/subject.ts';
import { INDEX } from '../site/formats.ts';
import { fold, folderOf, type Inventory, nameOf } from '../site/inventory.ts';
import { isOneSlip } from '../site/near-names.ts';
import { type Candidate, isLike, judged, MOST } from './candidates.ts';
import { stemOf } from './name-distance.ts';
import { type Near, NearIndex } from './near-index.ts';

/**
 * Files in the folder where the walk ends whose names are nearly the one that was written: one or two letters off, a
 * word more or less, another extension, or the other build of a library. The nearest first; sure when it is one slip
 * off, not by its number, and no other is, or when there is one only and it is the same kind of file under the same name.
 * So are folders with an index page, where one was written.
 */
export function nearSpellings(subject: Subject): Candidate[] {
  const { target, site } = subject;
  if (target.in !== 'site') return [];
  const isFolder = target.path.endsWith('/');
  // What a folder answers with is a page.
  if (isFolder && !leadsToPage(subject.reference)) return [];
  const path = isFolder ? target.path.slice(0, -1) : target.path;
  const all = isFolder ? pagedFolders(site.inventory) : namesByFolder(site.inventory);
  const near = nearlyNamed(all, path).filter((one) => isFolder || isLike(subject, one.path));
  const [first, second] = near;
  const name = fold(nameOf(path));
  const isSlip =
    first?.distance === 1 &&
    second?.distance !== 1 &&
    name.length > 5 &&
    stemOf(name).length >= 3 &&
    !isOtherNumber(name, fold(nameOf(first.path)));
  const isSame =
    first !== undefined && second === undefined && stemOf(name) === stemOf(fold(nameOf(first.path)));
  const isClear = isSlip || (isSame && stemOf(name).length >= 3 && stemOf(name) !== name);
  return judged(
    subject,
    near.map((one) => (isFolder ? `${one.path}/` : one.path)),
    isClear,
  );
}

/** True for `boat-2.png` and `boat-1.png`: the one is no slip for the other. Of versions one takes the place of another. */
function isOtherNumber(name: string, other: string): boolean {
  return !/\d\.\d/.test(name) && name.replace(/\d+/g, '0') === other.replace(/\d+/g, '0');
}

/** The names of one folder, and what was found for each name: what many references name is looked for once. */
interface Names {
  readonly index: NearIndex;
  readonly found: Map<string, readonly Near[]>;
}

function namesOf(paths: Iterable<string>): ReadonlyMap<string, Names> {
  return new Map(
    [...groupBy(paths, folderOf)].map(([folder, own]) => [
      folder,
      { index: new NearIndex(own), found: new Map() },
    ]),
  );
}

const namesByFolder = onceFor(({ files }: Inventory) => namesOf(files));

/** Folders that have an index page, without their slashes. */
const pagedFolders = onceFor(({ files, folders }: Inventory) =>
  namesOf([...folders].flatMap((path) => (path !== '' && files.has(path + INDEX) ? path.slice(0, -1) : []))),
);

/** What lies in the folder of `path` and has nearly its name, the nearest first. */
function nearlyNamed(all: ReadonlyMap<string, Names>, path: string): readonly Near[] {
  const names = all.get(folderOf(path));
  const wanted = fold(nameOf(path));
  if (names === undefined || wanted.length < 3) return [];
  const near = names.found.get(wanted) ?? names.index.of(wanted);
  names.found.set(wanted, near);
  return near;
}

const anchorsByFold = onceFor((anchors: ReadonlySet<string>) => groupBy(anchors, fold));
/** Without what parts words, and the end of a plural. */
const bareName = (name: string) =>
  fold(name)
    .replace(/[-_. ]/g, '')
    .replace(/s$/, '');
const anchorsByBareName = onceFor((anchors: ReadonlySet<string>) => groupBy(anchors, bareName));
const nearAnchors = onceFor(
  (anchors: ReadonlySet<string>) => new NearIndex([...anchors].filter((name) => !name.includes('/')).sort()),
);

/** Anchors of the same page whose names are nearly `name`: by letter case, by what parts their words, else by letters. */
export function anchorVariants(anchors: ReadonlySet<string>, path: string, name: string): Candidate[] {
  for (const variants of [
    anchorsByFold(anchors).get(fold(name)),
    anchorsByBareName(anchors).get(bareName(name)),
  ])
    if (variants !== undefined)
      return variants.slice(0, MOST).map((fragment) => ({ path, fragment, sure: variants.length === 1 }));
  if (name.length < 4 || name.includes('/')) return [];
  const near = nearAnchors(anchors).of(fold(name));
  const isClear = near.length === 1 && name.length > 4 && isOneSlip(fold(name), fold(near[0]?.path ?? ''));
  return near.slice(0, MOST).map(({ path: fragment }) => ({ path, fragment, sure: isClear }));
}
