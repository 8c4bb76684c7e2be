/** Takes the inventory of a real folder. */

import { isUtf8 } from 'node:buffer';
import { isAbsolute, sep } from 'node:path';
import { pushTo } from '../core/group-by.ts';
import type { Unread } from '../core/report.ts';
import { SETTINGS_FILE } from '../core/settings/settings.ts';
import { type Stands, whyUnpublished } from '../core/site/admission.ts';
import { type Inventory, makeInventory } from '../core/site/inventory.ts';
import { below, type DiskPath, pathFrom, withSlashes } from './disk-path.ts';
import {
  type Dirent,
  direntsIn,
  rawNamesIn,
  readlinkSync,
  realpathSync,
  type Stats,
  statSync,
} from './fs.ts';
import { reasonOf } from './reason.ts';
import { statOrNull } from './stat.ts';

export interface Listing {
  readonly inventory: Inventory;
  /** What could not be listed, and why. */
  readonly unread: readonly Unread[];
  /** Links that lead out of the folder, and are followed, each with where it leads. */
  readonly linksOut: ReadonlyMap<string, string>;
}

/**
 * Lists every file below `root`; what is never published is named, and not looked into. Symbolic links are followed, as a host's
 * copy would hold what they lead to; a link that leads back to a folder it is in is left out and noted.
 */
export function listSite(root: DiskPath): Listing {
  return new SiteListing(root).listing();
}

/** A folder on the way. */
interface Visit {
  readonly folder: string;
  /** Its own path, where a link in the site led here; null where one led out of it. */
  readonly own: string | null;
  /** Where the last link led. */
  readonly start: string;
  /** The ways between links that lead here, each from where it starts to the folder of the next link. */
  readonly stays: readonly Stay[];
}

class SiteListing {
  readonly #files: string[] = [];
  readonly #closed = new Set<string>();
  readonly #hidden = new Map<string, string>();
  readonly #borders = new Set<string>();
  readonly #deadLinks = new Map<string, string>();
  readonly #aliases = new Map<string, string>();
  readonly #unread: Unread[] = [];
  readonly #linksOut = new Map<string, string>();
  readonly #real: string;

  constructor(readonly root: DiskPath) {
    this.#real = realpathSync(root);
  }

  listing(): Listing {
    this.#visit({ folder: '', own: '', start: this.#real, stays: [] });
    const files = this.#files.sort();
    const known = new Set(files);
    const aliases = new Map([...this.#aliases].filter(([, own]) => known.has(own)));
    const beside = {
      closed: this.#closed,
      hidden: this.#hidden,
      borders: this.#borders,
      deadLinks: this.#deadLinks,
      aliases,
    };
    return { inventory: makeInventory(files, beside), unread: this.#unread, linksOut: this.#linksOut };
  }

  #visit(visit: Visit): void {
    const { folder, own } = visit;
    const { entries, unnamable } = entriesIn(below(this.root, folder));
    // Settings further down make a project of its own.
    if (folder !== '' && entries.some((entry) => entry.name === SETTINGS_FILE && entry.isFile())) {
      this.#borders.add(folder);
      return;
    }
    for (const name of unnamable) this.#unread.push({ file: folder + name, why: UNNAMABLE });
    for (const entry of entries) {
      const { name } = entry;
      const path = folder + name;
      if (path === SETTINGS_FILE) continue;
      const why = whyUnpublished(entry.isDirectory() ? `${name}/` : name);
      if (why !== null) {
        this.#hidden.set(entry.isDirectory() ? `${path}/` : path, why);
        continue;
      }
      try {
        if (entry.isSymbolicLink()) this.#followLink(visit, name);
        else if (entry.isDirectory())
          this.#visit({ ...visit, folder: `${path}/`, own: own === null ? null : `${own}${name}/` });
        else if (entry.isFile()) this.#add(path, own === null ? null : own + name);
        else this.#unread.push({ file: path, why: DEVICE });
      } catch (error) {
        this.#closed.add(`${path}/`);
        this.#unread.push({ file: path, why: reasonOf(error) });
      }
    }
  }

  #add(path: string, own: string | null): void {
    this.#files.push(path);
    if (own !== null && own !== path) this.#aliases.set(path, own);
  }

  #followLink(visit: Visit, name: string): void {
    const path = visit.folder + name;
    const place = below(this.root, path);
    const what = statOrDead(place);
    if (what === null) {
      this.#deadLinks.set(path, withSlashes(readlinkSync(place)));
      return;
    }
    const real = realpathSync(place);
    const own = pathWithin(this.#real, real);
    const theirs = own === null ? null : whyUnpublished(what.isDirectory() ? `${own}/` : own);
    if (theirs !== null) {
      this.#hidden.set(what.isDirectory() ? `${path}/` : path, theirs);
      return;
    }
    if (own === null && (what.isFile() || what.isDirectory()))
      this.#linksOut.set(path, withSlashes(readlinkSync(place)));
    if (what.isFile()) this.#add(path, own);
    else if (!what.isDirectory()) this.#unread.push({ file: path, why: DEVICE });
    else {
      const onwards = staysOnwards(this.root, visit, real);
      if (onwards === null) {
        this.#closed.add(`${path}/`);
        this.#unread.push({ file: path, why: 'this link leads back to a folder that it is in: remove it' });
      } else
        this.#visit({
          folder: `${path}/`,
          own: own === null || own === '' ? own : `${own}/`,
          start: real,
          stays: onwards,
        });
    }
  }
}

/** What a link leads to; null where that is nothing. Throws where nobody can tell. */
function statOrDead(place: DiskPath): Stats | null {
  try {
    return statSync(place);
  } catch (error) {
    if (LEADS_NOWHERE.has((error as NodeJS.ErrnoException).code ?? '')) return null;
    throw error;
  }
}

/** The path of a place in a folder, both real; null where it lies elsewhere. */
function pathWithin(folder: string, place: string): string | null {
  const way = pathFrom(folder, place);
  return way === '..' || way.startsWith('../') || isAbsolute(way) ? null : way;
}

/** Real folders, one in the other. */
interface Stay {
  readonly start: string;
  readonly end: string;
}

/** The ways that lead to where a link leads; null where it leads back to a folder on one of them. */
function staysOnwards(
  root: DiskPath,
  { folder, start, stays }: Pick<Visit, 'folder' | 'start' | 'stays'>,
  real: string,
): readonly Stay[] | null {
  const all = [...stays, { start, end: realpathSync(below(root, folder)) }];
  return all.some((stay) => isOn(stay, real)) ? null : all;
}

/** True for a folder on the way from the start to the end. */
function isOn({ start, end }: Stay, folder: string): boolean {
  const within = (inner: string, outer: string) =>
    inner === outer || inner.startsWith(outer === sep ? sep : outer + sep);
  return within(end, folder) && within(folder, start);
}

/** Errors after which it is known that there is nothing. */
const LEADS_NOWHERE: ReadonlySet<string> = new Set(['ENOENT', 'ELOOP']);

/** Why a device, a pipe or a socket is never opened. */
const DEVICE = 'it is neither a file nor a folder: take it away';

/** Why a name that is no text is left alone. */
const UNNAMABLE = 'its name is not written in UTF-8: rename it';

/** What a folder holds; names that are not UTF-8 apart, with those bytes as escapes that would be taken for others. */
function entriesIn(folder: DiskPath): {
  readonly entries: readonly Dirent[];
  readonly unnamable: readonly string[];
} {
  const entries = direntsIn(folder);
  // Node writes a replacement character for what is no UTF-8, and so do some people.
  if (!entries.some(({ name }) => name.includes('\uFFFD'))) return { entries, unnamable: [] };
  const names = rawNamesIn(folder);
  const sound = new Set(names.filter((name) => isUtf8(name)).map(String));
  return {
    entries: entries.filter(({ name }) => sound.delete(name)),
    unnamable: names.filter((name) => !isUtf8(name)).map(withEscapes),
  };
}

function withEscapes(name: Buffer): string {
  return name
    .toString('latin1')
    .replace(/[^ -~]/g, (byte) => `\\x${byte.charCodeAt(0).toString(16).padStart(2, '0')}`);
}

/** What is below a folder, for taking it along. */
interface Walked {
  /** Paths of files, in order. */
  readonly files: string[];
  /** What is not taken, by the reason. */
  readonly left: ReadonlyMap<string, readonly string[]>;
}

/**
 * Every file below `root` for which `why` gives no reason to leave it (folders are asked for too; theirs end in `/`, and
 * so do links to them). Devices, pipes and sockets are never opened.
 */
export function walkFolder(root: DiskPath, why: (path: string, stands: Stands) => string | null): Walked {
  const files: string[] = [];
  const left = new Map<string, string[]>();
  const leave = (path: string, reason: string) => pushTo(left, reason, path);
  const real = realpathSync(root);
  const visit = (folder: string, stays: readonly Stay[], start: string) => {
    const found = entriesIn(below(root, folder));
    for (const name of found.unnamable) leave(folder + name, 'a name that is not written in UTF-8');
    for (const entry of found.entries) {
      const path = folder + entry.name;
      if (!entry.isSymbolicLink()) {
        const stands = entry.isDirectory() || entry.isFile() ? 'file' : 'device';
        const reason = why(entry.isDirectory() ? `${path}/` : path, stands);
        if (reason !== null) leave(entry.isDirectory() ? `${path}/` : path, reason);
        else if (entry.isDirectory()) visit(`${path}/`, stays, start);
        else files.push(path);
        continue;
      }
      const target = statOrNull(below(root, path));
      const shown = target?.isDirectory() ? `${path}/` : path;
      const to = target === null ? null : realpathSync(below(root, path));
      const way = to === null ? null : pathWithin(real, to);
      const onwards = to === null ? null : staysOnwards(root, { folder, start, stays }, to);
      const isDevice = target !== null && !target.isDirectory() && !target.isFile();
      const stands = way === null || onwards === null ? 'link out' : isDevice ? 'device' : 'link within';
      // What a link leads to is asked for by its own name, too.
      const theirs = way === null ? null : why(target?.isDirectory() ? `${way}/` : way, stands);
      const reason = why(shown, stands) ?? theirs;
      if (reason !== null) leave(shown, reason);
      else if (!target?.isDirectory()) files.push(path);
      else if (onwards !== null) visit(`${path}/`, onwards, to as string);
    }
  };
  visit('', [], real);
  return { files: files.sort(), left };
}
