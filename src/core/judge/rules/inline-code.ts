/** inline-code: long code inside a page. */

import { holderOf } from '../../read/holder.ts';
import type { PageFacts, Span } from '../../read/reading.ts';
import { withCommas } from '../../with-commas.ts';
import type { PageRule } from '../rule.ts';

/** Bytes that a page may hold, and lines; it takes a screen or two to look through more. */
const MOST = 4000;
const MOST_LINES = 60;

export const inlineCode: PageRule = {
  name: 'inline-code',
  grade: 'untidy',
  summary: 'a long script or style inside a page',
  suffers: 'It is loaded again with every page, and kept with none.',
  wrong: '<script> … two hundred lines … </script>',
  right: '<script src="js/tides.js" defer></script>',
  cause: 'rule',
  next: { shown: 'cravel lift', after: () => 'cravel lift' },
  judgePage({ page, reading, open }) {
    const isLong = ({ offset, length }: Span) => {
      if (length > MOST) return true;
      // So many lines take as many bytes at the least; of other encodings the places are others than in the text.
      if (length < MOST_LINES || reading.encoding !== 'utf-8') return false;
      return (
        open()
          .text(offset, offset + length)
          .split('\n').length > MOST_LINES
      );
    };
    const long = (spans: PageFacts['inlineScripts'], element: string) =>
      spans.filter(isLong).map((span) => ({
        ...span,
        holder: holderOf('markup', element, ''),
        written: '',
        message: `${withCommas(span.length)} bytes of it stand in the page: a file of its own is loaded once`,
      }));
    return [...long(page.inlineScripts, 'script'), ...long(page.inlineStyles, 'style')];
  },
};
