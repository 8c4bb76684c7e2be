/** swallowed: markup or styles that were left open take what follows with them. */
import { holderOf } from '../../read/holder.ts';
import type { FaultCode, Kind, Swallowed } from '../../read/reading.ts';
import type { FileRule, Remark } from '../rule.ts';

export const swallowed: FileRule = {
  name: 'swallowed',
  grade: 'broken',
  summary: 'left open, and takes what follows with it',
  suffers: 'What follows is no part of the page any more: it is not shown, not loaded and not run.',
  wrong: '<script src="js/tides.js"/> <img src="pier.svg">',
  right: '<script src="js/tides.js"></script> <img src="pier.svg">',
  judgeFile({ reading }) {
    const remarks = (reading.page?.swallowed ?? []).map(remarkOn);
    for (const { code, offset, length, detail, written = '' } of reading.faults) {
      const what = inStyles[code];
      if (what === undefined) continue;
      const message = detail === '' ? what.said : `${what.said}: ${detail}`;
      remarks.push({ offset, length, holder: holderOf('css', '', what.name), written, message });
    }
    return remarks;
  },
};

/** What of a stylesheet was left open, and what holds it. */
const inStyles: Readonly<Partial<Record<FaultCode, { readonly name: string; readonly said: string }>>> = {
  'open-comment': { name: 'comment', said: 'this comment is never closed' },
  'open-string': { name: 'string', said: 'this quote is never closed on its line' },
  'open-block': { name: 'block', said: 'this brace is never closed, and what follows belongs to it' },
  'stray-brace': { name: 'block', said: 'this brace closes nothing, and spoils the rule that follows' },
  'open-import': {
    name: '@import',
    said: '@import ends with no semicolon: neither it nor the rule that follows takes effect',
  },
  markup: { name: 'markup', said: 'this is markup, and spoils the rule that follows' },
};

function remarkOn(one: Swallowed): Remark {
  const { what, name, offset, length, written, mend } = one;
  const title = `write ${mend?.text.trim()} there`;
  return {
    offset,
    length,
    holder: holderOf('markup', name === '' ? 'comment' : name, ''),
    written,
    message: `${opened[what](name)}: ${takenBy(one)}`,
    settlements: mend === null ? [] : [{ sure: true, title, edit: mend }],
  };
}

const opened: Readonly<Record<Swallowed['what'], (name: string) => string>> = {
  element: (name) => `this <${name}> is never closed`,
  'self-closed': (name) => `a <${name}> cannot close itself with />`,
  comment: () => 'this comment is never closed',
  quote: (name) => `a quote in this <${name}> is never closed`,
  tag: (name) => `this tag of <${name}> has no > at its end`,
};

/** What a browser takes for the end where it was left out. */
const ends: Readonly<Record<Swallowed['what'], (name: string) => string>> = {
  element: (name) => `</${name}>`,
  'self-closed': (name) => `</${name}>`,
  comment: () => '-->',
  quote: () => 'quote',
  tag: () => '>',
};

/** Where it ends in the browser's eyes, and what it takes with it. */
function takenBy({ what, name, isRest, lines, references }: Swallowed): string {
  const upTo = `up to the next ${ends[what](name)}`;
  const taken = isRest
    ? 'the rest of the page is swallowed'
    : lines === 1
      ? `all ${upTo} is swallowed`
      : `${lines} lines ${upTo} are swallowed`;
  const held = heldBy(references.map(({ kind }) => kind));
  return held === '' ? taken : `${taken}, with ${held}`;
}

const nouns: Readonly<Partial<Record<Kind, string>>> = {
  page: 'link',
  anchor: 'link',
  stylesheet: 'stylesheet',
  script: 'script',
  module: 'script',
  image: 'image',
  icon: 'icon',
};

/** `2 images and 1 stylesheet` */
function heldBy(kinds: readonly Kind[]): string {
  const amounts = new Map<string, number>();
  for (const kind of kinds) {
    const noun = nouns[kind] ?? 'file';
    amounts.set(noun, (amounts.get(noun) ?? 0) + 1);
  }
  const words = [...amounts].map(([noun, amount]) => `${amount} ${noun}${amount === 1 ? '' : 's'}`);
  return words.length < 2 ? words.join('') : `${words.slice(0, -1).join(', ')} and ${words.at(-1)}`;
}
