/**
 * The report of a check as JUnit XML: a suite for each file with findings, a case for each finding. What does not make the
 * check fail is skipped, with the reason.
 */
import { groupBy } from '../core/group-by.ts';
import { type Finding, inAll, type Report, type SiteReport } from '../core/report.ts';
import { forXml } from './escape.ts';
import { inSite } from './in-site.ts';

/** Whether a finding of a site makes the check fail. */
export type Fails = (site: SiteReport, finding: Finding) => boolean;

export function* reportAsJunit({ sites }: Report, fails: Fails): Iterable<string> {
  const all = inAll(sites, ({ findings }) => findings.length);
  const failures = inAll(sites, (site) => site.findings.filter((finding) => fails(site, finding)).length);
  const errors = inAll(sites, ({ unread }) => unread.length);
  const sound = sites.filter(isSound).length;
  const name = `cravel check ${sites.map(({ folder }) => folder).join(' ')}`;
  yield '<?xml version="1.0" encoding="UTF-8"?>\n';
  yield `<testsuites name="${forXml(name)}" tests="${all + errors + sound}" failures="${failures}" errors="${errors}">\n`;
  for (const site of sites) yield* suitesOf(site, sites.length > 1, fails);
  yield '</testsuites>\n';
}

function isSound({ findings, unread }: SiteReport): boolean {
  return findings.length === 0 && unread.length === 0;
}

function* suitesOf(site: SiteReport, isOneOfSeveral: boolean, fails: Fails): Iterable<string> {
  const { causes, unread } = site;
  const nameOf = (file: string) => forXml(isOneOfSeveral ? inSite(site, file) : file);
  for (const [file, all] of groupBy(
    causes.flatMap((cause) => cause.findings),
    (finding) => finding.file,
  )) {
    const failures = all.filter((finding) => fails(site, finding)).length;
    const skipped = all.length - failures;
    yield `  <testsuite name="${nameOf(file)}" tests="${all.length}" failures="${failures}" errors="0" skipped="${skipped}">\n`;
    for (const finding of all) yield caseOf(finding, nameOf(file), fails(site, finding));
    yield '  </testsuite>\n';
  }
  for (const { file, why } of unread) {
    const name = nameOf(file);
    yield `  <testsuite name="${name}" tests="1" failures="0" errors="1">\n`;
    yield `    <testcase classname="${name}" name="read"><error type="unread" message="${forXml(why)}"/></testcase>\n`;
    yield '  </testsuite>\n';
  }
  // A run without a case counts as no run.
  if (isSound(site)) {
    const name = isOneOfSeveral ? forXml(site.folder) : 'site';
    yield `  <testsuite name="${name}" tests="1" failures="0" errors="0">\n    <testcase classname="${name}" name="every reference holds"/>\n  </testsuite>\n`;
  }
}

function caseOf(
  { file, line, column, rule, grade, message, written }: Finding,
  className: string,
  isFailing: boolean,
): string {
  const name = `${rule} ${line}:${column} ${written}`.trim();
  const text = `${file}:${line}:${column}: ${grade} ${rule}: ${message}`;
  const outcome = isFailing
    ? `<failure type="${rule}" message="${forXml(message)}">${forXml(text)}</failure>`
    : `<skipped message="${forXml(text)}"/>`;
  return `    <testcase classname="${className}" name="${forXml(name)}">${outcome}</testcase>\n`;
}
