/** How sorts of files are named and coloured in every picture, on white. */

import type { Sort } from '../core/mapping/grouped.ts';

export const sortNames: Readonly<Record<Sort, string>> = {
  page: 'page',
  style: 'stylesheet',
  script: 'script',
  image: 'image',
  font: 'font',
  other: 'other',
};

export const sortColours: Readonly<Record<Sort, string>> = {
  page: '#5b6770',
  style: '#2f7d8c',
  script: '#b8862b',
  image: '#7d9b4e',
  font: '#8a6fa8',
  other: '#a9a9a9',
};
