/** Takes the inventory of a real folder. */
import { readdirSync, realpathSync, statSync } from 'node:fs';
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
    for (const entry of readdirSync(here, { withFileTypes: true })) {
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

/**
 * Every file below `root` that is `wanted` (folders are asked for too), hidden ones included, in order. Links
 * are not followed.
 */
export function walkFolder(
  root: string,
  wanted: (path: string) => boolean,
): { readonly files: string[]; readonly links: string[] } {
  const files: string[] = [];
  const links: string[] = [];
  const visit = (folder: string) => {
    for (const entry of readdirSync(join(root, folder), { withFileTypes: true })) {
      const path = folder + entry.name;
      if (entry.isSymbolicLink()) links.push(path);
      else if (entry.isDirectory()) {
        if (wanted(`${path}/`)) visit(`${path}/`);
      } else if (entry.isFile() && wanted(path)) files.push(path);
    }
  };
  visit('');
  return { files: files.sort(), links };
}
