/** inline-code: long code inside a page. */
import { holderOf } from '../../read/holder.ts';
import type { PageFacts } from '../../read/reading.ts';
import type { PageRule } from '../rule.ts';

/** Bytes that a page may hold; it takes a screen or two to look through more. */
const MOST = 4000;

export const inlineCode: PageRule = {
  name: 'inline-code',
  grade: 'untidy',
  summary: 'a long script or style inside a page',
  suffers: 'It is loaded again with every page, and kept with none.',
  wrong: '<script> … two hundred lines … </script>',
  right: '<script src="js/tides.js" defer></script>',
  cause: 'rule',
  judgePage({ page }) {
    const long = (spans: PageFacts['inlineScripts'], element: string) =>
      spans
        .filter(({ length }) => length > MOST)
        .map((span) => ({
          ...span,
          holder: holderOf('markup', element, ''),
          written: '',
          message: `${span.length.toLocaleString('en')} bytes of it stand in the page: a file of its own is loaded once`,
        }));
    return [...long(page.inlineScripts, 'script'), ...long(page.inlineStyles, 'style')];
  },
};
