/** same-title: pages that share a title. */
import type { SiteRule } from '../rule.ts';

export const sameTitle: SiteRule = {
  name: 'same-title',
  grade: 'untidy',
  summary: 'pages with one title',
  suffers: 'In tabs and search results the pages cannot be told apart.',
  wrong: 'two pages with the same title',
  right: 'a title of its own for each page',
  cause: 'rule',
  judgeSite({ pages }) {
    const groups = new Map<string, string[]>();
    for (const { file, title } of pages.values()) {
      const text = title?.text?.replace(/\s+/g, ' ').trim() ?? '';
      if (text !== '') groups.set(text, [...(groups.get(text) ?? []), file]);
    }
    return [...groups].flatMap(([text, files]) =>
      files.slice(1).map((file) => {
        const record = pages.get(file);
        const span = record?.title ?? { offset: 0, length: 0 };
        return {
          file,
          offset: span.offset,
          length: span.length,
          holder: 'title',
          written: text,
          message: `${files[0]} has the same title`,
          target: files[0] as string,
        };
      }),
    );
  },
};
