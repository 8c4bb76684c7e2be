/** The map of a site as a drawing: rings of clicks around the entry, each page as heavy as it is, broken ways in red. */

import type { SiteMap } from '../../core/check/site-map.ts';
import { type Grouped, grouped, MOST_RINGS, type Sort, sorts } from '../../core/mapping/grouped.ts';
import { areFew, inRings, type PlacedSpot } from '../../core/mapping/rings.ts';
import { nameOf } from '../../core/site/inventory.ts';
import { withCommas } from '../../core/with-commas.ts';
import { forMarkup } from '../escape.ts';
import { count } from '../paint.ts';
import { sortNames } from '../sorts.ts';

/** Around the rings: for names. Beside them: for what stands apart. */
const MARGIN = 170;
const ASIDE = 300;
const TOP = 96;
/** Lines of what stands apart at most, and characters of a name. */
const MOST_LINES = 24;
const LONGEST = 26;

export interface Drawing {
  readonly width: number;
  readonly height: number;
  /** Everything in the `svg` element. */
  readonly content: string;
  readonly grouped: Grouped;
}

export function drawingOf(map: SiteMap, title: string): Drawing {
  const groups = grouped(map);
  const { spots, radii } = inRings(groups.spots);
  const outer = (radii.at(-1) ?? 60) + MARGIN;
  const aside = asideOf(map, groups);
  const width = Math.round(2 * outer + (aside.length > 0 ? ASIDE : 0));
  const height = Math.round(Math.max(2 * outer, aside.length * 18 + 60) + TOP);
  const [x, y] = [outer, TOP + outer];
  const places = new Map(spots.map((spot) => [spot.id, spot]));
  const content = [
    `<text class="title" x="24" y="36">${forMarkup(title)}</text>`,
    `<text class="soft" x="24" y="58">${forMarkup(summaryOf(map, groups))}</text>`,
    legend(),
    `<text class="soft" x="24" y="${height - 14}">The area of a page says how many bytes come with it.</text>`,
    `<g transform="translate(${x} ${y})">`,
    ...radii.map((radius, index) => ringAsMarkup(radius, index + 1)),
    ...spots.map((spot) => wayAsMarkup(spot, places.get(spot.from ?? ''))),
    ...spots.map(brokenAsMarkup),
    ...spots.map(spotAsMarkup),
    ...spots.map((spot) => nameAsMarkup(spot, areFew(spots))),
    '</g>',
    `<g transform="translate(${2 * outer} ${TOP + 20})">${aside.join('')}</g>`,
  ].join('\n');
  return { width, height, content, grouped: groups };
}

function summaryOf({ pages, sizes }: SiteMap, { spots, unreached }: Grouped): string {
  const deepest = pages.reduce((most, { clicks }) => Math.max(most, clicks ?? 0), 0);
  const bytes = [...sizes.values()].reduce((sum, amount) => sum + amount, 0);
  const broken = pages.reduce((sum, page) => sum + page.broken.length, 0);
  const words = [
    count(pages.length, 'page'),
    deepest > 0 ? `the farthest ${count(deepest, 'click')} from the entry` : '',
    `${withCommas(bytes)} bytes`,
    broken > 0 ? count(broken, 'broken way') : '',
    unreached.length > 0 ? `${withCommas(unreached.length)} that no way leads to` : '',
    spots.some(({ pages: all }) => all.length > 1) ? 'pages of one folder put together' : '',
  ];
  return words.filter((word) => word !== '').join(' · ');
}

function legend(): string {
  const all = sorts.map(
    (sort, index) =>
      `<g transform="translate(${24 + index * 102} 76)"><rect class="${sort}" width="11" height="11" rx="2"/><text class="soft" x="17" y="10">${sortNames[sort]}</text></g>`,
  );
  return all.join('');
}

function ringAsMarkup(radius: number, clicks: number): string {
  const more = clicks === MOST_RINGS ? ' and more' : '';
  return `<circle class="ring" r="${fixed(radius)}"/><text class="ring-name" y="${fixed(-radius - 4)}" text-anchor="middle">${count(clicks, 'click')}${more}</text>`;
}

/** A line that leaves inwards and arrives inwards. */
function wayAsMarkup(spot: PlacedSpot, from: PlacedSpot | undefined): string {
  if (from === undefined) return '';
  const [fx, fy] = [from.x * 0.5 + spot.x * 0.5, from.y * 0.5 + spot.y * 0.5];
  const bend = Math.hypot(spot.x, spot.y) === 0 ? 0 : Math.hypot(from.x, from.y) / Math.hypot(spot.x, spot.y);
  const [cx, cy] = [fx * (0.4 + 0.6 * bend), fy * (0.4 + 0.6 * bend)];
  return `<path class="way" d="M${fixed(from.x)} ${fixed(from.y)}Q${fixed(cx)} ${fixed(cy)} ${fixed(spot.x)} ${fixed(spot.y)}"/>`;
}

/** A way that ends in nothing, out of the spot. */
function brokenAsMarkup({ id, x, y, radius, angle, broken, ring }: PlacedSpot): string {
  if (broken === 0) return '';
  const turned = ring === 0 ? -Math.PI / 4 : angle - 0.9;
  const at = (distance: number) =>
    [x + Math.cos(turned) * distance, y + Math.sin(turned) * distance] as const;
  const [sx, sy] = at(radius);
  const [ex, ey] = at(radius + 16);
  const [tx, ty] = at(radius + 27);
  return `<g class="broken" data-of="${forMarkup(id)}"><path d="M${fixed(sx)} ${fixed(sy)}L${fixed(ex)} ${fixed(ey)}"/><path d="M${fixed(ex - 4)} ${fixed(ey - 4)}l8 8m0 -8l-8 8"/><text x="${fixed(tx)}" y="${fixed(ty + 4)}" text-anchor="middle">${withCommas(broken)}</text></g>`;
}

/** A round with a slice for each sort of file, and the name beside it. */
function spotAsMarkup(spot: PlacedSpot): string {
  const { id, x, y, radius, weights, weight, pages, path } = spot;
  let from = -Math.PI / 2;
  const slices = sorts.map((sort) => {
    const share = weight === 0 ? (sort === 'page' ? 1 : 0) : weights[sort] / weight;
    const slice = sliceAsMarkup(radius, from, share, sort);
    from += share * 2 * Math.PI;
    return slice;
  });
  const [first] = pages;
  const what =
    pages.length > 1
      ? `${path} · ${count(pages.length, 'page')}, ${withCommas(Math.round(weight))} bytes each`
      : `${path} · ${withCommas(Math.round(weight))} bytes${first?.title ? ` · ${first.title}` : ''}`;
  return `<g class="spot${pages.length > 1 ? ' many' : ''}" data-id="${forMarkup(id)}" transform="translate(${fixed(x)} ${fixed(y)})"><title>${forMarkup(what)}</title>${slices.join('')}<circle class="rim" r="${fixed(radius)}"/></g>`;
}

function labelOf(path: string, amount: number): string {
  const name = amount > 1 || /(?:^|\/)index\.html$/.test(path) ? path : nameOf(path);
  return shortened(name) + (amount > 1 ? ` (${withCommas(amount)})` : '');
}

function shortened(name: string): string {
  return name.length <= LONGEST ? name : `${name.slice(0, 11)}…${name.slice(-14)}`;
}

function sliceAsMarkup(radius: number, from: number, share: number, sort: Sort): string {
  if (share <= 0.001) return '';
  if (share >= 0.999) return `<circle class="${sort}" r="${fixed(radius)}"/>`;
  const to = from + share * 2 * Math.PI;
  const point = (angle: number) => `${fixed(Math.cos(angle) * radius)} ${fixed(Math.sin(angle) * radius)}`;
  return `<path class="${sort}" d="M0 0L${point(from)}A${fixed(radius)} ${fixed(radius)} 0 ${share > 0.5 ? 1 : 0} 1 ${point(to)}Z"/>`;
}

/** Outwards from the centre, and never on its head; over all spots. */
function nameAsMarkup(spot: PlacedSpot, isUpright: boolean): string {
  const { id, x, y, radius, ring, angle, path, pages } = spot;
  const name = forMarkup(labelOf(path, pages.length));
  const place = `translate(${fixed(x)} ${fixed(y)})`;
  const text = (turn: string, at: number, down: number, anchor: string) =>
    `<text class="name" data-of="${forMarkup(id)}" transform="${place}${turn}" x="${fixed(at)}" y="${fixed(down)}" text-anchor="${anchor}">${name}</text>`;
  const [right, down] = [Math.cos(angle), Math.sin(angle)];
  const away = radius + 7;
  if (ring === 0) return text('', 0, away + 9, 'middle');
  if (isUpright) {
    if (Math.abs(right) < 0.4) return text('', 0, down < 0 ? -away : away + 9, 'middle');
    return text('', right * away, down * away + 4, right < 0 ? 'end' : 'start');
  }
  const isLeft = right < -0.001;
  const degrees = (angle * 180) / Math.PI + (isLeft ? 180 : 0);
  return text(` rotate(${fixed(degrees)})`, isLeft ? -away : away, 4, isLeft ? 'end' : 'start');
}

/** What stands apart: pages that no way leads to, files that nothing refers to, pages that are called the same. */
function asideOf({ unused, twins }: SiteMap, { unreached }: Grouped): string[] {
  const lists: readonly (readonly [head: string, lines: readonly string[]])[] = [
    ['No way leads to', unreached.map(({ file }) => file)],
    ['Nothing refers to', unused],
    ['Called the same', twins.map((group) => group.map(nameOf).join('  =  '))],
  ];
  const lines: string[] = [];
  const add = (text: string, kind: string) =>
    lines.push(`<text class="${kind}" y="${lines.length * 18}">${forMarkup(text)}</text>`);
  for (const [head, all] of lists) {
    if (all.length === 0) continue;
    if (lines.length > 0) add('', 'soft');
    add(`${head} (${withCommas(all.length)})`, 'head');
    for (const line of all.slice(0, MOST_LINES))
      add(line.length > 40 ? `${line.slice(0, 18)}…${line.slice(-20)}` : line, 'apart');
    if (all.length > MOST_LINES) add(`and ${withCommas(all.length - MOST_LINES)} more`, 'soft');
  }
  return lines;
}

function fixed(amount: number): string {
  return String(Math.round(amount * 10) / 10);
}
