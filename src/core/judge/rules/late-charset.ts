/** late-charset: an encoding that is told too late. */
import { holderOf } from '../../read/holder.ts';
import type { PageRule } from '../rule.ts';

/** `<meta charset=x>` at the least. */
const MARKUP = 15;

export const lateCharset: PageRule = {
  name: 'late-charset',
  grade: 'misplaced',
  summary: 'the encoding is told after the first 1,024 bytes',
  suffers: 'Browsers look for it in the first 1,024 bytes only, and guess.',
  wrong: 'a long comment before <meta charset="utf-8">',
  right: '<meta charset="utf-8"> as the first thing in the head',
  cause: 'rule',
  judgePage({ page }) {
    const { charset } = page;
    // HTML 4.2.5.4: within the first 1024 bytes, the element as a whole.
    if (charset === null || charset.offset + MARKUP <= 1024 || page.hasMark) return [];
    return [
      {
        offset: charset.offset,
        length: MARKUP,
        holder: holderOf('markup', 'meta', 'charset'),
        written: charset.label,
        message: `it stands after ${charset.offset.toLocaleString('en')} bytes: browsers read 1,024`,
      },
    ];
  },
};
