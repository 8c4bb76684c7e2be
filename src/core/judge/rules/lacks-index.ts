/** lacks-index: the address of a folder that has no index page. */
import { describePath } from '../../mend/candidates.ts';
import { asFolder, isAbsent } from '../../resolve/locate.ts';
import { INDEX, isPageName } from '../../site/formats.ts';
import { folderOf } from '../../site/inventory.ts';
import { walk } from '../../site/walk.ts';
import { IN_SCRIPTS } from '../in-scripts.ts';
import { makeIndex } from '../next.ts';
import type { Rule } from '../rule.ts';

export const lacksIndex: Rule = {
  name: 'lacks-index',
  grade: 'broken',
  summary: 'a folder without an index page',
  suffers: 'The host has no page to show for the folder: the visitor gets an error, or a bare list of files.',
  wrong: '<a href="piers/">  while piers has no index.html',
  right: '<a href="piers/north.html">',
  next: makeIndex,
  milder: [IN_SCRIPTS],
  concerns: { absent: true },
  judge({ target, site }) {
    if (target.in !== 'site' || !isAbsent(site.inventory, target.path)) return null;
    const folder = asFolder(target.path);
    if (!site.inventory.folders.has(folder)) return null;
    const segments = [...target.segments.filter((segment) => segment !== ''), INDEX];
    const pages = [...site.inventory.files].filter((path) => isPageIn(folder, path));
    return {
      message: `there is no ${INDEX} in ${describePath(folder)}`,
      target: folder,
      walk: walk(site.inventory, target.folder, segments),
      candidates: pages.length === 1 ? [{ path: pages[0] as string, fragment: null, sure: false }] : [],
    };
  },
};

function isPageIn(folder: string, path: string): boolean {
  return folderOf(path) === folder && isPageName(path);
}
