/** Shapes a downloaded library: what of it is taken, under which names, and in which order pages load it. */
import { applyEdits, type Edit } from '../change/edit.ts';
import { onceFor } from '../once-for.ts';
import { isIdentifier, namesOfScript, type ScriptNames } from '../order/made-names.ts';
import { readFile } from '../read/read.ts';
import { resolve } from '../resolve/resolve.ts';
import { folderOf, nameOf } from '../site/inventory.ts';
import { safeName } from '../site/names.ts';
import type { Chosen } from './builds.ts';
import { type Choice, type ChoiceOptions, chooseFiles } from './choose.ts';
import { LibraryFiles } from './files.ts';
import { withoutVersion } from './names.ts';
import { NEVER } from './where-builds-lie.ts';

export interface ShapedLibrary {
  /** What is taken, by the path that it gets in the library's folder. */
  readonly taken: ReadonlyMap<string, Uint8Array>;
  /** What pages load, by the path that it gets, with the reason; none where there was no choice. */
  readonly because: ReadonlyMap<string, string>;
  /** What is not taken, with the reason. */
  readonly left: readonly { readonly path: string; readonly why: string }[];
  readonly styles: readonly string[];
  readonly scripts: readonly string[];
  readonly release: Readonly<Record<string, string>>;
  readonly provides: readonly string[];
  /** Names that its scripts need of other libraries. */
  readonly needed: readonly string[];
  /** Names of other libraries that its scripts look for, and do without. */
  readonly asked: readonly string[];
  /** Names of the packages that it says it needs. */
  readonly dependencies: readonly string[];
  /** The paths that files get, by those that they had. */
  readonly places: ReadonlyMap<string, string>;
}

/** At the top by the start of its name; beside what is taken by any part of it. */
const LICENCE = /^(?:licen[cs]e|copying|notice)[^/]*$/i;
const NAMED_LICENCE = /(?:^|[._-])(?:licen[cs]e|copying|notice)s?(?:[._-][^/]*)?$/i;

/** Null where there is nothing that a page could load. */
export function shapeLibrary(
  all: ReadonlyMap<string, Uint8Array>,
  options: ChoiceOptions,
): ShapedLibrary | null {
  const files = new LibraryFiles(all);
  const namesOf = (path: string) => namesIn(files.read(path));
  const choice = chooseFiles(
    files,
    {
      namesOf,
      textOf: (path) => textOf(files.read(path)),
      isDense: (path) => isDense(files.read(path)),
    },
    options,
  );
  const chosen = [...choice.styles, ...choice.scripts];
  if (chosen.length === 0) return null;
  const builds = chosen.flatMap(({ readable, minified }) =>
    minified === null ? [readable] : [readable, minified],
  );
  const reached = reach(files, [...builds, ...options.wanted]);
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
  const mains = (some: readonly Chosen[]) => some.map(({ readable }) => nameFor(readable));
  const release: Record<string, string> = {};
  for (const { readable, minified } of chosen)
    if (minified !== null) release[nameFor(readable)] = nameFor(minified);
  const scripts = choice.scripts.map(({ readable }) => namesOf(readable));
  const own = new Set(scripts.flatMap(({ makes }) => makes));
  const isOpen = scripts.some((one) => one.isOpen);
  const others = (some: readonly string[]) => [...new Set(some)].filter((name) => !own.has(name));
  // What a script of the library makes, nobody can tell, may be just what another one needs.
  const needs = isOpen && scripts.length > 1 ? [] : others(scripts.flatMap((one) => one.needs));
  const asked = others(scripts.flatMap(({ asks }) => asks));
  return {
    taken,
    because: new Map(
      [...choice.because].filter(([path]) => names.has(path)).map(([path, why]) => [nameFor(path), why]),
    ),
    left: leftOver(files, new Set([...reached, ...licences]), choice),
    styles: mains(choice.styles),
    scripts: mains(choice.scripts),
    release,
    // A script that makes more is no library.
    provides: [...new Set(scripts.flatMap(({ makes }) => makes.filter(isIdentifier).slice(0, MOST_NAMES)))],
    needed: [...new Set([...needs, ...asked.filter((name) => isNamedBy(files.dependencies(), name))])],
    asked,
    dependencies: files.dependencies(),
    places: names,
  };
}

/** True where a package is called as the name that it makes: what is looked for is needed, then. */
function isNamedBy(packages: readonly string[], name: string): boolean {
  return packages.some((one) => one.toLowerCase() === name.toLowerCase());
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

/** Names of one script that are recorded. */
const MOST_NAMES = 8;

/** What each script makes and needs. */
const namesIn = onceFor((bytes: Uint8Array): ScriptNames => namesOfScript(textOf(bytes)));
const textOf = onceFor((bytes: Uint8Array): string => new TextDecoder().decode(bytes));

/** Bytes in a line of code that was made small, at least, on an average. */
const DENSE = 400;

/** True for what is written for machines: long lines, and few of them. */
function isDense(bytes: Uint8Array): boolean {
  const text = textOf(bytes).trimEnd();
  return text.length > 2 * DENSE && text.length > DENSE * text.split('\n').length;
}

/** Reasons of what pages would not load anyway. */
export const NOT_FOR_PAGES = 'not for pages';
export const NOT_REFERRED = 'nothing taken refers to it';

function leftOver(files: LibraryFiles, taken: ReadonlySet<string>, { left }: Choice) {
  const whyOf = (path: string) => left.get(path) ?? (NEVER.test(path) ? NOT_FOR_PAGES : NOT_REFERRED);
  return files
    .paths()
    .filter((path) => !taken.has(path))
    .map((path) => ({ path, why: whyOf(path) }));
}
