/** Names files by what is in them, so that a browser may keep them for good. */

import type { Files } from '../change/files.ts';
import { isBareSpecifier } from '../check/judged.ts';
import { pushTo } from '../group-by.ts';
import { isWorker } from '../read/holder.ts';
import { isLoaded } from '../read/loaded.ts';
import { isPage } from '../read/read.ts';
import type { Published } from '../resolve/published.ts';
import { isAskedFor } from '../site/asked-for.ts';
import { isText } from '../site/formats.ts';
import { nameOf } from '../site/inventory.ts';
import { isNamedByFolder } from './choose.ts';
import { groupsInOrder } from './groups.ts';
import { leadsIn, plainName, readingsIn, startsElsewhere } from './readings.ts';

/** Hexadecimal digits of a name. */
const DIGITS = 10;

export interface ToName {
  readonly files: Files;
  readonly published: Published | null;
  /** Files, and folders of files whose names a script puts together, that something refers to. */
  readonly used: ReadonlySet<string>;
  /** Never renamed. */
  readonly kept: ReadonlySet<string>;
  /** In hexadecimal. */
  readonly hashOf: (pieces: readonly (string | Uint8Array)[]) => string;
}

/**
 * The new path of each file that pages load and that nothing else knows by its name. What a file loads is part of what it
 * is: where that changes, its name does, too.
 */
export function namesByContent({ files, published, used, kept, hashOf }: ToName): Map<string, string> {
  const leadOf = leadsIn(files, published);
  const loads = new Map<string, string[]>();
  const loaded = new Set<string>();
  /** Names that stand where no reference is: whatever has one of them may be meant. */
  const said = new Set<string>(['sw.js', 'service-worker.js']);
  const read = new Set<string>();
  for (const { file, reading, base } of readingsIn(files)) {
    read.add(file);
    for (const { written } of reading.hints) said.add(plainName(written));
    for (const reference of reading.references) {
      const isCertain =
        !isBareSpecifier(reference) &&
        !startsElsewhere(reference, reading) &&
        isLoaded(reference) &&
        !isWorker(reference);
      const lead = isCertain ? leadOf(reference.written, base) : null;
      if (lead === null) {
        // By a link, from another host, by way of an import map, or from a page that nobody knows here.
        said.add(plainName(reference.written));
        continue;
      }
      loaded.add(lead.found);
      if (!isPage(file)) pushTo(loads, file, lead.found);
    }
  }
  for (const file of files.paths())
    if (!read.has(file) && isText(file))
      for (const [name] of asText(files.read(file)).matchAll(NAMES)) said.add(name);
  const isFree = (path: string) =>
    loaded.has(path) &&
    !kept.has(path) &&
    !isPage(path) &&
    !isAskedFor(path) &&
    !isManifest(path) &&
    !said.has(nameOf(path)) &&
    !isNamedByFolder(path, used);
  const hashes = new Map<string, string>();
  // What is loaded comes before what loads it; what loads each other has one hash in common.
  for (const group of groupsInOrder([...loaded], (path) => loads.get(path) ?? [])) {
    const inside = new Set(group);
    const others = new Set(
      group.flatMap((path) => (loads.get(path) ?? []).filter((one) => !inside.has(one))),
    );
    const outer = [...others].sort().map((path) => `${path} ${hashes.get(path)}\n`);
    const inner =
      inside.size > 1 ? [...inside].sort().map((path) => `${path} ${hashOf([files.read(path)])}\n`) : [];
    const around = hashOf([...outer, ...inner]);
    for (const path of group) hashes.set(path, hashOf([around, files.read(path)]));
  }
  return new Map(
    [...loaded]
      .filter(isFree)
      .sort()
      .map((path) => [path, named(path, hashes.get(path) as string)]),
  );
}

/** In data nobody can tell what is an address. */
const NAMES = /[^\s"'`<>(),;:=/\\|?#&]+\.[a-z0-9]+/gi;

function asText(bytes: Uint8Array): string {
  return new TextDecoder().decode(bytes);
}

/** `css/main.css` becomes `css/main.3f2a9c01be.css`. */
function named(path: string, hash: string): string {
  return path.replace(/(\.[^./]*)?$/, (extension) => `.${hash.slice(0, DIGITS)}${extension}`);
}

function isManifest(path: string): boolean {
  return /\.(?:webmanifest|appcache|xml|txt)$|(?:^|\/)manifest\.json$/i.test(path);
}
