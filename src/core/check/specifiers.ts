/** Bare module specifiers: what the import maps of the pages that run a module make of them. */

import { pushTo } from '../group-by.ts';
import { draftOfRemark, judgeAddress, placed } from '../judge/drafts.ts';
import { absent } from '../judge/rules/absent.ts';
import type { Finding } from '../report.ts';
import { resolveIn } from '../resolve/published.ts';
import { type Resolver } from '../resolve/resolver.ts';
import { type Mapped, mapSpecifier } from '../resolve/specifier.ts';
import type { SiteView } from '../resolve/subject.ts';
import type { Share, Specifier } from './share.ts';

/** What is known of all bare specifiers of a site. */
export interface SpecifierFacts {
  readonly findings: readonly Finding[];
  /** Files that prefixes of import maps lead to, by the pages that get them so. */
  readonly used: ReadonlyMap<string, readonly string[]>;
}

/** What one specifier comes to on the pages that run it. */
interface Outcomes {
  /** On the first page where it fails. */
  findings: readonly Finding[];
  readonly failsOn: string[];
  holds: boolean;
}

/** Judges the specifiers of all files; a module that no page runs is not judged. */
export function judgeSpecifiers(
  shares: ReadonlyMap<string, Share>,
  site: SiteView,
  resolver: Resolver,
): SpecifierFacts {
  const outcomes = new Map<Specifier, Outcomes>();
  const used = new Map<string, string[]>();
  const pages = [...shares.values()]
    .filter(({ record }) => record !== null)
    .sort((one, other) => (one.file < other.file ? -1 : 1));
  for (const page of pages) {
    // Everything that the page runs, by way of other modules too.
    const reached = new Set([page.file]);
    for (const file of reached) {
      const share = shares.get(file);
      for (const [path, kind] of share?.loads ?? [])
        if (kind === 'module' || kind === 'script') reached.add(path);
      for (const specifier of share?.specifiers ?? []) {
        const mapped = mapSpecifier(specifier.reference.written, page.imports, page.base, file);
        const found =
          mapped.by === 'prefix' ? resolver.leadsFrom(page.base, false).of(mapped.address).found : null;
        if (found !== null) {
          pushTo(used, page.file, found.path);
          reached.add(found.path);
        }
        const failing = found === null ? judge(specifier, mapped, file, page, site) : [];
        note(outcomes, specifier, page.file, failing);
      }
    }
  }
  return { findings: [...outcomes.values()].flatMap(findingsOf), used };
}

function note(
  outcomes: Map<Specifier, Outcomes>,
  specifier: Specifier,
  page: string,
  findings: readonly Finding[],
): void {
  let outcome = outcomes.get(specifier);
  if (outcome === undefined) {
    outcome = { findings: [], failsOn: [], holds: false };
    outcomes.set(specifier, outcome);
  }
  if (findings.length === 0) outcome.holds = true;
  else {
    if (outcome.failsOn.length === 0) outcome.findings = findings;
    outcome.failsOn.push(page);
  }
}

/** Where it holds on other pages, those where it fails are named. */
function findingsOf({ findings, failsOn, holds }: Outcomes): readonly Finding[] {
  return holds ? findings.map((finding) => ({ ...finding, pages: failsOn })) : findings;
}

function judge(
  { reference, extent }: Specifier,
  mapped: Mapped,
  file: string,
  page: Share,
  site: SiteView,
): Finding[] {
  const { written } = reference;
  if (mapped.by === 'name') return [];
  if (mapped.by === 'nothing') {
    const owner = page.file === file ? 'the page' : page.file;
    const message = `no import map of ${owner} names it, and without one only addresses that start with ./, ../ or / name a file`;
    const { offset, length, holder, kind } = reference;
    return [placed(draftOfRemark(absent, file, { offset, length, holder, written, kind, message }), extent)];
  }
  const target = resolveIn(mapped.address, page.base, site.published);
  const subject = { file, reference: { ...reference, written: mapped.address }, target, found: null, site };
  const draft = judgeAddress(subject);
  if (draft === null) return [];
  // In a file of its own, what is to be mended is the map.
  const mends = page.file === file ? draft.mends : [];
  return [placed({ ...draft, written, mends }, extent)];
}
