/** Runs the built program as a user would. */
import { execFile, spawnSync } from 'node:child_process';
import { join } from 'node:path';

export const projectFolder = join(import.meta.dirname, '../..');
export const programFile = join(projectFolder, 'dist/cravel.js');

export interface Outcome {
  readonly code: number | null;
  readonly stdout: string;
  readonly stderr: string;
}

/** `LANG` and colour settings are those of a plain pipe. */
const plainly = (folder: string) => ({
  cwd: folder,
  env: { PATH: process.env.PATH, HOME: folder, TMPDIR: folder },
  encoding: 'utf8' as const,
});

/** Calls `cravel` in `folder`. */
export function cravel(folder: string, ...args: readonly string[]): Outcome {
  const { status, stdout, stderr } = spawnSync(process.execPath, [programFile, ...args], plainly(folder));
  return { code: status, stdout, stderr };
}

/** The same, while this process goes on serving. */
export function cravelLater(folder: string, ...args: readonly string[]): Promise<Outcome> {
  return new Promise((done) => {
    execFile(process.execPath, [programFile, ...args], plainly(folder), (error, stdout, stderr) => {
      done({ code: error === null ? 0 : Number(error.code), stdout, stderr });
    });
  });
}
