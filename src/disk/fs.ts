/** The calls of the disk, for places alone: the only file that has them from the system. */
import * as fs from 'node:fs';
import * as promises from 'node:fs/promises';
import { dirname } from 'node:path';
import type { DiskPath } from './disk-path.ts';
import { pause } from './pause.ts';

export type { Dirent, Stats } from 'node:fs';
export {
  closeSync,
  constants,
  fchmodSync,
  fchownSync,
  fstatSync,
  fsyncSync,
  readSync,
  writeSync,
} from 'node:fs';

export const createReadStream = (place: DiskPath): fs.ReadStream => fs.createReadStream(place);
export const existsSync = (place: DiskPath): boolean => fs.existsSync(place);
export const linkSync = (from: DiskPath, to: DiskPath): void => fs.linkSync(from, to);
export const lstatSync = (place: DiskPath): fs.Stats => fs.lstatSync(place);
export const mkdirSync = (place: DiskPath, options?: { readonly recursive: true }): void =>
  options === undefined ? fs.mkdirSync(place) : makeAll(place);
export const mkdtempSync = (start: DiskPath): DiskPath => fs.mkdtempSync(start) as DiskPath;
export const openSync = (place: DiskPath, flags: string | number): number => fs.openSync(place, flags);
export const readFileSync = (place: DiskPath): Buffer => fs.readFileSync(place);
export const readlinkSync = (place: DiskPath): string => fs.readlinkSync(place);
/** Links followed. Names stay as they were given where the disk takes them in any letter case. */
export const realpathSync = (place: DiskPath): DiskPath =>
  (process.platform === 'win32' ? fs.realpathSync(place) : fs.realpathSync.native(place)) as DiskPath;
/** Waits up to two seconds for whoever has one of the files open, where that keeps it from being moved. */
export const renameSync = (from: DiskPath, to: DiskPath): void => patiently(() => fs.renameSync(from, to));
export const rmSync = (place: DiskPath, options: fs.RmOptions): void => fs.rmSync(place, options);
export const rmdirSync = (place: DiskPath): void => fs.rmdirSync(place);
export const statSync = (place: DiskPath): fs.Stats => fs.statSync(place);
export const unlinkSync = (place: DiskPath): void => patiently(() => fs.unlinkSync(place));
export const writeFileSync = (place: DiskPath, text: string, options: { readonly flag: string }): void =>
  fs.writeFileSync(place, text, options);
export const open = (place: DiskPath, flags: string, mode = 0o666): Promise<promises.FileHandle> =>
  promises.open(place, flags, mode);

/** The number of the kind of disk that something lies on. */
export const diskKindOf = (place: DiskPath): number => fs.statfsSync(place).type;

/** The names in a folder. */
export const readdirSync = (place: DiskPath): string[] => fs.readdirSync(place);
/** The same as the bytes that they are. */
export const rawNamesIn = (place: DiskPath): Buffer[] => fs.readdirSync(place, { encoding: 'buffer' });
/** What a folder holds, with what each is. */
export const direntsIn = (place: DiskPath): fs.Dirent[] => fs.readdirSync(place, { withFileTypes: true });

/** How often a folder is made again that somebody takes away meanwhile. */
const TRIES = 20;

/** Node's own way to make folders with those around them never ends where the system makes none, as below `/proc`. */
function makeAll(place: string, tries = TRIES): void {
  try {
    fs.mkdirSync(place);
  } catch (error) {
    const { code } = error as NodeJS.ErrnoException;
    // Looked at once: other runs make and take away folders at any moment.
    const stands = fs.lstatSync(place, { throwIfNoEntry: false });
    const isFolder = stands?.isSymbolicLink()
      ? fs.statSync(place, { throwIfNoEntry: false })?.isDirectory()
      : stands?.isDirectory();
    if (isFolder) return;
    const isAlone = code === 'ENOENT' && dirname(place) !== place;
    const isGone = code === 'EEXIST' && stands === undefined;
    if (tries === 0 || !(isAlone || isGone)) throw error;
    if (isAlone) makeAll(dirname(place), tries - 1);
    makeAll(place, tries - 1);
  }
}

/** What Windows answers while an editor, a sync program or a scanner has a file open. */
const TAKEN: ReadonlySet<string> = new Set(['EPERM', 'EBUSY', 'EACCES']);
/** Milliseconds to wait for them in all, and between two tries. */
const PATIENCE = 2000;
const PAUSE = 50;

function patiently(work: () => void): void {
  if (process.platform !== 'win32') return work();
  for (const end = performance.now() + PATIENCE; ; ) {
    try {
      return work();
    } catch (error) {
      const { code = '' } = error as NodeJS.ErrnoException;
      if (!TAKEN.has(code) || performance.now() > end) throw error;
      pause(PAUSE);
    }
  }
}
