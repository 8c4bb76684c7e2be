/** The report of a check as JSON, whole or a line for each finding. */
import type { Report } from '../core/report.ts';
import { asJson } from './escape.ts';
import { withWords } from './holder.ts';
import { jsonPieces, Lazy, mapped } from './pieces.ts';

export function* reportAsJson(report: Report): Iterable<string> {
  yield* jsonPieces({ ...report, findings: new Lazy(() => mapped(report.findings, withWords)) });
  yield '\n';
}

/** Newline-delimited JSON: first the site with its counts and what was not read, then the findings. */
export function* reportAsLines({ cravel, site, counts, unread, findings }: Report): Iterable<string> {
  yield `${asJson({ cravel, site, counts, unread })}\n`;
  for (const finding of findings) yield `${asJson(withWords(finding))}\n`;
}
