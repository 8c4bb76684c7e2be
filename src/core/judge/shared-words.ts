/** Pages that say the same of themselves. */
import { groupBy } from '../group-by.ts';
import type { PageRecord } from './rule.ts';

export interface SharedWords {
  readonly page: PageRecord;
  /** What it says, white space in one line. */
  readonly text: string;
  /** The first page that says it. */
  readonly first: string;
}

/** Every page but the first that says `wordsOf` it like another one; what is empty is shared with nobody. */
export function sharedWords(
  pages: Iterable<PageRecord>,
  wordsOf: (page: PageRecord) => string | null | undefined,
): SharedWords[] {
  // Most have single spaces already: those are passed over.
  const plain = (page: PageRecord) =>
    wordsOf(page)
      ?.replace(/\s{2,}|[^\S ]/g, ' ')
      .trim() ?? '';
  return [...groupBy(pages, plain)].flatMap(([text, [first, ...others]]) =>
    text === '' || first === undefined ? [] : others.map((page) => ({ page, text, first: first.file })),
  );
}
