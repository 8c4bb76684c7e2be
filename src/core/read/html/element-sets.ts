/** Sets of elements that tree construction treats alike (HTML 13.2.6.4). */
import { elements } from './names.ts';

const { id } = elements;
type Name = keyof typeof id;
const set = (...names: Name[]): ReadonlySet<number> => new Set(names.map((name) => id[name]));

export const headVoid = set('base', 'basefont', 'bgsound', 'link', 'meta');
/** Elements of a head that hold text. */
export const headText = set('noframes', 'noscript', 'script', 'style', 'title');
// biome-ignore format: one name after another
export const headRules = set(
  'base', 'basefont', 'bgsound', 'link', 'meta', 'noframes', 'script', 'style', 'template', 'title',
);
// biome-ignore format: one name after another
export const blocks = set(
  'address', 'article', 'aside', 'blockquote', 'center', 'details', 'dialog', 'dir', 'div', 'dl', 'fieldset',
  'figcaption', 'figure', 'footer', 'header', 'hgroup', 'main', 'menu', 'nav', 'ol', 'p', 'search', 'section',
  'summary', 'ul',
);
export const blockEnds = new Set([...blocks, ...set('button', 'listing', 'pre')]);
blockEnds.delete(id.p);
export const headings = set('h1', 'h2', 'h3', 'h4', 'h5', 'h6');
export const formatting = set(
  'b',
  'big',
  'code',
  'em',
  'font',
  'i',
  's',
  'small',
  'strike',
  'strong',
  'tt',
  'u',
);
export const formattingEnds = new Set([...formatting, id.a, id.nobr]);
export const markers = set('applet', 'marquee', 'object');
export const voids = set('area', 'br', 'embed', 'img', 'image', 'keygen', 'wbr');
// biome-ignore format: one name after another
export const ignoredInBody = set(
  'caption', 'col', 'colgroup', 'frame', 'head', 'tbody', 'td', 'tfoot', 'th', 'thead', 'tr',
);
export const cells = set('td', 'th');
export const rowGroups = set('tbody', 'tfoot', 'thead');
export const tableParts = set('caption', 'col', 'colgroup', 'tbody', 'td', 'tfoot', 'th', 'thead', 'tr');
export const selectLeavers = set('caption', 'table', 'tbody', 'tfoot', 'thead', 'tr', 'td', 'th');
export const tableTextHolders = set('table', 'tbody', 'tfoot', 'thead', 'tr', 'template');
