/** The report of a check as JSON, whole or a line for each finding; `schemas/report.schema.json` describes both. */
import type { Finding, Report, SiteReport } from '../core/report.ts';
import { asJson } from './escape.ts';
import { inWords } from './holder.ts';
import { jsonPieces, Lazy } from './pieces.ts';

export function* reportAsJson(report: Report): Iterable<string> {
  const { sites, ...head } = headOf(report);
  yield* jsonPieces({
    cravel: head.cravel,
    sites,
    causes: new Lazy(() => causesAsJson(report)),
    findings: new Lazy(() => findingsAsJson(report)),
    unread: head.unread,
  });
  yield '\n';
}

/** Newline-delimited JSON: first the sites with their counts and what was not read, then the findings. */
export function* reportAsLines(report: Report): Iterable<string> {
  yield `${asJson(headOf(report))}\n`;
  for (const finding of findingsAsJson(report)) yield `${asJson(finding)}\n`;
}

function headOf({ cravel, sites }: Report) {
  return {
    cravel,
    sites: sites.map(siteAsJson),
    unread: sites.flatMap(({ folder, unread }) =>
      unread.map(({ file, why }) => ({ site: folder, file, why })),
    ),
  };
}

function siteAsJson({ folder, pages, files, references, external, asked, counts, accepted }: SiteReport) {
  return { folder, pages, files, references, external, asked, accepted: accepted.length, counts };
}

function* causesAsJson({ sites }: Report): Iterable<object> {
  for (const { folder, causes } of sites)
    for (const { rule, grade, message, findings, files, pages, mend } of causes)
      yield { site: folder, rule, grade, message, findings: findings.length, files, pages, mend };
}

/** Findings as the report's format has them: each with the number of its cause, what holds it in words, edits by offset and length. */
function* findingsAsJson({ sites }: Report): Iterable<object> {
  let before = 0;
  for (const { folder, causes } of sites) {
    for (const [number, cause] of causes.entries())
      for (const finding of cause.findings) yield findingAsJson(finding, folder, before + number);
    before += causes.length;
  }
}

function findingAsJson(finding: Finding, site: string, cause: number): object {
  const mends = finding.mends.map((mend) => ({
    ...mend,
    edits: mend.edits.map(({ file, start, end, text }) => ({
      file,
      offset: start,
      length: end - start,
      text,
    })),
  }));
  return { site, cause, ...finding, holder: inWords(finding.holder), mends };
}
