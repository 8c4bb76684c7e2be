/** late-stylesheet: a stylesheet that is linked outside of the head. */
import { isAttribute } from '../../read/holder.ts';
import type { PlacingRule } from '../rule.ts';

export const lateStylesheet: PlacingRule = {
  name: 'late-stylesheet',
  grade: 'misplaced',
  summary: 'a stylesheet outside of the head',
  suffers: 'The page is shown without it first, and jumps when it arrives.',
  wrong: '<body> … <link rel="stylesheet" href="css/main.css">',
  right: '<head> … <link rel="stylesheet" href="css/main.css">',
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
