/** The report of a check as one page that needs nothing else: summary, filters, and findings with their lines. */
import { groupBy } from '../core/group-by.ts';
import { type Finding, grades, type Mend, type Report, type SiteReport } from '../core/report.ts';
import { withoutCredentials } from '../core/resolve/credentials.ts';
import type { Step } from '../core/site/walk.ts';
import { forMarkup } from './escape.ts';
import script from './html/filter.script';
import style from './html/style.css';
import { inSite } from './in-site.ts';
import { count } from './paint.ts';

/** Findings in the page at most: a browser must be able to open it. */
const MOST = 5000;
/** Characters of a line shown before and after a finding. */
const AROUND = 80;

type LineOf = (file: string, line: number) => string | null;

/** `lines` give a line of a file of each site, counted from 1; null where it cannot be read. */
export function* reportAsPage({ sites }: Report, lines: readonly LineOf[]): Iterable<string> {
  const all = sites.flatMap((site, index) =>
    site.findings.map((finding): Shown => ({ finding, site, lineOf: lines[index] as LineOf })),
  );
  const worst = all.toSorted(
    (a, b) =>
      grades.indexOf(a.finding.grade) - grades.indexOf(b.finding.grade) ||
      Number(b.finding.reached) - Number(a.finding.reached),
  );
  const shown = worst.slice(0, MOST);
  const title = `Check of ${sites.map(({ folder }) => folder).join(', ')}`;
  yield headOf(title, sites);
  yield `<main>\n${all.length === 0 ? '<p>Nothing is found.</p>' : formOf(shown.map(({ finding }) => finding))}\n`;
  if (shown.length < all.length)
    yield `<p>The worst ${MOST.toLocaleString('en')} findings are shown; the others are in the JSON report.</p>\n`;
  const nameOf = (site: SiteReport, file: string) => (sites.length > 1 ? inSite(site, file) : file);
  const byFile = groupBy(shown, ({ site, finding }) => nameOf(site, finding.file));
  for (const [file, found] of byFile) {
    yield `<details open><summary><h2>${forMarkup(file)}</h2><span class="soft">${count(found.length, 'finding')}</span></summary>\n`;
    for (const { finding, lineOf } of found.toSorted((a, b) => a.finding.offset - b.finding.offset))
      yield articleOf(finding, lineOf);
    yield '</details>\n';
  }
  for (const site of sites)
    for (const { file, why } of site.unread)
      yield `<p><b>Not read:</b> ${forMarkup(nameOf(site, file))}: ${forMarkup(why)}</p>\n`;
  yield `</main>\n${all.length === 0 ? '' : `<script>\n${script}</script>\n`}</body>\n</html>\n`;
}

interface Shown {
  readonly finding: Finding;
  readonly site: SiteReport;
  readonly lineOf: LineOf;
}

function headOf(title: string, sites: readonly SiteReport[]): string {
  const sum = (amountOf: (site: SiteReport) => number) =>
    sites.reduce((total, site) => total + amountOf(site), 0);
  const read = `${count(
    sum(({ references }) => references),
    'reference',
  )} in ${count(
    sum(({ pages }) => pages),
    'page',
  )} of ${count(
    sum(({ files }) => files),
    'file',
  )}`;
  const found = `${count(
    sum(({ findings }) => findings.length),
    'finding',
  )} from ${count(
    sum(({ causes }) => causes.length),
    'cause',
  )}`;
  const counts = grades.map(
    (grade) =>
      `<li class="${grade}"><b>${sum((site) => site.counts[grade]).toLocaleString('en')}</b>${grade}</li>`,
  );
  return `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>${forMarkup(title)}</title>
<style>
${style}</style>
</head>
<body>
<header>
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

function articleOf(finding: Finding, lineOf: LineOf): string {
  const { grade, rule, kind, file, line, column, message, walk, mends } = finding;
  const source = finding.length === 0 ? null : lineOf(file, line);
  return `<article data-grade="${grade}" data-rule="${rule}" data-kind="${kind ?? ''}" data-file="${forMarkup(file)}">
<p><span class="rule ${grade}">${grade} · ${rule}</span> <span class="soft">line ${line}, column ${column}</span></p>
<p>${forMarkup(message)}</p>
${source === null ? '' : `<pre><code>${sourceAround(source, finding)}</code></pre>`}
${walk.length === 0 ? '' : `<p>${walkOf(walk)}</p>`}
${mends.map(mendOf).join('\n')}
</article>
`;
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
  for (const { step, name, found } of walk) {
    const text = step === 'out' ? (found ? `up to ${name}` : 'out of the site') : name;
    words.push(found ? forMarkup(text) : `<span class="fails">${forMarkup(text)}</span>`);
    if (!found) break;
  }
  return words.join(' ▸ ');
}

function mendOf({ sure, edits, walk }: Mend): string {
  const [edit] = edits;
  if (edit === undefined) return '';
  return `<p><span class="soft">${sure ? 'meant' : 'maybe'}</span> <code>${forMarkup(edit.text)}</code> <span class="soft">${walkOf(walk)}</span></p>`;
}
