/** `cravel check`: reads a site and reports every reference that does not hold. */

import { fail } from '../core/errors.ts';
import { groupBy } from '../core/group-by.ts';
import { picker } from '../core/judge/pick.ts';
import { countGrades, type Finding, failing, type Report } from '../core/report.ts';
import { type Checked, ProjectCheck, type Unasked } from '../disk/check.ts';
import { type DiskPath, pointedTo, withSlashes } from '../disk/disk-path.ts';
import { linesOf } from '../disk/lines.ts';
import { writeWhole } from '../disk/write-whole.ts';
import { visible } from '../show/escape.ts';
import { count, type Paint, paintFor } from '../show/paint.ts';
import { inChunks } from '../show/pieces.ts';
import { type Cut, reportAsText } from '../show/text.ts';
import type { Checked as CheckedOptions } from './declaration.ts';
import { check as declaration } from './declarations.ts';
import { splitList } from './lists.ts';
import { checkOptions } from './options.ts';
import type { Output } from './output.ts';
import { showProgress } from './progress.ts';
import { tellUnfinished } from './unfinished.ts';

type Options = CheckedOptions<typeof declaration.options>;

/** Narrowest and widest text report. */
const NARROWEST = 60;
const WIDEST = 120;

export async function check(folder: string | undefined, raw: object, output: Output): Promise<number> {
  const options = checkOptions(declaration, raw);
  const only = options.only.flatMap(splitList);
  const isWanted = only.length > 0 ? picker(only) : () => true;
  const failOn = options.failOn.flatMap(splitList);
  if (failOn.length > 0) picker(failOn);
  if (options.watch && options.as !== 'text' && options.out === undefined)
    throw fail('watched-format', options.as);
  const shown = withSlashes(folder ?? options.dir ?? '.');
  const root = pointedTo(folder ?? '.', options.dir);
  const reading = showProgress(output, {
    verb: 'reading',
    noun: 'file',
    ...(options.online ? {} : { afterwards: 'judging' }),
  });
  const asking = showProgress(output, { verb: 'asking for', noun: 'address', plural: 'addresses' });
  const project = new ProjectCheck(root === pointedTo(shown) ? shown : root, {
    online: options.online,
    out: options.out,
    asking: (done, total) => {
      reading.end();
      return asking.tell(done, total);
    },
  });
  const tell = async (checked: Checked) => {
    const report = reportOf(checked.report, isWanted);
    await write(report, options, { isPart: only.length > 0, root: checked.root }, output);
    tellAccepted(checked, output);
    for (const { file, why } of report.unread) output.note(`Not read: ${visible(file)}: ${why}.`);
    tellUnasked(checked.unasked, output);
    if (await tellUnfinished(root, output)) return 2;
    if (report.unread.length > 0 || checked.unasked.some(({ isOurs }) => isOurs)) return 2;
    const fails = picker(failOn.length > 0 ? failOn : (checked.failOn ?? failing));
    return report.findings.some(fails) ? 1 : 0;
  };
  const look = async () => {
    try {
      return await project.look(reading.tell);
    } finally {
      reading.end();
      asking.end();
    }
  };
  if (!options.watch) return tell(await look());
  const { watch } = await import('./watch.ts');
  return watch(project, { look, tell, isWanted, out: options.out }, output);
}

/** How many addresses are named as examples of those that could not be asked for. */
const EXAMPLES = 3;

function tellUnasked(unasked: readonly Unasked[], output: Output): void {
  for (const [why, all] of groupBy(unasked, (one) => one.why)) {
    const named = all.slice(0, EXAMPLES).map(({ address }) => visible(address));
    const more = all.length > EXAMPLES ? `, and ${count(all.length - EXAMPLES, 'more')}` : '';
    output.note(`Cannot tell (${visible(why)}): ${named.join(', ')}${more}.`);
  }
}

/** The report with some of its findings only. */
function reportOf(report: Report, isWanted: (finding: Finding) => boolean): Report {
  const findings = report.findings.filter(isWanted);
  return { ...report, findings, counts: countGrades(findings) };
}

/** Writes the report to stdout, or as a whole to the file that `--out` names. */
async function write(
  report: Report,
  options: Options,
  { isPart, root }: { readonly isPart: boolean; readonly root: DiskPath },
  output: Output,
): Promise<void> {
  const { as, by, most, out, watch } = options;
  const pieces = as === 'text' ? null : (await formats[as]())(report, linesOf(root));
  if (out === undefined) {
    if (pieces === null) showText(report, { most, by, isPart, fits: watch }, output);
    else tellAll(pieces, output);
    return;
  }
  const text = pieces ?? asText(report, { most, by, isPart, columns: WIDEST, paint: plain });
  writeWhole(pointedTo(out), inChunks(text));
  output.note(
    `Wrote the report to ${visible(withSlashes(out))}: ${count(report.findings.length, 'finding')}.`,
  );
}

function tellAll(pieces: Iterable<string>, { out }: Output): void {
  for (const piece of inChunks(pieces)) out(piece);
}

type LineOf = ReturnType<typeof linesOf>;
type Format = Exclude<Options['as'], 'text'>;

/** The writer of each format; each is loaded when asked for. */
const formats: Readonly<Record<Format, () => Promise<(report: Report, lineOf: LineOf) => Iterable<string>>>> =
  {
    json: async () => (await import('../show/json.ts')).reportAsJson,
    ndjson: async () => (await import('../show/json.ts')).reportAsLines,
    sarif: async () => (await import('../show/sarif.ts')).reportAsSarif,
    junit: async () => (await import('../show/junit.ts')).reportAsJunit,
    html: async () => (await import('../show/html.ts')).reportAsPage,
  };

function tellAccepted({ accepted, idle }: Checked, output: Output): void {
  if (accepted > 0) output.note(`Accepted by cravel.yaml, and left out: ${count(accepted, 'finding')}.`);
  for (const { rule, file, because } of idle) {
    const what = [rule, file].filter((text) => text !== undefined).join(' in ');
    output.note(
      `cravel.yaml accepts ${visible(what)} (${visible(because)}), and nothing like it is found: take the entry out.`,
    );
  }
}

interface TextChoice {
  /** How many causes: a number, `all`, or undefined for what is usual. */
  readonly most?: string | undefined;
  /** Fewer causes are shown where the report is longer than the terminal, unless somebody said how many. */
  readonly fits?: boolean;
  readonly by?: Cut | undefined;
  readonly isPart?: boolean;
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
  const { most = String(USUAL), by = 'cause', isPart = false, columns, paint } = choice;
  const amount = most === 'all' ? Number.POSITIVE_INFINITY : Number(most);
  return reportAsText(report, { paint, columns, most: amount, by, isPart });
}

const plain = paintFor({ isTTY: false }, {});
