/** beyond-site: a reference that walks out of the folder that gets published. */
import { type Candidate, sameNameElsewhere } from '../../mend/candidates.ts';
import { leadsToPage } from '../../read/loaded.ts';
import type { Target } from '../../resolve/resolve.ts';
import type { Subject } from '../../resolve/subject.ts';
import { borderOn } from '../../site/inventory.ts';
import { segmentsTo, walk } from '../../site/walk.ts';
import { IN_SCRIPTS } from '../in-scripts.ts';
import type { Rule, Verdict } from '../rule.ts';

const UP = /(?:^|[/\\])(?:\.|%2e){2}(?:[/\\?#]|$)/i;

export const beyondSite: Rule = {
  name: 'beyond-site',
  grade: 'broken',
  summary: 'walks out of the site folder',
  suffers:
    'What lies outside of the folder is not published: the host has nothing there, or somebody else has.',
  wrong: '<img src="../images/pier.svg">  in a page in the site\'s root',
  right: '<img src="images/pier.svg">',
  cause: 'folder',
  milder: [
    IN_SCRIPTS,
    {
      grade: 'fragile',
      when: "where browsers find it all the same, as long as the site is its host's root: they stop there",
    },
    { grade: 'untidy', when: "where published-at says that the site is its host's root" },
  ],
  concerns: { absent: true, unplain: UP },
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
    return target.in === 'beyond' ? judgeBeyond(subject, target) : null;
  },
};

function judgeBeyond(subject: Subject, target: Target & { in: 'beyond' }): Verdict {
  const { file, found, site } = subject;
  const { folder, segments, asked, stopped } = target;
  const depth = folder.split('/').length - 1;
  const where = folder === '' ? "this file is in the site's root" : `${folder} is only ${depth} deep`;
  const out = segments.filter((segment) => segment === '..').length;
  const message = `${'../'.repeat(Math.min(out, 9))} leads out of the site: ${where}`;
  // Who goes further up does not mean the page itself.
  if (found === null || found === file || stopped === null)
    return {
      message: `${message}; browsers ask the host for /${asked}`,
      target: null,
      walk: walk(site.inventory, folder, segments),
      candidates: candidatesFor(subject, segments),
    };
  const isRoot = site.published !== null;
  return {
    message: isRoot
      ? `${message}; a browser stops there, and finds it`
      : `${message}; it is found only where that is the root of its host, since browsers stop there`,
    grade: isRoot ? 'untidy' : 'fragile',
    target: stopped,
    walk: walk(site.inventory, folder, segmentsTo(folder, stopped)),
    candidates: [{ path: stopped, fragment: null, sure: true }],
  };
}

/** A page of another project beside this one may be called the same: it is a guess where not all that was written agrees. */
function candidatesFor(subject: Subject, segments: readonly string[]): Candidate[] {
  const { file, reference } = subject;
  const end = `/${segments.filter((segment) => segment !== '..').join('/')}`;
  const isSure = ({ path, sure }: Candidate) => sure && (!leadsToPage(reference) || `/${path}`.endsWith(end));
  return sameNameElsewhere(subject)
    .filter(({ path }) => path !== file)
    .map((one) => ({ ...one, sure: isSure(one) }));
}
