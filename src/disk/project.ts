/** Opens a real project: its settings, its files, and the site that it publishes. */

import { ChangedFiles, type Files, filesWithin } from '../core/change/files.ts';
import { fail } from '../core/errors.ts';
import { pagesOf } from '../core/page/pages.ts';
import type { Unread } from '../core/report.ts';
import { SETTINGS_FILE, Settings } from '../core/settings/settings.ts';
import { folderOf, type Inventory, makeInventory } from '../core/site/inventory.ts';
import { inferPlaces, type Places, sitePrefix } from '../core/site/places.ts';
import { below, type DiskPath, pathFrom, pointedTo, withSlashes } from './disk-path.ts';
import { existsSync } from './fs.ts';
import { listSite } from './inventory.ts';
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
  /** Every file of the site and `cravel.yaml`, by paths from the project's folder. */
  readonly files: ChangedFiles;
  /** The files of the site by site path. */
  readonly site: Files;
  /** The pages of the site. */
  pages(): string[];
  /** The site path of what somebody names from the project's folder, or from the site's. */
  sitePath(named: string): string;
}

/**
 * Throws a `CravelError` where `root` is no folder, or its settings are wrong. The file `apart` is no part of it,
 * wherever it lies.
 */
export async function openProject(root: DiskPath, apart: string | null = null): Promise<Project> {
  const stats = statOrNull(root);
  if (!stats) throw fail('no-folder', root);
  if (!stats.isDirectory()) throw fail('not-a-folder', root);
  const settings = await loadSettings(root);
  const prefix = sitePrefix(settings.site);
  const siteFolder = below(root, prefix);
  if (!existsSync(siteFolder)) throw fail('no-folder', siteFolder);
  const isNamed = await matcherFor(settings['leave-out']);
  const own = apart === null ? null : pathFrom(pointedTo(siteFolder), pointedTo(apart));
  const isLeftOut = (path: string) => path === own || isNamed(path);
  const { inventory, unread } = listing(siteFolder, isLeftOut);
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
    files,
    site,
    pages: () => pagesOf(site),
    sitePath(named) {
      const inProject = pathFrom(pointedTo(root), pointedTo(named, root));
      return prefix !== '' && inProject.startsWith(prefix) ? inProject.slice(prefix.length) : inProject;
    },
  };
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
    remove: (path) => files.remove(path),
  };
}

function listing(folder: DiskPath, isLeftOut: (path: string) => boolean) {
  try {
    const { inventory, unread } = listSite(folder);
    const files = [...inventory.files].filter((path) => !isLeftOut(path));
    const isWhole = files.length === inventory.files.size;
    return { inventory: isWhole ? inventory : makeInventory(files, inventory.closed), unread };
  } catch (error) {
    throw fail('unlisted', folder, reasonOf(error));
  }
}
