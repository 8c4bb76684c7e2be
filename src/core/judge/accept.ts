/** Leaves out findings that the settings accept. */
import type { Report } from '../report.ts';
import { countGrades } from '../report.ts';
import type { Accepted } from '../settings/settings.ts';

export interface Sifted {
  readonly report: Report;
  /** How many findings were left out. */
  readonly accepted: number;
  /** Entries that match nothing any more. */
  readonly idle: readonly Accepted[];
}

export function sift(report: Report, accept: readonly Accepted[]): Sifted {
  const used = new Set<Accepted>();
  const findings = report.findings.filter((finding) => {
    const match = accept.find(
      ({ rule, file, written }) =>
        rule === finding.rule &&
        (file === undefined || file === finding.file) &&
        (written === undefined || written === finding.written),
    );
    if (match !== undefined) used.add(match);
    return match === undefined;
  });
  return {
    report: { ...report, findings, counts: countGrades(findings) },
    accepted: report.findings.length - findings.length,
    idle: accept.filter((one) => !used.has(one)),
  };
}
