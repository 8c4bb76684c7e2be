/** late-stylesheet: a stylesheet that is linked outside of the head. */
import type { Rule } from '../rule.ts';

export const lateStylesheet: Rule = {
  name: 'late-stylesheet',
  grade: 'misplaced',
  summary: 'a stylesheet outside of the head',
  suffers: 'The page is shown without it first, and jumps when it arrives.',
  wrong: '<body> … <link rel="stylesheet" href="css/main.css">',
  right: '<head> … <link rel="stylesheet" href="css/main.css">',
  judge({ reference: { kind, holder, spot }, found }) {
    if (kind !== 'stylesheet' || holder !== 'link href' || spot?.region !== 'body' || spot.inside !== null)
      return null;
    return { message: 'stylesheets are linked in the head', target: found, walk: [], candidates: [] };
  },
};
