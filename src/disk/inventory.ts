/** Takes the inventory of a real folder. */
import { isUtf8 } from 'node:buffer';
import { type Dirent, readdirSync, realpathSync, statSync } from 'node:fs';
import { join, sep } from 'node:path';
import type { Unread } from '../core/report.ts';
import { SETTINGS_FILE } from '../core/settings/settings.ts';
import { type Inventory, makeInventory } from '../core/site/inventory.ts';
import { reasonOf } from './reason.ts';

/** Folders and files that belong to other programs and are never published. */
const litter = new Set([
  '.git',
  '.hg',
  '.svn',
  '.cravel',
  'node_modules',
  '.DS_Store',
  'Thumbs.db',
  'desktop.ini',
]);

/** True for a name of something that is never published. */
export function isLitter(name: string): boolean {
  return litter.has(name);
}

export interface Listing {
  readonly inventory: Inventory;
  /** What could not be listed, and why. */
  readonly unread: readonly Unread[];
}

/**
 * Lists every file below `root`, but for what is never published. Symbolic links are followed, as a host's copy would hold what they lead
 * to; a link that leads back to a folder it is in, or nowhere, is left out and noted.
 */
export function listSite(root: string): Listing {
  const files: string[] = [];
  const unread: Unread[] = [];
  /** `stays` are the ways between links that lead here, each from where it starts to the folder of the next link. */
  const visit = (folder: string, start: string, stays: readonly Stay[]) => {
    const here = join(root, folder);
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
          continue;
        }
        const what = statSync(join(root, path));
        if (what.isFile()) files.push(path);
        if (!what.isDirectory()) continue;
        const real = realpathSync.native(join(root, path));
        const stay = { start, end: realpathSync.native(here) };
        if ([...stays, stay].some((one) => isOn(one, real)))
          unread.push({ file: path, why: 'this link leads back to a folder that it is in: remove it' });
        else visit(`${path}/`, real, [...stays, stay]);
      } catch (error) {
        unread.push({ file: path, why: entry.isSymbolicLink() ? linkReason(error) : reasonOf(error) });
      }
    }
  };
  visit('', realpathSync.native(root), []);
  files.sort();
  return { inventory: makeInventory(files), unread };
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

function linkReason(error: unknown): string {
  const code = (error as NodeJS.ErrnoException).code;
  if (code === 'ELOOP') return 'this link leads round in a circle: remove it';
  if (code === 'ENOENT') return 'this link leads to a file that does not exist: mend or remove it';
  return reasonOf(error);
}

interface Walked {
  readonly files: string[];
  readonly links: string[];
  /** Names that are not UTF-8. */
  readonly unnamable: string[];
}

/** Why a name that is no text is left alone. */
const UNNAMABLE = 'its name is not written in UTF-8: rename it';

/** What a folder holds; names that are not UTF-8 apart, with those bytes as escapes that would be taken for others. */
function entriesIn(folder: string): {
  readonly entries: readonly Dirent[];
  readonly unnamable: readonly string[];
} {
  const entries = readdirSync(folder, { withFileTypes: true });
  // Node writes a replacement character for what is no UTF-8, and so do some people.
  if (!entries.some(({ name }) => name.includes('\uFFFD'))) return { entries, unnamable: [] };
  const names = readdirSync(folder, { encoding: 'buffer' });
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

/**
 * Every file below `root` that is `wanted` (folders are asked for too), hidden ones included, in order. Links
 * are not followed.
 */
export function walkFolder(root: string, wanted: (path: string) => boolean): Walked {
  const files: string[] = [];
  const links: string[] = [];
  const unnamable: string[] = [];
  const visit = (folder: string) => {
    const found = entriesIn(join(root, folder));
    unnamable.push(...found.unnamable.map((name) => folder + name));
    for (const entry of found.entries) {
      const path = folder + entry.name;
      if (entry.isSymbolicLink()) links.push(path);
      else if (entry.isDirectory()) {
        if (wanted(`${path}/`)) visit(`${path}/`);
      } else if (entry.isFile() && wanted(path)) files.push(path);
    }
  };
  visit('');
  return { files: files.sort(), links, unnamable };
}
