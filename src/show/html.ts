/** The report of a check as one page that needs nothing else: summary, filters, and causes with their spots. */

import { REPORT_MARK } from '../core/read/own-report.ts';
import {
  type Cause,
  type Finding,
  grades,
  inAll,
  type Mend,
  type Report,
  type SiteReport,
  whatIsWritten,
} from '../core/report.ts';
import { withoutCredentials } from '../core/resolve/credentials.ts';
import type { Step } from '../core/site/walk.ts';
import { withCommas } from '../core/with-commas.ts';
import { forMarkup } from './escape.ts';
import { extentInWords } from './extent.ts';
import script from './html/filter.script';
import style from './html/style.css';
import { pageHead } from './page-head.ts';
import { count, shortList } from './paint.ts';
import { stepInWords } from './walk.ts';

/** Findings in the page at most: a browser must be able to open it. */
const MOST = 20_000;
/** Causes that are open at first, and findings of each that are shown with their line. */
const MOST_OPEN = 8;
const MOST_SHOWN = 3;
const MOST_LISTED = 12;
/** Characters of a line shown before and after a finding. */
const AROUND = 80;

type LineOf = (file: string, line: number) => string | null;

/** A site as its page needs it: what it is called, and its lines, counted from 1; null where one cannot be read. */
export interface NamedSite {
  readonly name: string;
  readonly lineOf: LineOf;
}

export function* reportAsPage({ sites }: Report, named: readonly NamedSite[]): Iterable<string> {
  const title = `Check of ${named.map(({ name }) => name).join(', ')}`;
  const all = sites.flatMap(({ causes }) => causes.flatMap(({ findings }) => findings));
  yield headOf(title, sites);
  yield `<main>\n${all.length === 0 ? '<p>Nothing is found.</p>' : formOf(all.slice(0, MOST))}\n`;
  if (all.length > MOST)
    yield `<p>The worst ${withCommas(MOST)} findings are shown; the others are in the JSON report.</p>\n`;
  let room = MOST;
  for (const [index, site] of sites.entries()) {
    const { name, lineOf } = named[index] as NamedSite;
    if (sites.length > 1)
      yield `<h2>${forMarkup(name)} <span class="soft">${count(site.findings.length, 'finding')}</span></h2>\n`;
    for (const [number, cause] of site.causes.entries()) {
      if (room <= 0) break;
      yield* causeAsMarkup(cause, number < MOST_OPEN, room, lineOf);
      room -= cause.findings.length;
    }
    for (const { file, why } of site.unread)
      yield `<p><b>Not read:</b> ${forMarkup(file)}: ${forMarkup(why)}</p>\n`;
  }
  yield `</main>\n${all.length === 0 ? '' : `<script>\n${script}</script>\n`}</body>\n</html>\n`;
}

function headOf(title: string, sites: readonly SiteReport[]): string {
  const amount = (noun: string, amountOf: (site: SiteReport) => number) =>
    count(inAll(sites, amountOf), noun);
  const read = [
    amount('reference', ({ references }) => references),
    `in ${amount('page', ({ pages }) => pages)}`,
    `of ${amount('file', ({ files }) => files)}`,
  ].join(' ');
  const found = [
    amount('finding', ({ findings }) => findings.length),
    `from ${amount('cause', ({ causes }) => causes.length)}`,
  ].join(' ');
  const counts = grades.map(
    (grade) =>
      `<li class="${grade}"><b>${withCommas(inAll(sites, (site) => site.counts[grade]))}</b>${grade}</li>`,
  );
  return `${pageHead({ title, styles: [style], mark: REPORT_MARK })}<header>
<h1>${forMarkup(title)}</h1>
<p class="soft">${read}; ${found}</p>
<ul class="counts">
${counts.join('\n')}
</ul>
</header>
`;
}

function formOf(findings: readonly Finding[]): string {
  const options = (values: readonly string[]) =>
    ['<option value="">all</option>', ...values.map((value) => `<option>${forMarkup(value)}</option>`)].join(
      '',
    );
  const present = (values: readonly (string | null)[]) =>
    [...new Set(values)].filter((value): value is string => value !== null).sort();
  const select = (name: string, values: readonly string[]) =>
    `<label>${name.charAt(0).toUpperCase()}${name.slice(1)} <select name="${name}">${options(values)}</select></label>`;
  return `<form>
${select(
  'grade',
  grades.filter((grade) => findings.some((one) => one.grade === grade)),
)}
${select('rule', present(findings.map(({ rule }) => rule)))}
${select('kind', present(findings.map(({ kind }) => kind)))}
<label>Words <input name="text" type="search" placeholder="in files, addresses, messages"></label>
</form>
<p id="shown" class="soft" role="status"></p>`;
}

/** One cause with its spots; closed, a browser lays out none of them. */
function* causeAsMarkup(cause: Cause, isOpen: boolean, room: number, lineOf: LineOf): Iterable<string> {
  const { rule, grade, message, pages, mend } = cause;
  const [first] = cause.findings;
  const reach =
    pages > 0 ? `, on ${count(pages, 'page')}` : first.reached ? '' : ', in files that no page loads';
  yield `<details${isOpen ? ' open' : ''} data-grade="${grade}" data-rule="${rule}"><summary><span class="rule ${grade}">${grade} · ${rule}</span> <span class="what">${forMarkup(message)}</span> <span class="soft">${extentInWords(cause)}${reach}</span></summary>\n`;
  if (first.walk.length > 0) yield `<p>${walkOf(first.walk)}</p>\n`;
  if (first.order !== null)
    yield `<p>${orderOf('order', first.order.is)}<br>${orderOf('right', first.order.should)}</p>\n`;
  if (first.pages !== null)
    yield `<p><span class="soft">pages</span> ${forMarkup(shortList(first.pages, 10))}</p>\n`;
  if (mend !== null) yield `<p><span class="soft">mend</span> <code>${forMarkup(mend)}</code></p>\n`;
  yield '<ul class="spots">\n';
  const spots = cause.findings.slice(0, room);
  for (const [index, finding] of spots.entries()) {
    // A long list is folded, so that the next cause is in sight.
    if (index === MOST_LISTED)
      yield `</ul>\n<details class="more"><summary class="fold">and ${count(spots.length - MOST_LISTED, 'more', 'more')}</summary>\n<ul class="spots">\n`;
    yield spotAsMarkup(
      finding,
      finding.message === message,
      mend === null,
      index < MOST_SHOWN ? lineOf : null,
    );
  }
  if (spots.length > MOST_LISTED) yield '</ul>\n</details>\n';
  else yield '</ul>\n';
  yield '</details>\n';
}

/** `lineOf` is null where the line is not shown. */
function spotAsMarkup(finding: Finding, isAlike: boolean, isMended: boolean, lineOf: LineOf | null): string {
  const { kind, file, line, column, length, message, mends } = finding;
  const source = length === 0 || lineOf === null ? null : lineOf(file, line);
  const said = isAlike ? '' : ` ${forMarkup(message)}`;
  const meant = isMended ? mends.map(mendOf).join('\n') : '';
  const code = source === null ? '' : `<pre><code>${sourceAround(source, finding)}</code></pre>`;
  const written =
    source === null && length > 0 ? ` <code>${forMarkup(finding.written.slice(0, AROUND))}</code>` : '';
  return `<li data-kind="${kind ?? ''}"><b>${forMarkup(file)}</b> <span class="soft">${line}:${column}</span>${written}${said}${code}${meant}</li>\n`;
}

/** The part of a line around a finding, the finding marked. */
function sourceAround(line: string, { column, written }: Finding): string {
  const start = column - 1;
  const found = line.startsWith(written, start) ? written.length : 1;
  // Taken out before the line is cut, which could leave the end of a password.
  const before = withoutCredentials(line.slice(0, start)).slice(-AROUND);
  const after = withoutCredentials(line.slice(start + found)).slice(0, AROUND);
  const lead = start > AROUND ? '…' : '';
  const trail = line.length > start + found + AROUND ? '…' : '';
  return `${lead}${forMarkup(before.trimStart())}<mark>${forMarkup(line.slice(start, start + found))}</mark>${forMarkup(after)}${trail}`;
}

function walkOf(walk: readonly Step[]): string {
  const words: string[] = [];
  for (const step of walk) {
    const { found } = step;
    const text = stepInWords(step);
    words.push(found ? forMarkup(text) : `<span class="fails">${forMarkup(text)}</span>`);
    if (!found) break;
  }
  return words.join(' ▸ ');
}

function orderOf(label: string, names: readonly string[]): string {
  return `<span class="soft">${label}</span> ${names.map(forMarkup).join(' ▸ ')}`;
}

function mendOf(mend: Mend): string {
  const { sure, edits, walk } = mend;
  if (edits.length === 0) return '';
  return `<p><span class="soft">${sure ? 'meant' : 'maybe'}</span> <code>${forMarkup(whatIsWritten(mend))}</code> <span class="soft">${walkOf(walk)}</span></p>`;
}
