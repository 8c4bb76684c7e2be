/** What the files of a copy say, where their references lead, and what they name. */
import type { Files } from '../change/files.ts';
import { isRead, readFile } from '../read/read.ts';
import type { Reading, Reference } from '../read/reading.ts';
import { locate } from '../resolve/locate.ts';
import { type Published, resolveIn } from '../resolve/published.ts';
import { baseAddress } from '../resolve/resolve.ts';
import { makeInventory, nameOf } from '../site/inventory.ts';

export interface FileRead {
  readonly file: string;
  readonly bytes: Uint8Array;
  readonly reading: Reading;
  /** Site path; null where it lies outside of the site. */
  readonly base: string | null;
}

/** Every file that is read for its references, in order. */
export function* readingsIn(files: Files): Iterable<FileRead> {
  for (const file of files.paths().filter(isRead)) {
    const bytes = files.read(file);
    const reading = readFile(file, bytes);
    if (reading !== null) yield { file, bytes, reading, base: baseAddress(file, reading.base) };
  }
}

/** True for what starts from the pages that run a script. */
export function startsElsewhere({ from }: Reference, { page }: Reading): boolean {
  return from !== 'file' && page === null;
}

/** Where an address leads: the site path as it is resolved, and the file that a host answers with. */
export interface Lead {
  readonly path: string;
  readonly found: string;
}

/** Gives null for what leads to no file of the site. */
export function leadsIn(
  files: Files,
  published: Published | null,
): (written: string, base: string | null) => Lead | null {
  const inventory = makeInventory(files.paths());
  return (written, base) => {
    const target = resolveIn(written.trim(), base, published);
    const found = target.in === 'site' ? locate(inventory, target.path) : null;
    return target.in !== 'site' || found === null ? null : { path: target.path, found };
  };
}

/** The name of the file that an address is for, without what escapes stand for. */
export function plainName(written: string): string {
  const name = nameOf(written.trim().replace(/[?#].*/s, ''));
  try {
    return decodeURIComponent(name);
  } catch {
    return name;
  }
}
