/** Runs the built program as a user would. */
import { execFile, spawn, spawnSync } from 'node:child_process';
import { once } from 'node:events';
import { join } from 'node:path';
import type { TestContext } from 'node:test';
import { setImmediate, setTimeout } from 'node:timers/promises';

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

/** Milliseconds that a note may be waited for: a busy machine fails no test. */
const PATIENCE = 120_000;

/** A call that goes on until it is told to end. */
export interface Running {
  /** Waits until the program has noted a line that matches, after those already waited for; answers with the line. */
  noted(pattern: RegExp): Promise<string>;
  /** What it has written to stdout since this was last asked. */
  written(): string;
  /** Ends it as Ctrl-C does. */
  end(): Promise<number | null>;
}

/** Calls `cravel` in `folder`, and leaves it running until the test is over at the latest. */
export function cravelRunning(
  t: TestContext,
  folder: string | { readonly folder: string; readonly env: NodeJS.ProcessEnv },
  ...args: readonly string[]
): Running {
  const more = typeof folder === 'string' ? { folder, env: {} } : folder;
  const plain = plainly(more.folder);
  const child = spawn(process.execPath, [programFile, ...args], {
    ...plain,
    env: { ...plain.env, ...more.env },
  });
  let stdout = '';
  let stderr = '';
  child.stdout.on('data', (text) => {
    stdout += text;
  });
  child.stderr.on('data', (text) => {
    stderr += text;
  });
  const ended = once(child, 'close');
  t.after(() => child.kill('SIGKILL'));
  return {
    async noted(pattern) {
      for (const deadline = performance.now() + PATIENCE; ; ) {
        const lines = stderr.split('\n').slice(0, -1);
        const index = lines.findIndex((line) => pattern.test(line));
        if (index >= 0) {
          // What was written before the note is there, and may be read after it.
          await setImmediate();
          stderr = stderr
            .split('\n')
            .slice(index + 1)
            .join('\n');
          return lines[index] as string;
        }
        if (performance.now() > deadline) throw new Error(`no note like ${pattern}; there is: ${stderr}`);
        await setTimeout(25);
      }
    },
    written() {
      const text = stdout;
      stdout = '';
      return text;
    },
    async end() {
      child.kill('SIGINT');
      const late = new AbortController();
      const isLate = setTimeout(PATIENCE, true, { signal: late.signal }).catch(() => false);
      const wasLate = await Promise.race([ended.then(() => false), isLate]);
      late.abort();
      if (wasLate) throw new Error(`it goes on after Ctrl-C; there is: ${stderr}`);
      return child.exitCode;
    },
  };
}
