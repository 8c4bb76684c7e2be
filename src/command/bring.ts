/** `cravel bring`: brings files from another project with everything that they load. */

import { fail } from '../core/errors.ts';
import { absent } from '../core/judge/rules/absent.ts';
import {
  bringFiles,
  bringParts,
  counterpartOf,
  partsThere,
  placedIn,
  type Source,
} from '../core/moving/bring.ts';
import { Library, SETTINGS_FILE } from '../core/settings/settings.ts';
import { withLibrary } from '../core/settings/write.ts';
import { nearestNames } from '../core/site/near-names.ts';
import { ProjectCheck } from '../disk/check.ts';
import { pointedTo, shownFromHere } from '../disk/disk-path.ts';
import { bytesBelow } from '../disk/moving.ts';
import { openProject, type Project } from '../disk/project.ts';
import { visible } from '../show/escape.ts';
import { count, shortList } from '../show/paint.ts';
import { bring as declaration } from './declarations.ts';
import { checkOptions } from './options.ts';
import type { Output } from './output.ts';
import { changeProject, titleOf, workFolder } from './project-change.ts';

export async function bring(paths: readonly string[], raw: object, output: Output): Promise<number> {
  const options = checkOptions(declaration, raw);
  const { from, missing, dir } = options;
  if (from === undefined) throw fail('bring-from');
  if (missing ? paths.length > 0 : paths.length === 0) throw fail('bring-what');
  const other = await openProject(pointedTo(from, workFolder(dir)));
  const title = titleOf('bring', missing && '--missing', ...paths, '--from', from);
  return changeProject(options, title, output, async (project) => {
    const bytesOf = bytesBelow(other.root);
    const source: Source = {
      shown: shownFromHere(other.root),
      inventory: other.inventory,
      places: other.places,
      entry: other.settings.entry,
      bytesOf: (path) => bytesOf(other.prefix + path),
    };
    // What a pasted page names lies where it does there.
    const placeOf = missing ? (path: string) => path : placedIn(project.places, other.places);
    const wanted = missing ? await missingIn(project, source) : new Map<string, string>();
    const known = partsThere(source);
    const parts = paths.filter((path) => known.has(path) && !other.inventory.files.has(path));
    const files = paths.filter((path) => !parts.includes(path));
    const loaded = parts.flatMap((part) => known.get(part) ?? []);
    const named = missing
      ? [...wanted.keys()]
      : withLibraries(other, [...filesNamed(other, source, files), ...loaded]);
    if (named.length + parts.length === 0)
      return { notes: [], idle: 'Nothing to bring: no reference here names a file that is there.' };
    const brought = await bringFiles(
      project.site,
      source,
      named,
      (path) => wanted.get(path) ?? placeOf(path),
    );
    const { entry } = project.settings;
    await bringParts(project.site, source, parts, entry, placeOf);
    const libraries = recordLibraries(project, other, brought.files, placeOf);
    const notes = [`Brought ${count(brought.files.size, 'file')} from ${visible(source.shown)}.`];
    for (const part of parts)
      notes.push(
        `Put the part ${visible(part)} at the end of ${visible(entry)}; copy it to all pages with: cravel parts`,
      );
    if (libraries.length > 0)
      notes.push(`Recorded in ${SETTINGS_FILE}: ${libraries.map(visible).join(', ')}.`);
    for (const [path, why] of brought.left) notes.push(`Not brought: ${visible(path)}: ${why}.`);
    const same = shortList(brought.known.map(visible), 5);
    return { notes, idle: `Nothing to do: all of it is here just like that: ${same}.` };
  });
}

/** The files that references here name and that the other project has, each with the path that it is to have here. */
async function missingIn(project: Project, source: Source): Promise<Map<string, string>> {
  const check = new ProjectCheck(shownFromHere(project.root), { project });
  const { site } = await check.look();
  const placeThere = placedIn(source.places, project.places);
  const wanted = new Map<string, string>();
  for (const { rule, target } of site.findings) {
    if (rule !== absent.name || target === null || target.endsWith('/')) continue;
    const path = counterpartOf(target, source, placeThere);
    if (path !== null && !wanted.has(path)) wanted.set(path, target);
  }
  return wanted;
}

/** Files of the other project, folders with all that they hold. */
function filesNamed({ settings }: Project, { inventory, shown }: Source, paths: readonly string[]): string[] {
  const all = [...inventory.files];
  return paths.flatMap((named) => {
    const path = named.replace(/\\/g, '/').replace(/^(?:\.\/)+|\/+$/g, '');
    if (inventory.files.has(path)) return path;
    const folder = `${settings.libraries[path]?.folder ?? path}/`;
    const inside = all.filter((file) => file.startsWith(folder));
    if (inside.length === 0) throw fail('not-in-project', named, shown, nearestNames(path, all));
    return inside;
  });
}

/** Of a library all comes along that its project has recorded. */
function withLibraries({ settings, inventory }: Project, named: readonly string[]): string[] {
  const more = Object.values(settings.libraries).flatMap(({ folder, styles, scripts, release }) =>
    named.some((path) => path.startsWith(`${folder}/`))
      ? [...styles, ...scripts, ...Object.values(release)].map((path) => `${folder}/${path}`)
      : [],
  );
  return [...new Set([...named, ...more.filter((path) => inventory.files.has(path))])];
}

/** Records the libraries that came along and that nobody has recorded here; gives their names. */
function recordLibraries(
  { files, settings }: Project,
  other: Project,
  came: ReadonlyMap<string, string>,
  placeOf: (path: string) => string,
): string[] {
  const names = Object.entries(other.settings.libraries).filter(
    ([name, { folder }]) =>
      settings.libraries[name] === undefined &&
      [...came.keys()].some((path) => path.startsWith(`${folder}/`)),
  );
  for (const [name, library] of names) {
    const folder = placeOf(`${library.folder}/`).replace(/\/$/, '');
    const needs = library.needs.filter((need) => settings.libraries[need] !== undefined);
    const { styles, scripts, release, provides, files: digests } = library;
    const entry = { folder, styles, scripts, release, provides, needs, files: digests };
    const text = files.has(SETTINGS_FILE) ? new TextDecoder().decode(files.read(SETTINGS_FILE)) : '';
    files.write(SETTINGS_FILE, new TextEncoder().encode(withLibrary(text, name, entry)));
    settings.libraries[name] = Object.assign(new Library(), entry);
  }
  return names.map(([name]) => name);
}
