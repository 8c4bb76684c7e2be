/** `cravel move`: renames or moves files and folders, and makes every reference follow. */

import { fail } from '../core/errors.ts';
import { type Moved, moveFiles, type Unsure } from '../core/moving/move.ts';
import { type Renaming, renamingOf } from '../core/moving/renaming.ts';
import { publishedAt } from '../core/resolve/published.ts';
import { followedSettings } from '../core/settings/follow.ts';
import { SETTINGS_FILE } from '../core/settings/settings.ts';
import { globMatcher, isGlob } from '../core/site/globs.ts';
import { makeInventory } from '../core/site/inventory.ts';
import { nearestNames } from '../core/site/near-names.ts';
import { safePaths } from '../core/site/odd-names.ts';
import { withSlashes } from '../disk/disk-path.ts';
import { loadFile } from '../disk/load.ts';
import { besideIn, bytesBelow, checkPair, marksOf, type Pair, pairsFor } from '../disk/moving.ts';
import type { Project } from '../disk/project.ts';
import { visible } from '../show/escape.ts';
import { count } from '../show/paint.ts';
import { move as declaration } from './declarations.ts';
import { checkOptions } from './options.ts';
import type { Output } from './output.ts';
import { showProgress } from './progress.ts';
import { type Account, changeProject, titleOf } from './project-change.ts';

export async function move(named: readonly string[], raw: object, output: Output): Promise<number> {
  const paths = named.map(withSlashes);
  const options = checkOptions(declaration, raw);
  if (options.safeNames && options.already) throw fail('two-ways', '--safe-names', '--already');
  if (options.safeNames ? paths.length > 0 : paths.length < 2)
    throw fail(options.safeNames ? 'move-names-itself' : 'move-where');
  const title = titleOf(
    'move',
    options.safeNames && '--safe-names',
    options.already && '--already',
    ...paths,
  );
  return changeProject(options, title, output, async (project) => {
    const pairs = options.safeNames
      ? safePaths(project.inventory, project.places)
      : options.already
        ? alreadyPairs(project, paths)
        : pairsFor(project, sourcesOf(project, paths.slice(0, -1)), paths.at(-1) as string);
    if (options.safeNames) for (const pair of pairs) checkPair(project, pair);
    const idle = options.safeNames
      ? 'Nothing to do: every name is safe.'
      : 'Nothing to do: it is there already.';
    if (pairs.length === 0) return { notes: [], idle };
    const moved = await carryOut(project, pairs, options.already, output);
    return accountOf(moved, idle);
  });
}

/** What somebody named, patterns with all that they match. */
function sourcesOf({ inventory, sitePath }: Project, named: readonly string[]): string[] {
  return named.flatMap((one) => {
    if (!isGlob(one) || inventory.files.has(sitePath(one))) return one;
    const isMatch = globMatcher([one.replace(/^\.\//, '')]);
    const found = [...inventory.files].filter(isMatch);
    if (found.length === 0) throw fail('no-files-match', one);
    return found;
  });
}

/** Files that were moved by other means: the one is gone, the other is there. */
function alreadyPairs(project: Project, paths: readonly string[]): Pair[] {
  const [from = '', to = '', more] = paths.map((path) => project.sitePath(path).replace(/\/$/, ''));
  if (more !== undefined) throw fail('move-where');
  const { files, folders } = project.inventory;
  if (folders.has(`${to}/`)) {
    if (folders.has(`${from}/`) || files.has(from)) throw fail('still-there', from);
    return [[`${from}/`, `${to}/`]];
  }
  if (!files.has(to)) throw fail('no-file', to, nearestNames(to, [...files]));
  if (files.has(from)) throw fail('still-there', from);
  return [[from, to]];
}

interface Done extends Moved {
  /** Folders that hold nothing, by paths from the project's folder. */
  readonly empty: readonly Pair[];
  /** What the settings say and nobody can tell how to change: key and value. */
  readonly settings: readonly (readonly [string, string])[];
}

async function carryOut(
  project: Project,
  pairs: readonly Pair[],
  isDone: boolean,
  output: Output,
): Promise<Done> {
  const { root, prefix, site, files, settings } = project;
  const renaming = renamingOf(pairs);
  const reverse = renamingOf(pairs.map(([from, to]) => [to, from] as const));
  const inventory = isDone
    ? makeInventory(
        Array.from(project.inventory.files, (path) => reverse.of(path)),
        project.inventory,
      )
    : project.inventory;
  const bytesOf = bytesBelow(root);
  const placeOf = (path: string) => prefix + (isDone ? renaming.of(path) : path);
  const progress = showProgress(output, { verb: 'reading', noun: 'file' });
  try {
    const moved = await moveFiles(
      {
        files: site,
        inventory,
        published: publishedAt(settings['published-at']),
        entry: settings.entry,
        renaming,
        bytesOf: (path) => bytesOf(placeOf(path)),
        marksOf: (path) => marksOf(root, placeOf(path)),
        isDone,
      },
      progress.tell,
    );
    const empty = isDone ? [] : moveBeside(project, pairs, renaming);
    const following = {
      of: (path: string) => renaming.of(path),
      rewritten: (file: string, written: string) => moved.rewritten.get(file)?.get(written),
    };
    if (!files.has(SETTINGS_FILE)) return { ...moved, empty, settings: [] };
    const { text, unsure } = followedSettings(new TextDecoder().decode(files.read(SETTINGS_FILE)), following);
    files.write(SETTINGS_FILE, new TextEncoder().encode(text));
    return { ...moved, empty, settings: unsure };
  } finally {
    progress.end();
  }
}

/** What folders hold that is no part of the site comes along; gives the folders that hold nothing, as they are and will be. */
function moveBeside(project: Project, pairs: readonly Pair[], renaming: Renaming): Pair[] {
  const { root, prefix, files } = project;
  const placeOf = (path: string) => prefix + renaming.of(path.slice(prefix.length));
  const folders = pairs.flatMap(([from]) => (from.endsWith('/') ? from : []));
  const outer = folders.filter((one) => !folders.some((other) => one !== other && one.startsWith(other)));
  return outer.flatMap((folder) => {
    const { files: beside, folders: empty } = besideIn(project, folder);
    for (const path of beside) {
      files.include(path);
      files.move(path, placeOf(path), loadFile(root, path), marksOf(root, path));
    }
    return empty.map((path): Pair => [path, placeOf(path)]);
  });
}

/** Spots that are named at most. */
const MOST_NAMED = 20;

function accountOf({ paths, references, files, unsure, settings, empty }: Done, idle: string): Account {
  const notes: string[] = [];
  const follow =
    references === 0
      ? ''
      : `; ${count(references, 'reference')} in ${count(files, 'file')} ${references === 1 ? 'follows' : 'follow'}`;
  notes.push(`Moved ${count(paths.size, 'file')}${follow}.`);
  if (unsure.length > 0) {
    notes.push(`Nobody can tell for sure whether these are addresses of it; look at them:`);
    for (const one of unsure.slice(0, MOST_NAMED)) notes.push(`  ${spotOf(one)}`);
    if (unsure.length > MOST_NAMED) notes.push(`  and ${count(unsure.length - MOST_NAMED, 'more string')}`);
  }
  for (const [key, value] of settings)
    notes.push(
      `${SETTINGS_FILE} names ${visible(value)} (${key}), which is no longer there: change it by hand.`,
    );
  return { notes, idle, folders: empty.map(([, to]) => to), gone: empty.map(([from]) => from) };
}

/** `js/map.js 12  "images/pier.svg" (images/pier.svg)` */
function spotOf({ file, line, written, target }: Unsure): string {
  const is = written === target ? '' : ` (${visible(target)})`;
  return `${visible(file)} ${line}  "${visible(written)}"${is}`;
}
