/** What rules about the site as a whole look at, and what they say: asked again only where that has changed. */
import { groupBy } from '../group-by.ts';
import { draftOfRemark, placed } from '../judge/drafts.ts';
import { siteRules } from '../judge/index.ts';
import type { SiteFacts, SiteRule } from '../judge/rule.ts';
import type { Position } from '../read/lines.ts';
import type { Finding } from '../report.ts';
import type { SiteView } from '../resolve/subject.ts';
import { INDEX } from '../site/formats.ts';
import type { Ledger } from './ledger.ts';

export class SiteJudgement {
  readonly #said = new Map<SiteRule, { readonly version: number; readonly findings: readonly Finding[] }>();
  #used: ReadonlySet<string> = new Set();
  #usedVersion = -1;
  /** Files that a broken reference was meant for, by the file that has it, and what import maps lead to. */
  #meant: ReadonlyMap<string, readonly string[]> = new Map();
  #mapped: ReadonlySet<string> = new Set();

  constructor(
    readonly site: SiteView,
    readonly ledger: Ledger,
  ) {}

  /** `mapped`: files that prefixes of import maps lead to; `suspected`: findings on addresses. */
  judge(
    mapped: ReadonlySet<string>,
    suspected: readonly Finding[],
    positionIn: (file: string, offset: number) => Position,
  ): readonly Finding[] {
    this.#note(mapped, meantBy(suspected));
    const facts = this.#facts();
    return siteRules.flatMap((rule) => this.#judge(rule, facts, positionIn));
  }

  /** Forgets what was said of spots in a file that has changed. */
  forget(file: string): void {
    for (const [rule, { findings }] of this.#said)
      if (findings.some((finding) => finding.file === file && finding.offset > 0)) this.#said.delete(rule);
  }

  /** What a broken reference was meant for is neither unused nor unreached. */
  #note(mapped: ReadonlySet<string>, meant: ReadonlyMap<string, readonly string[]>): void {
    const isSame =
      JSON.stringify([...meant]) === JSON.stringify([...this.#meant]) &&
      JSON.stringify([...mapped]) === JSON.stringify([...this.#mapped]);
    if (isSame) return;
    this.#meant = meant;
    this.#mapped = mapped;
    this.ledger.note('uses');
    this.ledger.note('ways');
  }

  #facts(): SiteFacts {
    const { site, ledger } = this;
    const meant = this.#meant;
    const version = ledger.versionOf(['uses']);
    if (version !== this.#usedVersion) {
      this.#used = new Set([...ledger.used, ...this.#mapped, ...[...meant.values()].flat()]);
      this.#usedVersion = version;
    }
    return {
      site,
      used: this.#used,
      get pages() {
        return ledger.pages;
      },
      get loadedAs() {
        return ledger.loadedAs;
      },
      waysFrom(file) {
        const ways = ledger.pages.get(file)?.leadsTo ?? [];
        const more = meant.get(file);
        return more === undefined ? ways : [...ways, ...more];
      },
    };
  }

  #judge(
    rule: SiteRule,
    facts: SiteFacts,
    positionIn: (file: string, offset: number) => Position,
  ): readonly Finding[] {
    const version = this.ledger.versionOf(rule.looksAt);
    const said = this.#said.get(rule);
    if (said?.version === version) return said.findings;
    const findings = rule
      .judgeSite(facts)
      .map(({ file, ...remark }) =>
        placed(draftOfRemark(rule, file, remark), positionIn(file, remark.offset)),
      );
    this.#said.set(rule, { version, findings });
    return findings;
  }
}

function meantBy(suspected: readonly Finding[]): ReadonlyMap<string, readonly string[]> {
  const meant = [...groupBy(suspected, (finding) => finding.file)].map(
    ([file, findings]): [string, string[]] => [
      file,
      findings.flatMap(({ mends }) => mends.flatMap(({ target }) => fileMeant(target))),
    ],
  );
  return new Map(meant.filter(([, paths]) => paths.length > 0));
}

function fileMeant(target: string | null): string[] {
  if (target === null) return [];
  return [target === '' || target.endsWith('/') ? `${target}${INDEX}` : target];
}
