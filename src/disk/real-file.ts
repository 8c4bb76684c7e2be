/** What really stands at a path of a site, wherever links lead. */
import { below, type DiskPath, pathFrom, staysBelow } from './disk-path.ts';
import { realpathSync } from './fs.ts';
import { statOrNull } from './stat.ts';

/** The path below `root` of the file that a path leads to; null where that is none, or lies outside. Opens nothing. */
export function realFileIn(root: DiskPath, path: string): string | null {
  if (!staysBelow(path)) return null;
  const place = below(root, path);
  try {
    if (statOrNull(place)?.isFile() !== true) return null;
    const way = pathFrom(realpathSync(root), realpathSync(place));
    return staysBelow(way) && !/^[a-z]:/i.test(way) ? way : null;
  } catch {
    return null;
  }
}
