/** Which paths get which others. */

export interface Renaming {
  /** The path that a file or a folder of that path has afterwards; folders end in `/`. */
  of(path: string): string;
}

/** `pairs`: files, or folders, whose paths end in `/`, each with its new path; of folders in each other the inner one counts. */
export function renamingOf(pairs: Iterable<readonly [from: string, to: string]>): Renaming {
  const files = new Map<string, string>();
  const folders = new Map<string, string>();
  for (const [from, to] of pairs) (from.endsWith('/') ? folders : files).set(from, to);
  return {
    of(path) {
      const own = files.get(path);
      if (own !== undefined) return own;
      for (let end = path.length; folders.size > 0 && end > 0; end = path.lastIndexOf('/', end - 2) + 1) {
        const folder = path.slice(0, end);
        const to = folders.get(folder) ?? folders.get(`${folder}/`);
        if (to !== undefined) return to + path.slice(folder.endsWith('/') ? end : end + 1);
      }
      return path;
    },
  };
}
