/** `cravel check`: reads a site and reports every reference that does not hold. */
import { resolve as resolvePath } from 'node:path';
import { IsIn, IsOptional, IsString, Matches } from 'class-validator';
import { picker } from '../core/judge/pick.ts';
import { countGrades, type Finding, type Report } from '../core/report.ts';
import { checkFolder } from '../disk/check.ts';
import { paintFor, visible } from '../show/paint.ts';
import { reportAsText } from '../show/text.ts';
import { splitList } from './lists.ts';
import { checkOptions } from './options.ts';
import type { Output } from './output.ts';
import { showProgress } from './progress.ts';

class CheckOptions {
  @IsIn(['text', 'json'], { message: 'must be text or json' })
  as!: string;

  @Matches(/^(?:all|[1-9][0-9]{0,8})$/, { message: 'must be a number from 1, or all' })
  most!: string;

  @IsString({ each: true })
  only: string[] = [];

  @IsString({ each: true })
  failOn: string[] = [];

  @IsOptional()
  @IsString()
  dir?: string;
}

/** Grades whose findings make a check fail, unless said otherwise. */
const FAILING = ['broken', 'fragile', 'misplaced'];

/** Narrowest and widest text report. */
const NARROWEST = 60;
const WIDEST = 120;

export async function check(folder: string | undefined, raw: object, output: Output): Promise<number> {
  const options = checkOptions(CheckOptions, raw);
  const only = options.only.flatMap(splitList);
  const failOn = options.failOn.flatMap(splitList);
  const isWanted = only.length > 0 ? picker(only) : () => true;
  const fails = picker(failOn.length > 0 ? failOn : FAILING);
  const shown = folder ?? options.dir ?? '.';
  const root = resolvePath(options.dir ?? '.', folder ?? '.');
  const progress = showProgress(output, 'reading', 'file');
  let report: Report;
  try {
    report = reportOf(await checkFolder(root === resolvePath(shown) ? shown : root, progress.tell), isWanted);
  } finally {
    progress.end();
  }
  if (options.as === 'json') output.out(`${JSON.stringify(report, null, 2)}\n`);
  else showText(report, options.most, output, only.length > 0);
  for (const { file, why } of report.unread) output.note(`Not read: ${visible(file)}: ${why}.`);
  if (report.unread.length > 0) return 2;
  return report.findings.some(fails) ? 1 : 0;
}

/** The report with some of its findings only. */
function reportOf(report: Report, isWanted: (finding: Finding) => boolean): Report {
  const findings = report.findings.filter(isWanted);
  return { ...report, findings, counts: countGrades(findings) };
}

/** Writes the text report, as wide as the terminal allows. */
export function showText(report: Report, most: string, { out, stdout, env }: Output, isPart = false): void {
  const columns = Math.min(Math.max(stdout.columns ?? 80, NARROWEST), WIDEST);
  const paint = paintFor(stdout, env);
  out(
    reportAsText(report, {
      paint,
      columns,
      most: most === 'all' ? Number.POSITIVE_INFINITY : Number(most),
      isPart,
    }),
  );
}
