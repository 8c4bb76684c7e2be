/** lacks-charset: a page that does not say its encoding. */
import { holderOf } from '../../read/holder.ts';
import type { PageRule } from '../rule.ts';

export const lacksCharset: PageRule = {
  name: 'lacks-charset',
  grade: 'untidy',
  summary: 'a page without a character encoding',
  suffers: 'Letters beyond ASCII may show as other letters.',
  wrong: 'a head without <meta charset>',
  right: '<meta charset="utf-8">',
  judgePage({ page }) {
    if (page.charset !== null || page.hasMark) return [];
    return [
      {
        offset: 0,
        length: 0,
        holder: holderOf('markup', 'meta', 'charset'),
        written: '',
        message: 'the page does not say its character encoding',
      },
    ];
  },
};
