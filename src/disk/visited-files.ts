/** What was published: a folder, an archive, what was packed last, or the project itself. */

import { fail } from '../core/errors.ts';
import { Allowance } from '../core/library/allowance.ts';
import type { ToVisit } from '../web/visit.ts';
import { archiveFormat, unpack } from './archive.ts';
import { asWritten, below, type DiskPath } from './disk-path.ts';
import { readFileSync } from './fs.ts';
import { walkFolder } from './inventory.ts';
import { lastPacked, type Packed } from './packed.ts';
import { hashOf } from './standing.ts';
import { statOrNull } from './stat.ts';

export interface Published {
  readonly files: ReadonlyMap<string, ToVisit>;
  /** The address that it was made for; null where nobody knows. */
  readonly at: string | null;
  /** Another one for whatever else is published. */
  readonly mark: string;
  /** Nothing was packed: it is the project as it stands. */
  readonly isProject: boolean;
}

/** Of archives that people made themselves nobody knows how large they are. */
const LIMITS = { files: 1_000_000, bytes: 4_000_000_000 };

/** `place` is what somebody named, as `shown`; `project` gives what would be packed. Throws a `CravelError`. */
export async function publishedFiles(
  root: DiskPath,
  place: DiskPath | null,
  shown: string,
  project: () => { readonly folder: DiskPath; readonly files: readonly string[] },
): Promise<Published> {
  const last = lastPacked(root);
  if (place !== null) {
    const contents = await contentsAt(place, shown);
    if (contents === null) throw fail('no-packed', shown);
    const at = last !== null && last.target === place ? last.at : null;
    return { ...publishedFrom(contents), at, isProject: false };
  }
  if (last === null) {
    const { folder, files } = project();
    const own = new Map(files.map((file) => [file, () => readFileSync(below(folder, file))]));
    return { ...publishedFrom(own), at: null, isProject: true };
  }
  const there = await contentsAt(asWritten(last.target), last.target).catch(() => null);
  return { ...packedFrom(last, there ?? new Map(), project), at: last.at, isProject: false };
}

type Contents = ReadonlyMap<string, () => Uint8Array>;

/** The files of a folder or an archive; null where there is neither. */
async function contentsAt(place: DiskPath, shown: string): Promise<Contents | null> {
  const stats = statOrNull(place);
  if (stats?.isDirectory()) {
    const { files } = walkFolder(place, (_path, stands) => (stands === 'file' ? null : ''));
    return new Map(files.map((file) => [file, () => readFileSync(below(place, file))]));
  }
  if (stats?.isFile() !== true) return null;
  const bytes = readFileSync(place);
  const format = archiveFormat(bytes);
  if (format === null) return null;
  const unpacked = await unpack(shown, bytes, format, new Allowance(shown, LIMITS));
  return new Map([...unpacked].map(([file, content]) => [file, () => content]));
}

function publishedFrom(contents: Contents): Pick<Published, 'files' | 'mark'> {
  const files = new Map<string, ToVisit>();
  for (const [file, content] of contents) {
    const bytes = content();
    files.set(file, { file, bytes: bytes.length, hash: hashOf(bytes), content });
  }
  return { files, mark: markOf(files.values()) };
}

function markOf(files: Iterable<Pick<ToVisit, 'file' | 'hash'>>): string {
  return hashOf(Buffer.from(JSON.stringify(Array.from(files, ({ file, hash }) => [file, hash]))));
}

/** As it was packed; bytes that are no longer there are looked for in the project. */
function packedFrom(
  { files }: Packed,
  there: Contents,
  project: () => { readonly folder: DiskPath; readonly files: readonly string[] },
): Pick<Published, 'files' | 'mark'> {
  const { folder } = project();
  const all = new Map(
    files.map(({ path, bytes, hash }): [string, ToVisit] => {
      const content = () => {
        for (const find of [there.get(path), () => readFileSync(below(folder, path))]) {
          const found = find === undefined ? null : orNull(find);
          if (found !== null && hashOf(found) === hash) return found;
        }
        return null;
      };
      return [path, { file: path, bytes, hash, content }];
    }),
  );
  return { files: all, mark: markOf(all.values()) };
}

function orNull(read: () => Uint8Array): Uint8Array | null {
  try {
    return read();
  } catch {
    return null;
  }
}
