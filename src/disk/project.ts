/** Opens a real project: its settings, its files, and the site that it publishes. */

import { ChangedFiles, type Files, filesWithin } from '../core/change/files.ts';
import { fail } from '../core/errors.ts';
import { pagesOf } from '../core/page/pages.ts';
import type { Unread } from '../core/report.ts';
import { SETTINGS_FILE, Settings } from '../core/settings/settings.ts';
import { type BesideFiles, folderOf, type Inventory, makeInventory } from '../core/site/inventory.ts';
import { inferPlaces, type Places, sitePrefix } from '../core/site/places.ts';
import {
  around,
  below,
  type DiskPath,
  pathFrom,
  pointedTo,
  shownFromHere,
  withSlashes,
} from './disk-path.ts';
import { existsSync } from './fs.ts';
import { type Listing, listSite } from './inventory.ts';
import { loadFile } from './load.ts';
import { reasonOf } from './reason.ts';
import { statOrNull } from './stat.ts';

export interface Project {
  /** The project's folder. */
  readonly root: DiskPath;
  readonly settings: Settings;
  readonly places: Places;
  /** The site's folder in the project: empty, or ending in `/`. */
  readonly prefix: string;
  readonly inventory: Inventory;
  readonly unread: readonly Unread[];
  /** Links out of the site that are followed, each with where it leads. */
  readonly linksOut: ReadonlyMap<string, string>;
  /** Every file of the site and `cravel.yaml`, by paths from the project's folder. */
  readonly files: ChangedFiles;
  /** The files of the site by site path. */
  readonly site: Files;
  /** Files that the settings leave out of the site, by their site paths. */
  readonly leaves: readonly string[];
  /** The pages of the site. */
  pages(): string[];
  /** A file that the settings leave out of the site, by its site path; null where there is none. */
  leftOut(path: string): Uint8Array | null;
  /** The site path of the folder that somebody works in; empty for the project's folder and the site's. */
  readonly standing: string;
  /** The site path of what somebody names from the folder that they work in, from the project's, or from the site's. */
  sitePath(named: string): string;
}

interface Opening {
  /** A file that is no part of the project, wherever it lies. */
  readonly apart?: string | undefined;
  /** The folder that somebody works in; the project's own unless said. */
  readonly from?: DiskPath;
  /** Those of another folder, of which this one is a copy. */
  readonly settings?: Settings;
}

/** Throws a `CravelError` where `root` is no folder, or its settings are wrong. */
export async function openProject(
  root: DiskPath,
  { apart, from = root, settings: given }: Opening = {},
): Promise<Project> {
  const stats = statOrNull(root);
  if (!stats) throw fail('no-folder', root);
  if (!stats.isDirectory()) throw fail('not-a-folder', root);
  const settings = given ?? (await loadSettings(root));
  const prefix = sitePrefix(settings.site);
  const siteFolder = below(root, prefix);
  if (!existsSync(siteFolder)) throw fail('no-folder', siteFolder);
  const isNamed = await matcherFor(settings['leave-out']);
  const own = apart === undefined ? null : pathFrom(pointedTo(siteFolder), pointedTo(apart));
  const isLeftOut = (path: string) => path === own || isNamed(path);
  const { inventory, unread, linksOut, leaves } = listing(siteFolder, isLeftOut);
  const paths = [...inventory.files].map((path) => prefix + path);
  if (statOrNull(below(root, SETTINGS_FILE)) !== null) paths.push(SETTINGS_FILE);
  const files = new ChangedFiles(paths, (path) => loadFile(root, path));
  const site = siteOf(files, prefix);
  return {
    root,
    settings,
    places: placesOf(settings, inventory),
    prefix,
    inventory,
    unread,
    linksOut,
    files,
    site,
    leaves,
    pages: () => pagesOf(site),
    leftOut(path) {
      if (!isNamed(path) || statOrNull(below(siteFolder, path))?.isFile() !== true) return null;
      return loadFile(siteFolder, path);
    },
    standing: standingIn(pointedTo(root), from, prefix),
    sitePath(named) {
      const [here, there] = [from, root].map((folder) => {
        const inProject = pathFrom(pointedTo(root), pointedTo(named, folder));
        return prefix !== '' && inProject.startsWith(prefix) ? inProject.slice(prefix.length) : inProject;
      }) as [string, string];
      return site.has(there) && !site.has(here) ? there : here;
    },
  };
}

function standingIn(root: DiskPath, from: DiskPath, prefix: string): string {
  const way = pathFrom(root, pointedTo(from));
  const folder = way === '' ? '' : `${way}/`;
  return folder.startsWith(prefix) ? folder.slice(prefix.length) : '';
}

/** The project that a folder lies in: the nearest folder upwards that has settings, else the folder itself. */
export function projectAround(folder: DiskPath): DiskPath {
  for (let here = pointedTo(folder); ; ) {
    if (statOrNull(below(here, SETTINGS_FILE)) !== null) return here === pointedTo(folder) ? folder : here;
    const above = around(here);
    if (above === here) return folder;
    here = above;
  }
}

/** A project, and what of its site somebody named. */
export interface NamedProject {
  readonly root: string;
  /** The site path of the folder that was named; empty for the whole site. */
  readonly within: readonly string[];
}

/**
 * The project that a folder is to be checked with: the one that it lies in, unless it is no part of that one's site.
 * Throws a `CravelError` where there is no such folder, and where the settings are wrong.
 */
export async function projectOf(folder: string, from = '.'): Promise<NamedProject> {
  const named = pointedTo(folder, from);
  const root = projectAround(named);
  if (root === named) return { root: pointedTo(folder) === named ? folder : named, within: [] };
  if (statOrNull(named)?.isDirectory() !== true) return { root: folder, within: [] };
  const prefix = sitePrefix((await loadSettings(root)).site);
  const way = `${pathFrom(root, named)}/`;
  const shown = shownFromHere(root);
  if (prefix.startsWith(way)) return { root: shown, within: [] };
  return way.startsWith(prefix)
    ? { root: shown, within: [way.slice(prefix.length)] }
    : { root: folder, within: [] };
}

async function matcherFor(globs: readonly string[]): Promise<(path: string) => boolean> {
  if (globs.length === 0) return () => false;
  const { globMatcher } = await import('../core/site/globs.ts');
  // A pattern without a slash is one for names, wherever they lie.
  const anywhere = globs.map((glob) => (glob.includes('/') ? glob : `**/${glob}`));
  return globMatcher(anywhere);
}

/** The settings of the project at `root`; the defaults where it has none. */
export async function loadSettings(root: DiskPath): Promise<Settings> {
  const file = below(root, SETTINGS_FILE);
  const stats = statOrNull(file);
  if (stats === null) return new Settings();
  // A pipe would be waited for, and a device never ends.
  if (!stats.isFile()) throw fail('no-file-there', file);
  // Most sites that are checked have none: the YAML parser is loaded when there is something to parse.
  const { readSettings } = await import('../core/settings/read.ts');
  try {
    const text = new TextDecoder('utf-8', { fatal: true }).decode(loadFile(root, SETTINGS_FILE));
    return withWays(readSettings(text, file));
  } catch (error) {
    throw error instanceof TypeError ? fail('not-utf8', file) : error;
  }
}

/** How many bytes of past changes are kept in the project at `root`. */
export async function bytesForUndo(root: DiskPath): Promise<number> {
  return bytesForUndoBy(await loadSettings(root));
}

export function bytesForUndoBy({ 'undo-megabytes': most }: Settings): number {
  return most * 1_000_000;
}

/** The settings with the ways in them as they are written everywhere else: people part their steps as their system does. */
function withWays(settings: Settings): Settings {
  settings.site = withSlashes(settings.site);
  settings.entry = plainWay(settings.entry);
  const places = Object.entries(settings.places ?? {}).map(([role, folder]) => [role, plainWay(folder)]);
  if (settings.places !== undefined) settings.places = Object.fromEntries(places);
  for (const library of Object.values(settings.libraries)) {
    library.folder = plainWay(library.folder);
    library.styles = library.styles.map(plainWay);
    library.scripts = library.scripts.map(plainWay);
  }
  return settings;
}

/** A way without the word that it starts from here. */
function plainWay(way: string): string {
  return withSlashes(way).replace(/^(?:\.\/+)+(?=.)/, '');
}

/** Where things live: as the settings say, else as the folders are called; libraries where they are recorded. */
function placesOf({ places, libraries }: Settings, { folders }: Inventory): Places {
  const told = inferPlaces(folders);
  const [recorded] = Object.values(libraries);
  const parent = recorded && folderOf(recorded.folder).slice(0, -1);
  const home = places?.libraries ?? (parent || told.libraries);
  return { ...(places ?? told), ...(home === undefined ? {} : { libraries: home }) };
}

/** The site is all of the project but for its settings. */
function siteOf(files: ChangedFiles, prefix: string): Files {
  const site = filesWithin(files, prefix);
  return { ...bound(site), paths: () => site.paths().filter((path) => path !== SETTINGS_FILE) };
}

function bound(files: Files): Files {
  return {
    paths: () => files.paths(),
    has: (path) => files.has(path),
    read: (path) => files.read(path),
    write: (path, bytes) => files.write(path, bytes),
    move: (from, path, bytes, like) => files.move(from, path, bytes, like),
    remove: (path) => files.remove(path),
  };
}

function listing(
  folder: DiskPath,
  isLeftOut: (path: string) => boolean,
): Listing & { readonly leaves: readonly string[] } {
  try {
    const all = listSite(folder);
    const { inventory } = all;
    const files = [...inventory.files].filter((path) => !isLeftOut(path));
    if (files.length === inventory.files.size) return { ...all, leaves: [] };
    const leaves = [...inventory.files].filter(isLeftOut);
    return { ...all, inventory: makeInventory(files, withoutLeft(inventory, isLeftOut)), leaves };
  } catch (error) {
    throw fail('unlisted', folder, reasonOf(error));
  }
}

/** What stands beside the files, without what is left out. */
function withoutLeft(
  { closed, hidden, borders, deadLinks, aliases }: Inventory,
  isLeftOut: (path: string) => boolean,
): BesideFiles {
  const isTold = ([path]: readonly [string, string]) => !isLeftOut(path);
  return {
    closed,
    hidden,
    borders: new Set([...borders].filter((path) => !isLeftOut(path) && !isLeftOut(path.slice(0, -1)))),
    deadLinks: new Map([...deadLinks].filter(isTold)),
    aliases: new Map([...aliases].filter(([path, own]) => isTold([path, own]) && !isLeftOut(own))),
  };
}
