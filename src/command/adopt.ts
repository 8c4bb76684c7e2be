/** `cravel adopt`: takes in a library from a folder, an archive, a file or an http(s) address. */

import { createHash } from 'node:crypto';
import { IsBoolean, IsOptional, IsString, Matches } from 'class-validator';
import { fail } from '../core/errors.ts';
import {
  counterpart,
  type Replaced,
  type ReplaceOptions,
  replaceInFile,
  replaceInPage,
} from '../core/library/replace.ts';
import { type ShapedLibrary, shapeLibrary } from '../core/library/shape.ts';
import { placeFiles } from '../core/library/taken.ts';
import { kindOfFile } from '../core/page/loaders.ts';
import { openPage } from '../core/page/page.ts';
import { isPage, isRead } from '../core/read/read.ts';
import { withoutCredentials } from '../core/resolve/credentials.ts';
import { Library, SETTINGS_FILE } from '../core/settings/settings.ts';
import { withLibrary } from '../core/settings/write.ts';
import { globMatcher } from '../core/site/globs.ts';
import { folderOf } from '../core/site/inventory.ts';
import { withLineEnd } from '../core/site/line-ends.ts';
import { isSafeName } from '../core/site/names.ts';
import { lineEndOf } from '../disk/line-end.ts';
import { pointedTo } from '../disk/place.ts';
import type { Project } from '../disk/project.ts';
import { type Intake, takeIn } from '../disk/take-in.ts';
import { visible } from '../show/escape.ts';
import { count, shortList } from '../show/paint.ts';
import { isWebAddress } from '../web/download.ts';
import { splitList } from './lists.ts';
import { checkOptions } from './options.ts';
import type { Output } from './output.ts';
import { pickPages } from './page-globs.ts';
import { whileShown } from './progress.ts';
import { ChangeOptions, changeProject, projectFolder } from './project-change.ts';
import { Tally, wirePages } from './wire.ts';

class AdoptOptions extends ChangeOptions {
  @IsOptional()
  @IsString()
  as?: string;

  @IsOptional()
  @IsBoolean()
  wire?: boolean;

  @IsString({ each: true })
  into: string[] = [];

  @IsString({ each: true })
  insteadOf: string[] = [];

  @IsString({ each: true })
  take: string[] = [];

  @IsString({ each: true })
  needs: string[] = [];

  @IsOptional()
  @IsString()
  reach?: string;

  @IsOptional()
  @IsBoolean()
  replace?: boolean;

  @Matches(/^[1-9][0-9]{0,6}$/, { message: 'must be a number from 1' })
  mostFiles!: string;

  @Matches(/^[1-9][0-9]{0,5}$/, { message: 'must be a number from 1' })
  mostMegabytes!: string;
}

export async function adopt(source: string, raw: object, output: Output): Promise<number> {
  const options = checkOptions(AdoptOptions, raw);
  const limits = { files: Number(options.mostFiles), bytes: Number(options.mostMegabytes) * 1e6 };
  const intake = await whileShown(output, `taking in ${visible(source)}`, () =>
    takeIn(source, projectFolder(options.dir), limits, reachOf(options, source)),
  );
  const name = options.as ?? intake.name;
  if (!isSafeName(name))
    throw fail('bad-name', name === '' ? visible(source) : visible(name), 'library; say one with --as');
  const shaped = shapeLibrary(intake.files, { name, isChosen: choice(intake, options.take) });
  if (shaped === null) throw fail('no-library', visible(source));
  return changeProject(options, `adopt ${withoutCredentials(source)}`, output, async (project) => {
    const { folder, stays } = placeLibrary(project, name, shaped, options);
    const notes = [...intake.notes.map(visible), ...leftNotes(shaped), tookNote(name, folder, shaped)];
    if (stays.length > 0) notes.push(stayNote(folder, stays));
    for (const address of options.insteadOf) notes.push(replaceHosted(project, address, folder, shaped));
    if (options.wire === true) notes.push(...(await wireLibrary(project, name, options, output)));
    return { notes, idle: `Nothing to do: ${name} is in ${folder} just like that.` };
  });
}

/** How high what comes along with a file may lie: a folder, or one on the host that the file comes from. */
function reachOf({ reach, dir }: AdoptOptions, source: string): string | null {
  if (reach === undefined) return null;
  return isWebAddress(source) ? reach : pointedTo(reach, projectFolder(dir));
}

function choice({ chosen }: Intake, take: readonly string[]): ((path: string) => boolean) | null {
  if (take.length > 0) return globMatcher(take.flatMap(splitList));
  return chosen === null ? null : (path) => chosen.has(path);
}

/** Writes the library's files and its entry in the settings; gives its folder, and what stays in it as it was. */
function placeLibrary(
  project: Project,
  name: string,
  shaped: ShapedLibrary,
  options: AdoptOptions,
): { readonly folder: string; readonly stays: readonly string[] } {
  const { settings, places, site, files, root } = project;
  const known = Object.hasOwn(settings.libraries, name) ? settings.libraries[name] : undefined;
  // Beside the styles where they lie in a folder of their own kind, such as assets.
  const place = places.libraries ?? `${folderOf(places.styles ?? '')}lib`;
  const folder = known?.folder ?? `${place}/${name}`;
  const present = site.paths().filter((path) => path.startsWith(`${folder}/`));
  if ((known !== undefined || present.length > 0) && options.replace !== true)
    throw fail('library-there', name, folder);
  const stays = placeFiles(site, { folder, files: known?.files ?? {} }, shaped.taken, digestOf);
  const others = Object.keys(settings.libraries).filter((other) => other !== name);
  const asked = options.needs.flatMap(splitList);
  const stranger = asked.find((need) => !others.includes(need));
  if (stranger !== undefined) throw fail('no-need', visible(stranger), others.join(', '));
  const needs = [...new Set([...asked, ...shaped.dependencies.filter((need) => others.includes(need))])];
  const { styles, scripts, release, provides } = shaped;
  const digests = [...shaped.taken].map(([path, bytes]) => [path, digestOf(bytes)] as const);
  const record = Object.fromEntries(digests.sort(([a], [b]) => (a < b ? -1 : 1)));
  const entry = { folder, styles, scripts, release, provides, needs, files: record };
  const text = files.has(SETTINGS_FILE) ? new TextDecoder().decode(files.read(SETTINGS_FILE)) : '';
  const written = new TextEncoder().encode(withLibrary(text, name, entry));
  files.write(SETTINGS_FILE, text === '' ? withLineEnd(written, lineEndOf(root, files.paths())) : written);
  settings.libraries[name] = Object.assign(new Library(), structuredClone(entry));
  return { folder, stays };
}

/** Enough of a SHA-256 to tell whether a file was edited. */
function digestOf(bytes: Uint8Array): string {
  return createHash('sha256').update(bytes).digest('hex').slice(0, 16);
}

function stayNote(folder: string, stays: readonly string[]): string {
  return `Left in ${visible(folder)} as they are, since they were edited or are not from this library: ${stays.map(visible).join(', ')}. To have the library's own instead, take yours away and run this again.`;
}

async function wireLibrary(
  project: Project,
  name: string,
  options: AdoptOptions,
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
  const { notes, idle } = tally.account(name, false);
  return notes.length > 0 ? [...notes] : [idle];
}

function replaceHosted(project: Project, address: string, folder: string, shaped: ShapedLibrary): string {
  const { site } = project;
  const mains = [...shaped.styles, ...shaped.scripts].map((file) => `${folder}/${file}`);
  const options: ReplaceOptions = {
    address,
    files: new Map([...shaped.taken].map(([path, bytes]) => [`${folder}/${path}`, bytes])),
    digest: (algorithm, bytes) => createHash(algorithm).update(bytes).digest('base64'),
    fileFor(written) {
      const file = counterpart(written, mains);
      if (file === null) throw fail('no-counterpart', visible(written), mains.join(', '));
      return file;
    },
  };
  let files = 0;
  const sum = { amount: 0, kept: 0, dropped: 0 };
  for (const path of site.paths()) {
    if (!isRead(path) || path.startsWith(`${folder}/`)) continue;
    const replaced: Replaced | null = isPage(path)
      ? replaceInPage(openPage(path, site.read(path)), options)
      : replaceInFile(path, site.read(path), options);
    if (replaced === null) continue;
    site.write(path, replaced.bytes);
    files++;
    for (const key of ['amount', 'kept', 'dropped'] as const) sum[key] += replaced[key];
  }
  if (files === 0) throw fail('address-absent', visible(address));
  const kept = sum.kept > 0 ? `; integrity kept ${sum.kept} times, since the file is the same` : '';
  const dropped =
    sum.dropped > 0 ? `; integrity dropped ${sum.dropped} times, since the local file differs` : '';
  return `In place of ${visible(address)}: ${count(sum.amount, 'reference')} in ${count(files, 'file')}${kept}${dropped}.`;
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
