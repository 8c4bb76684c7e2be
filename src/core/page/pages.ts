/** The pages of a site. */
import type { Files } from '../change/files.ts';
import { isPage } from '../read/read.ts';

/** Site paths of the pages of a site, in order. */
export function pagesOf(site: Files): string[] {
  return site.paths().filter((path) => isPage(path));
}
