/** The report of a visit: what the rules say of what a host answered. */
import { causesOf } from '../judge/causes.ts';
import { type GradeSettings, gradedBy } from '../judge/grading.ts';
import { hostRules } from '../judge/index.ts';
import type { Visit } from '../judge/visit.ts';
import { AT_START } from '../read/lines.ts';
import { isPage } from '../read/read.ts';
import { byPlace, countGrades, type Finding, type SiteReport, type Unread } from '../report.ts';
import { withoutCredentials } from '../resolve/credentials.ts';
import { sift } from '../settings/accept.ts';
import type { Accepted } from '../settings/settings.ts';

/** `unread`: what could not be asked for. */
export function reportOfVisit(
  address: string,
  visits: readonly Visit[],
  unread: readonly Unread[],
  { grades, accept }: { readonly grades: GradeSettings; readonly accept: readonly Accepted[] },
  isTold: (finding: Finding) => boolean,
): SiteReport {
  const all = visits.flatMap((visit) => findingOf(visit) ?? []).sort(byPlace);
  const { findings, accepted } = sift(gradedBy(grades, all).filter(isTold), accept);
  const files = visits.filter(({ asks }) => asks === 'file').map(({ file }) => file);
  return {
    folder: withoutCredentials(address),
    pages: files.filter(isPage).length,
    files: files.length,
    references: 0,
    external: 0,
    asked: visits.length,
    counts: countGrades(findings),
    causes: causesOf(findings, { pagesOf: (some) => [...some].filter(isPage).length }),
    findings,
    accepted,
    unread,
  };
}

/** What the first rule with something to say makes of a visit. */
function findingOf(visit: Visit): Finding | null {
  for (const rule of hostRules) {
    const told = rule.judgeVisit(visit);
    if (told === null) continue;
    return {
      rule: rule.name,
      grade: told.grade ?? rule.grade,
      file: visit.file,
      ...AT_START,
      offset: 0,
      length: 0,
      holder: null,
      written: withoutCredentials(visit.address),
      kind: null,
      target: visit.file,
      message: withoutCredentials(told.message),
      reached: true,
      pages: null,
      walk: [],
      order: null,
      mends: [],
    };
  }
  return null;
}
