/** Leaves out findings that the settings accept. */

import type { AcceptedFinding, Finding, SiteReport } from '../report.ts';
import { withoutCredentials } from '../resolve/credentials.ts';
import type { Accepted } from './settings.ts';

export interface Sifted extends Pick<SiteReport, 'findings' | 'accepted'> {
  /** Entries that match nothing any more. */
  readonly idle: readonly Accepted[];
}

export function sift(findings: readonly Finding[], accept: readonly Accepted[]): Sifted {
  if (accept.length === 0) return { findings, accepted: [], idle: [] };
  const used = new Set<Accepted>();
  const byWords = new Map<string, Accepted>();
  for (const one of accept) {
    const key = keyOf(one.rule, one.file, one.written);
    if (!byWords.has(key)) byWords.set(key, one);
  }
  const told: Finding[] = [];
  const accepted: AcceptedFinding[] = [];
  for (const finding of findings) {
    const { rule, file, written } = finding;
    const match =
      byWords.get(keyOf(rule, file, written)) ??
      byWords.get(keyOf(rule, file)) ??
      byWords.get(keyOf(rule, undefined, written)) ??
      byWords.get(keyOf(rule));
    if (match === undefined) told.push(finding);
    else {
      used.add(match);
      accepted.push({ finding, because: match.because });
    }
  }
  return { findings: told, accepted, idle: accept.filter((one) => !used.has(one)) };
}

function keyOf(rule: string, file?: string, written?: string): string {
  // Findings do not hold the names and passwords of addresses.
  return JSON.stringify([rule, file ?? null, written === undefined ? null : withoutCredentials(written)]);
}
