/** Takes in what a library's source holds: a folder, an archive, a file, or an http(s) address. */
import { readFileSync, statSync } from 'node:fs';
import { basename, dirname, join, resolve as resolvePath } from 'node:path';
import { fail } from '../core/errors.ts';
import { packageName, unwrapped } from '../core/library/files.ts';
import { libraryName, saysNothing } from '../core/library/names.ts';
import { referredBy } from '../core/library/shape.ts';
import { Allowance, archiveFormat, type Limits, unpack } from './archive.ts';
import { download, isWebAddress } from './download.ts';
import { walkFolder } from './inventory.ts';
import { reasonOf } from './reason.ts';
import { statOrNull } from './stat.ts';

export interface Intake {
  /** Every file by its path in the source. */
  readonly files: ReadonlyMap<string, Uint8Array>;
  /** What the library may be called; empty where nothing tells. */
  readonly name: string;
  /** The file that was named, and its other build; null for folders and archives. */
  readonly chosen: ReadonlySet<string> | null;
  readonly notes: readonly string[];
}

/** Reads a source. Throws a `CravelError`. */
export async function takeIn(source: string, from: string, limits: Limits): Promise<Intake> {
  const allowance = new Allowance(source, limits);
  if (isWebAddress(source)) return takeFromWeb(source, allowance);
  const path = resolvePath(from, source);
  const stats = statOrNull(path);
  if (stats === null) throw fail('no-source', source);
  try {
    if (stats.isDirectory()) {
      const { files, notes } = readFolder(path, allowance);
      return wholeIntake(files, basename(path), notes);
    }
    if (stats.size > limits.bytes) allowance.bytes(stats.size);
    const bytes = readFileSync(path);
    const format = archiveFormat(bytes);
    if (format !== null) {
      return wholeIntake(await unpack(source, bytes, format, allowance), basename(path), []);
    }
    return takeFile(source, path, allowance);
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

const SKIPPED =
  /(?:^|\/)(?:\.git|\.hg|\.svn|node_modules)\/$|(?:^|\/)(?:\.DS_Store|Thumbs\.db|desktop\.ini)$/;

function readFolder(root: string, allowance: Allowance): { files: Map<string, Uint8Array>; notes: string[] } {
  const { files: paths, links, unnamable } = walkFolder(root, (path) => !SKIPPED.test(path));
  const files = new Map<string, Uint8Array>();
  for (const path of paths) {
    allowance.file();
    allowance.bytes(statSync(join(root, path)).size);
    files.set(path, readFileSync(join(root, path)));
  }
  const left = [
    ...links.map((path) => [path, 'it is a link'] as const),
    ...unnamable.map((path) => [path, 'its name is not written in UTF-8'] as const),
  ];
  return { files, notes: left.map(([path, why]) => `Left: ${path}: ${why}.`) };
}

/** A file with what it refers to beside it, its source map, and its other build. */
function takeFile(source: string, path: string, allowance: Allowance): Intake {
  const name = basename(path);
  if (!/\.(?:css|m?js)$/i.test(name)) throw fail('no-library', source);
  // References may lead upwards: paths are kept from three folders above.
  const root = [1, 2, 3].reduce((folder) => dirname(folder), dirname(path));
  const only = path
    .slice(root.length)
    .replace(/^[/\\]/, '')
    .replaceAll('\\', '/');
  const files = new Map<string, Uint8Array>();
  const waiting = [only, ...siblings(only)];
  for (let next = waiting.pop(); next !== undefined; next = waiting.pop()) {
    const file = join(root, next);
    if (files.has(next) || statOrNull(file)?.isFile() !== true) continue;
    allowance.file();
    allowance.bytes(statSync(file).size);
    files.set(next, readFileSync(file));
    waiting.push(...referredBy(next, files.get(next) as Uint8Array), `${next}.map`);
  }
  return { files, notes: [], name: libraryName(name), chosen: new Set([only, ...siblings(only)]) };
}

/** Where the other build of a file would lie. */
function siblings(path: string): string[] {
  const [, stem = path, end = ''] = /^(.*?)((?:\.m?js|\.css))$/i.exec(path) ?? [];
  return /[-.]min$/i.test(stem)
    ? [stem.replace(/[-.]min$/i, '') + end]
    : [`${stem}.min${end}`, `${stem}-min${end}`];
}

async function takeFromWeb(address: string, allowance: Allowance): Promise<Intake> {
  const first = await download(address, allowance);
  const url = new URL(first.url);
  const notes = first.url === address ? [] : [`Fetched from ${first.url}, where ${address} leads.`];
  const fileName = decodeURIComponent(url.pathname.split('/').at(-1) ?? '');
  const format = archiveFormat(first.bytes);
  if (format !== null) {
    return wholeIntake(await unpack(address, first.bytes, format, allowance), fileName, notes);
  }
  const extension =
    /\.(?:css|m?js)$/i.exec(fileName)?.[0] ??
    (first.type.includes('css') ? '.css' : first.type.includes('javascript') ? '.js' : '');
  if (extension === '' || /^\s*</.test(new TextDecoder().decode(first.bytes.subarray(0, 200))))
    throw fail('no-library', address);
  // A host that answers without a file name still says what it sends.
  const asPath = (at: URL) => decodeURIComponent(at.pathname).slice(1) || `index${extension}`;
  const only = /\.(?:css|m?js)$/i.test(fileName)
    ? asPath(url)
    : `${asPath(url).replace(/\/$/, '')}${extension}`;
  const files = new Map([[only, first.bytes]]);
  const waiting = referredBy(only, first.bytes);
  const asked = new Set([only]);
  for (let next = waiting.pop(); next !== undefined; next = waiting.pop()) {
    if (asked.has(next)) continue;
    asked.add(next);
    const part = await download(
      new URL(`/${encodeURI(next).replace(/[?#]/g, encodeURIComponent)}`, url).href,
      allowance,
    ).catch(() => null);
    if (part === null) notes.push(`Not found on the host: ${next}.`);
    else {
      files.set(next, part.bytes);
      waiting.push(...referredBy(next, part.bytes));
    }
  }
  return { files, notes, name: nameFromAddress(url), chosen: new Set([only]) };
}

/** `https://host/tideclock@2.3.1/dist/index.js` is called tideclock. */
function nameFromAddress({ pathname }: URL): string {
  const steps = decodeURIComponent(pathname)
    .split('/')
    .filter((step) => step !== '')
    .reverse();
  const names = steps.map(libraryName);
  return names.find((name) => !saysNothing(name) && !/^[0-9.-]+$/.test(name)) ?? '';
}
