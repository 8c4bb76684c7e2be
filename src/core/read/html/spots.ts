/** Where references of a page stand, when nothing more is to be said of them. */
import type { Spot } from '../reading.ts';

/** One object for all references that stand alike. */
const spots = new Map<Spot['inside'], Readonly<Record<Spot['region'], Spot>>>(
  ([null, 'template', 'noscript', 'select', 'svg', 'math'] as const).map((inside) => [
    inside,
    {
      head: { region: 'head', inside, document: 0, attributes: null },
      body: { region: 'body', inside, document: 0, attributes: null },
      none: { region: 'none', inside, document: 0, attributes: null },
    },
  ]),
);

export function plainSpot(region: Spot['region'], inside: Spot['inside']): Spot {
  return (spots.get(inside) as Readonly<Record<Spot['region'], Spot>>)[region];
}
