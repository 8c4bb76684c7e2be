/** What scripts look for among the elements of their page (DOM 4.2.6, HTML 3.1.5). */

export interface ElementQuery {
  /** What a function was given, by the number of its parameter; what one gave back, by its path; an id, a selector, a class, an element's name, a `name` attribute; a form, a control of a form; the body. */
  readonly by:
    | 'parameter'
    | 'result'
    | 'id'
    | 'selector'
    | 'class'
    | 'tag'
    | 'name'
    | 'form'
    | 'control'
    | 'body';
  readonly value: string;
  /** Which of those that are found. */
  readonly index: number;
  /** Where the value is written, quotes included (UTF-16); null where it is put together, or given. */
  readonly literal: { readonly start: number; readonly end: number } | null;
  /** It is looked for once the page is there. */
  readonly isLate: boolean;
  /** What the function was given that gave it back. */
  readonly args?: readonly Argument[];
  /** The number of the parameter that the value is given as. */
  readonly parameter?: number;
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

/** What is known of an argument: a text, an element of the page. */
export type Argument = string | ElementQuery | null;

/** False where it only is one by what others do. */
export function isOfPage({ by }: ElementQuery): boolean {
  return by !== 'parameter' && by !== 'result';
}

/** A query of a function, as it is called with these arguments; null where nobody can tell. */
export function queryWith(query: ElementQuery, args: readonly Argument[]): ElementQuery | null {
  if (query.by === 'parameter') {
    const given = args[Number(query.value)];
    return typeof given === 'object' ? given : null;
  }
  if (query.by === 'result')
    return { ...query, args: (query.args ?? []).map((one) => withArguments(one, args)) };
  if (query.parameter === undefined) return query;
  const given = args[query.parameter];
  const { parameter: _parameter, ...rest } = query;
  return typeof given === 'string' ? { ...rest, value: given } : null;
}

/** What is given on, as far as it is known by what came in. */
export function withArguments(one: Argument, args: readonly Argument[]): Argument {
  return typeof one === 'object' && one !== null ? queryWith(one, args) : one;
}
