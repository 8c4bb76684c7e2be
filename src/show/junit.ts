/** The report of a check as JUnit XML: a suite for each file with findings, a case for each finding. */
import { groupBy } from '../core/group-by.ts';
import type { Finding, Report } from '../core/report.ts';
import { forXml } from './escape.ts';

export function* reportAsJunit({ findings, unread, site }: Report): Iterable<string> {
  const byFile = groupBy(findings, ({ file }) => file);
  const tests = Math.max(findings.length + unread.length, 1);
  yield '<?xml version="1.0" encoding="UTF-8"?>\n';
  yield `<testsuites name="${forXml(`cravel check ${site.folder}`)}" tests="${tests}" failures="${findings.length}" errors="${unread.length}">\n`;
  for (const [file, all] of byFile) {
    yield `  <testsuite name="${forXml(file)}" tests="${all.length}" failures="${all.length}" errors="0">\n`;
    for (const finding of all) yield caseOf(finding);
    yield '  </testsuite>\n';
  }
  for (const { file, why } of unread) {
    yield `  <testsuite name="${forXml(file)}" tests="1" failures="0" errors="1">\n`;
    yield `    <testcase classname="${forXml(file)}" name="read"><error message="${forXml(why)}"/></testcase>\n  </testsuite>\n`;
  }
  // A run without a case counts as no run.
  if (findings.length === 0 && unread.length === 0) {
    yield '  <testsuite name="site" tests="1" failures="0" errors="0">\n    <testcase classname="site" name="every reference holds"/>\n  </testsuite>\n';
  }
  yield '</testsuites>\n';
}

function caseOf({ file, line, column, rule, grade, message, written }: Finding): string {
  const name = `${rule} ${line}:${column} ${written}`.trim();
  const text = `${file}:${line}:${column}: ${grade} ${rule}: ${message}`;
  return `    <testcase classname="${forXml(file)}" name="${forXml(name)}"><failure type="${rule}" message="${forXml(message)}">${forXml(text)}</failure></testcase>\n`;
}
