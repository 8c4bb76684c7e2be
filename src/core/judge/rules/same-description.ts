/** same-description: pages that share a description. */
import type { SiteRule } from '../rule.ts';

export const sameDescription: SiteRule = {
  name: 'same-description',
  grade: 'untidy',
  summary: 'pages with one description',
  suffers: 'In tabs and search results the pages cannot be told apart.',
  wrong: 'two pages with the same description',
  right: 'a description of its own for each page',
  cause: 'rule',
  judgeSite({ pages }) {
    const groups = new Map<string, string[]>();
    for (const { file, description } of pages.values()) {
      const text = description?.replace(/\s+/g, ' ').trim() ?? '';
      if (text !== '') groups.set(text, [...(groups.get(text) ?? []), file]);
    }
    return [...groups].flatMap(([text, files]) =>
      files.slice(1).map((file) => {
        return {
          file,
          offset: 0,
          length: 0,
          holder: 'meta description',
          written: text,
          message: `${files[0]} has the same description`,
          target: files[0] as string,
        };
      }),
    );
  },
};
