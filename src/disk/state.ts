/** Where Cravel keeps what it knows of a project: in the folder that each system has for the state of programs. */

import { createHash } from 'node:crypto';
import { homedir } from 'node:os';
import { isAbsolute } from 'node:path';
import envPaths from 'env-paths';
import { asWritten, below, type DiskPath } from './disk-path.ts';
import { realpathSync } from './fs.ts';

/** The folder for the project at `root`; it need not be there. */
export function stateOf(root: DiskPath): DiskPath {
  const { log, data } = envPaths('cravel', { suffix: '' });
  // The state of programs has a folder of its own where folders go by the XDG Base Directory Specification.
  const own = process.platform === 'win32' || process.platform === 'darwin' ? data : log;
  const state = isAbsolute(own) ? asWritten(own) : below(asWritten(homedir()), '.local/state/cravel');
  const project = createHash('sha256').update(realpathSync(root)).digest('hex').slice(0, 16);
  return below(state, `projects/${project}`);
}

/** Where it is noted what is about to be put in place: not in the project, where anybody may have written to it. */
export function placingNote(root: DiskPath): DiskPath {
  return below(stateOf(root), 'placing.json');
}
