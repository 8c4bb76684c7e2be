/** Where the builds of a downloaded library lie, and the order in which pages load them. */
import { readFile } from '../read/read.ts';
import { resolve } from '../resolve/resolve.ts';
import { folderOf, nameOf } from '../site/inventory.ts';
import type { Chosen } from './builds.ts';
import type { LibraryFiles } from './files.ts';

/** Folders that hold what pages load, and those that never do. */
const DIST = ['dist/', 'build/', 'release/'];
const INSIDE = /^(?:(?:css|styles?|js|scripts?|umd|browser|iife|min)\/)?[^/]+$/i;
export const NEVER =
  /(?:^|\/)(?:tests?|specs?|__tests__|examples?|demos?|docs?|documentation|benchmarks?|src|sources?|node_modules|types|\.[^/]+)\//i;
export const NO_BUILD =
  /(?:^|\/)(?:gulpfile|gruntfile|karma|jest|webpack|rollup|vite|babel|postcss|eslint|prettier)[^/]*\.[cm]?js$|\.(?:config|conf|test|spec|stories)\.[cm]?js$|\.d\.ts$/i;

/** True for a name that is the library's, whatever parts its words. */
export function isCalled(stem: string, name: string): boolean {
  const plain = (text: string) => text.toLowerCase().replace(/[^\p{L}\p{N}]/gu, '');
  return plain(stem) === plain(name);
}

/** Those of one kind that lie where builds lie; else whatever there is, but for tests and the like. */
export function whereBuildsLie(paths: readonly string[]): readonly string[] {
  for (const root of [...DIST, '']) {
    const here = paths.filter(
      (path) => path.startsWith(root) && INSIDE.test(path.slice(root.length)) && !NEVER.test(path),
    );
    if (here.length > 0) return here;
  }
  const anywhere = paths.filter((path) => !NEVER.test(path));
  return anywhere.length > 0 ? anywhere : paths;
}

/** Stylesheets where builds lie; from anywhere else only those beside the scripts, where there are scripts. */
export function stylesBeside(all: readonly string[], scripts: readonly Chosen[]): readonly string[] {
  const near = whereBuildsLie(all);
  if (scripts.length === 0 || near.some((path) => INSIDE.test(path.replace(/^(?:dist|build|release)\//, ''))))
    return near;
  const folders = new Set(scripts.map(({ readable }) => folderOf(readable)));
  return near.filter((path) => folders.has(folderOf(path)));
}

const EARLY = /reset|normali[sz]e|variables|base|core|foundation/i;
const LATE = /theme|skin|dark|light|print|utilit|override/i;

/** In the order of loading: what is imported by another one is loaded by it, and stays out. */
export function inOrder(files: LibraryFiles, chosen: readonly Chosen[], name: string): Chosen[] {
  const imported = new Set(
    chosen.flatMap(({ readable }) =>
      (readFile(readable, files.read(readable))?.references ?? [])
        .filter(({ kind }) => kind === 'stylesheet' || kind === 'module')
        .flatMap(({ written }) => {
          const target = resolve(written, readable);
          return target.in === 'site' && target.path !== readable ? [target.path] : [];
        }),
    ),
  );
  const rank = ({ readable, build }: Chosen) => {
    if (isCalled(build.stem, name)) return 1;
    if (EARLY.test(nameOf(readable))) return 0;
    return LATE.test(nameOf(readable)) ? 3 : 2;
  };
  return chosen
    .filter(({ readable }) => !imported.has(readable))
    .toSorted((a, b) => rank(a) - rank(b) || (a.readable < b.readable ? -1 : 1));
}
