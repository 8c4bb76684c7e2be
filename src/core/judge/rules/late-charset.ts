/** late-charset: an encoding that is told too late. */

import { atHeadStart, elementAt, takenOut } from '../../page/head.ts';
import { holderOf } from '../../read/holder.ts';
import { withCommas } from '../../with-commas.ts';
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
  rank: -1,
  settle({ finding, tags }) {
    const element = elementAt(tags, finding.offset);
    if (element === null) return null;
    const { edit, markup } = takenOut(tags, element);
    const start = atHeadStart(tags, markup);
    // A comment in front of the head keeps it too far down all the same.
    if (start.start + MARKUP > 1024) return null;
    return { sure: true, title: 'move it to the start of the head', edits: [start, edit] };
  },
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
        message: `it stands after ${withCommas(charset.offset)} bytes: browsers read 1,024`,
      },
    ];
  },
};
