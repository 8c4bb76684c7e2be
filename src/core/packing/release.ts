/** Puts one build of a library in the place of another: the small one for visitors, the readable one for work. */

import type { Files } from '../change/files.ts';
import { addTo } from '../group-by.ts';
import { readdressed } from '../moving/readdress.ts';
import { buildPairs } from '../order/order.ts';
import { isSpecifier } from '../read/holder.ts';
import type { Published } from '../resolve/published.ts';
import type { Settings } from '../settings/settings.ts';
import { leadsIn, readingsIn } from './readings.ts';
import { rewriteAddresses } from './rewrite.ts';

/** Site paths of readable builds, each with that of the small one. */
export type Builds = ReadonlyMap<string, string>;

/** The pairs that the settings record, as far as both are there. */
export function pairsOf({ libraries }: Pick<Settings, 'libraries'>, files: Pick<Files, 'has'>): Builds {
  return new Map(
    buildPairs(libraries).filter(([readable, small]) => files.has(readable) && files.has(small)),
  );
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
  const leadOf = leadsIn(files, published);
  const wanted = new Set([...builds].flat());
  const loaders = new Map<string, Set<string>>();
  for (const { file, reading, base } of readingsIn(files))
    for (const { written } of reading.references) {
      const found = leadOf(written, base)?.found ?? '';
      if (wanted.has(found)) addTo(loaders, found, file);
    }
  return loaders;
}

/** Every reference to one build leads to the other. Gives how many do. */
export function swapBuilds(files: Files, builds: Builds, published: Published | null): number {
  if (builds.size === 0) return 0;
  const leadOf = leadsIn(files, published);
  return rewriteAddresses(files, ({ file, reference, base }) => {
    // A build that names the other one, as in its map, goes on to do so.
    if (base === null || builds.has(file)) return null;
    const written = reference.written.trim();
    const lead = leadOf(written, base);
    const to = lead === null ? undefined : builds.get(lead.found);
    if (lead === null || to === undefined) return null;
    return readdressed({
      written,
      path: lead.path,
      to,
      base,
      isSpecifier: isSpecifier(reference),
      published,
    });
  });
}
