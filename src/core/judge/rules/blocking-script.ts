/** blocking-script: a script in the head that the page waits for. */
import { isAttribute } from '../../read/holder.ts';
import type { PlacingRule } from '../rule.ts';

export const blockingScript: PlacingRule = {
  name: 'blocking-script',
  grade: 'misplaced',
  summary: 'a script in the head that the page waits for',
  suffers:
    'The visitor looks at an empty page until the script has arrived and run; it finds no element of the page.',
  wrong: '<head> … <script src="js/tides.js"></script>',
  right: '<script src="js/tides.js" defer></script>, or at the end of the body',
  judgePlace({ kind, holder, standing }) {
    if (kind !== 'script' || !isAttribute(holder, 'script', 'src') || standing?.region !== 'head')
      return null;
    const held = standing.attributes ?? {};
    if ('defer' in held || 'async' in held || 'nomodule' in held) return null;
    return 'the page waits for it: add defer, or put it at the end of the body';
  },
};
