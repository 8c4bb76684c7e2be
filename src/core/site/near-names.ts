/** Names that were probably meant by another one. */
import { fold, nameOf } from './inventory.ts';

/** Up to three of `names`, the nearest first, parted by commas; empty where none is near. */
export function nearestNames(written: string, names: readonly string[]): string {
  const wanted = fold(nameOf(written));
  const limit = Math.max(2, Math.floor(wanted.length / 3));
  return names
    .map((name) => ({ name, distance: editDistance(wanted, fold(nameOf(name))) }))
    .filter(({ distance }) => distance <= limit)
    .sort((a, b) => a.distance - b.distance || (a.name < b.name ? -1 : 1))
    .slice(0, 3)
    .map(({ name }) => name)
    .join(', ');
}

/** Insertions, deletions and replacements that lead from one text to the other (Levenshtein). */
export function editDistance(one: string, other: string): number {
  let row = Array.from({ length: other.length + 1 }, (_none, index) => index);
  for (let i = 1; i <= one.length; i++) {
    const next = [i];
    for (let j = 1; j <= other.length; j++) {
      const replace = (row[j - 1] as number) + (one[i - 1] === other[j - 1] ? 0 : 1);
      next.push(Math.min(replace, (row[j] as number) + 1, (next[j - 1] as number) + 1));
    }
    row = next;
  }
  return row[other.length] as number;
}

/** One letter too many, too few or wrong, or two letters swapped. */
export function isOneSlip(written: string, meant: string): boolean {
  const [shorter, longer] = written.length < meant.length ? [written, meant] : [meant, written];
  if (longer.length - shorter.length > 1) return false;
  let start = 0;
  while (start < shorter.length && shorter[start] === longer[start]) start++;
  if (longer.length > shorter.length) return shorter.slice(start) === longer.slice(start + 1);
  const swapped = longer[start] === shorter[start + 1] && longer[start + 1] === shorter[start];
  return (
    shorter.slice(start + 1) === longer.slice(start + 1) ||
    (swapped && shorter.slice(start + 2) === longer.slice(start + 2))
  );
}
