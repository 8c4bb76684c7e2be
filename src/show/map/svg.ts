/** The map of a site as a picture that stands for itself, and prints. */
import type { SiteMap } from '../../core/check/site-map.ts';
import { forMarkup } from '../escape.ts';
import { sortColours } from '../sorts.ts';
import style from './drawing.css';
import { drawingOf } from './drawing.ts';

const sortVariables = Object.entries(sortColours).map(([sort, colour]) => `--${sort}:${colour}`);
/** On paper, and wherever else nobody chooses. */
const LIGHT = `svg{--ground:#fff;--ink:#1f2a30;--soft:#5b6770;--line:#d9dee1;--way:#aebac1;--broken:#b3261e;${sortVariables.join(';')}}`;

export function mapAsSvg(map: SiteMap, title: string): string {
  const { width, height, content } = drawingOf(map, title);
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="0 0 ${width} ${height}" role="img" aria-label="${forMarkup(title)}">
<style>${LIGHT}${style.replace(/\s*\n\s*/g, '')}</style>
<rect class="ground" width="100%" height="100%"/>
${content}
</svg>
`;
}
