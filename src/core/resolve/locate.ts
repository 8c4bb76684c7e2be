/** Finds the file that a host would answer with for a resolved site path. */

import { INDEX } from '../site/formats.ts';
import { type Inventory, isBehindClosed } from '../site/inventory.ts';

/** The file served for `path`; a folder's index page where `path` names a folder; null where there is none. */
export function locate(inventory: Inventory, path: string): string | null {
  if (inventory.files.has(path)) return path;
  const folder = asFolder(path);
  const index = `${folder}${INDEX}`;
  return inventory.folders.has(folder) && inventory.files.has(index) ? index : null;
}

/** True where no host would answer with a file for `path`; false also where nobody can tell. */
export function isAbsent(inventory: Inventory, path: string): boolean {
  return locate(inventory, path) === null && !isBehindClosed(inventory, path);
}

/** The folder that a path names, with or without its closing slash. */
export function asFolder(path: string): string {
  return path === '' || path.endsWith('/') ? path : `${path}/`;
}
