/** Keeps projects as starters of one's own: what comes along, and where it goes. */

import ignore from 'ignore';
import { ChangedFiles } from '../core/change/files.ts';
import { type Stands, whyLeft } from '../core/site/admission.ts';
import { below, type DiskPath } from './disk-path.ts';
import { walkFolder } from './inventory.ts';
import { commit, type RunOptions, whileLocked } from './journal.ts';
import { loadFile } from './load.ts';
import { WORKSHOP } from './lock.ts';
import { statOrNull } from './stat.ts';

/** What comes along, and what does not by reason. The project's own list of ignored files is heeded. */
export function gatherKept(root: DiskPath): {
  readonly files: ReadonlyMap<string, Uint8Array>;
  readonly left: ReadonlyMap<string, readonly string[]>;
} {
  const isListed = statOrNull(below(root, IGNORED))?.isFile() === true;
  const ignored = ignore().add(isListed ? new TextDecoder().decode(loadFile(root, IGNORED)) : '');
  const why = (path: string, stands: Stands) =>
    whyLeft('keep', path, stands) ?? (ignored.ignores(path) ? 'ignored by .gitignore' : null);
  const { files, left } = walkFolder(root, why);
  return { files: new Map(files.map((path) => [path, loadFile(root, path)])), left };
}

const IGNORED = '.gitignore';

/** Writes a starter, as a whole; one of that name is replaced. */
export async function writeStarter(
  target: DiskPath,
  kept: ReadonlyMap<string, Uint8Array>,
  name: string,
  options: RunOptions,
): Promise<void> {
  if (statOrNull(target) === null) {
    const files = [...kept].map(([path, after]) => ({ path, before: null, after }));
    await commit(target, { title: `keep ${name}`, files, folders: [] });
    return;
  }
  await whileLocked(
    target,
    async () => {
      const present = walkFolder(target, (path, stands) =>
        path === `${WORKSHOP}/` || stands !== 'file' ? '' : null,
      ).files;
      const files = new ChangedFiles(present, (path) => loadFile(target, path));
      for (const path of present) if (!kept.has(path)) files.remove(path);
      for (const [path, bytes] of kept) files.write(path, bytes);
      const title = `keep --replace ${name}`;
      await commit(target, { title, files: files.changes(), folders: [] });
    },
    options,
  );
}
