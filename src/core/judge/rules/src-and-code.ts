/** src-and-code: a script that has a source and code; the code is never run. */
import { holderOf } from '../../read/holder.ts';
import type { PageRule } from '../rule.ts';

export const srcAndCode: PageRule = {
  name: 'src-and-code',
  grade: 'misplaced',
  summary: 'a script with a source and code of its own',
  suffers: 'The code between the tags is never run: where there is a source, only that counts.',
  wrong: '<script src="js/tides.js">startTides();</script>',
  right: '<script src="js/tides.js"></script> <script>startTides();</script>',
  judgePage({ page }) {
    return page.ignoredCode.map((span) => ({
      ...span,
      holder: holderOf('markup', 'script', ''),
      written: '',
      message: 'this code is ignored, since the script has a source: give it a script of its own',
    }));
  },
};
