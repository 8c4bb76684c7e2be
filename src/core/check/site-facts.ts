/** What rules about the site as a whole look at, and what they say: asked again only where that has changed. */
import { groupBy } from '../group-by.ts';
import { draftOfRemark, placed } from '../judge/drafts.ts';
import { siteRules } from '../judge/index.ts';
import type { SiteFacts, SiteRule } from '../judge/rule.ts';
import type { Extent } from '../read/lines.ts';
import type { Span } from '../read/reading.ts';
import type { Finding } from '../report.ts';
import type { SiteView } from '../resolve/subject.ts';
import { isSameSet } from '../same.ts';
import { INDEX } from '../site/formats.ts';
import { folderOf, type Inventory } from '../site/inventory.ts';
import type { Ledger } from './ledger.ts';

/** Paths of files, by the file that leads to them. */
export type Leads = ReadonlyMap<string, readonly string[]>;

/** What is known of a site beside its ledger as it is judged. */
interface AroundSite {
  /** Files that prefixes of import maps lead to. */
  readonly mapped: Leads;
  /** Files that broken references were meant for. */
  readonly meant: Leads;
  /** Dead links that something leads to. */
  readonly missed: ReadonlySet<string>;
  /** False where a page or a folder could not be read. */
  readonly isWhole: boolean;
  /** Reports of checks: no part of the site. */
  readonly ownReports: ReadonlySet<string>;
}

export class SiteJudgement {
  readonly #said = new Map<SiteRule, { readonly version: number; readonly findings: readonly Finding[] }>();
  #used: ReadonlySet<string> = new Set();
  #usedVersion = -1;
  /** What files are probably for, by the file that names them wrong, and what import maps lead to. */
  #meant: Leads = new Map();
  #mapped: Leads = new Map();
  #missed: ReadonlySet<string> = new Set();
  #isWhole = true;

  constructor(
    readonly site: SiteView,
    readonly ledger: Ledger,
    readonly samples: readonly string[],
  ) {}

  judge(around: AroundSite, extentIn: (file: string, span: Span) => Extent): readonly Finding[] {
    const { ownReports } = around;
    this.#note(around);
    const facts = this.#facts();
    const found = siteRules.flatMap((rule) => this.#judge(rule, facts, extentIn));
    return ownReports.size === 0 ? found : found.filter(({ file }) => !ownReports.has(file));
  }

  /** Files, and folders of files whose names a script puts together, that something refers to; after a report. */
  get used(): ReadonlySet<string> {
    return this.#facts().used;
  }

  /** Forgets what was said of spots in a file that has changed. */
  forget(file: string): void {
    for (const [rule, { findings }] of this.#said)
      if (findings.some((finding) => finding.file === file && finding.offset > 0)) this.#said.delete(rule);
  }

  /** What a broken reference was meant for is neither unused nor unreached. */
  #note({ mapped, meant, missed, isWhole }: AroundSite): void {
    const isSame =
      JSON.stringify([...meant]) === JSON.stringify([...this.#meant]) &&
      JSON.stringify([...mapped]) === JSON.stringify([...this.#mapped]);
    if (isSame && isSameSet(missed, this.#missed) && isWhole === this.#isWhole) return;
    this.#isWhole = isWhole;
    this.#missed = missed;
    this.#meant = meant;
    this.#mapped = mapped;
    this.ledger.note('uses');
    this.ledger.note('ways');
  }

  #facts(): SiteFacts {
    const { site, ledger } = this;
    const [meant, mapped] = [this.#meant, this.#mapped];
    const version = ledger.versionOf(['uses']);
    if (version !== this.#usedVersion) {
      const { led, named, byOthers } = ledger.uses;
      const more = [...this.#mapped.values(), ...meant.values()].flat();
      this.#used = new Set([...led, ...named, ...byOthers, ...more]);
      this.#usedVersion = version;
    }
    return {
      site,
      samples: this.samples,
      used: this.#used,
      missed: this.#missed,
      isWhole: this.#isWhole,
      get sources() {
        return [...ledger.shares.values()]
          .flatMap(({ file, form }) => (form === 'source' ? file : []))
          .sort();
      },
      get pages() {
        return ledger.pages;
      },
      get loadedAs() {
        return ledger.loadedAs;
      },
      waysFrom(file) {
        const ways = ledger.pages.get(file)?.leadsTo ?? [];
        return [...ways, ...(meant.get(file) ?? []), ...(mapped.get(file) ?? [])];
      },
    };
  }

  #judge(
    rule: SiteRule,
    facts: SiteFacts,
    extentIn: (file: string, span: Span) => Extent,
  ): readonly Finding[] {
    const version = this.ledger.versionOf(rule.looksAt);
    const said = this.#said.get(rule);
    if (said?.version === version) return said.findings;
    const findings = rule
      .judgeSite(facts)
      .map(({ file, ...remark }) => placed(draftOfRemark(rule, file, remark), extentIn(file, remark)));
    this.#said.set(rule, { version, findings });
    return findings;
  }
}

/** The files that broken references were meant for, by the file that has them. */
export function meantBy(suspected: readonly Finding[]): Leads {
  return new Map(
    Array.from(
      groupBy(suspected, (finding) => finding.file),
      ([file, findings]) => [
        file,
        findings.flatMap(({ mends }) => mends.flatMap(({ target }) => fileMeant(target))),
      ],
    ),
  );
}

function fileMeant(target: string | null): string[] {
  if (target === null) return [];
  return [target === '' || target.endsWith('/') ? `${target}${INDEX}` : target];
}

/** The links that lead nowhere which broken references lead to, or through. */
export function missedBy(suspected: readonly Finding[], { deadLinks }: Inventory): ReadonlySet<string> {
  const missed = new Set<string>();
  if (deadLinks.size === 0) return missed;
  for (const { target } of suspected)
    for (let path = target ?? ''; path !== ''; path = folderOf(path).slice(0, -1))
      if (deadLinks.has(path)) missed.add(path);
  return missed;
}
