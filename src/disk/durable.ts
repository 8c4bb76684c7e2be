/** Writes that are on the disk when they are done, whatever happens to the machine next. */

import type { OwnMarks } from '../core/change/files.ts';
import type { DiskPath } from './disk-path.ts';
import { closeSync, fsyncSync, open, openSync } from './fs.ts';

/** What new files are, before the system's mask. */
const NEW = 0o666;
/** Files written at once: the disk takes them together. */
const AT_ONCE = 8;

/** A file to be made where none is. */
export interface NewFile {
  readonly path: DiskPath;
  readonly bytes: Uint8Array;
  /** Unless said, it is like any new file. */
  readonly like?: OwnMarks | null;
}

/**
 * Makes files, each synced. `before` is called before each. Throws the system's error, or what `before` throws; some of
 * them may be there then.
 */
export async function makeFiles(files: readonly NewFile[], before: () => void = () => {}): Promise<void> {
  const { default: pLimit } = await import('p-limit');
  const limit = pLimit(AT_ONCE);
  const done = await Promise.allSettled(files.map((file) => limit(() => makeFile(file, before))));
  const failed = done.find((one) => one.status === 'rejected');
  if (failed !== undefined) throw failed.reason;
}

async function makeFile({ path, bytes, like = null }: NewFile, before: () => void): Promise<void> {
  before();
  const file = await open(path, 'wx', like === null ? NEW : like.mode & 0o777);
  try {
    await file.writeFile(bytes);
    if (like !== null) {
      // Only an administrator may give files away: for others the owner is the same, or cannot be.
      const own = process.getuid?.() ?? null;
      if (own === 0 && (like.uid !== own || like.gid !== process.getgid?.()))
        await file.chown(like.uid, like.gid);
      // What the system's mask takes away of new files is given back.
      if ((like.mode & (process.umask() | 0o7000)) !== 0) await file.chmod(like.mode & 0o7777);
      if (like.mtime !== undefined) await file.utimes(like.mtime, like.mtime);
    }
    await file.sync();
  } finally {
    await file.close();
  }
}

/** Makes sure that the names in folders are on the disk; several at once, since the disk takes them together. */
export async function syncFolders(folders: Iterable<DiskPath>): Promise<void> {
  const { default: pLimit } = await import('p-limit');
  const limit = pLimit(AT_ONCE);
  const sync = async (folder: DiskPath) => {
    try {
      const handle = await open(folder, 'r');
      await handle.sync().finally(() => handle.close());
    } catch {
      // Some systems have no such thing for folders, and keep names by themselves.
    }
  };
  await Promise.all(Array.from(folders, (folder) => limit(() => sync(folder))));
}

/** Makes sure that the names in a folder are on the disk. */
export function syncFolder(folder: DiskPath): void {
  let handle: number | null = null;
  try {
    handle = openSync(folder, 'r');
    fsyncSync(handle);
  } catch {
    // Some systems have no such thing for folders, and keep names by themselves.
  } finally {
    if (handle !== null) closeSync(handle);
  }
}
