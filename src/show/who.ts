/** Who refers to a file, for a terminal and as JSON. */

import type { Who } from '../core/check/who.ts';
import { groupBy } from '../core/group-by.ts';
import { asJson, visible } from './escape.ts';
import { inWords } from './holder.ts';
import { count, type Paint, shorten } from './paint.ts';

/** Of the name of a file that is shown with a place in it. */
const MOST_OF_SPOT = 34;
/** Pages that are named of those that load a file by way of others. */
const MOST_PAGES = 20;

export function whoAsText(path: string, { referrers, pages }: Who, paint: Paint, columns: number): string {
  const isFolder = path.endsWith('/');
  const head = `${paint.bold(visible(path))}\n`;
  if (referrers.length === 0 && pages.length === 0)
    return `${head}Nothing ${isFolder ? 'outside of it refers to what it holds' : 'refers to it'}.\n`;
  const spots = referrers.map(
    ({ file, line, column }) => `${shorten(visible(file), MOST_OF_SPOT, paint)} ${line}:${column}`,
  );
  const holders = referrers.map(({ holder }) => shorten(inWords(holder), 18, paint));
  const widths = [spots, holders].map((all) =>
    all.reduce((most, text) => Math.max(most, text.length), 0),
  ) as [number, number];
  const lines = referrers.map((one, index) => {
    const said = visible(isFolder ? one.target : one.written);
    const [spot, holder] = [spots[index]?.padEnd(widths[0]), holders[index]?.padEnd(widths[1])];
    const room = Math.max(columns - widths[0] - widths[1] - 6, 16);
    return `${spot}   ${paint.dim(holder)}   ${paint.cyan(shorten(said, room, paint))}\n`;
  });
  const files = new Set(referrers.map(({ file }) => file)).size;
  const amount = `${count(referrers.length, 'reference')} in ${count(files, 'file')}.`;
  return `${head}\n${lines.join('')}\n${waysAsText(pages, paint, columns)}${amount}\n`;
}

function waysAsText(pages: Who['pages'], paint: Paint, columns: number): string {
  if (pages.length === 0) return '';
  const all = [...groupBy(pages, ({ by }) => by.join('\n')).values()];
  const blocks = all.map((alike) => {
    const [{ by }] = alike as [Who['pages'][number]];
    const way = [...by].map(visible).join(` ${paint.marks.step} `);
    const shown = alike
      .slice(0, MOST_PAGES)
      .map(({ page }) => `    ${shorten(visible(page), columns - 4, paint)}\n`);
    const rest = alike.length - shown.length;
    const more = rest > 0 ? `    ${paint.marks.more} and ${count(rest, 'more page')}\n` : '';
    return `By way of ${way}, ${count(alike.length, 'page')}:\n${shown.join('')}${more}\n`;
  });
  return blocks.join('');
}

export function whoAsJson(path: string, { referrers, pages }: Who): string {
  const references = referrers.map(({ holder, ...one }) => ({ ...one, holder: inWords(holder) }));
  return `${asJson({ path, references, pages }, 2)}\n`;
}
