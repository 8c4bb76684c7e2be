/** What rules about the site as a whole look at, from the shares of its files. */
import { groupBy } from '../group-by.ts';
import type { PageRecord, SiteFacts } from '../judge/rule.ts';
import type { Kind } from '../read/reading.ts';
import type { Finding } from '../report.ts';
import type { SiteView } from '../resolve/subject.ts';
import type { Share } from './share.ts';

/** The site as a whole: what a broken reference was meant for is neither unused nor unreached. */
export function factsOf(
  shares: readonly Share[],
  site: SiteView,
  mapped: ReadonlySet<string>,
  suspected: readonly Finding[],
): SiteFacts {
  const pages = new Map<string, PageRecord>();
  const used = new Set<string>(mapped);
  const loadedAs = new Map<string, Kind>();
  for (const { record, file, loads, leadsTo, names } of shares) {
    if (record !== null) pages.set(file, record);
    for (const path of leadsTo) used.add(path);
    for (const path of names) used.add(path);
    for (const [path, kind] of loads) if (!loadedAs.has(path)) loadedAs.set(path, kind);
  }
  for (const [file, findings] of groupBy(suspected, (finding) => finding.file)) {
    const meant = findings.flatMap(({ mends }) => mends.flatMap(({ target }) => fileMeant(target)));
    if (meant.length === 0) continue;
    for (const path of meant) used.add(path);
    const record = pages.get(file);
    if (record !== undefined) pages.set(file, { ...record, leadsTo: [...record.leadsTo, ...meant] });
  }
  return { site, pages, used, loadedAs };
}

function fileMeant(target: string | null): string[] {
  if (target === null) return [];
  return [target === '' || target.endsWith('/') ? `${target}index.html` : target];
}
