/** The report of a check as JSON, whole or a line for each finding. */
import type { Finding, Report } from '../core/report.ts';
import { asJson } from './escape.ts';
import { inWords } from './holder.ts';
import { jsonPieces, Lazy, mapped } from './pieces.ts';

export function* reportAsJson(report: Report): Iterable<string> {
  yield* jsonPieces({ ...report, findings: new Lazy(() => mapped(report.findings, findingAsJson)) });
  yield '\n';
}

/** Newline-delimited JSON: first the site with its counts and what was not read, then the findings. */
export function* reportAsLines({ cravel, site, counts, unread, findings }: Report): Iterable<string> {
  yield `${asJson({ cravel, site, counts, unread })}\n`;
  for (const finding of findings) yield `${asJson(findingAsJson(finding))}\n`;
}

/** A finding as the report's format has it: what holds it in words, edits by offset and length. */
export function findingAsJson(finding: Finding): object {
  const mends = finding.mends.map((mend) => ({
    ...mend,
    edits: mend.edits.map(({ file, start, end, text }) => ({
      file,
      offset: start,
      length: end - start,
      text,
    })),
  }));
  return { ...finding, holder: inWords(finding.holder), mends };
}
