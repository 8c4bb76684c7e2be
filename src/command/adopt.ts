/** `cravel adopt`: takes in a library from a folder, an archive, a file or an http(s) address. */

import { createHash } from 'node:crypto';
import { fail } from '../core/errors.ts';
import { groupBy } from '../core/group-by.ts';
import { type Digest, filesAt } from '../core/library/hosted.ts';
import { type HostedReplaced, replaceHosted } from '../core/library/replace.ts';
import { NOT_FOR_PAGES, NOT_REFERRED, type ShapedLibrary, shapeLibrary } from '../core/library/shape.ts';
import { withNeeds } from '../core/order/order.ts';
import { withoutCredentials } from '../core/resolve/credentials.ts';
import { placeLibrary } from '../core/settings/place-library.ts';
import { removeLibrary } from '../core/settings/remove-library.ts';
import type { Library } from '../core/settings/settings.ts';
import { globMatcher } from '../core/site/globs.ts';
import { nameOf } from '../core/site/inventory.ts';
import { isSafeName } from '../core/site/names.ts';
import { pointedTo } from '../disk/disk-path.ts';
import { lineEndOf } from '../disk/line-end.ts';
import type { Project } from '../disk/project.ts';
import { type Intake, takeIn } from '../disk/take-in.ts';
import { visible } from '../show/escape.ts';
import { count, shortList } from '../show/paint.ts';
import { isWebAddress } from '../web/download.ts';
import type { Checked } from './declaration.ts';
import { adopt as declaration } from './declarations.ts';
import { splitList } from './lists.ts';
import { checkOptions } from './options.ts';
import type { Output } from './output.ts';
import { pickPages } from './page-globs.ts';
import { whileShown } from './progress.ts';
import { changeProject, workFolder } from './project-change.ts';
import { Tally, wirePages, wiringOf } from './wire.ts';

type Options = Checked<typeof declaration.options>;

export async function adopt(source: string, raw: object, output: Output): Promise<number> {
  const options = checkOptions(declaration, raw);
  if (options.remove) return takeOut(source, options, output);
  const limits = { files: Number(options.mostFiles), bytes: Number(options.mostMegabytes) * 1e6 };
  const intake = await whileShown(output, `taking in ${visible(source)}`, () =>
    takeIn(source, workFolder(options.dir), limits, reachOf(options, source)),
  );
  const name = options.as ?? intake.name;
  if (!isSafeName(name))
    throw fail('bad-name', name === '' ? visible(source) : visible(name), 'library; say one with --as');
  return changeProject(options, `adopt ${withoutCredentials(source)}`, output, async (project) => {
    const hosted = filesAt(project.site, options.insteadOf, intake.files, integrityOf);
    const others = Object.entries(project.settings.libraries).filter(([other]) => other !== name);
    const wish = wishOf(intake, options.take);
    const shaped = shapeLibrary(intake.files, {
      name,
      wish,
      wanted: [...new Set(hosted.values())],
      provided: others.flatMap(([, { provides }]) => provides),
    });
    if (shaped === null) throw fail(holdsCode(intake) ? 'no-build' : 'no-library', visible(source));
    const { folder, stays, needs, lacking } = placeLibrary(project, name, shaped, {
      replace: options.replace,
      needs: options.needs.flatMap(splitList),
      digest: digestOf,
      lineEnd: lineEndOf(project.root, project.files.paths()),
    });
    const notes = [...intake.notes.map(visible), ...leftNotes(shaped), tookNote(name, folder, shaped)];
    if (wish === null || shaped.because.size > 0) notes.push(loadedNote(shaped));
    if (stays.length > 0) notes.push(stayNote(folder, stays));
    if (needs.length > 0) notes.push(`It needs ${needs.map(visible).join(', ')}, and is loaded after.`);
    if (lacking.length > 0) notes.push(lackingNote(name, lacking));
    for (const address of options.insteadOf) {
      const replaced = replaceHosted(project.site, folder, shaped, address, hosted, integrityOf);
      notes.push(replacedNote(address, replaced));
    }
    if (options.wire) notes.push(...(await wireLibrary(project, name, options, output)));
    return { notes, idle: `Nothing to do: ${name} is in ${folder} just like that.` };
  });
}

/** Takes a library out again. */
function takeOut(name: string, options: Options, output: Output): Promise<number> {
  for (const [option, isSaid] of Object.entries({
    '--as': options.as !== undefined,
    '--wire': options.wire,
    '--replace': options.replace,
    '--instead-of': options.insteadOf.length > 0,
    '--take': options.take.length > 0,
    '--needs': options.needs.length > 0,
    '--reach': options.reach !== undefined,
    '--into': options.into.length > 0,
  }))
    if (isSaid) throw fail('remove-alone', option);
  return changeProject(options, `adopt --remove ${name}`, output, (project) => {
    const { folder, pages, files, stays, shown } = removeLibrary(project, name, digestOf);
    const notes = [
      `Took out ${visible(name)}: ${count(files, 'file')} from ${visible(folder)}, what loaded it on ${count(pages.length, 'page')}, and its entry in cravel.yaml.`,
    ];
    for (const [path, by] of shown) {
      const users = shortList([...by].map(visible), 3);
      notes.push(`Left, since the site still shows it: ${visible(`${folder}/${path}`)}, in ${users}.`);
    }
    if (stays.length > 0)
      notes.push(
        `Left in ${visible(folder)}, since they were edited or are not from this library: ${shortList(stays.map(visible), 8)}.`,
      );
    return { notes, idle: '' };
  });
}

/** True where there are scripts, none of which a browser runs. */
function holdsCode({ files }: Intake): boolean {
  return [...files.keys()].some((path) => /\.[cm]?js$/i.test(path));
}

/** How high what comes along with a file may lie: a folder, or one on the host that the file comes from. */
function reachOf({ reach, dir }: Options, source: string): string | null {
  if (reach === undefined) return null;
  return isWebAddress(source) ? reach : pointedTo(reach, workFolder(dir));
}

/** What somebody chose, in the order in which it was said; null where nobody did. */
function wishOf({ chosen }: Intake, take: readonly string[]): ((path: string) => number | null) | null {
  const globs = take.flatMap(splitList).map((glob) => globMatcher([glob]));
  const orNull = (index: number) => (index < 0 ? null : index);
  if (globs.length > 0) return (path) => orNull(globs.findIndex((matches) => matches(path)));
  return chosen === null ? null : (path) => (chosen.has(path) ? 0 : null);
}

const integrityOf: Digest = (algorithm, bytes) => createHash(algorithm).update(bytes).digest('base64');

/** Enough of a SHA-256 to tell whether a file was edited. */
function digestOf(bytes: Uint8Array): string {
  return createHash('sha256').update(bytes).digest('hex').slice(0, 16);
}

/** What a page that loads it alone ends with. */
function lackingNote(name: string, lacking: readonly string[]): string {
  const names = shortList(lacking.map(visible), 4);
  return `It needs ${names}, which no library of the project makes: take that in first, then ${name} again with --replace.`;
}

function stayNote(folder: string, stays: readonly string[]): string {
  return `Left in ${visible(folder)} as they are, since they were edited or are not from this library: ${stays.map(visible).join(', ')}. To have the library's own instead, take yours away and run this again.`;
}

async function wireLibrary(
  project: Project,
  name: string,
  options: Options,
  output: Output,
): Promise<string[]> {
  const pages = pickPages(project, options.into);
  const tally = new Tally(pages);
  const { libraries } = project.settings;
  const names = withNeeds(libraries, name);
  const wirings = names.flatMap((one) => {
    const { folder, styles, scripts } = libraries[one] as Library;
    return [...styles, ...scripts].flatMap((file) => wiringOf(project, `${folder}/${file}`) ?? []);
  });
  // A page that loads the other build goes on with that.
  await wirePages(project, pages, wirings, tally, output, { swaps: false });
  const { notes, idle } = tally.account(names, false);
  return notes.length > 0 ? [...notes] : [idle];
}

function replacedNote(
  address: string,
  { references, files, kept: keptTimes, dropped: droppedTimes }: HostedReplaced,
): string {
  const kept = keptTimes > 0 ? `; integrity kept ${keptTimes} times, since the file is the same` : '';
  const dropped =
    droppedTimes > 0 ? `; integrity dropped ${droppedTimes} times, since the local file differs` : '';
  return `In place of ${visible(address)}: ${count(references, 'reference')} in ${count(files, 'file')}${kept}${dropped}.`;
}

function tookNote(name: string, folder: string, { taken, styles, scripts, release }: ShapedLibrary): string {
  const what = [
    ...(styles.length > 0 ? [count(styles.length, 'stylesheet')] : []),
    ...(scripts.length > 0 ? [count(scripts.length, 'script')] : []),
  ];
  const pairs = Object.keys(release).length;
  const builds = pairs > 0 ? `, ${count(pairs, 'minified build')} for release` : '';
  const rest = taken.size - styles.length - scripts.length - pairs;
  return `Took in ${name}, in ${folder}: ${what.join(', ')}${builds}${rest > 0 ? `, ${count(rest, 'file')} beside them` : ''}.`;
}

/** What pages are to load, each with the reason for it. */
function loadedNote({ styles, scripts, because }: ShapedLibrary): string {
  const named = [...styles, ...scripts].map((path) => {
    const why = because.get(path);
    return `${visible(path)}${why === undefined ? '' : ` (${visible(why)})`}`;
  });
  return `Pages load ${shortList(named, 8)}.`;
}

/** What was left, by reason: what pages might load by its name, the rest by the folders that it lies in. */
function leftNotes({ left }: ShapedLibrary): string[] {
  return [...groupBy(left, ({ why }) => why)].map(([why, group]) => {
    const isBeside = why === NOT_REFERRED || why === NOT_FOR_PAGES;
    const shown = isBeside ? byTop(group) : group.map(({ path }) => nameOf(path));
    return `Left, ${visible(why)}: ${shortList(shown.map(visible), 8)}.`;
  });
}

/** Folders at the top with how many files they hold, and files that lie there. */
function byTop(files: readonly { readonly path: string }[]): string[] {
  const tops = groupBy(files, ({ path }) => path.slice(0, path.indexOf('/') + 1) || path);
  return [...tops].map(([top, inside]) => (top.endsWith('/') ? `${top} (${inside.length})` : top));
}
