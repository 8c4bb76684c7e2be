/** lacks-description: a page without a description. */
import { holderOf } from '../../read/holder.ts';
import type { PageRule } from '../rule.ts';

export const lacksDescription: PageRule = {
  name: 'lacks-description',
  grade: 'untidy',
  summary: 'a page without a description',
  suffers: 'Search results and shared links show whatever text comes first.',
  wrong: 'a head without <meta name="description">',
  right: '<meta name="description" content="Every crossing, summer and winter.">',
  judgePage({ page }) {
    if (page.description !== null && page.description.trim() !== '') return [];
    return [
      {
        offset: 0,
        length: 0,
        holder: holderOf('markup', 'meta', 'description'),
        written: '',
        message: 'the page has no description',
      },
    ];
  },
};
