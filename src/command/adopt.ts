/** `cravel adopt`: takes in a library from a folder, an archive, a file or an http(s) address. */

import { createHash } from 'node:crypto';
import { fail } from '../core/errors.ts';
import { type Digest, type HostedReplaced, replaceHosted } from '../core/library/replace.ts';
import { type ShapedLibrary, shapeLibrary } from '../core/library/shape.ts';
import { kindOfFile } from '../core/page/loaders.ts';
import { withoutCredentials } from '../core/resolve/credentials.ts';
import { placeLibrary } from '../core/settings/place-library.ts';
import type { Library } from '../core/settings/settings.ts';
import { globMatcher } from '../core/site/globs.ts';
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
import { Tally, wirePages } from './wire.ts';

type Options = Checked<typeof declaration.options>;

export async function adopt(source: string, raw: object, output: Output): Promise<number> {
  const options = checkOptions(declaration, raw);
  const limits = { files: Number(options.mostFiles), bytes: Number(options.mostMegabytes) * 1e6 };
  const intake = await whileShown(output, `taking in ${visible(source)}`, () =>
    takeIn(source, workFolder(options.dir), limits, reachOf(options, source)),
  );
  const name = options.as ?? intake.name;
  if (!isSafeName(name))
    throw fail('bad-name', name === '' ? visible(source) : visible(name), 'library; say one with --as');
  const shaped = shapeLibrary(intake.files, { name, isChosen: choice(intake, options.take) });
  if (shaped === null) throw fail('no-library', visible(source));
  return changeProject(options, `adopt ${withoutCredentials(source)}`, output, async (project) => {
    const { folder, stays, needs, lacking } = placeLibrary(project, name, shaped, {
      replace: options.replace,
      needs: options.needs.flatMap(splitList),
      digest: digestOf,
      lineEnd: lineEndOf(project.root, project.files.paths()),
    });
    const notes = [...intake.notes.map(visible), ...leftNotes(shaped), tookNote(name, folder, shaped)];
    if (stays.length > 0) notes.push(stayNote(folder, stays));
    if (needs.length > 0) notes.push(`It needs ${needs.map(visible).join(', ')}, and is loaded after.`);
    if (lacking.length > 0) notes.push(lackingNote(name, lacking));
    for (const address of options.insteadOf) {
      notes.push(replacedNote(address, replaceHosted(project.site, folder, shaped, address, integrityOf)));
    }
    if (options.wire) notes.push(...(await wireLibrary(project, name, options, output)));
    return { notes, idle: `Nothing to do: ${name} is in ${folder} just like that.` };
  });
}

/** How high what comes along with a file may lie: a folder, or one on the host that the file comes from. */
function reachOf({ reach, dir }: Options, source: string): string | null {
  if (reach === undefined) return null;
  return isWebAddress(source) ? reach : pointedTo(reach, workFolder(dir));
}

function choice({ chosen }: Intake, take: readonly string[]): ((path: string) => boolean) | null {
  if (take.length > 0) return globMatcher(take.flatMap(splitList));
  return chosen === null ? null : (path) => chosen.has(path);
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
  const { folder, styles, scripts } = project.settings.libraries[name] as Library;
  const pages = pickPages(project, options.into);
  const tally = new Tally(pages);
  const wirings = [...styles, ...scripts].flatMap((file) => {
    const path = `${folder}/${file}`;
    const kind = kindOfFile(path);
    return kind === null ? [] : [{ path, kind }];
  });
  await wirePages(project, pages, wirings, tally, output);
  const { notes, idle } = tally.account([name], false);
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

/** What was left, by reason; what lies in one folder is named by it. */
function leftNotes({ left }: ShapedLibrary): string[] {
  const reasons = new Map<string, Map<string, number>>();
  for (const { path, why } of left) {
    const group = reasons.get(why) ?? new Map<string, number>();
    const slash = path.indexOf('/');
    const top = slash < 0 ? path : path.slice(0, slash + 1);
    group.set(top, (group.get(top) ?? 0) + 1);
    reasons.set(why, group);
  }
  return [...reasons].map(([why, group]) => {
    const names = [...group].map(([top, amount]) => (top.endsWith('/') ? `${top} (${amount})` : top));
    return `Left, ${why}: ${shortList(names, 8)}.`;
  });
}
