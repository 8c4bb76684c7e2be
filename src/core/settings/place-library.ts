/** Puts a library into a project: its files, and its entry in the settings. */
import type { Files } from '../change/files.ts';
import { fail } from '../errors.ts';
import type { ShapedLibrary } from '../library/shape.ts';
import { placeFiles } from '../library/taken.ts';
import { folderOf } from '../site/inventory.ts';
import { type LineEnd, withLineEnd } from '../site/line-ends.ts';
import type { Places } from '../site/places.ts';
import { Library, SETTINGS_FILE, type Settings } from './settings.ts';
import { withLibrary } from './write.ts';

/** A project as far as libraries go: all its files, and those of its site. */
export interface LibraryProject {
  readonly files: Files;
  readonly site: Files;
  readonly settings: Settings;
  readonly places: Places;
}

export interface Placing {
  /** In place of one that is there. */
  readonly replace: boolean;
  /** Libraries that must be loaded before it. */
  readonly needs: readonly string[];
  /** Tells whether a file was edited. */
  digest(bytes: Uint8Array): string;
  /** Of a settings file that is made. */
  readonly lineEnd: LineEnd;
}

interface Placed {
  readonly folder: string;
  /** What stays in it as it was. */
  readonly stays: readonly string[];
  /** Libraries that it needs, as they were recorded. */
  readonly needs: readonly string[];
  /** Names that it needs, and that no library of the project is known to make. */
  readonly lacking: readonly string[];
}

/**
 * Writes the library's files and its entry in the settings; gives its folder, and what stays in it as it was. Throws a
 * `CravelError` where one of that name is there already, or needs one that is not.
 */
export function placeLibrary(
  { settings, places, site, files }: LibraryProject,
  name: string,
  shaped: ShapedLibrary,
  { replace, needs: asked, digest, lineEnd }: Placing,
): Placed {
  const known = Object.hasOwn(settings.libraries, name) ? settings.libraries[name] : undefined;
  // Beside the styles where they lie in a folder of their own kind, such as assets.
  const place = places.libraries ?? `${folderOf(places.styles ?? '')}lib`;
  const folder = known?.folder ?? `${place}/${name}`;
  const present = site.paths().filter((path) => path.startsWith(`${folder}/`));
  if ((known !== undefined || present.length > 0) && !replace) throw fail('library-there', name, folder);
  const others = Object.keys(settings.libraries).filter((other) => other !== name);
  const stranger = asked.find((need) => !others.includes(need));
  if (stranger !== undefined) throw fail('no-need', stranger, others.join(', '));
  const stays = placeFiles(site, { folder, files: known?.files ?? {} }, shaped.taken, digest);
  const looked = [...shaped.needed, ...shaped.asked];
  const making = others.filter((other) =>
    settings.libraries[other]?.provides.some((made) => looked.includes(made)),
  );
  const needs = [
    ...new Set([...asked, ...shaped.dependencies.filter((need) => others.includes(need)), ...making]),
  ];
  const lacking = shaped.needed.filter(
    (wanted) => !others.some((other) => settings.libraries[other]?.provides.includes(wanted)),
  );
  const { styles, scripts, release, provides } = shaped;
  const digests = [...shaped.taken].map(([path, bytes]) => [path, digest(bytes)] as const);
  const record = Object.fromEntries(digests.sort(([a], [b]) => (a < b ? -1 : 1)));
  const entry = { folder, styles, scripts, release, provides, needs, files: record };
  const text = files.has(SETTINGS_FILE) ? new TextDecoder().decode(files.read(SETTINGS_FILE)) : '';
  const written = new TextEncoder().encode(withLibrary(text, name, entry));
  files.write(SETTINGS_FILE, text === '' ? withLineEnd(written, lineEnd) : written);
  settings.libraries[name] = Object.assign(new Library(), structuredClone(entry));
  return { folder, stays, needs, lacking };
}
