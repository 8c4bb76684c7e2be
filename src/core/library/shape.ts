/** Shapes a downloaded library: what of it is taken, under which names, and in which order pages load it. */
import { applyEdits, type Edit } from '../change/edit.ts';
import { onceFor } from '../once-for.ts';
import { isForServers, namesOfScript, type ScriptNames } from '../order/made-names.ts';
import { inOrderOfNeeds } from '../order/needs-first.ts';
import { readFile } from '../read/read.ts';
import { resolve } from '../resolve/resolve.ts';
import { extensionOf, folderOf, nameOf } from '../site/inventory.ts';
import { safeName } from '../site/names.ts';
import { type Chosen, chooseBuilds } from './builds.ts';
import { LibraryFiles } from './files.ts';
import { withoutVersion } from './names.ts';

export interface ShapedLibrary {
  /** What is taken, by the path that it gets in the library's folder. */
  readonly taken: ReadonlyMap<string, Uint8Array>;
  /** What is not, with the reason. */
  readonly left: readonly { readonly path: string; readonly why: string }[];
  readonly styles: readonly string[];
  readonly scripts: readonly string[];
  readonly release: Readonly<Record<string, string>>;
  readonly provides: readonly string[];
  /** Names that its scripts need of other libraries. */
  readonly needed: readonly string[];
  /** Names of the packages that it says it needs. */
  readonly dependencies: readonly string[];
}

export interface ShapeOptions {
  readonly name: string;
  /** Files that somebody chose; null leaves the choice to what they are called. */
  readonly isChosen: ((path: string) => boolean) | null;
}

/** Folders that hold what pages load, and those that never do. */
const DIST = ['dist/', 'build/', 'release/'];
const INSIDE = /^(?:(?:css|styles?|js|scripts?|umd|browser|iife|min)\/)?[^/]+$/i;
const NEVER =
  /(?:^|\/)(?:tests?|specs?|__tests__|examples?|demos?|docs?|documentation|benchmarks?|src|sources?|node_modules|types|\.[^/]+)\//i;
const NO_BUILD =
  /(?:^|\/)(?:gulpfile|gruntfile|karma|jest|webpack|rollup|vite|babel|postcss|eslint|prettier)[^/]*\.[cm]?js$|\.(?:config|conf|test|spec|stories)\.[cm]?js$|\.d\.ts$/i;
/** At the top by the start of its name; beside what is taken by any part of it. */
const LICENCE = /^(?:licen[cs]e|copying|notice)[^/]*$/i;
const NAMED_LICENCE = /(?:^|[._-])(?:licen[cs]e|copying|notice)s?(?:[._-][^/]*)?$/i;

/** Null where there is nothing that a page could load. */
export function shapeLibrary(
  all: ReadonlyMap<string, Uint8Array>,
  options: ShapeOptions,
): ShapedLibrary | null {
  const files = new LibraryFiles(all);
  const namesOf = (path: string) => namesIn(files.read(path));
  const loadable = candidatesIn(files, options.isChosen);
  const candidates = options.isChosen === null ? forBrowsers(loadable, namesOf) : loadable;
  const chosen = chooseBuilds(candidates);
  if (chosen.length === 0) return null;
  const reached = reach(
    files,
    chosen.flatMap(({ readable, minified }) => (minified === null ? [readable] : [readable, minified])),
  );
  const root = commonFolder([...reached]);
  const names = newNames(reached, root, chosen);
  const taken = new Map<string, Uint8Array>();
  for (const path of reached)
    taken.set(names.get(path) as string, renamedWithin(path, files.read(path), names));
  const folders = new Set([...reached].map(folderOf));
  const licences = files.paths().filter((path) => isLicence(path, folders));
  for (const path of licences) {
    const place = placeOf(path, root);
    if (!taken.has(place)) taken.set(place, files.read(path));
  }
  const nameFor = (path: string) => names.get(path) as string;
  const ordered = inOrder(files, chosen, options.name);
  const mains = (extension: string) =>
    ordered.filter(({ build }) => build.extension === extension).map(({ readable }) => readable);
  const release: Record<string, string> = {};
  for (const { readable, minified } of ordered)
    if (minified !== null) release[nameFor(readable)] = nameFor(minified);
  const scripts = inOrderOfNeeds(mains('js'), namesOf);
  const own = scripts.flatMap((path) => namesOf(path).makes);
  return {
    taken,
    left: leftOver(files, new Set([...reached, ...licences]), candidates, loadable),
    styles: mains('css').map(nameFor),
    scripts: scripts.map(nameFor),
    release,
    // A script that makes more is no library.
    provides: [...new Set(scripts.flatMap((path) => namesOf(path).makes.slice(0, MOST_NAMES)))],
    needed: [...new Set(scripts.flatMap((path) => namesOf(path).needs))].filter(
      (name) => !own.includes(name),
    ),
    dependencies: files.dependencies(),
  };
}

/** Terms come along with what they are for: those of the whole library, and those that lie beside a file that is taken. */
function isLicence(path: string, folders: ReadonlySet<string>): boolean {
  if (LICENCE.test(path)) return true;
  const folder = folderOf(path);
  return NAMED_LICENCE.test(nameOf(path)) && (folder === '' || folders.has(folder));
}

function placeOf(path: string, root: string): string {
  return path.startsWith(root) ? path.slice(root.length) : nameOf(path);
}

function candidatesIn(files: LibraryFiles, isChosen: ShapeOptions['isChosen']): string[] {
  const loadable = files.paths().filter((path) => /^(?:css|m?js|cjs)$/.test(extensionOf(path)));
  if (isChosen !== null) return loadable.filter(isChosen);
  const sound = loadable.filter((path) => !NO_BUILD.test(path));
  for (const root of [...DIST, '']) {
    const here = sound.filter(
      (path) => path.startsWith(root) && INSIDE.test(path.slice(root.length)) && !NEVER.test(path),
    );
    if (here.length > 0) return here;
  }
  // Nothing lies where builds lie: whatever there is, then, but for tests and the like.
  const anywhere = sound.filter((path) => !NEVER.test(path));
  return anywhere.length > 0 ? anywhere : sound;
}

/** The files and all that they refer to among the files, with their source maps. */
function reach(files: LibraryFiles, starts: readonly string[]): Set<string> {
  const reached = new Set<string>();
  const waiting = [...starts];
  for (let path = waiting.pop(); path !== undefined; path = waiting.pop()) {
    if (reached.has(path) || !files.has(path)) continue;
    reached.add(path);
    for (const next of referredBy(path, files.read(path)).inside) waiting.push(next);
  }
  return reached;
}

/** What a file refers to by references, hints and the comment that names its source map. */
export interface Referred {
  /** Paths from the folder that its own path starts in. */
  readonly inside: readonly string[];
  /** What leads out of it: the steps from there, decoded, by the address as written. */
  readonly beyond: ReadonlyMap<string, string>;
}

export function referredBy(path: string, bytes: Uint8Array): Referred {
  const reading = readFile(path, bytes);
  const written = [...(reading?.references ?? []), ...(reading?.hints ?? [])].map(
    ({ written: text }) => text,
  );
  const map = sourceMap(bytes);
  if (map !== null) written.push(map.written);
  const inside = new Set<string>();
  const beyond = new Map<string, string>();
  for (const text of written) {
    const target = resolve(text, path);
    if (target.in === 'beyond') beyond.set(text, target.folder + target.segments.join('/'));
    else if (target.in === 'site' && target.path !== path) inside.add(target.path);
  }
  return { inside: [...inside], beyond };
}

/** The comment that names a source map (ECMA-426, 11.1.2), at the end of a script or stylesheet. */
function sourceMap(bytes: Uint8Array): { written: string; start: number; end: number } | null {
  const from = Math.max(0, bytes.length - 1024);
  const tail = String.fromCharCode(...bytes.subarray(from));
  const found = /[#@][ \t]*sourceMappingURL=([^\s*'"]+)[^\n]*\s*$/.exec(tail);
  if (!found?.[1] || found[1].startsWith('data:')) return null;
  const start = from + found.index + found[0].indexOf(found[1]);
  return { written: found[1], start, end: start + found[1].length };
}

function commonFolder(paths: readonly string[]): string {
  let folder = folderOf(paths[0] ?? '');
  while (!paths.every((path) => path.startsWith(folder))) folder = folderOf(folder.slice(0, -1));
  return folder;
}

/** Paths from the common folder; the names of builds and their maps lose their version, capitals and odd characters. */
function newNames(
  reached: ReadonlySet<string>,
  root: string,
  chosen: readonly Chosen[],
): Map<string, string> {
  const builds = new Set(
    chosen.flatMap(({ readable, minified }) => (minified === null ? [readable] : [readable, minified])),
  );
  const names = new Map<string, string>();
  const used = new Set<string>();
  for (const path of [...reached].sort()) {
    const inside = path.slice(root.length);
    const isBuild = builds.has(path) || (path.endsWith('.map') && builds.has(path.slice(0, -4)));
    const name = isBuild ? safeName(withoutVersion(nameOf(path))) : nameOf(path);
    const renamed = folderOf(inside) + name;
    // Two files never get one name.
    names.set(path, used.has(renamed) || name === '' ? inside : renamed);
    used.add(names.get(path) as string);
  }
  return names;
}

/** A file whose references to renamed files follow. */
function renamedWithin(path: string, bytes: Uint8Array, names: ReadonlyMap<string, string>): Uint8Array {
  const spots = [...(readFile(path, bytes)?.references ?? [])].map(({ written, offset, length }) => ({
    written,
    start: offset,
    end: offset + length,
  }));
  const map = sourceMap(bytes);
  if (map !== null) spots.push(map);
  const edits: Edit[] = [];
  for (const { written, start, end } of spots) {
    const target = resolve(written, path);
    const renamed = target.in === 'site' ? names.get(target.path) : undefined;
    if (renamed === undefined || target.in !== 'site' || nameOf(renamed) === nameOf(target.path)) continue;
    const text = new TextDecoder().decode(bytes.subarray(start, end));
    const at = text.lastIndexOf(nameOf(target.path));
    if (at < 0) continue;
    const changed = text.slice(0, at) + nameOf(renamed) + text.slice(at + nameOf(target.path).length);
    edits.push({ start, end, text: changed });
  }
  return applyEdits(bytes, edits);
}

const EARLY = /reset|normali[sz]e|variables|base|core|foundation/i;
const LATE = /theme|skin|dark|light|print|utilit|override/i;

/** In the order of loading: what is imported by another one is loaded by it, and stays out. */
function inOrder(files: LibraryFiles, chosen: readonly Chosen[], name: string): Chosen[] {
  const imported = new Set(
    chosen.flatMap(({ readable }) =>
      (readFile(readable, files.read(readable))?.references ?? [])
        .filter(({ kind }) => kind === 'stylesheet' || kind === 'module')
        .flatMap(({ written }) => {
          const target = resolve(written, readable);
          return target.in === 'site' ? [target.path] : [];
        }),
    ),
  );
  const rank = ({ readable, build }: Chosen) => {
    if (build.stem.toLowerCase() === name) return 1;
    if (EARLY.test(nameOf(readable))) return 0;
    return LATE.test(nameOf(readable)) ? 3 : 2;
  };
  return chosen
    .filter(({ readable }) => !imported.has(readable))
    .toSorted((a, b) => rank(a) - rank(b) || (a.readable < b.readable ? -1 : 1));
}

/** Names of one script that are recorded. */
const MOST_NAMES = 8;

/** What each script makes and needs. */
const namesIn = onceFor((bytes: Uint8Array): ScriptNames => namesOfScript(new TextDecoder().decode(bytes)));

/** Without builds that throw in every browser, where there are others. */
function forBrowsers(
  candidates: readonly string[],
  namesOf: (path: string) => ScriptNames,
): readonly string[] {
  const isScript = (path: string) => extensionOf(path) !== 'css';
  const sound = candidates.filter((path) => !isScript(path) || !isForServers(namesOf(path)));
  return sound.some(isScript) || !candidates.some(isScript) ? sound : candidates;
}

function leftOver(
  files: LibraryFiles,
  reached: ReadonlySet<string>,
  candidates: readonly string[],
  loadable: readonly string[],
) {
  return files
    .paths()
    .filter((path) => !reached.has(path))
    .map((path) => ({
      path,
      why: candidates.includes(path)
        ? 'another build'
        : loadable.includes(path)
          ? 'for servers: it throws in a browser'
          : NEVER.test(path)
            ? 'not for pages'
            : 'nothing taken refers to it',
    }));
}
