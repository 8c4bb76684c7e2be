/** lacks-language: a page that does not say which language it is written in. */
import { addAttributeTo } from '../../page/head.ts';
import { escapeMarkup } from '../../page/page.ts';
import { holderOf } from '../../read/holder.ts';
import type { PageRule } from '../rule.ts';

export const lacksLanguage: PageRule = {
  name: 'lacks-language',
  grade: 'untidy',
  summary: 'a page without a language',
  suffers: 'Screen readers pronounce it wrong, and browsers offer to translate it.',
  wrong: '<html>',
  right: '<html lang="en">',
  rank: -2,
  guesses: true,
  settle({ tags, language: known }) {
    const language = known ?? 'en';
    const sure = known !== null;
    const { page } = tags;
    const html = tags.first('html');
    const title = `write lang="${language}"`;
    if (html === null) {
      const at = tags.doctypeEnd;
      const start = at > 0 ? page.newline : '';
      const text = `${start}<html lang="${escapeMarkup(language)}">${at > 0 ? '' : page.newline}`;
      return { sure, title, edits: [{ start: at, end: at, text }] };
    }
    const text = `lang="${escapeMarkup(language)}"`;
    const own = html.rangeOf('lang');
    return { sure, title, edits: [own === null ? addAttributeTo(tags, html, text) : { ...own, text }] };
  },
  judgePage({ page }) {
    if (page.language !== null && page.language.trim() !== '') return [];
    return [
      {
        offset: 0,
        length: 0,
        holder: holderOf('markup', 'html', 'lang'),
        written: '',
        message: 'the page does not say its language',
      },
    ];
  },
};
