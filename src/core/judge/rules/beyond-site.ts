/** beyond-site: a reference that walks out of the folder that gets published. */
import { sameNameElsewhere } from '../../mend/candidates.ts';
import { borderOn } from '../../site/inventory.ts';
import { walk } from '../../site/walk.ts';
import { IN_SCRIPTS } from '../in-scripts.ts';
import type { Rule } from '../rule.ts';

export const beyondSite: Rule = {
  name: 'beyond-site',
  grade: 'broken',
  summary: 'walks out of the site folder',
  suffers:
    'What lies outside of the folder is not published: the host has nothing there, or somebody else has.',
  wrong: '<img src="../images/pier.svg">  in a page in the site\'s root',
  right: '<img src="images/pier.svg">',
  cause: 'folder',
  milder: [IN_SCRIPTS],
  concerns: { absent: true },
  judge(subject) {
    const { target, site } = subject;
    if (target.in === 'site') {
      const border = borderOn(site.inventory, target.path);
      if (border === null) return null;
      return {
        message: `${border.slice(0, -1)} is a project of its own, and published by itself`,
        target: target.path,
        walk: walk(site.inventory, target.folder, target.segments),
        candidates: [],
      };
    }
    if (target.in !== 'beyond') return null;
    const { folder, segments } = target;
    const depth = folder.split('/').length - 1;
    const where = folder === '' ? "this file is in the site's root" : `${folder} is only ${depth} deep`;
    const out = segments.filter((segment) => segment === '..').length;
    return {
      message: `${'../'.repeat(Math.min(out, 9))} leads out of the site: ${where}`,
      target: null,
      walk: walk(site.inventory, folder, segments),
      candidates: sameNameElsewhere(subject),
    };
  },
};
