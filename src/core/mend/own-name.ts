/** A page that was renamed refers to itself by its old name: what other pages mean by that is it. */
import { groupBy } from '../group-by.ts';
import type { Finding } from '../report.ts';
import type { SiteView } from '../resolve/subject.ts';
import { mendTo } from './mend-to.ts';

/** The findings on addresses, with what those of renamed pages mean by their own old names. */
export function withOwnNames(
  suspected: readonly Finding[],
  site: Pick<SiteView, 'inventory' | 'published'>,
  baseOf: (file: string) => string | null,
): readonly Finding[] {
  const isOpen = ({ kind, target, mends }: Finding) =>
    (kind === 'page' || kind === 'anchor') && target !== null && mends.length === 0;
  if (!suspected.some(isOpen)) return suspected;
  const byTarget = groupBy(suspected, ({ rule, target }) => `${rule} ${target}`);
  const meant = new Map([...byTarget].map(([key, all]) => [key, meantByAll(all)]));
  return suspected.map((finding) => {
    const { file, rule, target, offset, length, kind, holder, written } = finding;
    if (!isOpen(finding) || meant.get(`${rule} ${target}`) !== file || kind === null || holder === null)
      return finding;
    const reference = { kind, holder, offset, length, written, from: 'file', standing: null } as const;
    const itself = { path: file, fragment: null, sure: false };
    const mend = mendTo(itself, { file, reference, base: baseOf(file) }, site);
    return mend === null ? finding : { ...finding, mends: [mend] };
  });
}

/** The one file that is meant wherever anything is; null where there is none, or more. */
function meantByAll(findings: readonly Finding[]): string | null {
  const targets = new Set(findings.flatMap(({ mends }) => mends[0]?.target ?? []));
  const [only] = targets;
  return targets.size === 1 ? (only as string) : null;
}
