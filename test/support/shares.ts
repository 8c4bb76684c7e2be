/** Shares of files that exist in memory only, as a check makes them. */
import { Contents } from '../../src/core/check/contents.ts';
import { FileMarks } from '../../src/core/check/marks.ts';
import { Sayings } from '../../src/core/check/sayings.ts';
import type { Share, Surroundings } from '../../src/core/check/share.ts';
import { shareOf } from '../../src/core/check/take.ts';
import { concerned } from '../../src/core/judge/index.ts';
import { readFile } from '../../src/core/read/read.ts';
import type { Reading } from '../../src/core/read/reading.ts';
import { Resolver } from '../../src/core/resolve/resolver.ts';
import { makeInventory } from '../../src/core/site/inventory.ts';
import { bytesOf } from './site.ts';

/** The share of a text as the file of a site that holds these paths. */
export function sharesIn(
  paths: Iterable<string>,
  more: Partial<Surroundings> = {},
): (file: string, text: string, isApart?: boolean) => Share {
  const inventory = makeInventory(paths);
  const contents = new Contents(
    () => null,
    () => null,
  );
  const around: Surroundings = {
    site: {
      inventory,
      published: null,
      places: {},
      entry: 'index.html',
      anchorsOf: () => null,
      contentOf: contents.of,
      holds: contents.holds,
    },
    resolver: new Resolver(inventory, null, concerned.address),
    sayings: new Sayings(),
    marks: new FileMarks(),
    isOnline: false,
    comparesMenus: true,
    builds: new Map(),
    samples: [],
    masters: new Map(),
    ...more,
  };
  return (file, text, isApart) =>
    shareOf(file, bytesOf(text), readFile(file, bytesOf(text)) as Reading, around, isApart);
}
