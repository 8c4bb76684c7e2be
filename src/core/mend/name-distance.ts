/** How far a name is off another one, as people write names wrong. */
import { extensionOf } from '../site/inventory.ts';
import { editDistance, isOneSlip } from '../site/near-names.ts';

/** Letters that a name may be off. */
export const MOST_OFF = 2;
const FAR = 9;

/** A name without the mark of a minified build. */
export const plainName = (name: string) => name.replace(/[-.]min(?=\.[a-z]+$)/, '');
/** A name without its extension. */
export const stemOf = (name: string) => name.replace(/\.[a-z0-9]+$/, '');
/** The words of a stem, parted by dashes and the like. */
export const wordsOf = (stem: string) => stem.split(/[-_. ]+/);

/**
 * How far a name is off: letters; another extension, another build and words more or less count as two, since none of
 * them is a slip.
 */
export function nameDistance(written: string, name: string): number {
  if (plainName(written) === plainName(name)) return 2;
  const [stem, other] = [stemOf(written), stemOf(name)];
  if (stem === other) return 2;
  if (extensionOf(written) !== extensionOf(name)) return FAR;
  if (isOneSlip(written, name)) return 1;
  if (isPartOf(stem, other) || isPartOf(other, stem)) return 2;
  return Math.abs(written.length - name.length) > MOST_OFF ? FAR : editDistance(written, name);
}

/** Letters that say something by themselves. */
const TELLING = 4;

/** True where all words of a name are in another one. */
function isPartOf(stem: string, other: string): boolean {
  if (stem.length < TELLING) return false;
  const words = wordsOf(other);
  return wordsOf(stem).every((word) => words.includes(word));
}
