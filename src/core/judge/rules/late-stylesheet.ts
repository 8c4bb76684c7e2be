/** late-stylesheet: a stylesheet that is linked outside of the head. */
import { atHeadEnd, elementAt, takenOut } from '../../page/head.ts';
import { isAttribute } from '../../read/holder.ts';
import type { PlacingRule } from '../rule.ts';

export const lateStylesheet: PlacingRule = {
  name: 'late-stylesheet',
  grade: 'misplaced',
  summary: 'a stylesheet outside of the head',
  suffers: 'The page is shown without it first, and jumps when it arrives.',
  wrong: '<body> … <link rel="stylesheet" href="css/main.css">',
  right: '<head> … <link rel="stylesheet" href="css/main.css">',
  settle({ finding, tags }) {
    const element = elementAt(tags, finding.offset);
    if (element?.name !== 'link') return null;
    const { edit, markup } = takenOut(tags, element);
    // What stands between has its way over it there.
    const isAlone = !tags.elements.some(
      ({ name, region, start }) => name === 'style' && region === 'body' && start < element.start,
    );
    return { sure: isAlone, title: 'move it to the head', edits: [atHeadEnd(tags, markup), edit] };
  },
  judgePlace({ kind, holder, standing }) {
    if (
      kind !== 'stylesheet' ||
      !isAttribute(holder, 'link', 'href') ||
      standing?.region !== 'body' ||
      standing.inside !== null
    )
      return null;
    return 'stylesheets are linked in the head';
  },
};
