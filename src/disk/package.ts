/** Finds the folders that come with Cravel itself: starters and the demo. */
import { existsSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

/** The folder that Cravel is installed in. */
export function packageFolder(): string {
  let folder = dirname(fileURLToPath(import.meta.url));
  while (!existsSync(join(folder, 'starters'))) folder = dirname(folder);
  return folder;
}
