/** The pages of a site. */
import type { Files } from '../change/files.ts';
import { isPage } from '../read/read.ts';

/** The pages of a site, but for those that are left out. */
export function pagesOf(site: Files, isLeftOut: (path: string) => boolean = () => false): string[] {
  return site.paths().filter((path) => isPage(path) && !isLeftOut(path));
}
