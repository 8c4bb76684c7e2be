/** Texts that hold on to nothing but themselves. */
import type { Reference, Standing } from './reading.ts';

/** Copies a text that may be a slice of a whole file, which would stay in memory with it. */
export function detach(text: string): string {
  // Joining makes a new string; taking the end off it again keeps no more than that.
  return `${text}\0`.slice(0, -1);
}

/** Most texts that are remembered. */
const MOST_SHARED = 10_000;
const shared = new Map<string, string>();

/** Like {@link detach}, for texts that come over and over: they are one string. */
export function detachShared(text: string): string {
  let one = shared.get(text);
  if (one === undefined) {
    if (shared.size >= MOST_SHARED) shared.clear();
    one = detach(text);
    shared.set(one, one);
  }
  return one;
}

export function detachAll(texts: ReadonlySet<string>): ReadonlySet<string> {
  return texts.size === 0 ? texts : new Set([...texts].join('\0').split('\0'));
}

/** A reference that holds on to nothing of its file. */
export function detachReference(reference: Reference): Reference {
  const { written, standing } = reference;
  return { ...reference, written: detach(written), standing: standing && detachStanding(standing) };
}

function detachStanding(standing: Standing): Standing {
  if (standing.attributes === null) return standing;
  const attributes = Object.entries(standing.attributes).map(([name, value]) => [name, detach(value)]);
  return { ...standing, attributes: Object.fromEntries(attributes) };
}
