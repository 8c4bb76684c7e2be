/** `cravel scaffold`: lays out a new project from a starter. */

import { basename } from 'node:path';
import { CravelError, fail } from '../core/errors.ts';
import { pageFile } from '../core/page/naming.ts';
import { isSafeName, safeName } from '../core/site/names.ts';
import { ListedPage, readPageList } from '../core/starter/page-list.ts';
import { checkBlank, defaultOf, fillBlanks, type Starter } from '../core/starter/render.ts';
import { scaffoldLayout } from '../core/starter/scaffold.ts';
import { around, pointedTo, withSlashes } from '../disk/disk-path.ts';
import { whileLocked } from '../disk/journal.ts';
import { inTheWay, layOut } from '../disk/lay-out.ts';
import { loadFile } from '../disk/load.ts';
import { bytesForUndo } from '../disk/project.ts';
import { loadStarter, starterNames } from '../disk/starters.ts';
import { statOrNull } from '../disk/stat.ts';
import { visible } from '../show/escape.ts';
import { count, paintFor } from '../show/paint.ts';
import { treeAsText } from '../show/tree.ts';
import type { Checked } from './declaration.ts';
import { scaffold as declaration } from './declarations.ts';
import { splitList } from './lists.ts';
import { checkOptions } from './options.ts';
import type { Output } from './output.ts';
import { type Asker, asker } from './questions.ts';
import { runOptions, tellUnfinished } from './unfinished.ts';

type Options = Checked<typeof declaration.options>;

const DEFAULT_STARTER = 'folders';

export async function scaffold(folder: string, raw: object, output: Output): Promise<number> {
  const options = checkOptions(declaration, raw);
  const { out, note, env, stdout } = output;
  if (statOrNull(pointedTo(options.dir ?? '.')) === null)
    throw fail('no-folder', visible(options.dir ?? '.'));
  const root = pointedTo(folder, options.dir);
  const shown = visible(folder).replace(/\/+$/, '');
  const name = basename(root);
  const stats = statOrNull(root);
  if (stats && !stats.isDirectory()) throw fail('not-a-folder', shown);
  if (!stats && !isSafeName(name)) throw fail('unsafe-name', visible(name), safeName(name));

  const ask = options.yes ? null : await asker(output);
  const starter = await chooseStarter(options, ask);
  const values = await chooseBlanks(starter, name, blanksFrom(options), ask);
  const pages = await choosePages(starter, options, ask);
  const layout = scaffoldLayout(starter, values, pages);
  const run = async (): Promise<number> => {
    const present = inTheWay(root, layout);
    if (present.length > 0 && !options.fillIn) {
      const more = present.length > 3 ? ` and ${present.length - 3} more` : '';
      throw fail('in-the-way', shown, present.slice(0, 3).join(', ') + more);
    }
    const tree = treeAsText(shown, layout, present, paintFor(stdout, env));
    const made = count(layout.files.size - present.length, 'file');
    if (options.dryRun || ask !== null) out(tree);
    if (options.dryRun) {
      note(`Dry run: ${made} would be written, and nothing was.`);
      return 0;
    }
    if (ask !== null && !(await ask.confirm(`Make ${shown} like this?`))) throw fail('not-answered');
    await layOut(root, layout, options.fillIn ? await bytesForUndo(root) : 0);
    if (ask === null) out(tree);
    note(`Laid out ${made} from the starter ${starter.name}. Next: cravel check ${shown}`);
    return 0;
  };
  // What an earlier run left unfinished is taken back before anything is looked at.
  if (stats && !options.dryRun) return whileLocked(root, run, runOptions(output, options));
  const code = await run();
  return options.dryRun && (await tellUnfinished(root, output)) ? 2 : code;
}

async function chooseStarter({ starter }: Options, ask: Asker | null): Promise<Starter> {
  if (starter !== undefined || ask === null) return loadStarter(starter ?? DEFAULT_STARTER);
  const choices = starterNames().map((name) => ({ name, about: loadStarter(name).manifest.summary }));
  return loadStarter(await ask.choice('Which starter?', choices, DEFAULT_STARTER));
}

async function chooseBlanks(
  starter: Starter,
  folder: string,
  given: ReadonlyMap<string, string>,
  ask: Asker | null,
): Promise<Record<string, string>> {
  // What is wrong in what was given is told before anything is asked.
  const filled = fillBlanks(starter, folder, given);
  if (ask === null) return filled;
  const answers = new Map<string, string>();
  for (const [name, { question, asked }] of Object.entries(starter.manifest.blanks)) {
    const suggestion = given.get(name) ?? defaultOf(starter, name, folder, Object.fromEntries(answers));
    const check = (answer: string) => problemOf(() => checkBlank(starter, name, answer));
    answers.set(name, given.has(name) || !asked ? suggestion : await ask.text(question, suggestion, check));
  }
  return fillBlanks(starter, folder, answers);
}

async function choosePages(
  { manifest }: Starter,
  options: Options,
  ask: Asker | null,
): Promise<ListedPage[]> {
  const listed = options.pagesFrom === undefined ? [] : pagesFrom(options.pagesFrom, options.dir);
  const given = options.pages.map(withSlashes).flatMap(splitList);
  if (given.length > 0 || listed.length > 0 || ask === null) return [...listed, ...given.map(page)];
  const check = (answer: string) =>
    problemOf(() =>
      splitList(withSlashes(answer)).forEach((path) => void pageFile(path, manifest.places.pages)),
    );
  const answer = await ask.text('Which more pages, parted by commas? (none: Enter)', '', check);
  return splitList(withSlashes(answer)).map(page);
}

function page(path: string): ListedPage {
  return Object.assign(new ListedPage(), { path });
}

function pagesFrom(file: string, dir: string | undefined): ListedPage[] {
  const path = pointedTo(file, dir);
  const text = new TextDecoder().decode(loadFile(around(path), basename(path)));
  return readPageList(text, visible(file));
}

function problemOf(run: () => unknown): string | true {
  try {
    run();
    return true;
  } catch (error) {
    if (error instanceof CravelError) return [...error.sentences, error.mend].join(' ');
    throw error;
  }
}

function blanksFrom({ title, set }: Options): Map<string, string> {
  const blanks = new Map<string, string>();
  for (const pair of set) {
    const equals = pair.indexOf('=');
    if (equals < 1) throw fail('bad-set', visible(pair));
    blanks.set(pair.slice(0, equals), pair.slice(equals + 1));
  }
  if (title !== undefined) blanks.set('title', title);
  return blanks;
}
