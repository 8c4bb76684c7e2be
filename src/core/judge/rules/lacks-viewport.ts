/** lacks-viewport: a page that phones show small. */
import { atHeadEnd, behind, namedMeta } from '../../page/head.ts';
import { holderOf } from '../../read/holder.ts';
import type { PageRule } from '../rule.ts';

export const lacksViewport: PageRule = {
  name: 'lacks-viewport',
  grade: 'untidy',
  summary: 'a page without a viewport',
  suffers: 'Phones show it as wide as a desk, in letters too small to read.',
  wrong: 'a head without <meta name="viewport">',
  right: '<meta name="viewport" content="width=device-width, initial-scale=1">',
  settle({ tags }) {
    const markup = namedMeta(tags, 'viewport', 'width=device-width, initial-scale=1');
    const charset = tags.elements.find(
      (one) => one.name === 'meta' && one.region === 'head' && one.attribute('charset') !== null,
    );
    const edit = charset === undefined ? atHeadEnd(tags, markup) : behind(tags, charset, markup);
    return { sure: true, title: `write ${markup}`, edits: [edit] };
  },
  judgePage({ page }) {
    if (page.viewport !== null) return [];
    return [
      {
        offset: 0,
        length: 0,
        holder: holderOf('markup', 'meta', 'viewport'),
        written: '',
        message: 'the page says nothing of the viewport',
      },
    ];
  },
};
