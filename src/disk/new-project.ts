/** Puts a new project in its place as a whole. */

import type { Change } from '../core/change/files.ts';
import { fail } from '../core/errors.ts';
import { besideTarget, removeLeftovers } from './beside.ts';
import { around, below, type DiskPath, pathFrom } from './disk-path.ts';
import { makeFiles, type NewFile, syncFolder, syncFolders } from './durable.ts';
import { mkdirSync, renameSync, rmSync } from './fs.ts';
import type { Asked } from './signals.ts';
import { lstatOrNull, statOrNull } from './stat.ts';

/** Builds a new project beside its place, with the folders around it that are missing, and moves it there as a whole. */
export async function commitNew(root: DiskPath, { files, folders }: Change, asked: Asked): Promise<null> {
  let top = root;
  while (lstatOrNull(around(top)) === null) top = around(top);
  removeLeftovers(top);
  const staging = besideTarget(top);
  try {
    const whole = below(staging, pathFrom(top, root));
    const all = new Set([whole, ...folders.map((path) => below(whole, path))]);
    const made = files.map(({ path, after }): NewFile => {
      const file = below(whole, path);
      all.add(around(file));
      return { path: file, bytes: after ?? new Uint8Array() };
    });
    for (const folder of all) mkdirSync(folder, { recursive: true });
    await makeFiles(made, asked.endIfAsked);
    await syncFolders(all);
    if (lstatOrNull(top) !== null)
      throw fail(statOrNull(top) === null ? 'leads-nowhere' : 'changed-meanwhile', top);
    renameSync(staging, top);
    syncFolder(around(top));
    return null;
  } finally {
    rmSync(staging, { recursive: true, force: true });
  }
}
