/** Which findings are told, once all are known: each once, milder where no page loads its file. */
import { pushTo } from '../group-by.ts';
import { unreached } from '../judge/grading.ts';
import type { Finding } from '../report.ts';
import type { Inventory } from '../site/inventory.ts';
import type { Reach } from './reach.ts';

/** Findings, milder or left out where no page loads their file. */
export function withReach(findings: readonly Finding[], reach: Reach): Finding[] {
  const graded: Finding[] = [];
  for (const finding of findings) {
    const one = reach.isReached(finding.file) ? finding : unreached(finding);
    if (one !== null) graded.push(one);
  }
  return graded;
}

/** Findings, without those that are the same in a file by its own path: there it is said by which other way. */
export function toldOnce(findings: readonly Finding[], { aliases }: Inventory): readonly Finding[] {
  if (aliases.size === 0) return findings;
  const keyOf = (file: string, { rule, offset, written }: Finding) =>
    JSON.stringify([file, rule, offset, written]);
  const known = new Set(findings.map((finding) => keyOf(finding.file, finding)));
  const ways = new Map<string, string[]>();
  const told = findings.filter((finding) => {
    const own = aliases.get(finding.file);
    if (own === undefined) return true;
    if (finding.kind === null) return false;
    const key = keyOf(own, finding);
    if (!known.has(key)) return true;
    pushTo(ways, key, finding.file);
    return false;
  });
  return told.map((finding) => {
    const others = ways.get(keyOf(finding.file, finding));
    if (others === undefined) return finding;
    return { ...finding, message: `${finding.message}; also as ${others.join(', ')}` };
  });
}
