/** same-description: pages that share a description. */
import { holderOf } from '../../read/holder.ts';
import type { SiteRule } from '../rule.ts';
import { sharedWords } from '../shared-words.ts';

export const sameDescription: SiteRule = {
  name: 'same-description',
  grade: 'untidy',
  summary: 'pages with one description',
  suffers: 'In tabs and search results the pages cannot be told apart.',
  wrong: 'two pages with the same description',
  right: 'a description of its own for each page',
  cause: 'rule',
  looksAt: ['pages', 'descriptions'],
  judgeSite({ pages }) {
    return sharedWords(pages.values(), ({ description }) => description).map(({ page, text, first }) => ({
      file: page.file,
      offset: 0,
      length: 0,
      holder: holderOf('markup', 'meta', 'description'),
      written: text,
      message: `${first} has the same description`,
      target: first,
    }));
  },
};
