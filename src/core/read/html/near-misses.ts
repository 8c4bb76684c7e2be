/** Attributes that were probably meant to be others: misspelt ones, and `src` where `href` belongs. */
import { isOneSlip } from '../../site/near-names.ts';

/** By element, the attributes that decide what it loads or leads to. */
export const expected: Readonly<Record<string, readonly string[]>> = {
  a: ['href'],
  area: ['href'],
  audio: ['src'],
  base: ['href'],
  embed: ['src'],
  form: ['action'],
  iframe: ['src'],
  img: ['src', 'srcset'],
  link: ['href', 'rel', 'type', 'media'],
  object: ['data'],
  script: ['src', 'type', 'defer', 'async'],
  source: ['src', 'srcset'],
  track: ['src'],
  video: ['src', 'poster'],
};

/** Attributes that look like a slip of another one but exist in their own right. */
const real = new Set([
  'rev',
  'is',
  'alt',
  'dir',
  'ref',
  'size',
  'sizes',
  'name',
  'lang',
  'title',
  'part',
  'slot',
  'hide',
  'ismap',
]);

/** What `attribute` of `element` was probably meant to be; null where it is right or nothing like it. */
export function nearMiss(element: string, attribute: string): string | null {
  const wanted = Object.hasOwn(expected, element) ? (expected[element] as readonly string[]) : null;
  if (wanted === null || wanted.includes(attribute)) return null;
  // `href:"style.css"` is all one name.
  const colon = /^([a-z-]+)[:;](?=["'])/.exec(attribute);
  if (colon !== null && wanted.includes(colon[1] as string))
    return `${colon[1]}=${attribute.slice((colon[1] as string).length + 1)}`;
  if (attribute === 'src' && wanted.includes('href')) return 'href';
  if (attribute === 'href' && wanted.includes('src')) return 'src';
  if (real.has(attribute) || attribute.length < 2) return null;
  return wanted.find((name) => isOneSlip(attribute, name)) ?? null;
}
