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
    'cravel scaffold gullhaven-ferry --starter pages --pages timetable,piers/north --dry-run',
  ])
    .option('--starter <name>', 'the starter to use: see them with cravel starters (default: folders)')
    .option('--title <text>', 'the title of the site')
    .option('--set <blank=value>', "fill one of the starter's blanks; may be repeated", collect, [])
    .option('--pages <paths>', 'more pages to make, parted by commas', collect, [])
    .option('--fill-in', 'add what an existing folder lacks, and leave the rest alone')
    .option('--yes', 'ask nothing, not even at a terminal')
    .option('--dry-run', 'show the tree, write nothing')
    .action(async (folder: string, options: object) => {
      const { scaffold } = await import('./scaffold.ts');
      done(await scaffold(folder, options, output));
    });

  command('page <path...>', 'add pages made from the starter\'s pattern, or like another page', [
    'cravel page timetable',
    'cravel page timetable --title "Timetable of the ferry" --description "Every crossing." --in-nav',
    'cravel page piers/north piers/south --like fares.html',
  ])
    .option('--like <page>', 'make them like this page, its main content emptied')
    .option('--title <text>', 'the title; one for each page, in their order', collect, [])
    .option('--description <text>', 'the description; one for each page, in their order', collect, [])
    .option('--in-nav', 'add a link to the navigation part on every page')
    .option('--yes', 'ask nothing, not even at a terminal')
    .option('--dry-run', 'show what would change as a diff, write nothing')
    .action(async (paths: string[], options: object) => {
      const { page } = await import('./page.ts');
      done(await page(paths, options, output));
    });

  command('parts', 'copy each part from the entry page to every page that marks or lacks it', [
    'cravel parts',
    'cravel parts --add navigation --from "header nav"',
    'cravel parts --into "piers/**" --dry-run',
  ])
    .option('--add <name>', 'mark an element of the entry page as a part of this name')
    .option('--from <selector>', 'the element to mark, as a CSS selector')
    .option('--into <globs>', 'only pages that match; parted by commas, may be repeated', collect, [])
    .option('--marked', 'only pages that mark the part already')
    .option('--replace', 'put the part in place of an element that plays its role and differs')
    .option('--dry-run', 'show what would change as a diff, write nothing')
    .action(async (options: object) => {
      const { parts } = await import('./parts.ts');
      done(await parts(options, output));
    });

  command('wire <file...>', 'reference files from pages, at the right spot and in the right order', [
    'cravel wire css/print.css',
    'cravel wire js/tides.js --into "timetable.html,piers/**"',
    'cravel wire --remove css/old.css',
  ])
    .option('--into <globs>', 'only pages that match; parted by commas, may be repeated', collect, [])
    .option('--kind <kind>', 'stylesheet, script, module, icon, manifest or font, where the name does not tell')
    .option('--remove', 'take the references out again')
    .option('--dry-run', 'show what would change as a diff, write nothing')
    .action(async (files: string[], options: object) => {
      const { wire } = await import('./wire.ts');
      done(await wire(files, options, output));
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
