/** Where a command writes: results to stdout, notes and progress to stderr. */
import { wrap } from '../show/paint.ts';

export interface Output {
  /** Writes a result as it is. */
  out(text: string): void;
  /** Writes one line of a note. */
  note(text: string): void;
  readonly stdout: NodeJS.WriteStream;
  readonly stderr: NodeJS.WriteStream;
  readonly env: NodeJS.ProcessEnv;
}

export function processOutput(): Output {
  const { stdout, stderr, env } = process;
  return {
    out: (text) => void stdout.write(text),
    note: (text) => void stderr.write(`${fit(text, stderr)}\n`),
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
