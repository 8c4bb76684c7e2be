/** Where a command writes: results to stdout, notes and progress to stderr. */
import { fail } from '../core/errors.ts';
import { reasonOf } from '../disk/reason.ts';
import { writeAll } from '../disk/write-all.ts';
import { wrap } from '../show/paint.ts';

export interface Output {
  /** Writes a result as it is. Throws a `CravelError` where it does not arrive whole. */
  out(text: string): void;
  /** Writes one line of a note. */
  note(text: string): void;
  readonly stdout: NodeJS.WriteStream;
  readonly stderr: NodeJS.WriteStream;
  readonly env: NodeJS.ProcessEnv;
}

export function processOutput(): Output {
  const { stdout, stderr, env } = process;
  let isClosed = false;
  return {
    out(text) {
      if (isClosed) return;
      try {
        writeAll(1, text);
      } catch (error) {
        // A reader that has seen enough, such as `head`, is no fault.
        isClosed = (error as NodeJS.ErrnoException).code === 'EPIPE';
        if (!isClosed) throw fail('cut-short', reasonOf(error));
      }
    },
    note(text) {
      try {
        writeAll(2, `${fit(text, stderr)}\n`);
      } catch {
        // Where notes cannot be told, the results and the exit code still can.
      }
    },
    stdout,
    stderr,
    env,
  };
}

/** On a terminal, lines end between words. */
function fit(text: string, { isTTY, columns }: NodeJS.WriteStream): string {
  if (isTTY !== true) return text;
  return text
    .split('\n')
    .flatMap((line) => (line === '' ? [''] : wrap(line, columns || 80)))
    .join('\n');
}
