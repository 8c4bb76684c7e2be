/** The order in which pages load files: libraries before what needs them, a project's own files last. */

/** Rank of a project's own files, which come after every library. */
export const OWN = Number.POSITIVE_INFINITY;

/** Rank of what other hosts hold: libraries, before all that the site has itself. */
export const HOSTED = -1;

/** True for an address on another host, with a scheme or without (RFC 3986, 4.2). */
export function isOnAnotherHost(path: string): boolean {
  return /^(?:https?:)?\/\//i.test(path);
}

/** Files of one library at most; ranks of libraries lie this far apart. */
const STEP = 10_000;

/** What the order goes by, of a library as the settings record it. */
export interface Ordered {
  /** Its folder, from the site's root. */
  readonly folder: string;
  /** Its files, from its folder, in the order in which pages load them. */
  readonly styles: readonly string[];
  readonly scripts: readonly string[];
  /** The minified build of each readable one. */
  readonly release: Readonly<Record<string, string>>;
  /** Libraries that must be loaded before it. */
  readonly needs: readonly string[];
}

export interface LoadOrder {
  /** Files of lower rank load first; files of one rank in the order in which they are asked for. */
  rankOf(path: string): number;
  /** The library that a file belongs to; null for others. */
  libraryOf(path: string): string | null;
  /** True where a file belongs to a library that is recorded to need that of another one. */
  needs(path: string, other: string): boolean;
}

/** `librariesFolder`: where libraries lie, recorded or not. */
export function loadOrder(
  libraries: Readonly<Record<string, Ordered>>,
  librariesFolder: string | undefined,
): LoadOrder {
  const names = inOrder(libraries);
  const libraryOf = (path: string) =>
    names.find((name) => path.startsWith(`${(libraries[name] as Ordered).folder}/`)) ?? null;
  return {
    libraryOf,
    needs(path, other) {
      const [name, wanted] = [libraryOf(path), libraryOf(other)];
      if (name === null || wanted === null || name === wanted) return false;
      return withNeeds(libraries, name).includes(wanted);
    },
    rankOf(path) {
      if (isOnAnotherHost(path)) return HOSTED;
      const name = libraryOf(path);
      if (name === null) {
        const isUnrecorded = librariesFolder !== undefined && path.startsWith(`${librariesFolder}/`);
        return isUnrecorded ? names.length * STEP : OWN;
      }
      const { folder, styles, scripts, release } = libraries[name] as Ordered;
      const inside = path.slice(folder.length + 1);
      const readable = Object.keys(release).find((file) => release[file] === inside) ?? inside;
      const place = Math.max(styles.indexOf(readable), scripts.indexOf(readable));
      return names.indexOf(name) * STEP + (place < 0 ? STEP - 1 : place);
    },
  };
}

/** Site paths of readable builds, each with that of the minified one. */
export function buildPairs(
  libraries: Readonly<Record<string, Pick<Ordered, 'folder' | 'release'>>>,
): (readonly [readable: string, small: string])[] {
  return Object.values(libraries).flatMap(({ folder, release }) =>
    Object.entries(release).map(
      ([readable, small]) => [`${folder}/${readable}`, `${folder}/${small}`] as const,
    ),
  );
}

/** A library and all that it needs, directly or by way of others, each after those that it needs. */
export function withNeeds(
  libraries: Readonly<Record<string, Pick<Ordered, 'needs'>>>,
  name: string,
): string[] {
  return inOrder(libraries, [name]);
}

/** The names of libraries, each after those that it needs, else as they are listed. */
function inOrder(
  libraries: Readonly<Record<string, Pick<Ordered, 'needs'>>>,
  listed: readonly string[] = Object.keys(libraries),
): string[] {
  const ordered: string[] = [];
  const visiting = new Set<string>();
  const visit = (name: string) => {
    if (visiting.has(name)) return;
    visiting.add(name);
    for (const need of libraries[name]?.needs ?? []) visit(need);
    ordered.push(name);
  };
  for (const name of listed) visit(name);
  return ordered.filter((name) => Object.hasOwn(libraries, name));
}
