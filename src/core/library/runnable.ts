/** Which scripts of a downloaded library a page can run, and why it cannot run the others. */

import { pushTo } from '../group-by.ts';
import { isForServers } from '../order/made-names.ts';
import type { Scripts } from '../order/needs-first.ts';
import { isSpecifier } from '../read/holder.ts';
import { readFile } from '../read/read.ts';
import { resolve } from '../resolve/resolve.ts';
import { folderOf, nameOf } from '../site/inventory.ts';
import type { LibraryFiles } from './files.ts';
import { buildOf } from './names.ts';

export const FOR_SERVERS = 'for servers: it throws in a browser';
const UNPARSED = 'it does not parse';
const A_MODULE = 'a module, and there are plain scripts';
const FOR_BUNDLERS = 'a module that imports what no page finds';

export interface Runnable {
  /** Classic scripts; modules only where there are no such. */
  readonly paths: readonly string[];
  /** Why others are none. */
  readonly left: ReadonlyMap<string, string>;
}

/** True for a classic script that does not throw at once. */
export function runsInPages(scripts: Scripts, path: string): boolean {
  const names = scripts.namesOf(path);
  return names.runsAs === 'script' && !isForServers(names);
}

export function runnableOf(near: readonly string[], files: LibraryFiles, scripts: Scripts): Runnable {
  // A minified build is what its readable one is: that one alone is followed.
  const readable = new Map(
    near.flatMap((path) => (buildOf(nameOf(path)).isMinified ? [] : [[buildKind(path), path] as const])),
  );
  const standIn = (path: string) => readable.get(buildKind(path)) ?? path;
  const classic = near.filter((path) => runsInPages(scripts, standIn(path)));
  const whole = classic.length > 0 ? new Set<string>() : wholeModules(near, files, scripts);
  const paths = classic.length > 0 ? classic : near.filter((path) => whole.has(path));
  const taken = new Set(paths);
  const left = new Map<string, string>();
  for (const path of near) {
    if (taken.has(path)) continue;
    const { runsAs } = scripts.namesOf(standIn(path));
    const asModule = classic.length > 0 ? A_MODULE : FOR_BUNDLERS;
    left.set(path, runsAs === null ? UNPARSED : runsAs === 'module' ? asModule : FOR_SERVERS);
  }
  return { paths, left };
}

function buildKind(path: string): string {
  const { stem, format, variant, extension } = buildOf(nameOf(path));
  return [folderOf(path), stem, format, variant, extension].join(' ');
}

/** The modules whose imports are all there, and are such modules themselves (ECMA-262 16.2.1.5). */
function wholeModules(near: readonly string[], files: LibraryFiles, scripts: Scripts): Set<string> {
  const isModule = (path: string) => files.has(path) && scripts.namesOf(path).runsAs === 'module';
  const reached = new Set(near.filter(isModule));
  const importers = new Map<string, string[]>();
  const broken = new Set<string>();
  for (const path of reached)
    for (const reference of readFile(path, files.read(path))?.references ?? []) {
      if (!isSpecifier(reference)) continue;
      const { written } = reference;
      const target = resolve(written, path);
      if (!/^\.{0,2}\//.test(written) || target.in !== 'site' || !isModule(target.path)) broken.add(path);
      else {
        pushTo(importers, target.path, path);
        reached.add(target.path);
      }
    }
  // Who imports what is not whole is not, either.
  for (const path of broken) for (const importer of importers.get(path) ?? []) broken.add(importer);
  return new Set([...reached].filter((path) => !broken.has(path)));
}
