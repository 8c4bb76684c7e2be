/** What files of a project were, as far as a kept change or the last pack says so. */

import { pointedTo } from './disk-path.ts';
import { lastPacked } from './packed.ts';
import { pastChanges } from './past-changes.ts';
import type { Project } from './project.ts';

/** Gives the SHA-256 in base64 by site path; null where nothing is known. Looked for when first asked, since few sites need it. */
export function digestsKept({ root, prefix }: Project): (path: string) => string | null {
  let known: Map<string, string> | null = null;
  return (path) => {
    known ??= gathered(root, prefix);
    const hash = known.get(path);
    return hash === undefined ? null : Buffer.from(hash, 'hex').toString('base64');
  };
}

/** By site path, in hexadecimal; what is newer counts. */
function gathered(root: Project['root'], prefix: string): Map<string, string> {
  const known = new Map<string, string>();
  try {
    const place = pointedTo(root);
    for (const { path, hash } of lastPacked(place)?.files ?? []) known.set(path, hash);
    for (const { files } of pastChanges(place).toReversed())
      for (const { path, before, after } of files) {
        const hash = after ?? before;
        if (hash !== null && path.startsWith(prefix)) known.set(path.slice(prefix.length), hash);
      }
  } catch {
    // What cannot be read says nothing.
  }
  return known;
}
