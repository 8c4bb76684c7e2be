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
    .configureOutput({
      writeOut: output.out,
      writeErr: (text) => output.note(text.replace(/\n$/, '')),
      getOutHelpWidth: () => output.stdout.columns ?? 80,
      getErrHelpWidth: () => output.stderr.columns ?? 80,
    })
    .showHelpAfterError('See the options with: --help')
    .addHelpText('after', EXIT_CODES);

  const command = (usage: string, description: string, examples: readonly string[]) =>
    program
      .command(usage)
      .description(description)
      .helpOption('--help', 'show this help')
      .option('--dir <folder>', 'work from this folder instead of the current one')
      .addHelpText('after', `\nExamples:\n${examples.map((line) => `  ${line}`).join('\n')}\n${EXIT_CODES}`);

  /** One that changes files. */
  const changing = (usage: string, description: string, examples: readonly string[]) =>
    command(usage, description, examples).option(
      '--take-over',
      'go on although a run on another machine claims the folder',
    );

  changing('scaffold <folder>', 'lay out a new project from a starter', [
    'cravel scaffold gullhaven-ferry',
    'cravel scaffold gullhaven-ferry --title "Gullhaven Ferry" --set author="Ida Holm"',
    'cravel scaffold gullhaven-ferry --starter pages --pages timetable,piers/north --dry-run',
  ])
    .option('--starter <name>', 'the starter to use: see them with cravel starters (default: folders)')
    .option('--title <text>', 'the title of the site')
    .option('--set <blank=value>', "fill one of the starter's blanks; may be repeated", collect)
    .option('--pages <paths>', 'more pages to make, parted by commas', collect)
    .option('--fill-in', 'add what an existing folder lacks, and leave the rest alone')
    .option('--yes', 'ask nothing, not even at a terminal')
    .option('--dry-run', 'show the tree, write nothing')
    .action(async (folder: string, options: object) => {
      const { scaffold } = await import('./scaffold.ts');
      done(await scaffold(folder, options, output));
    });

  const starters = command('starters', 'list the starters, built in and your own, each with its tree', [
    'cravel starters',
    'cravel starters show pages',
  ]).action(async () => {
    const { listStarters } = await import('./starters.ts');
    done(listStarters(output));
  });
  starters
    .command('show <name>')
    .description('show one starter: its tree, blanks and places')
    .helpOption('--help', 'show this help')
    .action(async (name: string) => {
      const { showStarter } = await import('./starters.ts');
      done(showStarter(name, output));
    });

  changing('keep <folder> <name>', 'keep a project as a starter of your own', [
    'cravel keep gullhaven-ferry small-line',
    'cravel keep gullhaven-ferry small-line --blank "Gullhaven Ferry=title"',
    'cravel keep gullhaven-ferry small-line --replace --dry-run',
  ])
    .option('--blank <text=blank>', 'turn a text into a blank; may be repeated', collect)
    .option('--summary <text>', 'what the starter is, in a sentence')
    .option('--replace', 'put it in place of a starter of that name')
    .option('--dry-run', 'show the tree, write nothing')
    .action(async (folder: string, name: string, options: object) => {
      const { keep } = await import('./keep.ts');
      done(await keep(folder, name, options, output));
    });

  changing('page <path...>', "add pages made from the starter's pattern, or like another page", [
    'cravel page timetable',
    'cravel page timetable --title "Timetable of the ferry" --description "Every crossing." --in-nav',
    'cravel page piers/north piers/south --like fares.html',
  ])
    .option('--like <page>', 'make them like this page, its main content emptied')
    .option('--title <text>', 'the title; one for each page, in their order', collect)
    .option('--description <text>', 'the description; one for each page, in their order', collect)
    .option('--in-nav', 'add a link to the navigation part on every page')
    .option('--yes', 'ask nothing, not even at a terminal')
    .option('--dry-run', 'show what would change as a diff, write nothing')
    .action(async (paths: string[], options: object) => {
      const { page } = await import('./page.ts');
      done(await page(paths, options, output));
    });

  changing('parts', 'copy each part from the entry page to every page that marks or lacks it', [
    'cravel parts',
    'cravel parts --add navigation --from "header nav"',
    'cravel parts --into "piers/**" --dry-run',
  ])
    .option('--add <name>', 'mark an element of the entry page as a part of this name')
    .option('--from <selector>', 'the element to mark, as a CSS selector')
    .option('--into <globs>', 'only pages that match; parted by commas, may be repeated', collect)
    .option('--marked', 'only pages that mark the part already')
    .option('--replace', 'put the part in place of an element that plays its role and differs')
    .option('--dry-run', 'show what would change as a diff, write nothing')
    .action(async (options: object) => {
      const { parts } = await import('./parts.ts');
      done(await parts(options, output));
    });

  changing('wire <file...>', 'reference files from pages, at the right spot and in the right order', [
    'cravel wire css/print.css',
    'cravel wire js/tides.js --into "timetable.html,piers/**"',
    'cravel wire --remove css/old.css',
  ])
    .option('--into <globs>', 'only pages that match; parted by commas, may be repeated', collect)
    .option(
      '--kind <kind>',
      'stylesheet, script, module, icon, manifest or font, where the name does not tell',
    )
    .option('--remove', 'take the references out again')
    .option('--dry-run', 'show what would change as a diff, write nothing')
    .action(async (files: string[], options: object) => {
      const { wire } = await import('./wire.ts');
      done(await wire(files, options, output));
    });

  changing('adopt <source>', 'take in a library from a folder, .zip, .tgz, file or http(s) address', [
    'cravel adopt ~/downloads/tideclock-2.3.1.zip --wire',
    'cravel adopt ../shared/buoys --as buoys --needs tideclock',
    'cravel adopt tideclock.min.js --instead-of https://cdn.gullhaven.example/tideclock.min.js',
  ])
    .option('--as <name>', 'the short name of its folder (default: its own name without the version)')
    .option('--wire', 'reference it from pages, in order')
    .option('--into <globs>', 'with --wire: only pages that match; parted by commas', collect)
    .option(
      '--instead-of <address>',
      'put it in place of what this address holds; may be repeated',
      collect,
      [],
    )
    .option(
      '--take <globs>',
      'which of its stylesheets and scripts to take, where it takes others',
      collect,
      [],
    )
    .option('--needs <names>', 'libraries that must be loaded before it, parted by commas', collect)
    .option(
      '--reach <folder>',
      'how high what comes along with a file may lie (default: in its own folder and below)',
    )
    .option('--replace', 'put it in place of the one that is there')
    .option('--most-files <number>', 'refuse sources with more files', '5000')
    .option('--most-megabytes <number>', 'refuse sources that hold more, unpacked', '200')
    .option('--dry-run', 'show what would change as a diff, write nothing')
    .action(async (source: string, options: object) => {
      const { adopt } = await import('./adopt.ts');
      done(await adopt(source, options, output));
    });

  command('check [folder]', 'read every file of a site and report the references that do not hold', [
    'cravel check',
    'cravel check gullhaven-ferry --only broken,fragile --most all',
    'cravel check gullhaven-ferry --as sarif --out report.sarif',
    'cravel check gullhaven-ferry --watch',
    'cravel check gullhaven-ferry --online',
  ])
    .addOption(
      new Option('--as <format>', 'how to report: text, json, ndjson, sarif, junit or html').default('text'),
    )
    .option('--by <cut>', 'how the text groups findings: cause (default), file or spot')
    .option('--out <file>', 'write the report to this file')
    .option('--most <causes>', 'how many causes the text shows: a number (25 unless said), or all')
    .option('--only <names>', 'only findings of these grades or rules, parted by commas', collect)
    .option(
      '--fail-on <names>',
      'exit with 1 for these grades or rules (default: broken,fragile,misplaced)',
      collect,
    )
    .option('--online', 'ask other hosts, too, for what the site refers to')
    .option('--watch', 'stay, and report again whenever a file changes')
    .action(async (folder: string | undefined, options: object) => {
      const { check } = await import('./check.ts');
      done(await check(folder, options, output));
    });

  command('rules [name]', 'list what the check finds, or explain one rule', [
    'cravel rules',
    'cravel rules from-root',
  ]).action(async (name: string | undefined) => {
    const { rules } = await import('./rules.ts');
    done(rules(name, output));
  });

  command('settings', 'print the settings in force, and where each comes from', [
    'cravel settings',
    'cravel settings --dir gullhaven-ferry --as json',
  ])
    .addOption(new Option('--as <format>', 'text or json').default('text'))
    .action(async (options: object) => {
      const { settings } = await import('./settings.ts');
      done(await settings(options, output));
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

function collect(value: string, all: string[] = []): string[] {
  all.push(value);
  return all;
}
