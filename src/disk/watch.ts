/** Tells when files of a folder change, several changes at once. */

import { basename, sep } from 'node:path';
import { fail } from '../core/errors.ts';
import { isLitter } from '../core/site/admission.ts';
import { around, asWritten, below, type DiskPath, pathFrom, pointedTo } from './disk-path.ts';
import { direntsIn, diskKindOf, readlinkSync, realpathSync } from './fs.ts';
import { statOrNull } from './stat.ts';
import { isBesideWhole } from './write-whole.ts';

/** Changes that come closer together than this are told as one. */
const QUIET_MS = 80;

/** Kinds of disks that lie on other machines (Linux, statfs(2)). */
const FAR: ReadonlySet<number> = new Set([
  0x6969, 0x517b, 0xff534d42, 0xfe534d42, 0x01021997, 0x65735546, 0x5346414f, 0x00c36400,
]);
/** Milliseconds between two looks at a folder that tells nothing by itself. */
const POLL_MS = 1000;

export interface Watcher {
  /** Why the folder is looked at over and over: it lies on another machine, or somebody asked for it. */
  readonly polled: 'far' | 'asked' | null;
  /** The paths that changed since the last call, as soon as there are some; null once the watching ended. */
  next(): Promise<ReadonlySet<string> | null>;
  end(): Promise<void>;
}

/**
 * Watches all files below `folder` that may be part of a site, but for `apart`. Paths start at `folder`, and are
 * `/`-separated. Throws a `CravelError` where there is no such folder.
 */
export async function watchFolder(folder: DiskPath, apart: readonly DiskPath[] = []): Promise<Watcher> {
  const stats = statOrNull(folder);
  if (stats === null) throw fail('no-folder', folder);
  if (!stats.isDirectory()) throw fail('not-a-folder', folder);
  const { watch } = await import('chokidar');
  const root = realpathSync(folder);
  const others = new Set<string>(apart.flatMap(namesOf));
  let changed = new Set<string>();
  let timer: NodeJS.Timeout | undefined;
  let isQuiet = true;
  let isOver = false;
  let wake = () => {};
  const isOurs = (path: string) =>
    !others.has(path) && !path.slice(root.length).split(sep).some(isLitter) && !isBesideWhole(basename(path));
  // Links are not followed by the watcher, which would go round where they lead back: what they lead to is watched.
  const polled = process.env.CRAVEL_WATCH === 'poll' ? 'asked' : isFarAway(root) ? 'far' : null;
  const watcher = watch(root, {
    usePolling: polled !== null,
    interval: POLL_MS,
    ignoreInitial: true,
    followSymlinks: false,
    ignored: (path) => !isOurs(path),
  });
  const links = new Map<DiskPath, DiskPath>();
  const follow = (link: DiskPath) => {
    const target = targetOf(link);
    if (target === null || links.has(link)) return;
    links.set(link, target);
    if (!isWithin(target, root)) watcher.add(target);
  };
  for (const link of linksIn(root, isOurs)) follow(link);

  const note = (path: DiskPath) => {
    if (!isOurs(path)) return;
    follow(path);
    const told = (one: string) => changed.add(pathFrom(root, one));
    if (isWithin(path, root)) told(path);
    for (const [link, target] of links) if (isWithin(path, target)) told(link + path.slice(target.length));
    if (changed.size === 0) return;
    clearTimeout(timer);
    isQuiet = false;
    timer = setTimeout(() => {
      isQuiet = true;
      wake();
    }, QUIET_MS);
  };
  // What cannot be watched is left alone: the check says what it could not read.
  watcher.on('error', () => {});
  await new Promise<void>((done) => {
    watcher.once('ready', done);
  });
  // What happened before is seen by whoever looks now.
  watcher.on('all', (_event, path) => note(asWritten(path)));
  // An edit that keeps the time of the last change is told by the system all the same.
  watcher.on('raw', (_event, name, details) => {
    if (polled !== null) return note(asWritten(name));
    const { watchedPath } = details as { readonly watchedPath: DiskPath };
    if (name) note(basename(watchedPath) === name ? watchedPath : below(watchedPath, name));
  });
  return {
    polled,
    async next() {
      while (!isOver && (changed.size === 0 || !isQuiet))
        await new Promise<void>((done) => {
          wake = done;
        });
      if (isOver) return null;
      const told = changed;
      changed = new Set();
      return told;
    },
    async end() {
      isOver = true;
      clearTimeout(timer);
      wake();
      await watcher.close();
    },
  };
}

/** Disks of other machines do not tell what others do there. */
function isFarAway(root: DiskPath): boolean {
  if (process.platform === 'win32') return root.startsWith('\\\\');
  try {
    return FAR.has(diskKindOf(root));
  } catch {
    return false;
  }
}

/** What a file is called, links followed, and where it lies, links on the way followed. */
function namesOf(path: DiskPath): DiskPath[] {
  const name = below(realOr(around(pointedTo(path))), basename(path));
  return [name, realOr(name)];
}

function realOr(path: DiskPath): DiskPath {
  try {
    return realpathSync(path);
  } catch {
    return path;
  }
}

function isWithin(path: string, folder: string): boolean {
  return path === folder || path.startsWith(folder.endsWith(sep) ? folder : folder + sep);
}

/** The links below a folder, none followed. */
function* linksIn(folder: DiskPath, isOurs: (path: string) => boolean): Iterable<DiskPath> {
  const waiting = [folder];
  for (let here = waiting.pop(); here !== undefined; here = waiting.pop()) {
    for (const entry of entriesOf(here)) {
      const path = below(here, entry.name);
      if (entry.isSymbolicLink()) yield path;
      else if (entry.isDirectory() && isOurs(path)) waiting.push(path);
    }
  }
}

function entriesOf(folder: DiskPath) {
  try {
    return direntsIn(folder);
  } catch {
    return [];
  }
}

/** The file or folder that a link leads to; null where there is none, and for what is no link. */
function targetOf(path: DiskPath): DiskPath | null {
  try {
    readlinkSync(path);
    const stats = statOrNull(path);
    return stats?.isFile() || stats?.isDirectory() ? realpathSync(path) : null;
  } catch {
    return null;
  }
}
