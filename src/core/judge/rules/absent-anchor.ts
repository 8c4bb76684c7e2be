/** absent-anchor: the page exists, but nothing in it has the name that the fragment asks for. */
import { describePath } from '../../mend/candidates.ts';
import { anchorVariants } from '../../mend/near-spellings.ts';
import { anchorName, decodeFragment, leadsSomewhere } from '../../resolve/fragment.ts';
import { locate } from '../../resolve/locate.ts';
import { walk } from '../../site/walk.ts';
import type { SpotRule } from '../rule.ts';

/** A fragment that says more than a name: a way, a setting, what a page of one file is to show. */
const SAYS_MORE = /[/!=&]/;

export const absentAnchor: SpotRule = {
  name: 'absent-anchor',
  grade: 'broken',
  summary: 'the page has no such anchor',
  suffers: 'The page opens at its top, and the visitor looks for the spot that was promised.',
  wrong: '<a href="fares.html#bicycle">  while the page has id="bicycles"',
  right: '<a href="fares.html#bicycles">',
  milder: [
    {
      grade: 'fragile',
      when: 'where a script of the page reads the fragment, or gives ids that nobody can tell before',
    },
  ],
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
  answered(finding, { readsFragment, isUnknown, ids }) {
    const name = decodeFragment(anchorName(finding.written.slice(finding.written.indexOf('#') + 1)));
    if (ids.has(name) || beginsLike(ids, name)) return null;
    if (SAYS_MORE.test(name) && (readsFragment || isUnknown)) return null;
    if (finding.mends.length > 0) return finding;
    const why = readsFragment
      ? 'a script of the page reads the fragment, and may answer it'
      : ids.has('*') && 'a script of the page gives ids that nobody can tell before';
    return why ? { ...finding, grade: 'fragile', message: `${finding.message}; ${why}` } : finding;
  },
};

/** True for a name that begins as some ids do of which no more is known. */
function beginsLike(ids: ReadonlySet<string>, name: string): boolean {
  for (let length = 1; length <= name.length; length++) if (ids.has(`${name.slice(0, length)}*`)) return true;
  return false;
}
