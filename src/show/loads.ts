/** What a page loads, as a table for a terminal and as JSON; and what its scripts make and need. */

import type { LoadStep, Loads } from '../core/check/loads.ts';
import type { ScriptOfPage } from '../core/check/page-scripts.ts';
import { groupBy } from '../core/group-by.ts';
import { withCommas } from '../core/with-commas.ts';
import { asJson, visible } from './escape.ts';
import { inWords } from './holder.ts';
import { count, type Paint, shorten, wrap } from './paint.ts';

type Whole = Loads & { readonly scripts: readonly ScriptOfPage[] };

/** The name of what is loaded: its site path, or as it is written. */
export function nameOfStep({ target, written }: LoadStep): string {
  return target ?? written;
}

export function loadsAsText(loads: Whole, paint: Paint, columns: number): string {
  const { page, bytes, steps } = loads;
  const head = `${paint.bold(visible(page))}   ${withCommas(bytes)} bytes\n`;
  if (steps.length === 0) return `${head}It loads nothing else.\n`;
  const rows = steps.map((step) => rowOf(step, page));
  const widths = [0, 1, 2, 3, 4].map((at) =>
    rows.reduce((most, row) => Math.max(most, (row[at] as string).length), 0),
  );
  const [places = 0, spots = 0, names = 0, amounts = 0, hows = 0] = widths;
  const room = Math.min(names, Math.max(columns - places - spots - amounts - hows - 8, 20));
  const lines = rows.map((row, index) => {
    const [place, spot, file, amount, how] = row;
    const { found } = steps[index] as LoadStep;
    const name = shorten(file, room, paint).padEnd(room);
    const shown = found === false ? paint.red(name) : name;
    return `${place.padStart(places)}  ${paint.dim(spot.padEnd(spots))}  ${shown}  ${amount.padStart(amounts)}  ${how}`.trimEnd();
  });
  return `${head}\n${lines.join('\n')}\n\n${totalsAsText(loads, paint, columns)}`;
}

type Row = readonly [place: string, spot: string, file: string, amount: string, how: string];

function rowOf(step: LoadStep, page: string): Row {
  const { file, line, column, depth, found, bytes, kind, way } = step;
  const spot = file === page ? `${line}:${column}` : '';
  const amount = found === false ? 'not there' : bytes === null ? 'elsewhere' : withCommas(bytes);
  const name = `${'  '.repeat(depth)}${visible(nameOfStep(step))}`;
  return [String(step.step), spot, name, amount, kind === 'module' || way !== 'with the page' ? way : kind];
}

function totalsAsText({ bytes, steps, chain, beforePaint }: Loads, paint: Paint, columns: number): string {
  const kinds = [...groupBy(steps, ({ kind }) => kind)].map(([kind, all]) => {
    const sum = all.reduce((total, step) => total + (step.bytes ?? 0), 0);
    const named = count(all.length, kind, kind === 'media' || kind === 'data' ? kind : `${kind}s`);
    return `${named} (${withCommas(sum)})`;
  });
  const all = steps.reduce((total, step) => total + (step.bytes ?? 0), bytes);
  const lacking = steps.filter(({ found }) => found === false).length;
  const lines = [
    `${count(steps.length + 1, 'request')} with the page, ${withCommas(all)} bytes: ${kinds.join(', ')}.`,
    `Before anything is shown: ${withCommas(beforePaint)} bytes.`,
    ...(lacking === 0 ? [] : [`Not there: ${count(lacking, 'file')}.`]),
  ];
  const row = chain.map((one) => visible(one)).join(` ${paint.marks.step} `);
  if (chain.length > 2) lines.push(`Longest row of files that wait for each other: ${row}`);
  return `${lines.flatMap((line) => wrap(line, columns)).join('\n')}\n`;
}

const runsAs: Readonly<Record<ScriptOfPage['runs'], string>> = {
  'at-once': 'blocks parsing',
  deferred: 'deferred',
  async: 'async',
};

export function scriptsAsText({ page, scripts }: Whole, paint: Paint, columns: number): string {
  const head = `${paint.bold(visible(page))}\n`;
  if (scripts.length === 0) return `${head}It runs no scripts.\n`;
  const blocks = scripts.map((one, index) => {
    const how = one.goal === 'module' ? `module${one.runs === 'async' ? ', async' : ''}` : runsAs[one.runs];
    const lines = [`${index + 1}  ${visible(one.script)}   ${paint.dim(how)}`];
    if (one.unknown !== null) lines.push(`   ${paint.dim(unknownAs[one.unknown])}`);
    lines.push(...listed('makes', one.makes.map(visible), paint, columns));
    lines.push(...needsAsText(one.needs, paint, columns));
    lines.push(...listed('perhaps', one.mayNeed.map(visible), paint, columns));
    return `${lines.join('\n')}\n`;
  });
  return `${head}\n${blocks.join('\n')}`;
}

const unknownAs: Readonly<Record<NonNullable<ScriptOfPage['unknown']>, string>> = {
  'does not run': 'it does not run: it is not there, or does not parse',
  'another host': 'it lies on another host: what it makes is not known',
  'not to be told': 'what it makes cannot be told',
};

/** As wide as the longest label. */
const LABEL = 'perhaps'.length;
/** Names of a script that are listed. */
const MOST_NAMES = 60;

function listed(label: string, names: readonly string[], paint: Paint, columns: number): string[] {
  if (names.length === 0) return [];
  const rest = names.length - MOST_NAMES;
  const text = names.slice(0, MOST_NAMES).join(', ') + (rest > 0 ? `, and ${withCommas(rest)} more` : '');
  return wrap(text, columns - 10).map(
    (line, index) => `   ${paint.dim((index === 0 ? label : '').padEnd(LABEL))}  ${line}`,
  );
}

/** Names that nobody makes stand apart. */
function needsAsText(needs: ScriptOfPage['needs'], paint: Paint, columns: number): string[] {
  const there = needs.filter(({ missing }) => missing === null).map(({ name }) => visible(name));
  const lacking = needs.flatMap(({ name, missing }) =>
    missing === null
      ? []
      : [`   ${paint.dim('needs'.padEnd(LABEL))}  ${paint.red(visible(name))}  ${missing}`],
  );
  return [...listed('needs', there, paint, columns), ...lacking];
}

export function loadsAsJson({ scripts, ...loads }: Whole): string {
  const steps = loads.steps.map(({ holder, ...step }) => ({ ...step, holder: inWords(holder) }));
  return `${asJson({ ...loads, steps, scripts }, 2)}\n`;
}
