/** Takes in what a library's source holds: a folder, an archive, a file, or an http(s) address. */

import { basename, isAbsolute } from 'node:path';
import { CravelError, fail } from '../core/errors.ts';
import { groupBy } from '../core/group-by.ts';
import { Allowance, type Limits } from '../core/library/allowance.ts';
import { packageName, unwrapped } from '../core/library/files.ts';
import { libraryName, saysNothing } from '../core/library/names.ts';
import { referredBy } from '../core/library/shape.ts';
import { whyLeft } from '../core/site/admission.ts';
import { mediaType } from '../core/site/formats.ts';
import { isCalledSmall, otherBuildsOf } from '../core/site/small-builds.ts';
import { decodedOr } from '../web/authorization.ts';
import { beginErrand, download, isWebAddress } from '../web/download.ts';
import { archiveFormat, unpack } from './archive.ts';
import { around, below, type DiskPath, pathFrom, pointedTo, staysBelow } from './disk-path.ts';
import { readFileSync, realpathSync, statSync } from './fs.ts';
import { walkFolder } from './inventory.ts';
import { reasonOf } from './reason.ts';
import { lstatOrNull, statOrNull } from './stat.ts';

export interface Intake {
  /** Every file by its path in the source. */
  readonly files: ReadonlyMap<string, Uint8Array>;
  /** What the library may be called; empty where nothing tells. */
  readonly name: string;
  /** The file that was named, and its minified build; null for folders and archives. */
  readonly chosen: ReadonlySet<string> | null;
  readonly notes: readonly string[];
}

/** Reads a source. Throws a `CravelError`. */
export async function takeIn(
  source: string,
  from: string,
  limits: Limits,
  reach: string | null,
): Promise<Intake> {
  const allowance = new Allowance(source, limits);
  if (isWebAddress(source)) return takeFromWeb(source, allowance, reach);
  const path = pointedTo(source, from);
  const stats = statOrNull(path);
  if (stats === null) throw fail('no-source', source);
  try {
    if (stats.isDirectory()) {
      const { files, notes } = readFolder(path, allowance);
      return wholeIntake(files, basename(path), notes);
    }
    if (!stats.isFile()) throw fail('no-file-there', source);
    if (stats.size > limits.bytes) allowance.bytes(stats.size);
    const bytes = readFileSync(path);
    const format = archiveFormat(bytes);
    if (format !== null) {
      const { files, notes } = admitted(await unpack(source, bytes, format, allowance));
      return wholeIntake(files, basename(path), notes);
    }
    return takeFile(source, path, allowance, reach);
  } catch (error) {
    throw asRefusal(source, error);
  }
}

function asRefusal(source: string, error: unknown): unknown {
  return error instanceof Error && 'syscall' in error ? fail('refused', source, reasonOf(error)) : error;
}

/** A folder or an archive. It is called what its package says, else as it is named, else as the folder inside. */
function wholeIntake(all: ReadonlyMap<string, Uint8Array>, named: string, notes: readonly string[]): Intake {
  const { files, wrapper } = unwrapped(all);
  const names = [packageName(files), named, wrapper].map(libraryName);
  return { files, notes, name: names.find((name) => !saysNothing(name)) ?? '', chosen: null };
}

function readFolder(
  root: DiskPath,
  allowance: Allowance,
): { files: Map<string, Uint8Array>; notes: string[] } {
  const { files: paths, left } = walkFolder(root, (path, stands) => whyLeft('adopt', path, stands));
  const files = new Map<string, Uint8Array>();
  for (const path of paths) {
    allowance.file();
    allowance.bytes(statSync(below(root, path)).size);
    files.set(path, readFileSync(below(root, path)));
  }
  return { files, notes: leftNotes(left) };
}

/** What stays behind, by the reason: each by its name. */
function leftNotes(left: ReadonlyMap<string, Iterable<string>>): string[] {
  return [...left].map(([why, paths]) => `Left, ${why}: ${[...paths].join(', ')}.`);
}

/** What an archive holds that may come along, and notes on what may not. */
function admitted(all: ReadonlyMap<string, Uint8Array>): { files: Map<string, Uint8Array>; notes: string[] } {
  const files = new Map(all);
  const reasons = groupBy(all.keys(), (path) => whyLeft('adopt', path) ?? '');
  reasons.delete('');
  for (const path of [...reasons.values()].flat()) files.delete(path);
  return { files, notes: leftNotes(reasons) };
}

/**
 * A file with what it refers to in its own folder and below, its source map, and its minified build. What lies higher up,
 * or outside of `reach` where that is told, only gets named.
 */
function takeFile(source: string, path: DiskPath, allowance: Allowance, reach: string | null): Intake {
  const name = basename(path);
  if (!/\.(?:css|m?js)$/i.test(name)) throw fail('no-library', source);
  const real = realpathSync(path);
  const root = reach === null ? around(real) : realpathSync(pointedTo(reach));
  const only = pathFrom(root, real);
  if (only.startsWith('../') || isAbsolute(only)) throw fail('out-of-reach', source, reach ?? '');
  const chosen = [only, ...siblings(only)];
  const files = new Map<string, Uint8Array>();
  const left = new Map<string, Set<string>>();
  const outside = new Set<string>();
  const waiting = [...chosen];
  const leave = (file: string, why: string) => left.set(why, (left.get(why) ?? new Set()).add(file));
  for (let next = waiting.pop(); next !== undefined; next = waiting.pop()) {
    if (files.has(next)) continue;
    const stands = standingAt(root, next);
    if (stands === 'nothing') continue;
    const why = next === only ? null : (whyLeft('adopt', next) ?? (isForPages(next) ? null : NOT_FOR_PAGES));
    if (why !== null) leave(next, why);
    else if (stands !== 'a file') leave(next, stands);
    else {
      allowance.file();
      allowance.bytes(statSync(below(root, next)).size);
      const bytes = readFileSync(below(root, next));
      files.set(next, bytes);
      const { inside, beyond } = referredBy(next, bytes);
      for (const one of [...inside, `${next}.map`]) waiting.push(one);
      // Nothing of what lies outside is read.
      for (const [address, steps] of beyond)
        if (statOrNull(pointedTo(steps, root))?.isFile() === true) outside.add(address);
    }
  }
  return {
    files,
    notes: [...leftNotes(left), ...outsideNotes(outside)],
    name: libraryName(name),
    chosen: new Set(chosen),
  };
}

function outsideNotes(outside: ReadonlySet<string>): string[] {
  if (outside.size === 0) return [];
  const files = outside.size === 1 ? '1 file' : `${outside.size} files`;
  return [
    `Names ${files} outside of its folder: ${[...outside].join(', ')}. To take what lies higher up, say how high: --reach <folder>`,
  ];
}

const NOT_FOR_PAGES = 'no page loads such a file';

/** Media types that pages load (RFC 6838). */
const LOADED =
  /^(?:image|font|audio|video|model)\/|^text\/(?:css|javascript|html|plain|csv|vtt|markdown|xml)$|^application\/(?:.*\+)?(?:javascript|json|xml|wasm|pdf|vnd\.ms-fontobject)$/;
/** True for files of the kinds that pages load, by a well-kept list of the names that they have. */
function isForPages(path: string): boolean {
  return LOADED.test(mediaType(path));
}

/** What stands at a path from a folder, no link on the way followed. */
function standingAt(
  root: DiskPath,
  path: string,
): 'a file' | 'nothing' | 'a link' | 'neither a file nor a folder' {
  if (!staysBelow(path)) return 'nothing';
  let here = root;
  for (const step of path.split('/')) {
    here = below(here, step);
    const stats = lstatOrNull(here);
    if (stats === null) return 'nothing';
    if (stats.isSymbolicLink()) return 'a link';
  }
  const stats = lstatOrNull(here);
  if (stats?.isDirectory()) return 'nothing';
  return stats?.isFile() ? 'a file' : 'neither a file nor a folder';
}

/** Where the minified build of a file would lie; whoever names that one means it. */
function siblings(path: string): string[] {
  return isCalledSmall(path) ? [] : otherBuildsOf(path);
}

async function takeFromWeb(address: string, allowance: Allowance, reach: string | null): Promise<Intake> {
  const errand = beginErrand(allowance);
  const first = await download(address, errand);
  const url = new URL(first.url);
  const notes = first.url === address ? [] : [`Fetched from ${first.url}, where ${address} leads.`];
  const fileName = decodedOr(url.pathname.split('/').at(-1) ?? '');
  const format = archiveFormat(first.bytes);
  if (format !== null) {
    const { files, notes: left } = admitted(await unpack(address, first.bytes, format, allowance));
    return wholeIntake(files, fileName, [...notes, ...left]);
  }
  const extension =
    /\.(?:css|m?js)$/i.exec(fileName)?.[0] ??
    (first.type.includes('css') ? '.css' : first.type.includes('javascript') ? '.js' : '');
  if (extension === '' || /^\s*</.test(new TextDecoder().decode(first.bytes.subarray(0, 200))))
    throw fail('no-library', address);
  const root = rootOnHost(url, address, reach);
  // A host that answers without a file name still says what it sends.
  const asked = decodedOr(url.href.replace(/[?#].*$/s, '').slice(root.href.length)) || `index${extension}`;
  const only = /\.(?:css|m?js)$/i.test(fileName) ? asked : `${asked.replace(/\/$/, '')}${extension}`;
  const files = new Map([[only, first.bytes]]);
  const outside = new Set<string>();
  const left = new Map<string, Set<string>>();
  const waiting: string[] = [];
  const take = (path: string, bytes: Uint8Array) => {
    const { inside, beyond } = referredBy(path, bytes);
    for (const one of inside) waiting.push(one);
    for (const one of beyond.keys()) outside.add(one);
  };
  take(only, first.bytes);
  const seen = new Set([only]);
  for (let next = waiting.pop(); next !== undefined; next = waiting.pop()) {
    if (seen.has(next)) continue;
    seen.add(next);
    const why = whyLeft('adopt', next) ?? (isForPages(next) ? null : NOT_FOR_PAGES);
    if (why !== null) {
      left.set(why, (left.get(why) ?? new Set()).add(next));
      continue;
    }
    const place = new URL(encodeURI(next).replace(/[?#]/g, encodeURIComponent), root);
    // What a host says that it does not have is named; what breaks off would make half a library.
    const part = await download(place.href, errand, root).catch((error) => {
      if (!(error instanceof CravelError) || error.code !== 'not-fetched') throw error;
      const [said] = error.sentences;
      return said ?? '';
    });
    if (typeof part === 'string') notes.push(part);
    else {
      files.set(next, part.bytes);
      take(next, part.bytes);
    }
  }
  return {
    files,
    notes: [...notes, ...leftNotes(left), ...outsideNotes(outside)],
    name: nameFromAddress(url),
    chosen: new Set([only]),
  };
}

/** The folder on the host that what comes along must lie in. */
function rootOnHost(url: URL, address: string, reach: string | null): URL {
  const own = new URL('.', url);
  if (reach === null) return own;
  const root = URL.canParse(reach) ? new URL('.', reach) : null;
  if (root === null || !own.href.startsWith(root.href)) throw fail('out-of-reach', address, reach);
  return root;
}

/** `https://host/tideclock@2.3.1/dist/index.js` is called tideclock. */
function nameFromAddress({ pathname }: URL): string {
  const steps = decodedOr(pathname)
    .split('/')
    .filter((step) => step !== '')
    .reverse();
  const names = steps.map(libraryName);
  return names.find((name) => !saysNothing(name) && !/^[0-9.-]+$/.test(name)) ?? '';
}
