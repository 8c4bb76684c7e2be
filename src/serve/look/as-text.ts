/** What a look in a browser found, for a terminal and as JSON: what fails alike on several pages is told once. */

import { groupBy } from '../../core/group-by.ts';
import { withCommas } from '../../core/with-commas.ts';
import { asJson, visible } from '../../show/escape.ts';
import { count, type Paint, shorten, shortList, wrap } from '../../show/paint.ts';
import type { Look, LookedPage, Trouble } from './look.ts';

const words: Readonly<Record<Trouble, string>> = {
  'not there': 'did not arrive',
  blocked: 'blocked',
  threw: 'threw',
  'no image': 'no image',
  'no font': 'no font',
  'no effect': 'no effect',
  'not used': 'not used',
};

/** Longest of {@link words}. */
const WIDTH = 14;
const INDENT = ' '.repeat(WIDTH + 2);
/** Pages that are named of those on which the same fails. */
const MOST_PAGES = 3;

export interface LookedSite {
  readonly pages: readonly LookedPage[];
  /** What took no effect on any of them. */
  readonly idle: readonly Look[];
}

/** True where something did not load or took no effect. */
export function hasTrouble({ pages, idle }: LookedSite): boolean {
  return idle.length > 0 || pages.some(({ looks, unseen }) => looks.length > 0 || unseen !== null);
}

/** A thing that is told, and the pages that it is told of. */
interface Told {
  readonly word: string;
  readonly fails: boolean;
  readonly place: string;
  readonly lines: readonly string[];
}

export function lookAsText(site: LookedSite, paint: Paint, columns: number): string {
  const { pages, idle } = site;
  const all = pages.flatMap((page) => toldOf(page).map((told) => ({ told, page: page.page })));
  const alike = [...groupBy(all, ({ told }) => JSON.stringify(told)).values()];
  const blocks = alike.map((same) => {
    const [{ told }] = same as [(typeof same)[number]];
    const on = [...new Set(same.map(({ page }) => page))];
    const where =
      on.length === 1
        ? `on ${visible(on[0] as string)}`
        : `on ${on.length} pages: ${shortList(on, MOST_PAGES)}`;
    return { told, where, amount: on.length };
  });
  blocks.sort((one, other) => Number(other.told.fails) - Number(one.told.fails) || other.amount - one.amount);
  const shown = blocks.map(({ told, where }) => blockOf(told, where, paint, columns));
  for (const { trouble, file, text } of idle)
    shown.push(
      blockOf(
        { word: words[trouble], fails: false, place: file, lines: [text] },
        'on none of the pages that have it',
        paint,
        columns,
      ),
    );
  return `${shown.map((block) => `${block}\n`).join('')}${summaryOf(site)}\n`;
}

function toldOf({ unseen, looks, checkAlone, edges }: LookedPage): Told[] {
  if (unseen !== null) return [{ word: 'not seen', fails: true, place: 'the page itself', lines: [unseen] }];
  const byElement = groupBy(edges, ({ element }) => element);
  return [
    ...looks.map(({ trouble, file, line, text, rule }) => ({
      word: words[trouble],
      fails: true,
      place: line === null ? file : `${file} ${line}`,
      lines: [text, rule === null ? 'the check calls it sound' : `the check tells of it: ${rule}`],
    })),
    ...checkAlone.map(({ file, line, written, rule }) => ({
      word: 'arrived',
      fails: false,
      place: written,
      lines: [`the check tells of it all the same: ${rule}, ${file} ${line}`],
    })),
    ...Array.from(byElement, ([element, own]) => ({
      word: 'over the edge',
      fails: false,
      place: element,
      lines: [own.map(({ width, by }) => `by ${by} px at ${width}`).join(', ')],
    })),
  ];
}

function blockOf({ word, fails, place, lines }: Told, where: string, paint: Paint, columns: number): string {
  const colour = fails ? paint.red : paint.yellow;
  const room = Math.max(columns - INDENT.length, 24);
  const rest = [...lines, where]
    .flatMap((line) => wrap(visible(line), room))
    .map((line) => `${INDENT}${paint.dim(shorten(line, room, paint))}\n`);
  return `${colour(word.padEnd(WIDTH))}  ${shorten(visible(place), room, paint)}\n${rest.join('')}`;
}

function summaryOf(site: LookedSite): string {
  const { pages, idle } = site;
  const looks = pages.flatMap((page) => page.looks);
  const files = (...troubles: readonly Trouble[]) =>
    new Set(looks.filter(({ trouble }) => troubles.includes(trouble)).map(({ file }) => file)).size;
  const exceptions = looks.filter(({ trouble }) => trouble === 'threw').length;
  const sound = looks.filter(({ rule }) => rule === null).length;
  const unseen = pages.filter((page) => page.unseen !== null).length;
  const wide = pages.filter(({ edges }) => edges.length > 0).length;
  const alone = pages.reduce((sum, { checkAlone }) => sum + checkAlone.length, 0);
  const parts: readonly (readonly [amount: number, text: string])[] = [
    [unseen, `${count(unseen, 'page')} not seen`],
    [files('not there'), `${count(files('not there'), 'file')} did not arrive`],
    [files('no image', 'no font'), `${count(files('no image', 'no font'), 'file')} not what was wanted`],
    [files('blocked'), `${withCommas(files('blocked'))} blocked`],
    [exceptions, count(exceptions, 'exception')],
    [idle.length, `${withCommas(idle.length)} without effect`],
    [sound, `${withCommas(sound)} of these the check calls sound`],
    [alone, `${withCommas(alone)} that the check tells of arrived`],
    [wide, `${count(wide, 'page')} wider than a window`],
  ];
  const told = parts.filter(([amount]) => amount > 0).map(([, text]) => text);
  const looked = `${count(pages.length, 'page')} looked at`;
  if (hasTrouble(site)) return `${looked}: ${told.join(', ')}.`;
  return `${looked}: everything arrived and took effect${told.length > 0 ? `; ${told.join(', ')}` : ''}.`;
}

export function lookAsJson({ pages, idle }: LookedSite): string {
  const shown = pages.map(({ has: _has, ...page }) => page);
  return `${asJson({ cravel: 1, pages: shown, idle }, 2)}\n`;
}
