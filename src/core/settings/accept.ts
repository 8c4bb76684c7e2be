/** Leaves out findings that the settings accept. */

import { countGrades, type Report } from '../report.ts';
import { withoutCredentials } from '../resolve/credentials.ts';
import type { Accepted } from './settings.ts';

export interface Sifted {
  readonly report: Report;
  /** How many findings were left out. */
  readonly accepted: number;
  /** Entries that match nothing any more. */
  readonly idle: readonly Accepted[];
}

export function sift(report: Report, accept: readonly Accepted[]): Sifted {
  const used = new Set<Accepted>();
  const byWords = new Map<string, Accepted>();
  for (const one of accept) {
    const key = keyOf(one.rule, one.file, one.written);
    if (!byWords.has(key)) byWords.set(key, one);
  }
  const findings = report.findings.filter(({ rule, file, written }) => {
    const match =
      byWords.get(keyOf(rule, file, written)) ??
      byWords.get(keyOf(rule, file)) ??
      byWords.get(keyOf(rule, undefined, written)) ??
      byWords.get(keyOf(rule));
    if (match !== undefined) used.add(match);
    return match === undefined;
  });
  return {
    report: { ...report, findings, counts: countGrades(findings) },
    accepted: report.findings.length - findings.length,
    idle: accept.filter((one) => !used.has(one)),
  };
}

function keyOf(rule: string, file?: string, written?: string): string {
  // Findings do not hold the names and passwords of addresses.
  return JSON.stringify([rule, file ?? null, written === undefined ? null : withoutCredentials(written)]);
}
