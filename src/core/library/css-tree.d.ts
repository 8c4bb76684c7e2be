/** Parts of the parser that need none of its tables of properties. */
declare module 'css-tree/parser' {
  import type { parse } from 'css-tree';

  const value: typeof parse;
  export default value;
}

declare module 'css-tree/generator' {
  import type { generate } from 'css-tree';

  const value: typeof generate;
  export default value;
}
