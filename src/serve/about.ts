/** What the deck shows of pages before a browser opens them: what they load, and what is found. */
import { groupBy } from '../core/group-by.ts';
import { countGrades, type Finding, grades, whatIsWritten } from '../core/report.ts';
import type { Step } from '../core/site/walk.ts';
import type { ProjectCheck } from '../disk/check.ts';
import { stepInWords } from '../show/walk.ts';
import { asAddress } from './answer.ts';
import type { Counts, FileLine, FindingShown, PageAbout } from './messages.ts';

type PagesThatLoad = (file: string) => readonly string[];

/** Findings of a page are those in it, and those in what it loads unless they hold for other pages alone. */
function pagesOf(
  { file, pages }: Pick<Finding, 'file' | 'pages'>,
  isPage: (path: string) => boolean,
  loading: PagesThatLoad,
): readonly string[] {
  if (pages !== null) return pages;
  return isPage(file) ? [file] : loading(file);
}

/** How many findings each page has, and how many are no page's. Those that hold for the same pages are counted as one. */
export function countsByPage(
  findings: readonly Finding[],
  pages: readonly string[],
  loading: PagesThatLoad,
): { byPage(path: string): Counts; readonly elsewhere: number } {
  const all = new Map(pages.map((page) => [page, countGrades([])]));
  let elsewhere = 0;
  for (const own of groupBy(findings, ({ file, pages }) => JSON.stringify([file, pages])).values()) {
    const [first] = own as [Finding];
    const holding = pagesOf(first, (path) => all.has(path), loading);
    if (holding.length === 0) elsewhere += own.length;
    const counts = countGrades(own);
    for (const page of holding) {
      const sum = all.get(page);
      if (sum !== undefined) for (const grade of grades) sum[grade] += counts[grade];
    }
  }
  return { byPage: (path) => all.get(path) ?? countGrades([]), elsewhere };
}

export function pageAbout(
  { page, bytes, steps, scripts }: ReturnType<ProjectCheck['loads']>,
  findings: readonly Finding[],
  folder: string,
  loading: PagesThatLoad,
): PageAbout {
  const makes = new Map(scripts.map(({ script, makes }) => [script, makes]));
  const files = steps.map(
    ({ depth, file, kind, written, target, found, way, bytes }): FileLine => ({
      depth,
      kind,
      written,
      namedBy: folder + asAddress(file),
      path: target,
      address: target === null ? null : folder + asAddress(target),
      found,
      way,
      bytes,
      makes: (target === null ? undefined : makes.get(target)) ?? [],
    }),
  );
  const own = findings.filter((finding) => pagesOf(finding, (path) => path === page, loading).includes(page));
  return { path: page, bytes, files, findings: own.map(shown) };
}

/** A step of a walk as it is shown. */
export function foundStep(step: Step): FindingShown['walk'][number] {
  return { name: stepInWords(step), found: step.found };
}

/** Says which finding it is, for as long as the files stay as they are. */
export function keyOf({ rule, file, offset, length, written, target }: Finding): string {
  return JSON.stringify([rule, file, offset, length, written, target]);
}

function shown(finding: Finding): FindingShown {
  const { rule, grade, file, line, column, written, message, walk, order, mends } = finding;
  return {
    key: keyOf(finding),
    rule,
    grade,
    file,
    line,
    column,
    written,
    message,
    walk: walk.map(foundStep),
    order,
    mends: mends.map((mend) => ({ sure: mend.sure, text: whatIsWritten(mend) })),
  };
}
