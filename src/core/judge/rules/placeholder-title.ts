/** placeholder-title: a title that says nothing of the page. */
import { atHeadEnd } from '../../page/head.ts';
import { escapeMarkup } from '../../page/page.ts';
import { holderOf } from '../../read/holder.ts';
import type { PageRule } from '../rule.ts';

const NOTHING =
  /^(?:document|untitled(?: (?:document|page))?|title|page title|new (?:page|document)|my (?:page|site|website)|home ?page|website|index(?:\.html?)?|test)$/i;

export const placeholderTitle: PageRule = {
  name: 'placeholder-title',
  grade: 'untidy',
  summary: 'no title, or one that says nothing',
  suffers: 'Tabs, bookmarks and search results show an address, or a word that fits every page.',
  wrong: '<title>Document</title>',
  right: '<title>Timetable · Gullhaven Ferry</title>',
  cause: 'rule',
  asks: 'The title of this page',
  settle({ tags, answer }) {
    if (answer === null) return null;
    const text = escapeMarkup(answer);
    const title = tags.elements.find(({ name, region }) => name === 'title' && region === 'head');
    if (title === undefined)
      return { sure: true, title: 'write a title', edits: [atHeadEnd(tags, `<title>${text}</title>`)] };
    const end = title.endTag?.start ?? title.startTag.end;
    return { sure: true, title: `write ${answer}`, edits: [{ start: title.startTag.end, end, text }] };
  },
  judgePage({ page }) {
    const { title } = page;
    const text = title?.text.trim() ?? '';
    if (title !== null && text !== '' && !NOTHING.test(text)) return [];
    const message =
      title === null
        ? 'the page has no title'
        : text === ''
          ? 'the title is empty'
          : `the title ${text} says nothing of the page`;
    return [
      {
        offset: title?.offset ?? 0,
        length: title?.length ?? 0,
        holder: holderOf('markup', 'title', ''),
        written: text,
        message,
      },
    ];
  },
};
