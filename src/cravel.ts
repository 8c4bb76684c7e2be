#!/usr/bin/env node
/** The program: runs the command that was called and turns every outcome into an exit code. */
import { CommanderError } from 'commander';
import { processOutput } from './command/output.ts';
import { makeProgram } from './command/program.ts';
import { CravelError, fail } from './core/errors.ts';
import { isSystemError, reasonOf } from './disk/reason.ts';
import { Interrupted } from './disk/signals.ts';
import { visible } from './show/escape.ts';
import { explained } from './show/paint.ts';

declare const CRAVEL_VERSION: string;

const output = processOutput();
try {
  const program = makeProgram(CRAVEL_VERSION, output, (exitCode) => {
    process.exitCode = exitCode;
  });
  const all = [program, ...program.commands, ...program.commands.flatMap(({ commands }) => commands)];
  for (const command of all) command.exitOverride();
  await program.parseAsync(process.argv);
} catch (error) {
  process.exitCode = explain(error);
}

/** Tells what went wrong, without a stack trace, and returns the exit code. */
function explain(error: unknown): number {
  // Commander has told its own errors already.
  if (error instanceof CommanderError) return error.exitCode === 0 ? 0 : 2;
  if (error instanceof Interrupted) return error.exitCode;
  if (error instanceof CravelError) {
    output.note(explained(error));
    return 2;
  }
  // What the system refuses is told as it is, wherever it was asked for.
  if (isSystemError(error)) {
    output.note(explained(fail('system', visible(error.path ?? error.syscall ?? ''), reasonOf(error))));
    return 2;
  }
  const what = error instanceof Error ? `${error.name}: ${error.message}` : String(error);
  output.note(`Cravel has a fault of its own: ${visible(what)}`);
  output.note('Your files are as they were. Please report this, with the command that was called.');
  return 3;
}
