/** lacks-doctype: a page without a doctype. */
import { holderOf } from '../../read/holder.ts';
import { startOfText } from '../../read/source.ts';
import type { PageRule } from '../rule.ts';

export const lacksDoctype: PageRule = {
  name: 'lacks-doctype',
  grade: 'untidy',
  summary: 'a page without a doctype',
  suffers: 'Browsers show it by the rules of the last century: sizes and tables differ.',
  wrong: '<html> in the first line',
  right: '<!doctype html>',
  rank: -3,
  settle({ tags: { page, elements } }) {
    const start = startOfText(page.source.plain);
    const [first] = elements;
    const isLoud = first !== undefined && /^<[A-Z]/.test(page.text(first.start, first.start + 2));
    const markup = isLoud ? '<!DOCTYPE html>' : '<!doctype html>';
    return {
      sure: true,
      title: `write ${markup}`,
      edits: [{ start, end: start, text: `${markup}${page.newline}` }],
    };
  },
  judgePage({ page }) {
    if (page.doctype !== null) return [];
    return [
      {
        offset: 0,
        length: 0,
        holder: holderOf('markup', 'doctype', ''),
        written: '',
        message: 'the page has no doctype',
      },
    ];
  },
};
