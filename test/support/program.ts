/** Runs the built program as a user would. */
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';

export const projectFolder = join(import.meta.dirname, '../..');
export const programFile = join(projectFolder, 'dist/cravel.js');

export interface Outcome {
  readonly code: number | null;
  readonly stdout: string;
  readonly stderr: string;
}

/** Calls `cravel` in `folder`; `LANG` and colour settings are those of a plain pipe. */
export function cravel(folder: string, ...args: readonly string[]): Outcome {
  const env = { PATH: process.env.PATH, HOME: folder, TMPDIR: folder };
  const { status, stdout, stderr } = spawnSync(process.execPath, [programFile, ...args], {
    cwd: folder,
    env,
    encoding: 'utf8',
  });
  return { code: status, stdout, stderr };
}
