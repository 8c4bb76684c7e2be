/** lacks-language: a page that does not say which language it is written in. */
import { holderOf } from '../../read/holder.ts';
import type { PageRule } from '../rule.ts';

export const lacksLanguage: PageRule = {
  name: 'lacks-language',
  grade: 'untidy',
  summary: 'a page without a language',
  suffers: 'Screen readers pronounce it wrong, and browsers offer to translate it.',
  wrong: '<html>',
  right: '<html lang="en">',
  judgePage({ page }) {
    if (page.language !== null && page.language.trim() !== '') return [];
    return [
      {
        offset: 0,
        length: 0,
        holder: holderOf('markup', 'html', 'lang'),
        written: '',
        message: 'the page does not say its language',
      },
    ];
  },
};
