/** Names files by the folder that they lie in, so that nothing on the way to it can turn into something else meanwhile. */

import { fail } from '../core/errors.ts';
import { asWritten, type DiskPath } from './disk-path.ts';
import { closeSync, constants, existsSync, openSync, readlinkSync, realpathSync } from './fs.ts';
import { isSystemError, reasonOf } from './reason.ts';

/**
 * Does something in a folder that is where it is said to be, no link on the way. Where the system has a name for a
 * folder that is open, `work` gets that one: it stands for the folder itself, whatever becomes of the way there. Throws a
 * `CravelError` that names the file `named` where the folder is somewhere else.
 */
export function withinFolder(folder: DiskPath, named: string, work: (folder: DiskPath) => void): void {
  if (realpathSync(folder) !== folder) throw fail('outside', named);
  if (process.platform !== 'linux') return inWords(named, () => work(folder));
  const handle = openSync(folder, constants.O_RDONLY | constants.O_DIRECTORY | constants.O_NOFOLLOW);
  try {
    const own = asWritten(`/proc/self/fd/${handle}`);
    const leadsTo = existsSync(own) ? readlinkSync(own) : null;
    if (leadsTo !== null && leadsTo !== folder) throw fail('outside', named);
    // The folder as people know it, not as it is open here.
    inWords(folder, () => work(leadsTo === null ? folder : own));
  } finally {
    closeSync(handle);
  }
}

/** What the system refuses is told of what people know by name. */
function inWords(named: string, work: () => void): void {
  try {
    work();
  } catch (error) {
    throw isSystemError(error) ? fail('refused', named, reasonOf(error)) : error;
  }
}
