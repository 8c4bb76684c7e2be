/** The report of a check as text for a terminal: causes with their walks, worst first, then a summary. */

import { groupBy } from '../core/group-by.ts';
import { commandFor } from '../core/judge/causes.ts';
import { isUnheeded } from '../core/judge/grading.ts';
import { ruleNamed } from '../core/judge/index.ts';
import { isAttribute } from '../core/read/holder.ts';
import {
  type Cause,
  type Finding,
  type Grade,
  grades,
  inAll,
  type Mend,
  type Report,
  type SiteReport,
  type Unread,
  whatIsWritten,
} from '../core/report.ts';
import type { Step } from '../core/site/walk.ts';
import { withCommas } from '../core/with-commas.ts';
import { visible } from './escape.ts';
import { extentInWords } from './extent.ts';
import { inWords } from './holder.ts';
import { count, type Paint, paintGrade, shorten, shortList, wrap } from './paint.ts';

const INDENT = '    ';
/** Spots named besides the first one of a cause. */
const MORE_SPOTS = 3;
/** Where the message starts after a short walk, counted from the indent. */
const MESSAGE_COLUMN = 22;

/** How findings are put together: by what caused them, by the file they stand in, or one by one. */
export type Cut = 'cause' | 'file' | 'spot';

/** What is said of a site that was looked at otherwise than by reading it. */
export interface Words {
  /** What was done, and what holds where nothing fails; without the full stop. */
  readonly read: string;
  readonly holds: string;
}

export interface TextOptions {
  readonly by?: Cut;
  readonly paint: Paint;
  readonly columns: number;
  /** Causes shown; the rest is counted. */
  readonly most: number;
  /** Only some of the findings are in the report: that the others are not there says nothing. What is said where none is. */
  readonly ofPart?: string | undefined;
  readonly words?: Words | undefined;
}

export function* reportAsText({ sites }: Report, options: TextOptions): Iterable<string> {
  const { paint } = options;
  for (const [index, site] of sites.entries()) {
    if (sites.length > 1)
      yield `${index > 0 ? '\n' : ''}${paint.bold(paint.underline(visible(site.folder)))}\n\n`;
    yield* siteAsText(site, options);
  }
  if (sites.length > 1) yield totalsAsText(sites);
}

function* siteAsText(site: SiteReport, options: TextOptions): Iterable<string> {
  const { by = 'cause', paint, most } = options;
  const groups = groupsOf(site, by);
  const shown = groups.slice(0, most);
  for (const [index, group] of shown.entries()) {
    const [first] = group.findings;
    const before = shown[index - 1]?.findings[0];
    if (by !== 'file' && isUnheeded(first) && (before === undefined || !isUnheeded(before)))
      yield `${paint.bold('In files that no page loads:')}\n\n`;
    yield `${by === 'file' ? fileAsText(group, options) : causeAsText(group, options)}\n`;
  }
  const left = groups.length - shown.length;
  if (left > 0) {
    const more = `${paint.marks.more} and ${count(left, `more ${by}`)}: see all with --most all, or every reference with --as json`;
    yield `${paint.dim(more)}\n\n`;
  }
  yield summaryAsText(site, options);
}

/** Findings that are shown together, and how many files they stand in. */
type Group = Pick<Cause, 'findings' | 'files' | 'mend'>;

function groupsOf({ causes }: SiteReport, by: Cut): readonly Group[] {
  if (by === 'cause') return causes;
  // The worst first, as their causes are.
  const all = causes.flatMap((cause) => cause.findings);
  const groups = by === 'spot' ? all.map((one) => [one]) : groupBy(all, ({ file }) => file).values();
  return Array.from(groups, (all) => {
    const findings = all as [Finding, ...Finding[]];
    return { findings, files: 1, mend: by === 'spot' ? commandFor(findings) : null };
  });
}

/** What all sites come to together. */
function totalsAsText(sites: readonly SiteReport[]): string {
  const findings = inAll(sites, (site) => site.findings.length);
  const counts = grades
    .map((grade) => ({ grade, amount: inAll(sites, (site) => site.counts[grade]) }))
    .filter(({ amount }) => amount > 0)
    .map(({ grade, amount }) => `${withCommas(amount)} ${grade}`);
  const what = findings === 0 ? '' : `: ${counts.join(', ')}`;
  const pages = inAll(sites, (site) => site.pages);
  return `\n${count(sites.length, 'site')}, ${count(pages, 'page')}, ${count(findings, 'finding')}${what}.\n`;
}

/** One file with its findings, a line or two each. */
function fileAsText({ findings }: Group, { paint, columns }: TextOptions): string {
  const lines = findings.flatMap((finding) => {
    const { line, column, grade, rule, message } = finding;
    const head = `${INDENT}${`${line}:${column}`.padEnd(9)}`;
    const room = columns - head.length - grade.length - rule.length - 6;
    const what = paint.cyan(shorten(asWritten(finding), Math.max(room, 20), paint));
    const said = wrap(visible(message), columns - head.length).map((text) => ' '.repeat(head.length) + text);
    return [`${head}${paintGrade(grade, paint)} ${paint.marks.dot} ${rule}   ${what}`.trimEnd(), ...said];
  });
  return `${paint.bold(shorten(visible(findings[0].file), columns - 12, paint))}   ${count(findings.length, 'finding')}\n${lines.join('\n')}\n`;
}

function causeAsText(group: Group, { paint, columns }: TextOptions): string {
  const { findings } = group;
  const [first] = findings;
  const lines = [
    `${paint.bold(spot(first, columns - 24, paint))}   ${paintGrade(first.grade, paint)} ${paint.marks.dot} ${first.rule}`,
    ...(asWritten(first) === ''
      ? []
      : [INDENT + paint.cyan(shorten(asWritten(first), columns - INDENT.length, paint))]),
    ...walkLines(first, paint, columns),
    ...pagesLine(first, paint, columns),
    ...first.mends.flatMap((mend) => mendLines(mend, paint, columns)),
  ];
  if (group.mend !== null) lines.push(`${INDENT}${paint.dim('mend')}   ${visible(group.mend)}`);
  if (findings.length > 1) lines.push(...moreSpots(group, paint, columns));
  return `${lines.join('\n')}\n`;
}

/** `css/harbour.css 12:19` */
function spot({ file, line, column }: Finding, width: number, paint: Paint): string {
  return `${shorten(visible(file), width, paint)} ${line}:${column}`;
}

/** The reference in the dress it wears in its file; empty where there is nothing of it in the file. */
function asWritten({ holder, written, kind, length }: Finding): string {
  if (written === '' && length === 0 && kind === null) return '';
  if (holder === null) return '';
  const text = visible(written);
  const { syntax, element, name: attribute } = holder;
  // What was left open is shown as it stands.
  if (kind === null && (syntax === 'css' || text.startsWith('<'))) return text;
  if (syntax === 'css' && attribute === 'url()') return `url(${text})`;
  if (attribute.endsWith('()')) return `${attribute.slice(0, -1)}"${text}")`;
  if (syntax !== 'markup' && text === '') return '';
  if (syntax !== 'markup') return `${inWords(holder)} "${text}"`;
  if (element === 'part') return `<!-- Part: ${text} -->`;
  if (isAttribute(holder, 'meta', 'description')) return `<meta name="description" content="${text}">`;
  if (attribute === '') return text === '' ? `<${element}>` : `<${element}>${text}</${element}>`;
  return text === '' && kind === null ? `<${element} ${attribute}>` : `<${element} ${attribute}="${text}">`;
}

function walkLines({ walk, order, message }: Finding, paint: Paint, columns: number): string[] {
  const text = visible(message);
  if (order !== null)
    return [
      ...orderLines('order', order.is, paint, columns),
      ...orderLines('right', order.should, paint, columns),
      ...wrap(text, columns - INDENT.length).map((line) => INDENT + line),
    ];
  const lines = wrap(text, columns - INDENT.length).map((line) => INDENT + line);
  if (walk.length === 0) return lines;
  const path = walkAsText(walk, paint);
  if (path.width + 3 + text.length <= columns - INDENT.length) {
    const gap = ' '.repeat(Math.max(3, MESSAGE_COLUMN - path.width));
    if (path.width + gap.length + text.length <= columns - INDENT.length)
      return [INDENT + path.text + gap + text];
  }
  return [INDENT + path.text, ...lines];
}

/** `order  js/tides.js ▸ lib/tideclock.js`: what runs after what. */
function orderLines(label: string, names: readonly string[], paint: Paint, columns: number): string[] {
  const between = ` ${paint.marks.step} `;
  const lines = wrap(names.map(visible).join(between), columns - INDENT.length - label.length - 2);
  return lines.map(
    (line, index) => `${INDENT}${index === 0 ? paint.dim(label) : ' '.repeat(label.length)}  ${line}`,
  );
}

/** `pages  timetable.html, fares.html`: where it fails, if it does not everywhere. */
function pagesLine({ pages }: Finding, paint: Paint, columns: number): string[] {
  if (pages === null) return [];
  const label = 'pages';
  const list = shortList(pages.map(visible), 3);
  return [
    `${INDENT}${paint.dim(label)}  ${shorten(list, columns - INDENT.length - label.length - 2, paint)}`,
  ];
}

function mendLines(mend: Mend, paint: Paint, columns: number): string[] {
  const { sure, walk } = mend;
  const text = visible(whatIsWritten(mend));
  const label = sure ? 'meant' : 'maybe';
  const path = walkAsText(walk, paint);
  const head = `${INDENT}${paint.dim(label)}  ${paint.green(text)}`;
  if (walk.length === 0) return [head];
  const width = INDENT.length + label.length + 2 + text.length;
  return width + 3 + path.width <= columns
    ? [`${head}   ${path.text}`]
    : [head, `${INDENT}${' '.repeat(label.length + 2)}${path.text}`];
}

/** The steps up to the first that fails, for example `css/ ▸ up 2 to / ▸ images/`. */
function walkAsText(walk: readonly Step[], paint: Paint): { text: string; width: number } {
  const words: { text: string; found: boolean }[] = [];
  let climbed = 0;
  for (const { step, name, found } of walk) {
    climbed = step === 'out' ? climbed + 1 : 0;
    if (climbed > 1 && found) words.pop();
    const up = climbed > 1 ? `up ${climbed} to` : 'up to';
    const text = step !== 'out' ? visible(name) : found ? `${up} ${visible(name)}` : 'out of the site';
    words.push({ text, found });
    if (!found) break;
  }
  const painted = words.map(({ text, found }) => (found ? text : paint.red(text)));
  const between = ` ${paint.marks.step} `;
  return {
    text: painted.join(paint.dim(between)),
    width: words.map(({ text }) => text).join(between).length,
  };
}

function moreSpots(group: Group, paint: Paint, columns: number): string[] {
  const [first, ...others] = group.findings;
  const spots = others.slice(0, MORE_SPOTS).flatMap((finding) => {
    const place = spot(finding, columns - 24, paint);
    // Of one cause, each may have words of its own.
    return finding.message === first.message || finding.walk.length > 0
      ? [place]
      : [place, ...wrap(visible(finding.message), columns - 13).map((line) => `  ${line}`)];
  });
  const rest = others.length - MORE_SPOTS;
  if (rest > 0) spots.push(`and ${withCommas(rest)} more`);
  return [
    `${INDENT}${paint.dim('all')}    ${extentInWords(group)}, also at:`,
    ...spots.map((text) => `${INDENT}       ${text}`),
  ];
}

function summaryAsText(site: SiteReport, { paint, ofPart, words }: TextOptions): string {
  const { pages, files, references, external, findings, causes, unread } = site;
  const asked = site.asked === null ? 'not asked' : `${count(site.asked, 'address', 'addresses')} asked for`;
  const outside = external === 0 ? '' : `, ${withCommas(external)} of them to other hosts (${asked})`;
  const lines = [
    ...unreadAsText(unread, paint),
    words === undefined
      ? `Read ${count(references, 'reference')} in ${count(pages, 'page')} of ${count(files, 'file')}${outside}.`
      : `${words.read}.`,
  ];
  if (ofPart === undefined && !findings.some(({ grade }) => grade === 'broken' || grade === 'fragile'))
    lines.push(paint.green(lastWord(site, words?.holds)));
  if (ofPart !== undefined && findings.length === 0) lines.push(ofPart);
  if (findings.length > 0) {
    lines.push(`${count(findings.length, 'finding')} from ${count(causes.length, 'cause')}:`);
    const found = amounts(findings);
    const width = Math.max(...found.map(({ grade, rule }) => grade.length + rule.length)) + 5;
    for (const { grade, rule, amount } of found) {
      const figure = paint.bold(withCommas(amount).padStart(7));
      const gap = ' '.repeat(width - grade.length - rule.length - 3);
      const summary = ruleNamed(rule)?.summary ?? '';
      lines.push(
        `${figure}  ${paintGrade(grade, paint)} ${paint.marks.dot} ${rule}${gap}${paint.dim(summary)}`,
      );
    }
    const kinds = kindsAsText(findings);
    if (kinds !== '') lines.push(paint.dim(`  by kind: ${kinds}`));
  }
  return `${lines.join('\n')}\n`;
}

/** What stands where nothing fails for a visitor: what is misplaced or untidy leads where it should all the same. */
function lastWord({ unread, counts, accepted }: SiteReport, own: string | undefined): string {
  const holds =
    own ?? (unread.length === 0 ? 'Every reference holds' : 'Every reference that was read holds');
  const told = (['misplaced', 'untidy'] as const)
    .filter((grade) => counts[grade] > 0)
    .map((grade) => `${count(counts[grade], 'thing')} ${counts[grade] === 1 ? 'is' : 'are'} ${grade}`);
  const failing = accepted.filter(
    ({ finding: { grade } }) => grade === 'broken' || grade === 'fragile',
  ).length;
  const kept =
    failing === 0
      ? []
      : [
          `${withCommas(failing)} that ${failing === 1 ? 'does' : 'do'} not ${failing === 1 ? 'is' : 'are'} accepted`,
        ];
  return `${[holds, ...kept, ...told].join('; ')}.`;
}

/** Files that were not read, named at most. */
const MOST_UNREAD = 20;

function unreadAsText(unread: readonly Unread[], paint: Paint): string[] {
  const lines = unread
    .slice(0, MOST_UNREAD)
    .map(({ file, why }) => `${paint.yellow('Not read:')} ${visible(file)}: ${visible(why)}.`);
  const left = unread.length - lines.length;
  return left > 0 ? [...lines, `${paint.yellow('Not read:')} ${count(left, 'more file')}.`] : lines;
}

/** How often each rule found something with each grade: worst first, then the most findings. */
function amounts(
  findings: readonly Finding[],
): { readonly grade: Grade; readonly rule: string; readonly amount: number }[] {
  return [...groupBy(findings, ({ grade, rule }) => `${grade} ${rule}`).values()]
    .map((all) => ({ ...(all[0] as Finding), amount: all.length }))
    .sort((a, b) => grades.indexOf(a.grade) - grades.indexOf(b.grade) || b.amount - a.amount);
}

function kindsAsText(findings: readonly Finding[]): string {
  const amounts = new Map<string, number>();
  for (const { kind } of findings) if (kind !== null) amounts.set(kind, (amounts.get(kind) ?? 0) + 1);
  return [...amounts]
    .sort(([, a], [, b]) => b - a)
    .map(([kind, amount]) => `${withCommas(amount)} ${kind}`)
    .join(', ');
}
