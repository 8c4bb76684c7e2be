/** absent-anchor: the page exists, but nothing in it has the name that the fragment asks for. */
import { anchorVariants, describePath } from '../../mend/candidates.ts';
import { anchorName, leadsSomewhere } from '../../resolve/fragment.ts';
import { locate } from '../../resolve/locate.ts';
import { walk } from '../../site/walk.ts';
import type { Rule } from '../rule.ts';

export const absentAnchor: Rule = {
  name: 'absent-anchor',
  grade: 'broken',
  summary: 'the page has no such anchor',
  suffers: 'The page opens at its top, and the visitor looks for the spot that was promised.',
  wrong: '<a href="fares.html#bicycle">  while the page has id="bicycles"',
  right: '<a href="fares.html#bicycles">',
  judge({ file, target, site }) {
    if (target.in !== 'site' || target.fragment === null) return null;
    const page = locate(site.inventory, target.path);
    const anchors = page === null ? null : site.anchorsOf(page);
    if (page === null || anchors === null || leadsSomewhere(target.fragment, anchors)) return null;
    const name = anchorName(target.fragment);
    return {
      message: `no id="${name}" in ${page === file ? 'this page' : describePath(page)}`,
      target: page,
      walk: walk(site.inventory, target.folder, target.segments),
      candidates: anchorVariants(anchors, target.path, name),
    };
  },
};
