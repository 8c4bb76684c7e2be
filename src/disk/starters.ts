/** Finds and loads starters: those that come with Cravel, and the user's own. */

import { homedir } from 'node:os';
import { isAbsolute } from 'node:path';
import envPaths from 'env-paths';
import { fail } from '../core/errors.ts';
import { SETTINGS_FILE } from '../core/settings/settings.ts';
import { MANIFEST, readManifest } from '../core/starter/manifest.ts';
import type { Starter } from '../core/starter/render.ts';
import { asWritten, below, type DiskPath } from './disk-path.ts';
import { readdirSync } from './fs.ts';
import { listSite } from './inventory.ts';
import { loadFile } from './load.ts';
import { hasOpenChange } from './open-change.ts';
import { packageFolder } from './package.ts';
import { statOrNull } from './stat.ts';

/** Where the user's own starters lie: in the folder that each system has for the data of programs. */
export function ownStartersFolder(): DiskPath {
  const { data } = envPaths('cravel', { suffix: '' });
  // Relative paths are to be ignored (XDG Base Directory Specification).
  return isAbsolute(data) ? below(asWritten(data), 'starters') : oldStartersFolder();
}

/** Where they were kept on every system before; they are still found there. */
function oldStartersFolder(): DiskPath {
  return below(asWritten(homedir()), '.local/share/cravel/starters');
}

/** Where the starter of that name lies, or would be kept. */
export function ownStarterPlace(name: string): DiskPath {
  const all = [ownStartersFolder(), oldStartersFolder()];
  return below(all.find((folder) => namesIn(folder).includes(name)) ?? ownStartersFolder(), name);
}

function builtInFolder(): DiskPath {
  return below(packageFolder(), 'starters');
}

export function isBuiltIn(name: string): boolean {
  return namesIn(builtInFolder()).includes(name);
}

/** Names of all starters, the built-in ones first. */
export function starterNames(): string[] {
  const own = [...namesIn(ownStartersFolder()), ...namesIn(oldStartersFolder())].sort();
  return [...new Set([...namesIn(builtInFolder()), ...own])];
}

/** The starter of that name. Throws a `CravelError` that lists the known ones, or names what is wrong in it. */
export function loadStarter(name: string): Starter {
  if (isBuiltIn(name)) return load(name, below(builtInFolder(), name), `starters/${name}`, false);
  if (!starterNames().includes(name)) throw fail('unknown-starter', name, starterNames().join(', '));
  const place = ownStarterPlace(name);
  return load(name, place, place, true);
}

function load(name: string, root: DiskPath, shown: string, own: boolean): Starter {
  if (own && hasOpenChange(root)) throw fail('unfinished', shown, `keep --replace <folder> ${name}`);
  const { manifest, yaml } = readManifest(
    new TextDecoder().decode(loadFile(root, MANIFEST)),
    `${shown}/${MANIFEST}`,
  );
  const files = new Map<string, Uint8Array>();
  const { inventory, unread } = listSite(root);
  const [bad] = unread;
  if (bad !== undefined) throw fail('manifest', `${shown}/${bad.file}`, bad.why, 'Put the starter right.');
  for (const path of inventory.files) {
    if (path !== MANIFEST) files.set(path, loadFile(root, path));
  }
  // The settings that a kept project brings along.
  if (statOrNull(below(root, SETTINGS_FILE))?.isFile() === true)
    files.set(SETTINGS_FILE, loadFile(root, SETTINGS_FILE));
  const { page } = manifest;
  if (page !== undefined && !files.has(page)) yaml.tell(['page'], `there is no file ${page}`);
  yaml.done();
  return { name, shown, own, manifest, files };
}

function namesIn(folder: DiskPath): string[] {
  if (statOrNull(folder)?.isDirectory() !== true) return [];
  return (
    readdirSync(folder)
      // What starts with a dot is being made, or was left by a run that did not come to its end.
      .filter(
        (name) =>
          !name.startsWith('.') && statOrNull(below(folder, `${name}/${MANIFEST}`))?.isFile() === true,
      )
      .sort()
  );
}
