/** lacks-charset: a page that does not say its encoding. */
import { isUtf8 } from '../../bytes.ts';
import { atHeadStart } from '../../page/head.ts';
import { mannerOf } from '../../page/manner.ts';
import { holderOf } from '../../read/holder.ts';
import type { PageRule } from '../rule.ts';

export const lacksCharset: PageRule = {
  name: 'lacks-charset',
  grade: 'untidy',
  summary: 'a page without a character encoding',
  suffers: 'Letters beyond ASCII may show as other letters.',
  wrong: 'a head without <meta charset>',
  right: '<meta charset="utf-8">',
  rank: -1,
  settle({ tags }) {
    const { page } = tags;
    if (!isUtf8(page.source.bytes)) return null;
    const markup = mannerOf(tags).element('meta', [['charset', 'utf-8']], false);
    return { sure: true, title: `write ${markup}`, edits: [atHeadStart(tags, markup)] };
  },
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
