/** Finds the folders that come with Cravel itself: starters and the demo. */

import { fileURLToPath } from 'node:url';
import { existsSync } from './fs.ts';
import { around, asWritten, below, type Place } from './place.ts';

/** The folder that Cravel is installed in. */
export function packageFolder(): Place {
  let folder = around(asWritten(fileURLToPath(import.meta.url)));
  while (!existsSync(below(folder, 'starters'))) folder = around(folder);
  return folder;
}
