/** A name that was probably meant by another one that is not there. */
import { editDistance, isOneSlip } from '../site/near-names.ts';

/** Shorter names are near to everything. */
const SHORTEST = 4;

/** The one name that is nearly the same; null where none is, or several are as near. */
export function nearestName(wanted: string, names: Iterable<string>): string | null {
  if (wanted.length < SHORTEST) return null;
  const near = { name: null as string | null, distance: 3 };
  for (const name of names) {
    const distance = distanceBetween(wanted, name, near.distance);
    if (distance > near.distance) continue;
    near.name = distance === near.distance ? null : name;
    near.distance = distance;
  }
  return near.name;
}

function distanceBetween(wanted: string, name: string, most: number): number {
  if (name.length < SHORTEST - 1 || name === wanted || Math.abs(name.length - wanted.length) > 2) return 9;
  if (name.toLowerCase() === wanted.toLowerCase()) return 0;
  if (isOneSlip(wanted, name)) return 1;
  // Two letters of a short name are half of it.
  return most < 2 || wanted.length < 7 ? 9 : editDistance(wanted, name);
}
