/** Puts the files of a library in place of those that were taken in before, and of no others. */
import type { Files } from '../change/files.ts';

/** The digest of a file's bytes. */
type DigestOf = (bytes: Uint8Array) => string;

export interface Before {
  /** Site path of the library's folder. */
  readonly folder: string;
  /** The digests of the files that were taken in, by their paths in that folder. */
  readonly files: Readonly<Record<string, string>>;
}

/**
 * Writes `fresh` into the library's folder, and removes what was taken in before. A file that was edited since, or that
 * somebody else put there, stays as it is: the paths of those in the folder come back.
 */
export function placeFiles(
  site: Files,
  { folder, files }: Before,
  fresh: ReadonlyMap<string, Uint8Array>,
  digestOf: DigestOf,
): string[] {
  const stays: string[] = [];
  for (const path of site.paths().filter((one) => one.startsWith(`${folder}/`))) {
    const own = path.slice(folder.length + 1);
    const digest = digestOf(site.read(path));
    const next = fresh.get(own);
    const isOurs =
      (Object.hasOwn(files, own) && files[own] === digest) || (next && digestOf(next) === digest);
    if (!isOurs) stays.push(own);
    else if (next === undefined) site.remove(path);
  }
  const kept = new Set(stays);
  for (const [path, bytes] of fresh) if (!kept.has(path)) site.write(`${folder}/${path}`, bytes);
  return stays;
}
