/** Where a command writes: results to stdout, notes and progress to stderr. */

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
    note: (text) => void stderr.write(`${text}\n`),
    stdout,
    stderr,
    env,
  };
}
