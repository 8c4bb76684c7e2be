/** The report of a check as JUnit XML: a suite for each file with findings, a case for each finding. */
import { groupBy } from '../core/group-by.ts';
import { type Finding, inAll, type Report, type SiteReport } from '../core/report.ts';
import { forXml } from './escape.ts';
import { inSite } from './in-site.ts';

export function* reportAsJunit({ sites }: Report): Iterable<string> {
  const failures = inAll(sites, ({ findings }) => findings.length);
  const errors = inAll(sites, ({ unread }) => unread.length);
  const sound = sites.filter(isSound).length;
  const name = `cravel check ${sites.map(({ folder }) => folder).join(' ')}`;
  yield '<?xml version="1.0" encoding="UTF-8"?>\n';
  yield `<testsuites name="${forXml(name)}" tests="${failures + errors + sound}" failures="${failures}" errors="${errors}">\n`;
  for (const site of sites) yield* suitesOf(site, sites.length > 1);
  yield '</testsuites>\n';
}

function isSound({ findings, unread }: SiteReport): boolean {
  return findings.length === 0 && unread.length === 0;
}

function* suitesOf(site: SiteReport, isOneOfSeveral: boolean): Iterable<string> {
  const { causes, unread } = site;
  const nameOf = (file: string) => forXml(isOneOfSeveral ? inSite(site, file) : file);
  for (const [file, all] of groupBy(
    causes.flatMap((cause) => cause.findings),
    (finding) => finding.file,
  )) {
    yield `  <testsuite name="${nameOf(file)}" tests="${all.length}" failures="${all.length}" errors="0">\n`;
    for (const finding of all) yield caseOf(finding, nameOf(file));
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

function caseOf({ file, line, column, rule, grade, message, written }: Finding, className: string): string {
  const name = `${rule} ${line}:${column} ${written}`.trim();
  const text = `${file}:${line}:${column}: ${grade} ${rule}: ${message}`;
  return `    <testcase classname="${className}" name="${forXml(name)}"><failure type="${rule}" message="${forXml(message)}">${forXml(text)}</failure></testcase>\n`;
}
