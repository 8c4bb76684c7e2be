/** Writes reports, in whatever format somebody wants, to stdout or to a file. */

import { picker } from '../core/judge/pick.ts';
import { type Finding, failing, inAll, type Report } from '../core/report.ts';
import { pointedTo, withSlashes } from '../disk/disk-path.ts';
import { writeWhole } from '../disk/write-whole.ts';
import { visible } from '../show/escape.ts';
import type { NamedSite } from '../show/html.ts';
import type { Fails } from '../show/junit.ts';
import { count, type Paint, paintFor } from '../show/paint.ts';
import { inChunks } from '../show/pieces.ts';
import { type Cut, reportAsText, type Words } from '../show/text.ts';
import type { Checked as CheckedOptions } from './declaration.ts';
import type { reporting } from './declarations.ts';
import { splitList } from './lists.ts';
import type { Output } from './output.ts';

/** Narrowest and widest text report. */
const NARROWEST = 60;
const WIDEST = 120;

type Options = CheckedOptions<typeof reporting>;

/** Which findings somebody wants to be told, and which make the call fail. */
export interface Chosen {
  readonly isPart: boolean;
  readonly isWanted: (finding: Finding) => boolean;
  /** `usual`: what the settings say, unless the call does. */
  readonly failsBy: (usual: readonly string[] | undefined) => (finding: Finding) => boolean;
}

/** Throws a `CravelError` where a name is that of no grade and no rule. */
export function chosenBy(options: Pick<Options, 'only' | 'failOn'>): Chosen {
  const [only, failOn] = [options.only.flatMap(splitList), options.failOn.flatMap(splitList)];
  const isWanted = only.length > 0 ? picker(only) : () => true;
  const own = failOn.length > 0 ? picker(failOn) : null;
  return { isPart: only.length > 0, isWanted, failsBy: (usual) => own ?? picker(usual ?? failing) };
}

/** Writes a report to stdout, or as a whole to the file that `--out` names. */
export async function writeReport(
  report: Report,
  named: readonly NamedSite[],
  fails: Fails,
  options: Options & Omit<TextChoice, 'most'>,
  output: Output,
): Promise<void> {
  const { as, out } = options;
  const pieces = as === 'text' ? null : (await formats[as]())(report, named, fails);
  if (out === undefined) {
    if (pieces === null) showText(report, options, output);
    else tellAll(pieces, output);
    return;
  }
  const text = pieces ?? asText(report, { ...options, columns: WIDEST, paint: plain });
  const amount = inAll(report.sites, ({ findings }) => findings.length);
  writeFile('report', out, text, count(amount, 'finding'), output);
}

/** Writes a file as a whole, and says what it is and how much is in it. */
export function writeFile(
  what: string,
  out: string,
  pieces: Iterable<string>,
  amount: string,
  { note }: Output,
): void {
  writeWhole(pointedTo(out), inChunks(pieces));
  note(`Wrote the ${what} to ${visible(withSlashes(out))}: ${amount}.`);
}

/** Writes to stdout. */
export function tellAll(pieces: Iterable<string>, { out }: Output): void {
  for (const piece of inChunks(pieces)) out(piece);
}

type Format = Exclude<Options['as'], 'text'>;

/** The writer of each format; each is loaded when asked for. */
const formats: Readonly<
  Record<
    Format,
    () => Promise<(report: Report, named: readonly NamedSite[], fails: Fails) => Iterable<string>>
  >
> = {
  json: async () => (await import('../show/json.ts')).reportAsJson,
  ndjson: async () => (await import('../show/json.ts')).reportAsLines,
  sarif: async () => (await import('../show/sarif.ts')).reportAsSarif,
  junit: async () => {
    const { reportAsJunit } = await import('../show/junit.ts');
    return (report, _named, fails) => reportAsJunit(report, fails);
  },
  html: async () => (await import('../show/html.ts')).reportAsPage,
};

interface TextChoice {
  /** How many causes: a number, `all`, or undefined for what is usual. */
  readonly most?: string | undefined;
  /** Fewer causes are shown where the report is longer than the terminal, unless somebody said how many. */
  readonly fits?: boolean;
  readonly by?: Cut | undefined;
  readonly ofPart?: string | undefined;
  readonly words?: Words | undefined;
}

/** Writes the text report, as wide as the terminal allows. */
export function showText(report: Report, choice: TextChoice, output: Output): void {
  const { stdout, env } = output;
  const columns = Math.min(Math.max(stdout.columns ?? 80, NARROWEST), WIDEST);
  const paint = paintFor(stdout, env);
  const shown = (most: string | undefined) => asText(report, { ...choice, most, columns, paint });
  if (!choice.fits || choice.most !== undefined || !stdout.isTTY) return tellAll(shown(choice.most), output);
  const whole = (most: number) => [...shown(String(most))].join('');
  let text = whole(USUAL);
  // Three lines are left for what is noted below.
  const isLonger = () => text.split('\n').length > stdout.rows - 3;
  for (let most = USUAL - 1; most > 0 && isLonger(); most--) text = whole(most);
  output.out(text);
}

/** How many causes are shown, unless somebody says another number. */
const USUAL = 25;

function asText(
  report: Report,
  choice: TextChoice & { readonly columns: number; readonly paint: Paint },
): Iterable<string> {
  const { most = String(USUAL), by = 'cause', ofPart, words, columns, paint } = choice;
  const amount = most === 'all' ? Number.POSITIVE_INFINITY : Number(most);
  return reportAsText(report, { paint, columns, most: amount, by, ofPart, words });
}

const plain = paintFor({ isTTY: false }, {});
