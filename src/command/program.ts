/** Declares the commands: their arguments, options, help and examples. Each one's work is loaded when called. */
import { Command, Option } from 'commander';
import type { Output } from './output.ts';

const EXIT_CODES = `
Exit codes: 0 done and clean, 1 findings, 2 the call or the input was wrong, 3 an internal fault.`;

/** The whole program; `done` gets the exit code of the command that ran. */
export function makeProgram(version: string, output: Output, done: (exitCode: number) => void): Command {
  const program = new Command('cravel')
    .description(
      'Lays out hand-built web sites, checks every relative reference, and shows where each path goes wrong.',
    )
    .version(version, '--version', 'print the version')
    .helpOption('--help', 'show this help')
    .helpCommand(false)
    .showHelpAfterError('See the options with: --help')
    .addHelpText('after', EXIT_CODES);

  const command = (usage: string, description: string, examples: readonly string[]) =>
    program
      .command(usage)
      .description(description)
      .helpOption('--help', 'show this help')
      .option('--dir <folder>', 'work from this folder instead of the current one')
      .addHelpText('after', `\nExamples:\n${examples.map((line) => `  ${line}`).join('\n')}\n${EXIT_CODES}`);

  command('scaffold <folder>', 'lay out a new project from a starter', [
    'cravel scaffold gullhaven-ferry',
    'cravel scaffold gullhaven-ferry --title "Gullhaven Ferry" --set author="Ida Holm"',
    'cravel scaffold gullhaven-ferry --starter flat --dry-run',
  ])
    .option('--starter <name>', 'the starter to use: folders or flat', 'folders')
    .option('--title <text>', 'the title of the site')
    .option('--set <blank=value>', "fill one of the starter's blanks; may be repeated", collect, [])
    .option('--fill-in', 'add what an existing folder lacks, and leave the rest alone')
    .option('--dry-run', 'show the tree, write nothing')
    .action(async (folder: string, options: object) => {
      const { scaffold } = await import('./scaffold.ts');
      done(scaffold(folder, options, output));
    });

  command('check [folder]', 'read every file of a site and report the references that do not hold', [
    'cravel check',
    'cravel check gullhaven-ferry --most all',
    'cravel check gullhaven-ferry --as json > report.json',
  ])
    .addOption(new Option('--as <format>', 'how to report: text or json').default('text'))
    .option('--most <causes>', 'how many causes the text shows: a number, or all', '25')
    .action(async (folder: string | undefined, options: object) => {
      const { check } = await import('./check.ts');
      done(await check(folder, options, output));
    });

  command('demo [folder]', 'lay out the Gullhaven Ferry site, plant mistakes in a copy, and check both', [
    'cravel demo',
    'cravel demo try-cravel',
  ]).action(async (folder: string | undefined, options: object) => {
    const { demo } = await import('./demo.ts');
    done(await demo(folder, options, output));
  });

  return program;
}

function collect(value: string, all: readonly string[]): string[] {
  return [...all, value];
}
