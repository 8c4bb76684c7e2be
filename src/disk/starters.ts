/** Finds and loads starters: those that come with Cravel, and the user's own. */

import { homedir } from 'node:os';
import { isAbsolute } from 'node:path';
import { fail } from '../core/errors.ts';
import { SETTINGS_FILE } from '../core/settings/settings.ts';
import { MANIFEST, readManifest } from '../core/starter/manifest.ts';
import type { Starter } from '../core/starter/render.ts';
import { readdirSync } from './fs.ts';
import { listSite } from './inventory.ts';
import { loadFile } from './load.ts';
import { hasOpenChange } from './open-change.ts';
import { packageFolder } from './package.ts';
import { asWritten, below, type Place } from './place.ts';
import { statOrNull } from './stat.ts';

/** Where the user's own starters lie (XDG Base Directory Specification, XDG_DATA_HOME). */
export function ownStartersFolder(env: NodeJS.ProcessEnv): Place {
  const data = env.XDG_DATA_HOME;
  // The specification has relative paths ignored.
  const base =
    data && isAbsolute(data) ? asWritten(data) : below(asWritten(env.HOME || homedir()), '.local/share');
  return below(base, 'cravel/starters');
}

function builtInFolder(): Place {
  return below(packageFolder(), 'starters');
}

export function isBuiltIn(name: string): boolean {
  return namesIn(builtInFolder()).includes(name);
}

/** Names of all starters, the built-in ones first. */
export function starterNames(env: NodeJS.ProcessEnv): string[] {
  const builtIn = namesIn(builtInFolder());
  return [...builtIn, ...namesIn(ownStartersFolder(env)).filter((name) => !builtIn.includes(name))];
}

/** The starter of that name. Throws a `CravelError` that lists the known ones, or names what is wrong in it. */
export function loadStarter(name: string, env: NodeJS.ProcessEnv): Starter {
  if (isBuiltIn(name)) return load(name, below(builtInFolder(), name), `starters/${name}`, false);
  const folder = ownStartersFolder(env);
  if (!namesIn(folder).includes(name)) throw fail('unknown-starter', name, starterNames(env).join(', '));
  return load(name, below(folder, name), below(folder, name), true);
}

function load(name: string, root: Place, shown: string, own: boolean): Starter {
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

function namesIn(folder: Place): string[] {
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
