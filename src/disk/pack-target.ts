/** Where a packed copy is to lie, and what may stand there. */

import { basename } from 'node:path';
import { fail } from '../core/errors.ts';
import { hashOfFile } from './digest.ts';
import { around, below, type DiskPath, pathFrom, pointedTo, withSlashes } from './disk-path.ts';
import { existsSync, readdirSync, realpathSync } from './fs.ts';
import { walkFolder } from './inventory.ts';
import { type Packed, type PackedForm, packedAt } from './packed.ts';
import { lstatOrNull, statOrNull } from './stat.ts';

/** Where the packed copy goes. */
export interface PackTarget {
  readonly path: DiskPath;
  readonly form: PackedForm;
  /** As somebody wrote it. */
  readonly shown: string;
}

const ARCHIVES: readonly (readonly [end: RegExp, form: PackedForm])[] = [
  [/\.zip$/i, 'zip'],
  [/\.(?:tar\.gz|tgz)$/i, 'tar.gz'],
];
const OTHER_ARCHIVES = /\.(?:rar|7z|tar|gz|bz2|xz|zst|tbz|txz)$/i;

/** Throws a `CravelError` where nothing can be packed to. `site`: the folder of the site, in the project at `root`. */
export function packTarget(named: string, from: DiskPath, root: DiskPath, site: DiskPath): PackTarget {
  const path = pointedTo(named, from);
  const shown = withSlashes(named);
  const form = ARCHIVES.find(([end]) => end.test(path))?.[1] ?? 'folder';
  if (form === 'folder' && OTHER_ARCHIVES.test(path)) throw fail('no-such-archive', shown);
  const place = realPlace(path);
  const isWithin = (inner: string, outer: string) => {
    const way = pathFrom(outer, inner);
    return way === '' || (way !== '..' && !way.startsWith('../') && !/^[a-z]:/i.test(way));
  };
  if (isWithin(place, realpathSync(site))) throw fail('packs-into-itself', shown);
  if (isWithin(realpathSync(root), place)) throw fail('packs-over-project', shown);
  return { path: place, form, shown };
}

/** The place with all links on the way to it followed, and its last step as it is. */
function realPlace(path: DiskPath): DiskPath {
  if (around(path) === path) return path;
  const above = around(path);
  const stands = lstatOrNull(above) !== null && statOrNull(above) !== null;
  return below(stands ? realpathSync(above) : realPlace(above), basename(path));
}

/** Throws a `CravelError` where what stands at the target is not Cravel's, and `replaces` does not say that it may go. */
export function checkTarget(root: DiskPath, { path, form, shown }: PackTarget, replaces: boolean): void {
  const stats = lstatOrNull(path);
  if (stats === null) return;
  if (form === 'folder' ? !stats.isDirectory() : !stats.isFile())
    throw fail('pack-target-kind', shown, form === 'folder' ? 'no folder' : 'no file');
  if (form === 'folder' && existsSync(below(path, '.git'))) throw fail('pack-over-repository', shown);
  if (replaces || (form === 'folder' && readdirSync(path).length === 0)) return;
  const known = packedAt(root, path);
  const strange = known === null ? '' : form === 'folder' ? strangeIn(path, known) : strangeFile(path, known);
  if (known === null) throw fail('not-packed-there', shown);
  if (strange !== null) throw fail('changed-where-packed', shown, strange);
}

/** A file that is not as it was packed, or not of what was packed; null where there is none. */
function strangeIn(path: DiskPath, { files }: Packed): string | null {
  const hashes = new Map(files.map((file) => [file.path, file.hash]));
  const found = walkFolder(path, (_path, stands) => (stands === 'file' ? null : 'no file'));
  const [other] = [...found.left.values()].flat();
  if (other !== undefined) return other;
  return found.files.find((file) => hashes.get(file) !== hashOfFile(below(path, file))) ?? null;
}

function strangeFile(path: DiskPath, { hash }: Packed): string | null {
  return hashOfFile(path) === hash ? null : basename(path);
}
