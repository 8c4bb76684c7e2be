/** Which attribute of which element holds an address, and what it is for (HTML, index of attributes). */
import { type Holder, holderOf, holderWithin } from '../holder.ts';
import type { Kind } from '../reading.ts';
import type { Construction } from './construction.ts';
import { attributes, elements } from './names.ts';

type Element = (typeof elements.names)[number];
type Attribute = (typeof attributes.names)[number];

/** How the value of an attribute is read, and what its address is for. */
type Holding =
  | { readonly as: 'address'; readonly kind: Kind }
  /** The element's other attributes say what it is for, or that it is no address at all. */
  | { readonly as: 'link' | 'part' | 'script' | 'relation' | 'named' | 'object' }
  | { readonly as: 'srcset' | 'addresses' | 'document' | 'style' | 'presentation' };

export interface HeldAttribute {
  readonly attribute: number;
  readonly holding: Holding;
  readonly holder: Holder;
}

const page: Holding = { as: 'address', kind: 'page' };
const image: Holding = { as: 'address', kind: 'image' };
const media: Holding = { as: 'address', kind: 'media' };
const frame: Holding = { as: 'address', kind: 'frame' };
const link: Holding = { as: 'link' };
const srcset: Holding = { as: 'srcset' };

const html: Readonly<Partial<Record<Element, Readonly<Partial<Record<Attribute, Holding>>>>>> = {
  a: { href: link, ping: { as: 'addresses' } },
  area: { href: link, ping: { as: 'addresses' } },
  audio: { src: media },
  blockquote: { cite: page },
  body: { background: image },
  button: { formaction: page },
  del: { cite: page },
  embed: { src: media },
  form: { action: page },
  frame: { src: frame },
  iframe: { src: frame, srcdoc: { as: 'document' } },
  // The parser makes an img of it (HTML 13.2.6.4.7).
  image: { src: image, srcset },
  img: { src: image, srcset },
  input: { src: image, formaction: page },
  ins: { cite: page },
  link: { href: { as: 'relation' }, imagesrcset: srcset },
  meta: { content: { as: 'named' } },
  object: { data: { as: 'object' } },
  q: { cite: page },
  script: { src: { as: 'script' } },
  source: { src: media, srcset },
  table: { background: image },
  tbody: { background: image },
  td: { background: image },
  tfoot: { background: image },
  th: { background: image },
  thead: { background: image },
  tr: { background: image },
  track: { src: media },
  video: { src: media, poster: image },
};

/** Address attributes of SVG elements; any other `href` there names a part of this or another picture. */
const svg: Readonly<Partial<Record<Element, Holding>>> = { a: link, image, script: { as: 'script' } };
const part: Holding = { as: 'part' };

/** Attributes of SVG elements whose value is CSS that may hold an address (SVG 2, 6.6). */
export const presentationAttributes = [
  'clip-path',
  'cursor',
  'fill',
  'filter',
  'marker-end',
  'marker-mid',
  'marker-start',
  'mask',
  'stroke',
] as const;

function holdersOf(element: string, held: Readonly<Partial<Record<string, Holding>>>): HeldAttribute[] {
  return Object.entries(held).map(([name, holding]) => ({
    attribute: attributes.id[name as Attribute],
    holding: holding as Holding,
    holder: holderOf('markup', element, name),
  }));
}

/** Of HTML elements, by element number; undefined for those that hold no address. */
export const htmlHolders: readonly (readonly HeldAttribute[] | undefined)[] = [
  undefined,
  ...elements.names,
].map((name) => (name !== undefined && html[name] ? holdersOf(name, html[name]) : undefined));

/** Of any SVG or MathML element. */
export function foreignHolders(element: string, inside: 'svg' | 'math'): readonly HeldAttribute[] {
  const href: Holding = inside === 'math' ? page : ((svg[element as Element] as Holding | undefined) ?? part);
  const held: Record<string, Holding> = { href, 'xlink:href': href };
  for (const name of presentationAttributes) held[name] = { as: 'presentation' };
  return holdersOf(element, held);
}

/** A holder with what it stands in, where that keeps it from being read everywhere. */
export function holderHere(holder: Holder, { inside }: Pick<Construction, 'inside'>): Holder {
  return inside === 'template' || inside === 'noscript' ? holderWithin(holder, inside) : holder;
}
