/** Start tags that break out of SVG and MathML (HTML 13.2.6.5). */
import { elements } from './names.ts';

// biome-ignore format: one name after another
const names = [
  'b', 'big', 'blockquote', 'body', 'br', 'center', 'code', 'dd', 'div', 'dl', 'dt', 'em', 'embed', 'h1', 'h2', 'h3', 'h4', 'h5', 'h6', 'head', 'hr', 'i', 'img', 'li', 'listing', 'menu', 'meta', 'nobr', 'ol', 'p', 'pre', 'ruby', 's', 'small', 'span', 'strong', 'strike', 'sub', 'sup', 'table', 'tt', 'u', 'ul', 'var',
] as const;

export const breakouts: ReadonlySet<number> = new Set(names.map((name) => elements.id[name]));
