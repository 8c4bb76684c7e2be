/** Where the files of a starter go in a project: as they lie in the starter, but for those that a blank says otherwise of. */
import { fail } from '../errors.ts';
import { folderOf } from '../site/inventory.ts';
import { type Places, type Role, sitePrefix, staysInside } from '../site/places.ts';
import type { Manifest } from './manifest.ts';
import { fillText } from './template.ts';

export interface Placing {
  /** The path in the project of what has this path in the starter. */
  of(path: string): string;
  /** The folder of each role, from the site's root. */
  readonly places: Places;
}

/** `shown`: the manifest, as it is named in messages. Throws a `CravelError` where a path leads out of the project. */
export function placingOf(
  { put, places, site }: Manifest,
  values: Readonly<Record<string, string>>,
  shown: string,
): Placing {
  const moved = Object.entries(put).map(([from, template]) => {
    const to = plainPath(fillText(template, values, shown));
    if (!staysInside(to) || to.includes('//'))
      throw fail(
        'manifest',
        shown,
        `it puts ${from} at ${to}`,
        'Correct the path, or the blanks that it is made of.',
      );
    return [from, to] as const;
  });
  const of = (path: string) => {
    const found = moved.find(([from]) => (from.endsWith('/') ? path.startsWith(from) : path === from));
    return found === undefined ? path : plainPath(found[1] + path.slice(found[0].length));
  };
  const prefix = sitePrefix(site);
  const placeOf = (folder: string): string => {
    const own = `${prefix}${folder.replace(/\/+$/, '')}/`;
    const [from, to] = moved.find(([path]) => path === own || folderOf(path) === own) ?? [own, own];
    const now = from.endsWith('/') ? to : folderOf(to);
    return now.startsWith(prefix) ? now.slice(prefix.length).replace(/\/$/, '') : folder;
  };
  const roles = Object.entries(places).map(([role, folder]): [Role, string] => [
    role as Role,
    placeOf(folder),
  ]);
  return { of, places: Object.fromEntries(roles.filter(([, folder]) => folder !== '')) };
}

function plainPath(path: string): string {
  return path.replace(/^(?:\.\/+)+/, '');
}
