/** The report of a check as JUnit XML: a suite for each file with findings, a case for each finding. */
import { groupBy } from '../core/group-by.ts';
import type { Finding, Report } from '../core/report.ts';

export function* reportAsJunit({ findings, unread, site }: Report): Iterable<string> {
  const byFile = groupBy(findings, ({ file }) => file);
  const tests = Math.max(findings.length + unread.length, 1);
  yield '<?xml version="1.0" encoding="UTF-8"?>\n';
  yield `<testsuites name="${escaped(`cravel check ${site.folder}`)}" tests="${tests}" failures="${findings.length}" errors="${unread.length}">\n`;
  for (const [file, all] of byFile) {
    yield `  <testsuite name="${escaped(file)}" tests="${all.length}" failures="${all.length}" errors="0">\n`;
    for (const finding of all) yield caseOf(finding);
    yield '  </testsuite>\n';
  }
  for (const { file, why } of unread) {
    yield `  <testsuite name="${escaped(file)}" tests="1" failures="0" errors="1">\n`;
    yield `    <testcase classname="${escaped(file)}" name="read"><error message="${escaped(why)}"/></testcase>\n  </testsuite>\n`;
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
  return `    <testcase classname="${escaped(file)}" name="${escaped(name)}"><failure type="${rule}" message="${escaped(message)}">${escaped(text)}</failure></testcase>\n`;
}

/** Text for an attribute or an element (XML 1.0, 2.4); what XML cannot hold at all becomes U+FFFD. */
function escaped(text: string): string {
  return text
    .replace(/[^\t\n\r\u0020-\uD7FF\uE000-\uFFFD\u{10000}-\u{10FFFF}]/gu, '\uFFFD')
    .replaceAll('&', '&amp;')
    .replaceAll('<', '&lt;')
    .replaceAll('>', '&gt;')
    .replaceAll('"', '&quot;')
    .replace(/[\n\r\t]/g, ' ');
}
