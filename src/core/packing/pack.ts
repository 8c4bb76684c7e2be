/** Makes the copy of a site that is published: one step after the other, each on what the one before it left. */
import type { Files } from '../change/files.ts';
import { moveFiles } from '../moving/move.ts';
import { renamingOf } from '../moving/renaming.ts';
import type { Published } from '../resolve/published.ts';
import type { Settings } from '../settings/settings.ts';
import { makeInventory, nameOf } from '../site/inventory.ts';
import { type Told, tellAddresses } from './addresses.ts';
import type { CopiedFiles } from './copied-files.ts';
import { type DigestOf, heldIn, renewIntegrity } from './integrity.ts';
import { namesByContent } from './naming.ts';
import { plainName, readingsIn } from './readings.ts';
import { type NewPlace, rebase, rebased, type UnsureAddress } from './rebase.ts';
import { type Builds, pairsOf, swapBuilds } from './release.ts';
import { isForShrinking, type Shrinker, type Shrunk, shrink } from './shrink.ts';

export interface ToPack {
  /** What is taken of the site; written to. */
  readonly files: CopiedFiles;
  readonly settings: Settings;
  /** Files, and folders of files whose names a script puts together, that something of the site refers to. */
  readonly used: ReadonlySet<string>;
  /** Where the site is published by its settings. */
  readonly published: Published | null;
  /** Where it is to be published instead. */
  readonly at: NewPlace | null;
  /** Null where the site's own code stays as it is. */
  readonly shrinker: Shrinker | null;
  readonly namedByContent: boolean;
  readonly digestOf: DigestOf;
  /** In hexadecimal. */
  readonly hashOf: (pieces: readonly (string | Uint8Array)[]) => string;
}

/** What was done on the way. */
export interface PackedCopy {
  /** Where the copy is published; null where nobody knows. */
  readonly published: Published | null;
  /** References that lead to the small build of a library now, and readable builds that stayed behind. */
  readonly swapped: number;
  readonly readable: readonly string[];
  readonly shrunk: Shrunk | null;
  /** Addresses from the root of the host that start elsewhere now; null where nobody asked for that. */
  readonly rebased: number | null;
  /** Strings that nobody can tell to be such addresses. */
  readonly unsure: readonly UnsureAddress[];
  readonly told: Told | null;
  /** New paths of files, by the old ones. */
  readonly renamed: ReadonlyMap<string, string>;
  /** What an address of a file, or of any where that is null, has become. */
  addressOf(file: string | null, written: string): string;
}

type Progress = (done: number, total: number) => Promise<void> | void;

export async function makeCopy(toPack: ToPack, tell: Progress = () => {}): Promise<PackedCopy> {
  const { files, settings, used, published, at, shrinker, digestOf, hashOf } = toPack;
  const place = at === null ? published : placeAt(at, published);
  const pairs = pairsOf(settings, files);
  const changesFiles = pairs.size > 0 || shrinker !== null || toPack.namedByContent;
  const held = changesFiles ? heldIn(files, published, digestOf) : new Map();
  const swapped = swapBuilds(files, pairs, published);
  const readable = swapped === 0 ? [] : withoutReadable(files, pairs);
  const folders = Object.values(settings.libraries).map(({ folder }) => folder);
  const isOwn = (path: string) => isForShrinking(path, folders);
  const shrunk = shrinker === null ? null : await shrink(files, published, isOwn, shrinker, tell);
  const moved = at === null ? null : rebase(files, published, at);
  const told = place === null || place.origin === UNKNOWN ? null : tellAddresses(files, place);
  const kept = new Set([settings.entry, ...(told?.made ?? [])]);
  const names = toPack.namedByContent
    ? namesByContent({ files, published: place, used, kept, hashOf })
    : new Map<string, string>();
  const rewritten = await rename(files, names, place, settings.entry);
  renewIntegrity(files, place, held, digestOf);
  return {
    published: place,
    swapped,
    readable,
    shrunk,
    rebased: moved === null ? null : moved.references,
    unsure: moved?.unsure ?? [],
    told,
    renamed: names,
    addressOf(file, address) {
      const based = at === null ? address : (rebased(address, published, at) ?? address);
      const all = file === null ? [...rewritten.values()] : [rewritten.get(file)];
      return all.map((own) => own?.get(based)).find((anew) => anew !== undefined) ?? based;
    },
  };
}

/** A host that there is nowhere (RFC 2606, 2). */
const UNKNOWN = 'https://unknown.invalid';

function placeAt({ origin, folder }: NewPlace, published: Published | null): Published {
  return { origin: origin ?? published?.origin ?? UNKNOWN, folder };
}

/** What nothing names any more stays behind: the small build is there in its place. */
function withoutReadable(files: Files, pairs: Builds): string[] {
  const said = new Set<string>();
  const builds = new Set([...pairs.keys(), ...pairs.values()]);
  for (const { file, reading } of readingsIn(files)) {
    if (builds.has(file)) continue;
    for (const { written } of [...reading.references, ...reading.hints]) said.add(plainName(written));
  }
  const gone = [...pairs.keys()].filter((path) => !said.has(nameOf(path)));
  for (const path of gone) files.remove(path);
  return gone;
}

async function rename(
  files: CopiedFiles,
  names: ReadonlyMap<string, string>,
  published: Published | null,
  entry: string,
): Promise<ReadonlyMap<string, ReadonlyMap<string, string>>> {
  if (names.size === 0) return new Map();
  const { rewritten } = await moveFiles({
    files,
    inventory: makeInventory(files.paths()),
    published,
    entry,
    renaming: renamingOf(names),
    bytesOf: files.asNow(),
    marksOf: () => undefined,
    isDone: false,
  });
  return rewritten;
}
