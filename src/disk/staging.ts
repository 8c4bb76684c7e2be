/** Writes the copy of a site beside the place where it is to lie. */

import { createHash } from 'node:crypto';
import type { CopiedFiles } from '../core/packing/copied-files.ts';
import { removeLeftovers } from './beside.ts';
import { piecesOf } from './digest.ts';
import { around, below, type DiskPath } from './disk-path.ts';
import { syncFolders } from './durable.ts';
import { mkdirSync, open, rmSync } from './fs.ts';
import { removeIfEmpty } from './lock.ts';
import type { PackTarget } from './pack-target.ts';
import type { PackedFile } from './packed.ts';
import { lstatOrNull } from './stat.ts';

/** Permission bits of every file that is packed. */
const MODE = 0o644;
/** Files written at once. */
const AT_ONCE = 8;

type Tell = (done: number, total: number) => Promise<void> | void;

/**
 * Writes a copy to a new folder: of files that were changed their new bytes, of the others those below `site`. Where `tell`
 * throws, folders that were made around it are gone again.
 */
export async function stageCopy(
  { path }: PackTarget,
  folder: DiskPath,
  site: DiskPath,
  files: CopiedFiles,
  tell: Tell,
): Promise<PackedFile[]> {
  const made = makeFolders(around(path));
  removeLeftovers(path);
  try {
    const folders = new Set([folder]);
    const paths = files.paths();
    for (const file of paths) folders.add(around(below(folder, file)));
    for (const one of folders) mkdirSync(one, { recursive: true });
    const staged = await copyAll(paths, (file) => contentFor(files.contentOf(file), site), folder, tell);
    await syncFolders(folders);
    return staged;
  } catch (error) {
    rmSync(folder, { recursive: true, force: true });
    for (const empty of made.toReversed()) removeIfEmpty(empty);
    throw error;
  }
}

/** Several at once, since the disk takes them together. Throws what went wrong first, once nothing is under way any more. */
async function copyAll(
  paths: readonly string[],
  contentOf: (path: string) => Uint8Array | DiskPath,
  folder: DiskPath,
  tell: Tell,
): Promise<PackedFile[]> {
  const { default: pLimit } = await import('p-limit');
  const limit = pLimit(AT_ONCE);
  let [done, isOver] = [0, false];
  const copy = async (path: string): Promise<PackedFile | null> => {
    if (isOver) return null;
    try {
      const file = { path, ...(await copyTo(below(folder, path), contentOf(path))) };
      await tell(++done, paths.length);
      return file;
    } catch (error) {
      isOver = true;
      throw error;
    }
  };
  const all = await Promise.allSettled(paths.map((path) => limit(() => copy(path))));
  const failed = all.find((one) => one.status === 'rejected');
  if (failed !== undefined) throw failed.reason;
  return all.flatMap((one) => (one.status === 'fulfilled' ? (one.value ?? []) : []));
}

function contentFor(content: string | Uint8Array, site: DiskPath): Uint8Array | DiskPath {
  return typeof content === 'string' ? below(site, content) : content;
}

/** Makes the folders on the way that are missing; gives them, the outermost first. */
function makeFolders(folder: DiskPath): DiskPath[] {
  const missing: DiskPath[] = [];
  for (let here = folder; lstatOrNull(here) === null; here = around(here)) missing.unshift(here);
  mkdirSync(folder, { recursive: true });
  return missing;
}

/** Writes bytes, or what a file holds, to a new file; one that is large is never in memory as a whole. */
async function copyTo(
  place: DiskPath,
  source: Uint8Array | DiskPath,
): Promise<{ readonly bytes: number; readonly hash: string }> {
  const hash = createHash('sha256');
  let bytes = 0;
  const to = await open(place, 'wx', MODE);
  try {
    for (const piece of typeof source === 'string' ? piecesOf(source) : [source]) {
      hash.update(piece);
      await to.writeFile(piece);
      bytes += piece.length;
    }
    // What the system's mask takes away of new files is given back.
    if ((process.umask() & MODE) !== 0) await to.chmod(MODE);
    await to.sync();
  } finally {
    await to.close();
  }
  return { bytes, hash: hash.digest('hex') };
}
