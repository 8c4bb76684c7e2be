/** same-title: pages that share a title. */
import { holderOf } from '../../read/holder.ts';
import type { SiteRule } from '../rule.ts';
import { sharedWords } from '../shared-words.ts';

export const sameTitle: SiteRule = {
  name: 'same-title',
  grade: 'untidy',
  summary: 'pages with one title',
  suffers: 'In tabs and search results the pages cannot be told apart.',
  wrong: 'two pages with the same title',
  right: 'a title of its own for each page',
  cause: 'rule',
  looksAt: ['pages', 'titles'],
  judgeSite({ pages }) {
    return sharedWords(pages.values(), ({ title }) => title?.text).map(({ page, text, first }) => ({
      file: page.file,
      offset: page.title?.offset ?? 0,
      length: page.title?.length ?? 0,
      holder: holderOf('markup', 'title', ''),
      written: text,
      message: `${first} has the same title`,
      target: first,
    }));
  },
};
