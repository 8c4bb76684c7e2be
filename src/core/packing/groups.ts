/** Things that lead to each other, in groups: each group behind those that it leads to. */

/** Strongly connected components (Tarjan 1972), without calls that grow with the length of a chain. */
export function groupsInOrder<T>(all: readonly T[], next: (one: T) => readonly T[]): T[][] {
  const places = new Map<T, { readonly index: number; low: number; isOpen: boolean }>();
  const open: T[] = [];
  const groups: T[][] = [];
  const enter = (one: T) => {
    const place = { index: places.size, low: places.size, isOpen: true };
    places.set(one, place);
    open.push(one);
    return { one, place, ways: next(one)[Symbol.iterator]() };
  };
  for (const start of all) {
    if (places.has(start)) continue;
    const path = [enter(start)];
    for (let here = path.at(-1); here !== undefined; here = path.at(-1)) {
      const { one, place, ways } = here;
      const way = ways.next();
      if (!way.done) {
        const known = places.get(way.value);
        if (known === undefined) path.push(enter(way.value));
        else if (known.isOpen) place.low = Math.min(place.low, known.index);
        continue;
      }
      path.pop();
      const before = path.at(-1)?.place;
      if (before !== undefined) before.low = Math.min(before.low, place.low);
      if (place.low !== place.index) continue;
      const group = open.splice(open.lastIndexOf(one));
      for (const member of group) (places.get(member) as { isOpen: boolean }).isOpen = false;
      groups.push(group);
    }
  }
  return groups;
}
