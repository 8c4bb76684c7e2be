/** What files are by the extensions of their names: one table for all who ask. */
import { lookup } from 'mrmime';
import { extensionOf, nameOf } from './inventory.ts';

/** The page that a host answers with for a folder. */
export const INDEX = 'index.html';

/** Extensions of pages. */
export const pageExtensions: ReadonlySet<string> = new Set(['html', 'htm', 'xhtml']);

/** Names that hosts know and the list of media types does not have. */
const more: Readonly<Record<string, string>> = {
  ico: 'image/x-icon',
  cur: 'image/x-icon',
  eot: 'application/vnd.ms-fontobject',
};

/** The media type that hosts serve a file as (RFC 6838); empty where the name tells none. */
export function mediaType(path: string): string {
  const extension = extensionOf(path);
  const known: unknown = lookup(extension) ?? (Object.hasOwn(more, extension) ? more[extension] : '');
  // The list has what every object has, too: constructor.
  return typeof known === 'string' ? known : '';
}

/** What files are to visitors, by their names: pages, styles, code, pictures and so on; else the extension itself. */
export function sortOfFile(path: string): string {
  if (isPageName(path)) return 'page';
  const type = mediaType(path);
  if (type === 'text/css') return 'style';
  if (/javascript$/.test(type)) return 'script';
  const [, group = ''] = /^(image|font|audio|video)\//.exec(type) ?? [];
  if (group !== '') return group === 'video' ? 'audio' : group;
  return extensionOf(path) === 'eot' ? 'font' : extensionOf(path);
}

/** True for a page by its name. */
export function isPageName(path: string): boolean {
  return pageExtensions.has(extensionOf(path));
}

/** True for `index.html` and its like. */
export function isIndexName(path: string): boolean {
  return isPageName(path) && /^index\./i.test(nameOf(path));
}

/** True for what is written in tags (HTML and XML). */
export function isMarkup(path: string): boolean {
  return /^(?:text\/(?:html|xml)|application\/xml|(?:application|image)\/.*\+xml)$/.test(mediaType(path));
}

/** True for scripts and for JSON. */
export function isCode(path: string): boolean {
  return /^(?:text\/javascript|application\/json|application\/manifest\+json)$/.test(mediaType(path));
}

/** True for what people write and read as text. */
export function isText(path: string): boolean {
  return isMarkup(path) || isCode(path) || mediaType(path).startsWith('text/');
}

/** True for what nobody reads as text; of names that tell nothing, false. */
export function isBinary(path: string): boolean {
  return /^(?:image(?!\/svg)|audio|video|font)\/|^application\/(?:pdf|zip|gzip|vnd\.ms-fontobject)$/.test(
    mediaType(path),
  );
}

/** Extensions of files that scripts of a site ask for. */
export const askedForExtensions =
  'html htm css js mjs json xml txt csv svg png jpg jpeg gif webp avif ico mp3 mp4 webm ogg ogv wav woff woff2 ttf otf pdf glb gltf wasm'.split(
    ' ',
  );
