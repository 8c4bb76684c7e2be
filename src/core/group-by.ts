/** Groups by a key, in the order in which things come. */

export function groupBy<T>(items: Iterable<T>, keyOf: (item: T) => string): Map<string, T[]> {
  const groups = new Map<string, T[]>();
  for (const item of items) pushTo(groups, keyOf(item), item);
  return groups;
}

/** Adds to the list of a key, which is made where there is none. */
export function pushTo<K, V>(lists: Map<K, V[]>, key: K, value: V): void {
  const list = lists.get(key);
  if (list) list.push(value);
  else lists.set(key, [value]);
}

/** Adds to the set of a key, which is made where there is none. */
export function addTo<V>(sets: Map<string, Set<V>>, key: string, value: V): void {
  const set = sets.get(key);
  if (set) set.add(value);
  else sets.set(key, new Set([value]));
}
