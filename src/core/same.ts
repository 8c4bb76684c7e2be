/** Whether collections hold the same. */

export function isSameSet(one: ReadonlySet<string>, other: ReadonlySet<string>): boolean {
  return one.size === other.size && [...one].every((value) => other.has(value));
}

export function isSameList(one: readonly string[], other: readonly string[]): boolean {
  return one.length === other.length && one.every((value, index) => value === other[index]);
}

export function isSameMap(one: ReadonlyMap<string, string>, other: ReadonlyMap<string, string>): boolean {
  return one.size === other.size && [...one].every(([key, value]) => other.get(key) === value);
}
