/** Brings files from another project with everything that they load, to the places of this one. */

import { areEqual, ChangedFiles, type Files } from '../change/files.ts';
import { fail } from '../errors.ts';
import { beforeEnd } from '../page/manner.ts';
import { openPage } from '../page/page.ts';
import { partsOf } from '../page/parts.ts';
import { tagsOf } from '../page/tags.ts';
import { isLoaded } from '../read/loaded.ts';
import { isPage, readFile } from '../read/read.ts';
import { locate } from '../resolve/locate.ts';
import { baseAddress, resolve } from '../resolve/resolve.ts';
import { whyLeft } from '../site/admission.ts';
import { sortOfFile } from '../site/formats.ts';
import { type Inventory, makeInventory, nameOf } from '../site/inventory.ts';
import { type Places, type Role, roles } from '../site/places.ts';
import { moveFiles } from './move.ts';

/** The project that files come from. */
export interface Source {
  /** As people call it. */
  readonly shown: string;
  readonly inventory: Inventory;
  readonly places: Places;
  readonly entry: string;
  /** Its bytes; they are good until the next are asked for. */
  bytesOf(path: string): Uint8Array;
}

export interface Brought {
  /** Files that came, by their paths there. */
  readonly files: ReadonlyMap<string, string>;
  /** Those that were here already, word for word. */
  readonly known: readonly string[];
  /** What they load, and what does not come along, with the reason. */
  readonly left: ReadonlyMap<string, string>;
}

/** Where a path of the one project lies in the other. */
export function placedIn(own: Places, others: Places): (path: string) => string {
  const moves = roles.flatMap((role): (readonly [string, string])[] => {
    const [from, to] = [others[role], own[role]];
    return from === undefined || to === undefined || from === '.'
      ? []
      : [[`${from}/`, to === '.' ? '' : `${to}/`]];
  });
  // The folder that lies further down counts.
  moves.sort(([one], [other]) => other.length - one.length);
  return (path) => {
    const move = moves.find(([from]) => path.startsWith(from));
    if (move !== undefined) return move[1] + path.slice(move[0].length);
    // Where the other project has no place for its kind, it goes to the one of this project.
    const role = roleOf(path);
    const place = role === null || others[role] !== undefined ? undefined : own[role];
    return place === undefined || place === '.' ? path : `${place}/${nameOf(path)}`;
  };
}

function roleOf(path: string): Role | null {
  const sort = sortOfFile(path);
  return Object.hasOwn(rolesBySort, sort) ? (rolesBySort[sort] as Role) : null;
}

const rolesBySort: Readonly<Record<string, Role>> = {
  style: 'styles',
  script: 'scripts',
  image: 'images',
  font: 'fonts',
  audio: 'media',
};

/**
 * Writes what `named` of the other project and all that they load become here. `placeOf` says where each goes. Throws a
 * `CravelError` where another file is there already.
 */
export async function bringFiles(
  files: Files,
  source: Source,
  named: readonly string[],
  placeOf: (path: string) => string,
): Promise<Brought> {
  const { inventory } = source;
  const { coming, left } = closureOf(source, named);
  const places = new Map<string, string>();
  for (const path of coming) {
    const other = places.get(placeOf(path));
    if (other !== undefined)
      throw fail('bring-clash', `${source.shown}/${path}`, `${placeOf(path)}, as ${other} does`);
    places.set(placeOf(path), path);
  }
  const scratch = await relocated(source, coming, (path) =>
    inventory.folders.has(path) || !path.endsWith('/') ? placeOf(path) : path,
  );
  const came = new Map<string, string>();
  const known: string[] = [];
  for (const path of coming) {
    const place = placeOf(path);
    const bytes = scratch.read(place);
    if (!files.has(place)) {
      files.write(place, bytes);
      came.set(path, place);
    } else if (areEqual(files.read(place), bytes)) known.push(place);
    else throw fail('bring-clash', `${source.shown}/${path}`, place);
  }
  return { files: came, known, left };
}

/** Files of another project as they are where they go: their references lead where those go that they led to. */
async function relocated(
  { entry, bytesOf }: Source,
  paths: Iterable<string>,
  of: (path: string) => string,
): Promise<ChangedFiles> {
  const files = new ChangedFiles(paths, (path) => new Uint8Array(bytesOf(path)));
  await moveFiles({
    files,
    inventory: makeInventory(paths),
    published: null,
    entry,
    renaming: { of },
    bytesOf,
    marksOf: () => undefined,
    isDone: false,
  });
  return files;
}

/** Files with all that they load, by any chain. */
function closureOf(
  { inventory, bytesOf }: Source,
  named: readonly string[],
): { readonly coming: ReadonlySet<string>; readonly left: Map<string, string> } {
  const coming = new Set(named);
  const left = new Map<string, string>();
  /** Of scripts, addresses that start from the pages that run them. */
  const asked = new Set<string>();
  const seen = new Set<string>();
  const take = (path: string) => {
    const why = whyLeft('adopt', path);
    if (why === null) coming.add(path);
    else left.set(path, why);
  };
  const follow = (path: string) => {
    const reading = readFile(path, bytesOf(path));
    const base = reading && baseAddress(path, reading.base);
    for (const { kind, written, from, holder } of reading?.references ?? []) {
      if (!isLoaded({ kind }) && (kind !== 'data' || holder.syntax !== 'script')) continue;
      const address = written.replace(/[?#].*/s, '');
      if (from !== 'file' && !isPage(path)) asked.add(address);
      const found = foundAt(inventory, address, base);
      if (found !== null) take(found);
    }
  };
  // What comes along may load more.
  for (let amount = -1; amount !== coming.size; ) {
    amount = coming.size;
    for (const path of coming) {
      if (!seen.has(path)) follow(path);
      seen.add(path);
    }
    for (const page of [...coming].filter(isPage))
      for (const address of asked) {
        const found = foundAt(inventory, address, page);
        if (found !== null) take(found);
      }
  }
  return { coming, left };
}

function foundAt(inventory: Inventory, address: string, base: string | null): string | null {
  const target = address.trim() === '' ? null : resolve(address, base);
  return target?.in === 'site' ? locate(inventory, target.path) : null;
}

/** The parts that the entry page of the other project marks, each with the files that it loads. */
export function partsThere({ inventory, entry, bytesOf }: Source): ReadonlyMap<string, readonly string[]> {
  if (!inventory.files.has(entry)) return new Map();
  const page = openPage(entry, new Uint8Array(bytesOf(entry)));
  const loads = page.reading.references.filter(isLoaded);
  return new Map(
    partsOf(page).map(({ name, innerStart, innerEnd }) => {
      const own = loads.filter(({ offset }) => offset >= innerStart && offset < innerEnd);
      return [
        name,
        own.flatMap(({ written }) => foundAt(inventory, written.replace(/[?#].*/s, ''), page.base) ?? []),
      ];
    }),
  );
}

/** Puts parts of the other entry page at the end of this one's body, their references written anew. */
export async function bringParts(
  files: Files,
  source: Source,
  names: readonly string[],
  own: string,
  placeOf: (path: string) => string,
): Promise<void> {
  const { entry } = source;
  if (names.length === 0) return;
  if (!files.has(own)) throw fail('no-entry-page', own);
  const scratch = await relocated(source, [entry], (path) => (path === entry ? own : placeOf(path)));
  const there = openPage(own, scratch.read(own));
  for (const name of names) {
    const page = openPage(own, files.read(own));
    const part = partsOf(there).find((one) => one.name === name);
    if (partsOf(page).some((one) => one.name === name)) throw fail('part-there', name);
    if (part === undefined) continue;
    const tags = tagsOf(page);
    const body = tags.first('body');
    const end = body === null ? null : beforeEnd(tags, body);
    const text = there.text(part.start, part.end);
    const at = end?.at ?? page.source.bytes.length;
    files.write(own, page.edited([{ start: at, end: at, text: `${end?.lead ?? page.newline}${text}` }]));
  }
}

/** The file of another project that a missing one may be: at the same place, else the only one of its name. */
export function counterpartOf(
  missing: string,
  { inventory }: Pick<Source, 'inventory'>,
  placeThere: (path: string) => string,
): string | null {
  for (const path of [placeThere(missing), missing]) if (inventory.files.has(path)) return path;
  const name = nameOf(missing);
  const alike = [...inventory.files].filter((path) => nameOf(path) === name);
  return alike.length === 1 ? (alike[0] as string) : null;
}
