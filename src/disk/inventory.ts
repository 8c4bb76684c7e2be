/** Takes the inventory of a real folder. */

import { isUtf8 } from 'node:buffer';
import { isAbsolute, sep } from 'node:path';
import type { Unread } from '../core/report.ts';
import { SETTINGS_FILE } from '../core/settings/settings.ts';
import { isLitter } from '../core/site/admission.ts';
import { type Inventory, makeInventory } from '../core/site/inventory.ts';
import { below, type DiskPath, pathFrom } from './disk-path.ts';
import { type Dirent, direntsIn, rawNamesIn, realpathSync, statSync } from './fs.ts';
import { reasonOf } from './reason.ts';
import { statOrNull } from './stat.ts';

export interface Listing {
  readonly inventory: Inventory;
  /** What could not be listed, and why. */
  readonly unread: readonly Unread[];
}

/**
 * Lists every file below `root`, but for what is never published. Symbolic links are followed, as a host's copy would hold what they lead
 * to; a link that leads back to a folder it is in, or nowhere, is left out and noted.
 */
export function listSite(root: DiskPath): Listing {
  const files: string[] = [];
  const closed: string[] = [];
  const unread: Unread[] = [];
  /** `stays` are the ways between links that lead here, each from where it starts to the folder of the next link. */
  const visit = (folder: string, start: string, stays: readonly Stay[]) => {
    const here = below(root, folder);
    const { entries, unnamable } = entriesIn(here);
    for (const name of unnamable) unread.push({ file: folder + name, why: UNNAMABLE });
    for (const entry of entries) {
      if (isLitter(entry.name)) continue;
      const path = folder + entry.name;
      if (path === SETTINGS_FILE) continue;
      try {
        if (!entry.isSymbolicLink()) {
          if (entry.isDirectory()) visit(`${path}/`, start, stays);
          else if (entry.isFile()) files.push(path);
          else unread.push({ file: path, why: DEVICE });
          continue;
        }
        const what = statSync(below(root, path));
        if (what.isFile()) files.push(path);
        else if (!what.isDirectory()) unread.push({ file: path, why: DEVICE });
        if (!what.isDirectory()) continue;
        const real = realpathSync(below(root, path));
        const stay = { start, end: realpathSync(here) };
        if ([...stays, stay].some((one) => isOn(one, real))) {
          closed.push(`${path}/`);
          unread.push({ file: path, why: 'this link leads back to a folder that it is in: remove it' });
        } else visit(`${path}/`, real, [...stays, stay]);
      } catch (error) {
        if (!LEADS_NOWHERE.has((error as NodeJS.ErrnoException).code ?? '')) closed.push(`${path}/`);
        unread.push({ file: path, why: entry.isSymbolicLink() ? linkReason(error) : reasonOf(error) });
      }
    }
  };
  visit('', realpathSync(root), []);
  files.sort();
  return { inventory: makeInventory(files, closed), unread };
}

/** Real folders, one in the other. */
interface Stay {
  readonly start: string;
  readonly end: string;
}

/** True for a folder on the way from the start to the end. */
function isOn({ start, end }: Stay, folder: string): boolean {
  const within = (inner: string, outer: string) =>
    inner === outer || inner.startsWith(outer === sep ? sep : outer + sep);
  return within(end, folder) && within(folder, start);
}

/** Errors after which it is known that there is nothing. */
const LEADS_NOWHERE: ReadonlySet<string> = new Set(['ENOENT', 'ELOOP']);

function linkReason(error: unknown): string {
  const code = (error as NodeJS.ErrnoException).code;
  if (code === 'ELOOP') return 'this link leads round in a circle: remove it';
  if (code === 'ENOENT') return 'this link leads to a file that does not exist: mend or remove it';
  return reasonOf(error);
}

/** Why a device, a pipe or a socket is never opened. */
const DEVICE = 'it is neither a file nor a folder: take it away';

/** Why a name that is no text is left alone. */
const UNNAMABLE = 'its name is not written in UTF-8: rename it';

/** What a folder holds; names that are not UTF-8 apart, with those bytes as escapes that would be taken for others. */
function entriesIn(folder: DiskPath): {
  readonly entries: readonly Dirent[];
  readonly unnamable: readonly string[];
} {
  const entries = direntsIn(folder);
  // Node writes a replacement character for what is no UTF-8, and so do some people.
  if (!entries.some(({ name }) => name.includes('\uFFFD'))) return { entries, unnamable: [] };
  const names = rawNamesIn(folder);
  const sound = new Set(names.filter((name) => isUtf8(name)).map(String));
  return {
    entries: entries.filter(({ name }) => sound.delete(name)),
    unnamable: names.filter((name) => !isUtf8(name)).map(withEscapes),
  };
}

function withEscapes(name: Buffer): string {
  return name
    .toString('latin1')
    .replace(/[^ -~]/g, (byte) => `\\x${byte.charCodeAt(0).toString(16).padStart(2, '0')}`);
}

/** What is below a folder, for taking it along. */
interface Walked {
  /** Paths of files, in order. */
  readonly files: string[];
  /** What is not taken, by the reason. */
  readonly left: ReadonlyMap<string, readonly string[]>;
}

const LINK = 'a link';
const LINK_OUT = 'a link that leads out of the folder';
const NO_FILE = 'neither a file nor a folder';

/**
 * Every file below `root` for which `why` gives no reason to leave it (folders are asked for too; theirs end in `/`).
 * Where `follows` says so, links that stay in the folder are followed. Devices, pipes and sockets are never opened.
 */
export function walkFolder(
  root: DiskPath,
  why: (path: string) => string | null,
  { follows = false }: { readonly follows?: boolean } = {},
): Walked {
  const files: string[] = [];
  const left = new Map<string, string[]>();
  const leave = (path: string, reason: string) => {
    const paths = left.get(reason);
    if (paths) paths.push(path);
    else left.set(reason, [path]);
  };
  const real = follows ? realpathSync(root) : '';
  const visit = (folder: string, stays: readonly Stay[], start: string) => {
    const here = below(root, folder);
    const found = entriesIn(here);
    for (const name of found.unnamable) leave(folder + name, 'a name that is not written in UTF-8');
    for (const entry of found.entries) {
      const path = folder + entry.name;
      const target = entry.isSymbolicLink() && follows ? statOrNull(below(root, path)) : entry;
      const reason = why(target?.isDirectory() ? `${path}/` : path);
      if (reason !== null) leave(target?.isDirectory() ? `${path}/` : path, reason);
      else if (entry.isSymbolicLink()) {
        if (target === null || target === entry) {
          leave(path, follows ? LINK_OUT : LINK);
          continue;
        }
        const to = realpathSync(below(root, path));
        const stay = { start, end: realpathSync(here) };
        const way = pathFrom(real, to);
        const isOut = way === '..' || way.startsWith('../') || isAbsolute(way);
        // What a link leads to is asked for by its own name, too.
        const theirs = isOut || way === '' ? null : why(target.isDirectory() ? `${way}/` : way);
        if (isOut || [...stays, stay].some((one) => isOn(one, to))) leave(path, LINK_OUT);
        else if (theirs !== null) leave(path, theirs);
        else if (target.isDirectory()) visit(`${path}/`, [...stays, stay], to);
        else if (target.isFile()) files.push(path);
        else leave(path, NO_FILE);
      } else if (entry.isDirectory()) visit(`${path}/`, stays, start);
      else if (entry.isFile()) files.push(path);
      else leave(path, NO_FILE);
    }
  };
  visit('', [], real);
  return { files: files.sort(), left };
}
