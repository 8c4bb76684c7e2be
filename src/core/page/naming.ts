/** Where a new page goes, and what it is called where nobody says. */
import { fail } from '../errors.ts';
import { INDEX } from '../site/formats.ts';
import { isSafeName, safeName } from '../site/names.ts';

/** What a page says of itself. */
export interface PageWords {
  readonly title: string;
  readonly description: string;
  /** Its first heading, and its link in a navigation. */
  readonly heading: string;
}

/**
 * The site path of a page that somebody calls `wanted`: with its extension, and in the folder for pages
 * unless it starts with that folder or with `./`. Throws a `CravelError` for unsafe names.
 */
export function pageFile(wanted: string, pagesFolder: string | undefined): string {
  const exact = wanted.startsWith('./');
  const plain = wanted.replace(/^(?:\.?\/)+/, '');
  const named = plain === '' || plain.endsWith('/') ? `${plain}${INDEX}` : plain;
  const file = /\.html?$/i.test(named) ? named : `${named}.html`;
  const folder = pagesFolder === undefined || pagesFolder === '.' ? '' : `${pagesFolder}/`;
  const path = exact || file.startsWith(folder) ? file : folder + file;
  const steps = path.split('/');
  if (!steps.every(isSafeName)) {
    const safe = plain
      .replace(/\.html?$/i, '')
      .split('/')
      .map(safeName)
      .filter((step) => step !== '');
    throw fail('unsafe-name', wanted, safe.join('/'));
  }
  return path;
}

/** Words for a page without words of its own, from where it lies and what the site says of itself. */
export function wordsFor(
  file: string,
  pagesFolder: string | undefined,
  site: { readonly title: string; readonly description: string },
): PageWords {
  const folder = pagesFolder === undefined ? '' : `${pagesFolder}/`;
  const inside = file.startsWith(folder) ? file.slice(folder.length) : file;
  const steps = inside
    .replace(/(?:(?:^|\/)index)?\.html?$/i, '')
    .split('/')
    .filter((step) => step !== '');
  const names = steps.map(inWords).reverse();
  const heading = names[0] ?? site.title;
  const title = [...names, site.title].filter((text) => text !== '').join(' · ');
  const about = site.description || site.title;
  return {
    heading,
    title,
    description: about === '' ? title : `${[...names].reverse().join(', ')}. ${about}`,
  };
}

/** A name as a person would write it: `north-pier` gives `North pier`. */
export function inWords(name: string): string {
  const words = name.replace(/[-_.]+/g, ' ').trim();
  return words.charAt(0).toUpperCase() + words.slice(1);
}

/** A text in one line, without white space around it: as a browser has a title (DOM, strip and collapse). */
export function inOneLine(text: string): string {
  return text.replace(/[\t\n\f\r ]+/g, ' ').replace(/^ | $/g, '');
}
