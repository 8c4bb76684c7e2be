/** lacks-doctype: a page without a doctype. */
import { holderOf } from '../../read/holder.ts';
import type { PageRule } from '../rule.ts';

export const lacksDoctype: PageRule = {
  name: 'lacks-doctype',
  grade: 'untidy',
  summary: 'a page without a doctype',
  suffers: 'Browsers show it by the rules of the last century: sizes and tables differ.',
  wrong: '<html> in the first line',
  right: '<!doctype html>',
  judgePage({ page }) {
    if (page.doctype !== null) return [];
    return [
      {
        offset: 0,
        length: 0,
        holder: holderOf('markup', 'doctype', ''),
        written: '',
        message: 'the page has no doctype',
      },
    ];
  },
};
