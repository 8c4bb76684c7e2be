/** twice: a page loads one thing two times. */
import type { RuleFacts } from '../rule.ts';

export const twice: RuleFacts = {
  name: 'twice',
  grade: 'misplaced',
  summary: 'loaded twice by one page',
  suffers: 'A script that runs twice does everything twice; a stylesheet undoes what came between.',
  wrong: '<script src="js/tides.js"></script> … <script src="js/tides.js"></script>',
  right: '<script src="js/tides.js"></script>  once',
};
