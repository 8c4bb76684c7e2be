/** twice: a page loads one thing two times. */
import { isAttribute } from '../../read/holder.ts';
import { linkTypes } from '../../read/html/relations.ts';
import type { RepeatRule } from '../rule.ts';

export const twice: RepeatRule = {
  name: 'twice',
  grade: 'misplaced',
  summary: 'loaded twice by one page',
  suffers: 'A script that runs twice does everything twice; a stylesheet undoes what came between.',
  wrong: '<script src="js/tides.js"></script> … <script src="js/tides.js"></script>',
  right: '<script src="js/tides.js"></script>  once',
  // What runs or applies what it loads: having that twice does everything twice.
  counts({ holder, standing }) {
    if (isAttribute(holder, 'script', 'src')) return true;
    return (
      isAttribute(holder, 'link', 'href') && linkTypes(standing?.attributes?.rel ?? null).has('stylesheet')
    );
  },
  judgeRepeat: (found) => `this page loads ${found} already`,
};
