/** The calls of the disk, for places alone: the only file that has them from the system. */
import * as fs from 'node:fs';
import * as promises from 'node:fs/promises';
import { pause } from './pause.ts';
import type { Place } from './place.ts';

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

export const existsSync = (place: Place): boolean => fs.existsSync(place);
export const linkSync = (from: Place, to: Place): void => fs.linkSync(from, to);
export const lstatSync = (place: Place): fs.Stats => fs.lstatSync(place);
export const mkdirSync = (place: Place, options?: { readonly recursive: true }): void =>
  void fs.mkdirSync(place, options);
export const mkdtempSync = (start: Place): Place => fs.mkdtempSync(start) as Place;
export const openSync = (place: Place, flags: string | number): number => fs.openSync(place, flags);
export const readFileSync = (place: Place): Buffer => fs.readFileSync(place);
export const readlinkSync = (place: Place): string => fs.readlinkSync(place);
/** Links followed. Names stay as they were given where the disk takes them in any letter case. */
export const realpathSync = (place: Place): Place =>
  (process.platform === 'win32' ? fs.realpathSync(place) : fs.realpathSync.native(place)) as Place;
/** Waits up to two seconds for whoever has one of the files open, where that keeps it from being moved. */
export const renameSync = (from: Place, to: Place): void => patiently(() => fs.renameSync(from, to));
export const rmSync = (place: Place, options: fs.RmOptions): void => fs.rmSync(place, options);
export const rmdirSync = (place: Place): void => fs.rmdirSync(place);
export const statSync = (place: Place): fs.Stats => fs.statSync(place);
export const unlinkSync = (place: Place): void => patiently(() => fs.unlinkSync(place));
export const writeFileSync = (place: Place, text: string, options: { readonly flag: string }): void =>
  fs.writeFileSync(place, text, options);
export const open = (place: Place, flags: string): Promise<promises.FileHandle> =>
  promises.open(place, flags);

/** The number of the kind of disk that something lies on. */
export const diskKindOf = (place: Place): number => fs.statfsSync(place).type;

/** The names in a folder. */
export const readdirSync = (place: Place): string[] => fs.readdirSync(place);
/** The same as the bytes that they are. */
export const rawNamesIn = (place: Place): Buffer[] => fs.readdirSync(place, { encoding: 'buffer' });
/** What a folder holds, with what each is. */
export const direntsIn = (place: Place): fs.Dirent[] => fs.readdirSync(place, { withFileTypes: true });

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
