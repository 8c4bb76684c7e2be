/** Texts that hold on to nothing but themselves. */
import type { Reference, Standing } from './reading.ts';

/** Copies a text that may be a slice of a whole file, which would stay in memory with it. */
export function detach(text: string): string {
  // Joining makes a new string; taking the end off it again keeps no more than that.
  return `${text}\0`.slice(0, -1);
}

/** Makes something of a text once, for texts that come over and over; `most` are remembered, as files may hold any. */
export function onceForText<V>(make: (text: string) => V, most: number): (text: string) => V {
  const known = new Map<string, V>();
  return (text) => {
    let one = known.get(text);
    if (one === undefined) {
      if (known.size >= most) known.clear();
      const own = detach(text);
      one = make(own);
      known.set(own, one);
    }
    return one;
  };
}

/** Like {@link detach}, for texts that come over and over: they are one string. */
export const detachShared = onceForText((text) => text, 10_000);

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
