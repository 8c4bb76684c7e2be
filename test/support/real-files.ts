/** Files that people wrote, as far as there are any here: in packages, the demo and the starters. */
import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { projectFolder } from './program.ts';

/** The files whose paths match; what tools keep beside the packages for themselves is left out. */
export function realFiles(pattern: RegExp): string[] {
  const packages = readdirSync(join(projectFolder, 'node_modules')).filter((name) => !name.startsWith('.'));
  const folders = [...packages.map((name) => join('node_modules', name)), 'demo', 'starters'];
  return folders.flatMap((folder) =>
    readdirSync(join(projectFolder, folder), { recursive: true })
      .map((path) => join(projectFolder, folder, String(path)))
      .filter((path) => pattern.test(path)),
  );
}
