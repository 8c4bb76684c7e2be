/** Makes `cravel.yaml` follow files that move: every other character stays as it is. */

import { isMap, isScalar, isSeq, parseDocument, type Scalar, stringify } from 'yaml';

export interface Following {
  /** The path that a file or folder of the site has afterwards; folders end in `/`. */
  of(path: string): string;
  /** What an address of a file is written as afterwards; undefined where it stays. */
  rewritten(file: string, written: string): string | undefined;
}

export interface Followed {
  readonly text: string;
  /** Entries that could mean what moves, and that nobody can tell how to write: key and value. */
  readonly unsure: readonly (readonly [key: string, value: string])[];
}

const GLOB = /[*?[\]{}()!]/;

export function followedSettings(text: string, following: Following): Followed {
  const document = parseDocument(text, { uniqueKeys: false });
  const { contents } = document;
  const edits: { start: number; end: number; text: string }[] = [];
  const unsure: (readonly [string, string])[] = [];
  const put = (node: unknown, value: string | null) => {
    if (!isScalar(node) || node.value === value || value === null) return;
    const [start, end] = node.range ?? [];
    if (start !== undefined && end !== undefined)
      edits.push({ start, end, text: written(node, value, text) });
  };
  const file = (path: string) => following.of(path);
  const folder = (path: string) =>
    following.of(`${path.replace(/\/+$/, '')}/`).replace(/\/$/, path.endsWith('/') ? '/' : '');
  const textIn = (node: unknown) => (isScalar(node) && typeof node.value === 'string' ? node.value : null);
  const eachOf = (key: string) => (isMap(contents) ? contents.get(key, true) : undefined);

  const entry = eachOf('entry');
  const named = textIn(entry);
  if (named !== null) put(entry, file(named));
  const places = eachOf('places');
  for (const { value } of isMap(places) ? places.items : []) {
    const place = textIn(value);
    if (place !== null) put(value, folder(place));
  }
  const libraries = eachOf('libraries');
  for (const { value: library } of isMap(libraries) ? libraries.items : []) {
    if (!isMap(library)) continue;
    const home = library.get('folder', true);
    const before = textIn(home);
    if (before === null) continue;
    const after = folder(before);
    put(home, after);
    const inside = (path: string): string | null => {
      const to = file(`${before.replace(/\/$/, '')}/${path}`);
      const start = `${after.replace(/\/$/, '')}/`;
      return to.startsWith(start) ? to.slice(start.length) : null;
    };
    for (const key of ['styles', 'scripts', 'release', 'files']) {
      const list = library.get(key, true);
      const nodes = isSeq(list)
        ? list.items
        : isMap(list)
          ? list.items.flatMap((pair) => (key === 'release' ? [pair.key, pair.value] : [pair.key]))
          : [];
      for (const node of nodes) {
        const path = textIn(node);
        const to = path === null ? null : inside(path);
        if (path !== null && to === null) unsure.push([`libraries, ${key}`, path]);
        put(node, to);
      }
    }
  }
  const globs = eachOf('leave-out');
  for (const node of isSeq(globs) ? globs.items : []) {
    const glob = textIn(node);
    if (glob === null) continue;
    if (!GLOB.test(glob)) {
      const isFolder = glob.endsWith('/');
      put(node, isFolder ? following.of(glob) : file(glob));
      continue;
    }
    const start = glob.slice(0, glob.slice(0, glob.search(GLOB)).lastIndexOf('/') + 1);
    put(node, start === '' ? glob : following.of(start) + glob.slice(start.length));
  }
  const accepted = eachOf('accept');
  for (const one of isSeq(accepted) ? accepted.items : []) {
    if (!isMap(one)) continue;
    const [path, address] = [one.get('file', true), one.get('written', true)];
    const [before, old] = [textIn(path), textIn(address)];
    if (before === null) continue;
    put(path, file(before));
    if (old !== null) put(address, following.rewritten(before, old) ?? old);
  }
  let followed = text;
  for (const { start, end, text: value } of edits.toSorted((one, other) => other.start - one.start))
    followed = followed.slice(0, start) + value + followed.slice(end);
  return { text: followed, unsure };
}

/** A value in the quotes of the one before. */
function written(node: Scalar, value: string, text: string): string {
  const quote = text[node.range?.[0] ?? 0];
  const type = quote === '"' ? 'QUOTE_DOUBLE' : quote === "'" ? 'QUOTE_SINGLE' : 'PLAIN';
  return stringify(value, { defaultStringType: type, lineWidth: 0 }).trimEnd();
}
