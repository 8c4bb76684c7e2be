/** Makes the program from what its commands are declared with. Each one's work is loaded when called. */
import { Command } from 'commander';
import { type Declaration, saidOfOption, shownOption } from './declaration.ts';
import { declarations, showStarter } from './declarations.ts';
import type { Output } from './output.ts';

const EXIT_CODES = `
Exit codes: 0 done and clean, 1 findings, 2 the call or the input was wrong, 3 an internal fault.`;

/** What a command does with its arguments and its options, which are not checked yet; gives the exit code. */
type Run = (given: readonly unknown[], options: object, output: Output) => Promise<number>;

const runs: Readonly<Record<keyof typeof declarations, Run>> = {
  scaffold: async ([folder], options, output) =>
    (await import('./scaffold.ts')).scaffold(folder as string, options, output),
  starters: async (_none, _options, output) => (await import('./starters.ts')).listStarters(output),
  keep: async ([folder, name], options, output) =>
    (await import('./keep.ts')).keep(folder as string, name as string, options, output),
  page: async ([paths], options, output) =>
    (await import('./page.ts')).page(paths as string[], options, output),
  parts: async (_none, options, output) => (await import('./parts.ts')).parts(options, output),
  wire: async ([files], options, output) =>
    (await import('./wire.ts')).wire(files as string[], options, output),
  adopt: async ([source], options, output) =>
    (await import('./adopt.ts')).adopt(source as string, options, output),
  check: async ([folders], options, output) =>
    (await import('./check.ts')).check(folders as string[], options, output),
  mend: async (_none, options, output) => (await import('./mend.ts')).mend(options, output),
  move: async ([paths], options, output) =>
    (await import('./move.ts')).move(paths as string[], options, output),
  remove: async ([paths], options, output) =>
    (await import('./remove.ts')).remove(paths as string[], options, output),
  bring: async ([paths], options, output) =>
    (await import('./bring.ts')).bring(paths as string[], options, output),
  lift: async ([spots], options, output) =>
    (await import('./lift.ts')).lift(spots as string[], options, output),
  undo: async (_none, options, output) => (await import('./undo.ts')).undo(options, output),
  who: async ([path], options, output) => (await import('./who.ts')).who(path as string, options, output),
  loads: async ([page], options, output) =>
    (await import('./loads.ts')).loads(page as string, options, output),
  map: async (_none, options, output) => (await import('./map.ts')).map(options, output),
  preview: async ([folder], options, output) =>
    (await import('./preview.ts')).preview(folder as string | undefined, options, output),
  look: async ([pages], options, output) =>
    (await import('./look.ts')).look(pages as string[], options, output),
  pack: async (_none, options, output) => (await import('./pack.ts')).pack(options, output),
  visit: async ([address], options, output) =>
    (await import('./visit.ts')).visit(address as string | undefined, options, output),
  release: async ([what], options, output) =>
    (await import('./release.ts')).release(what as string, options, output),
  rules: async ([name], _options, output) =>
    (await import('./rules.ts')).rules(name as string | undefined, output),
  settings: async (_none, options, output) => (await import('./settings.ts')).settings(options, output),
  demo: async ([folder], options, output) =>
    (await import('./demo.ts')).demo(folder as string | undefined, options, output),
  completion: async ([shell], _options, output) =>
    (await import('./completion.ts')).completion(shell as string, output),
};

/** The whole program; `done` gets the exit code of the command that ran. */
export function makeProgram(version: string, output: Output, done: (exitCode: number) => void): Command {
  const program = new Command('cravel')
    .description(
      'Lays out hand-built web sites, checks every relative reference, and shows where each path goes wrong.',
    )
    .version(version, '--version', 'print the version')
    .helpOption('--help', 'show this help')
    .helpCommand(false)
    .configureOutput({
      writeOut: output.out,
      writeErr: (text) => output.note(text.replace(/\n$/, '')),
      getOutHelpWidth: () => output.stdout.columns ?? 80,
      getErrHelpWidth: () => output.stderr.columns ?? 80,
    })
    .showHelpAfterError('See the options with: --help')
    .addHelpText('after', EXIT_CODES);

  const add = (to: Command, declaration: Declaration, run: Run): Command => {
    const { usage, about, examples, options } = declaration;
    const command = to
      .command(usage)
      .description(about)
      .helpOption('--help', 'show this help')
      .addHelpText('after', `\nExamples:\n${examples.map((line) => `  ${line}`).join('\n')}\n${EXIT_CODES}`);
    for (const [name, option] of Object.entries(options)) {
      const [shown, said] = [shownOption(name, option), saidOfOption(option)];
      if (option.is === 'list') command.option(shown, said, collect);
      else command.option(shown, said);
    }
    return command.action(async (...all: unknown[]) => {
      // Commander gives the arguments, then the options, then the command.
      const given = all.slice(0, -2);
      done(await run(given, all.at(-2) as object, output));
    });
  };
  for (const [name, declaration] of Object.entries(declarations)) {
    const command = add(program, declaration, runs[name as keyof typeof declarations]);
    if (name === 'starters')
      add(command, showStarter, async ([starter]) =>
        (await import('./starters.ts')).showStarter(starter as string, output),
      );
  }
  return program;
}

function collect(value: string, all: string[] = []): string[] {
  all.push(value);
  return all;
}
