/** `cravel check`: reads a site and reports every reference that does not hold. */
import { resolve as resolvePath } from 'node:path';
import { IsIn, IsOptional, IsString, Matches } from 'class-validator';
import type { Grade } from '../core/judge/rule.ts';
import type { Report } from '../core/report.ts';
import { checkFolder } from '../disk/check.ts';
import { paintFor, visible } from '../show/paint.ts';
import { reportAsText } from '../show/text.ts';
import { checkOptions } from './options.ts';
import type { Output } from './output.ts';
import { showProgress } from './progress.ts';

class CheckOptions {
  @IsIn(['text', 'json'], { message: 'must be text or json' })
  as!: string;

  @Matches(/^(?:all|[1-9][0-9]{0,8})$/, { message: 'must be a number from 1, or all' })
  most!: string;

  @IsOptional()
  @IsString()
  dir?: string;
}

/** Grades whose findings make a check fail. */
const failing: ReadonlySet<Grade> = new Set<Grade>(['broken', 'fragile', 'misplaced']);

/** Narrowest and widest text report. */
const NARROWEST = 60;
const WIDEST = 120;

export async function check(folder: string | undefined, raw: object, output: Output): Promise<number> {
  const options = checkOptions(CheckOptions, raw);
  const shown = folder ?? options.dir ?? '.';
  const root = resolvePath(options.dir ?? '.', folder ?? '.');
  const progress = showProgress(output, 'reading', 'file');
  let report: Report;
  try {
    report = await checkFolder(root === resolvePath(shown) ? shown : root, progress.tell);
  } finally {
    progress.end();
  }
  if (options.as === 'json') output.out(`${JSON.stringify(report, null, 2)}\n`);
  else showText(report, options.most, output);
  for (const { file, why } of report.unread) output.note(`Not read: ${visible(file)}: ${why}.`);
  if (report.unread.length > 0) return 2;
  return report.findings.some(({ grade }) => failing.has(grade)) ? 1 : 0;
}

/** Writes the text report, as wide as the terminal allows. */
export function showText(report: Report, most: string, { out, stdout, env }: Output): void {
  const columns = Math.min(Math.max(stdout.columns ?? 80, NARROWEST), WIDEST);
  const paint = paintFor(stdout, env);
  out(
    reportAsText(report, { paint, columns, most: most === 'all' ? Number.POSITIVE_INFINITY : Number(most) }),
  );
}
