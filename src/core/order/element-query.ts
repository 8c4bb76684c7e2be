/** What scripts look for among the elements of their page (DOM 4.2.6, HTML 3.1.5). */

export interface ElementQuery {
  /** An id, a selector, a class, an element's name, a `name` attribute; a form, a control of a form; the body. */
  readonly by: 'id' | 'selector' | 'class' | 'tag' | 'name' | 'form' | 'control' | 'body';
  readonly value: string;
  /** Which of those that are found. */
  readonly index: number;
  /** Where the value is written, quotes included (UTF-16); null where it is put together, or given. */
  readonly literal: { readonly start: number; readonly end: number } | null;
  /** It is looked for once the page is there. */
  readonly isLate: boolean;
  /** It must be written in the page: what scripts may make does not count. */
  readonly isWritten?: true;
}

/** A query as people know it: as a selector. */
export function selectorOf({ by, value, index }: Pick<ElementQuery, 'by' | 'value' | 'index'>): string {
  const nth = index === 0 ? '' : ` (the ${index + 1}.)`;
  switch (by) {
    case 'id':
      return `#${value}`;
    case 'class':
      return `.${value.trim().replace(/\s+/g, '.')}${nth}`;
    case 'name':
    case 'control':
      return `[name="${value}"]${nth}`;
    case 'form':
      return value === '' ? `form${nth}` : `form[name="${value}"]`;
    default:
      return value + nth;
  }
}
