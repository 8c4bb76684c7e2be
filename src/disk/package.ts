/** Finds the folders that come with Cravel itself: starters and the demo. */

import { fileURLToPath } from 'node:url';
import { around, asWritten, below, type DiskPath } from './disk-path.ts';
import { existsSync } from './fs.ts';

/** The folder that Cravel is installed in. */
export function packageFolder(): DiskPath {
  let folder = around(asWritten(fileURLToPath(import.meta.url)));
  while (!existsSync(below(folder, 'starters'))) folder = around(folder);
  return folder;
}
