/** lacks-description: a page without a description. */
import { atHeadEnd, behind, namedMeta } from '../../page/head.ts';
import { holderOf } from '../../read/holder.ts';
import type { PageRule } from '../rule.ts';

export const lacksDescription: PageRule = {
  name: 'lacks-description',
  grade: 'untidy',
  summary: 'a page without a description',
  suffers: 'Search results and shared links show whatever text comes first.',
  wrong: 'a head without <meta name="description">',
  right: '<meta name="description" content="Every crossing, summer and winter.">',
  asks: 'What is this page about, in a sentence',
  settle({ tags, answer }) {
    if (answer === null) return null;
    const markup = namedMeta(tags, 'description', answer);
    const known = tags.elements.find(
      (one) => one.name === 'meta' && one.attribute('name')?.toLowerCase() === 'description',
    );
    if (known !== undefined)
      return {
        sure: true,
        title: `write ${markup}`,
        edits: [{ start: known.start, end: known.end, text: markup }],
      };
    const title = tags.elements.find(({ name, region }) => name === 'title' && region === 'head');
    const edit = title === undefined ? atHeadEnd(tags, markup) : behind(tags, title, markup);
    return { sure: true, title: `write ${markup}`, edits: [edit] };
  },
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
