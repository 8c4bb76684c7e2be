/** What a page loads as a picture: a bar for each file, from where it can begin, as long as it is large. */

import type { LoadStep, Loads } from '../core/check/loads.ts';
import { sortOf, sorts } from '../core/mapping/grouped.ts';
import { withCommas } from '../core/with-commas.ts';
import { forMarkup } from './escape.ts';
import { nameOfStep } from './loads.ts';
import { sortColours, sortNames } from './sorts.ts';

const ROW = 22;
const TOP = 64;
const LABELS = 330;
const WIDTH = 1000;
/** How far a file that waits for another begins behind it. */
const WAIT = 70;
const BARS = WIDTH - LABELS - 110;

interface Row extends Pick<LoadStep, 'depth' | 'kind' | 'found'> {
  readonly name: string;
  readonly bytes: number;
  readonly way: string;
}

export function loadsAsSvg({ page, bytes, steps }: Loads): string {
  const rows: readonly Row[] = [
    { name: page, depth: -1, bytes, kind: 'page', way: 'the page', found: true },
    ...steps.map((step) => ({
      name: nameOfStep(step),
      depth: step.depth,
      bytes: step.bytes ?? 0,
      kind: step.kind,
      way: step.found === false ? 'not there' : step.found === 'elsewhere' ? 'on another host' : step.way,
      found: step.found,
    })),
  ];
  const deepest = rows.reduce((most, { depth }) => Math.max(most, depth + 1), 0);
  const wait = Math.min(WAIT, BARS / 2 / Math.max(deepest, 1));
  const largest = rows.reduce((most, one) => Math.max(most, one.bytes), 1);
  // By the root, small files are still to be told apart beside large ones.
  const lengthOf = (amount: number) =>
    Math.max(4, Math.sqrt(amount / largest) * (BARS - wait * deepest - 150));
  const height = TOP + rows.length * ROW + 44;
  const bars = rows.map((row, index) => {
    const y = TOP + index * ROW;
    const x = LABELS + (row.depth + 1) * wait;
    const length = lengthOf(row.bytes);
    const bar =
      row.found === false
        ? `<rect x="${x}" y="${y + 4}" width="40" height="14" fill="none" stroke="#b3261e" stroke-dasharray="4 3"/>`
        : `<rect x="${x}" y="${y + 4}" width="${length.toFixed(1)}" height="14" rx="2" fill="${sortColours[sortOf(row.kind)]}"/>`;
    const amount = row.found === true ? `${withCommas(row.bytes)} · ` : '';
    const after = x + (row.found === false ? 40 : length) + 8;
    const label = `<text x="${LABELS - 10}" y="${y + 15}" text-anchor="end"${row.found === false ? ' class="lost"' : ''}>${forMarkup(shortened(row.name))}</text>`;
    return `${label}${bar}<text class="soft" x="${after.toFixed(1)}" y="${y + 15}">${amount}${forMarkup(row.way)}</text>`;
  });
  const used = sorts.filter((sort) => rows.some(({ kind }) => sortOf(kind) === sort));
  const legend = used.map(
    (sort, index) =>
      `<rect x="${LABELS + index * 110}" y="36" width="12" height="12" rx="2" fill="${sortColours[sort]}"/><text class="soft" x="${LABELS + index * 110 + 18}" y="46">${sortNames[sort]}</text>`,
  );
  const lines = Array.from({ length: deepest + 1 }, (_none, depth) => {
    const x = LABELS + depth * wait;
    return `<line x1="${x}" y1="${TOP - 6}" x2="${x}" y2="${height - 40}"/>`;
  });
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${WIDTH}" height="${height}" viewBox="0 0 ${WIDTH} ${height}" role="img" aria-label="What ${forMarkup(page)} loads">
<style>text{font:13px system-ui,sans-serif;fill:#1f2a30}text.soft{fill:#5b6770;font-size:12px}text.head{font-size:16px;font-weight:600}text.lost{fill:#b3261e}line{stroke:#d9dee1}</style>
<rect width="100%" height="100%" fill="#fff"/>
<text class="head" x="20" y="46">${forMarkup(shortened(page))}</text>
${lines.join('')}
${legend.join('')}
${bars.join('\n')}
<text class="soft" x="${LABELS}" y="${height - 14}">Sizes in bytes. What begins further right waits for the file that names it.</text>
</svg>
`;
}

/** Letters of a name that have room beside the bars. */
const MOST_LETTERS = 42;

function shortened(name: string): string {
  return name.length <= MOST_LETTERS ? name : `…${name.slice(1 - MOST_LETTERS)}`;
}
