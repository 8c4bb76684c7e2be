/** Where references of a page stand, when nothing more is to be said of them. */
import type { Standing } from '../reading.ts';

/** One object for all references that stand alike. */
const standings = new Map<Standing['inside'], Readonly<Record<Standing['region'], Standing>>>(
  ([null, 'template', 'noscript', 'select', 'svg', 'math'] as const).map((inside) => [
    inside,
    {
      head: { region: 'head', inside, document: 0, attributes: null },
      body: { region: 'body', inside, document: 0, attributes: null },
      none: { region: 'none', inside, document: 0, attributes: null },
    },
  ]),
);

export function plainStanding(region: Standing['region'], inside: Standing['inside']): Standing {
  return (standings.get(inside) as Readonly<Record<Standing['region'], Standing>>)[region];
}
