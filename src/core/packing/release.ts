/** Puts one build of a library in the place of another: the small one for visitors, the readable one for work. */
import type { Files } from '../change/files.ts';
import { addTo } from '../group-by.ts';
import { readdressed } from '../moving/readdress.ts';
import { isRead, readFile } from '../read/read.ts';
import { locate } from '../resolve/locate.ts';
import { type Published, resolveIn } from '../resolve/published.ts';
import { baseAddress } from '../resolve/resolve.ts';
import type { Settings } from '../settings/settings.ts';
import { makeInventory } from '../site/inventory.ts';
import { rewriteAddresses } from './rewrite.ts';

/** Site paths of readable builds, each with that of the small one. */
export type Builds = ReadonlyMap<string, string>;

/** The pairs that the settings record, as far as both are there. */
export function pairsOf({ libraries }: Pick<Settings, 'libraries'>, files: Pick<Files, 'has'>): Builds {
  const all = Object.values(libraries).flatMap(({ folder, release }) =>
    Object.entries(release).map(
      ([readable, small]) => [`${folder}/${readable}`, `${folder}/${small}`] as const,
    ),
  );
  return new Map(all.filter(([readable, small]) => files.has(readable) && files.has(small)));
}

export function reversed(builds: Builds): Builds {
  return new Map([...builds].map(([readable, small]) => [small, readable]));
}

/** The files that refer to each build. */
export function loadersOf(
  files: Files,
  builds: Builds,
  published: Published | null,
): ReadonlyMap<string, ReadonlySet<string>> {
  const inventory = makeInventory(files.paths());
  const wanted = new Set([...builds].flat());
  const loaders = new Map<string, Set<string>>();
  for (const file of files.paths().filter(isRead)) {
    const reading = readFile(file, files.read(file));
    const base = reading && baseAddress(file, reading.base);
    for (const { written } of reading?.references ?? []) {
      const target = resolveIn(written.trim(), base, published);
      const found = target.in === 'site' ? locate(inventory, target.path) : null;
      if (found !== null && wanted.has(found)) addTo(loaders, found, file);
    }
  }
  return loaders;
}

/** Every reference to one build leads to the other. Gives how many do. */
export function swapBuilds(files: Files, builds: Builds, published: Published | null): number {
  if (builds.size === 0) return 0;
  const inventory = makeInventory(files.paths());
  return rewriteAddresses(files, ({ file, reference, base }) => {
    // A build that names the other one, as in its map, goes on to do so.
    if (base === null || builds.has(file)) return null;
    const written = reference.written.trim();
    const target = resolveIn(written, base, published);
    const found = target.in === 'site' ? locate(inventory, target.path) : null;
    const to = found === null ? undefined : builds.get(found);
    if (target.in !== 'site' || to === undefined) return null;
    const isSpecifier = reference.kind === 'module' && reference.holder.syntax === 'script';
    return readdressed({ written, path: target.path, to, base, isSpecifier, published });
  });
}
