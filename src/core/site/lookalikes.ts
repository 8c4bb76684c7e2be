/** Lookalikes: files and folders of a site that one may have had in mind when writing another path. */
import { groupBy } from '../group-by.ts';
import { fold, type Inventory, nameOf } from './inventory.ts';

export interface Lookalikes {
  /** Paths (folders end in `/`) that differ from `path` by letter case or Unicode form at most. */
  sameFold(path: string): readonly string[];
  /** Files anywhere whose name is `name`, letter case and Unicode form aside. */
  sameName(name: string): readonly string[];
}

const known = new WeakMap<Inventory, Lookalikes>();

/** The lookalikes of an inventory, indexed once when first asked for. */
export function lookalikesOf(inventory: Inventory): Lookalikes {
  let lookalikes = known.get(inventory);
  if (lookalikes === undefined) {
    const paths = [...inventory.files, ...inventory.folders];
    const byFold = groupBy(paths, fold);
    const byName = groupBy(inventory.files, (path) => fold(nameOf(path)));
    lookalikes = {
      sameFold: (path) => byFold.get(fold(path)) ?? [],
      sameName: (name) => byName.get(fold(name)) ?? [],
    };
    known.set(inventory, lookalikes);
  }
  return lookalikes;
}
