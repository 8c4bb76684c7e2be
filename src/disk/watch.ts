/** Tells when files of a folder change, several changes at once. */
import { relative, sep } from 'node:path';
import { isLitter } from '../core/site/admission.ts';

/** Changes that come closer together than this are told as one. */
const QUIET_MS = 80;

export interface Watcher {
  /** The paths that changed since the last call, as soon as there are some; null once the watching ended. */
  next(): Promise<ReadonlySet<string> | null>;
  end(): Promise<void>;
}

/** Watches all files below `folder` that may be part of a site. Paths start at `folder`, and are `/`-separated. */
export async function watchFolder(folder: string): Promise<Watcher> {
  const { watch } = await import('chokidar');
  let changed = new Set<string>();
  let timer: NodeJS.Timeout | undefined;
  let isQuiet = true;
  let isOver = false;
  let wake = () => {};
  const watcher = watch(folder, {
    ignoreInitial: true,
    ignored: (path) => relative(folder, path).split(sep).some(isLitter),
  });
  watcher.on('all', (_event, path) => {
    changed.add(relative(folder, path).split(sep).join('/'));
    clearTimeout(timer);
    isQuiet = false;
    timer = setTimeout(() => {
      isQuiet = true;
      wake();
    }, QUIET_MS);
  });
  // What cannot be watched is left alone: the check says what it could not read.
  watcher.on('error', () => {});
  await new Promise<void>((resolve) => {
    watcher.once('ready', resolve);
  });
  return {
    async next() {
      while (!isOver && (changed.size === 0 || !isQuiet))
        await new Promise<void>((resolve) => {
          wake = resolve;
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
