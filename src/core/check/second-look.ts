/** What is said of files by what the rest of the site holds: a second look, once all files were taken. */

import { type Draft, placed } from '../judge/drafts.ts';
import { positionsIn } from '../read/lines.ts';
import { readFile } from '../read/read.ts';
import type { Reference } from '../read/reading.ts';
import type { Finding } from '../report.ts';
import { leadsSomewhere } from '../resolve/fragment.ts';
import { type Lead, type Resolver, type Spot, spotOf } from '../resolve/resolver.ts';
import type { SiteView } from '../resolve/subject.ts';
import { draftOfSpot } from './absent-spots.ts';
import { type Answer, draftsOfAnswer, isTelling, questionOf } from './elsewhere.ts';
import { isJudged } from './judged.ts';
import { Sayings } from './sayings.ts';
import type { Share, Suspect } from './share.ts';

type BytesOf = (path: string) => Uint8Array;

export class SecondLook {
  /** What was said of shares; kept until what it depends on changes. */
  readonly #judged = new Map<Share, readonly Finding[]>();
  readonly #missing = new Map<
    Share,
    { readonly spots: readonly Spot[]; readonly findings: readonly Finding[] }
  >();
  #reports = 0;
  #sayings = new Sayings();
  resolver: Resolver;
  /** What other hosts answered, by address. */
  answers: ReadonlyMap<string, Answer> = new Map();

  constructor(
    readonly site: SiteView,
    resolver: Resolver,
  ) {
    this.resolver = resolver;
  }

  /** Starts with another report: spots are looked for anew. */
  begin(): void {
    this.#reports++;
    this.#sayings = new Sayings();
  }

  /** Forgets what was said of a share, and of others by what it holds. */
  forget(share: Share): void {
    this.#judged.delete(share);
    this.#missing.delete(share);
    if (share.anchors === null) return;
    this.#judged.clear();
    for (const [other, { spots }] of this.#missing)
      if (spots.some(({ page }) => page.path === share.file)) this.#missing.delete(other);
  }

  /** Findings on addresses that are told by the spots of other pages. */
  suspected(share: Share): readonly Finding[] {
    let findings = this.#judged.get(share);
    if (findings === undefined) {
      findings = share.suspects.flatMap((suspect) => this.#judgeSuspect(suspect));
      if (findings.length > 0) this.#judged.set(share, findings);
    }
    return findings;
  }

  #judgeSuspect({ subject, position }: Suspect): Finding[] {
    const draft = this.#sayings.of(subject);
    return draft === null ? [] : [placed(draft, position)];
  }

  /** Findings on spots of other pages that are not there. */
  missingSpots(share: Share, bytesOf: BytesOf): readonly Finding[] {
    const spots = share.spots.filter((spot) => !this.#isThere(spot));
    if (spots.length === 0) return [];
    const known = this.#missing.get(share);
    if (known !== undefined && isSame(known.spots, spots)) return known.findings;
    const findings = this.#judgeSpots(share, bytesOf);
    this.#missing.set(share, { spots, findings });
    return findings;
  }

  #judgeSpots(share: Share, bytesOf: BytesOf): Finding[] {
    const { file, base } = share;
    return this.#readAgain(share, bytesOf, (reference, lead) => {
      const hash = reference.written.indexOf('#');
      // Spots of the file itself are part of its share.
      if (hash < 0 || lead.found === null || lead.found.path === file) return [];
      if (this.#isThere(spotOf(lead.found, reference.written.slice(hash + 1)))) return [];
      return draftOfSpot(file, base, reference, this.site) ?? [];
    });
  }

  /** Findings on what other hosts answered. */
  answered(share: Share, bytesOf: BytesOf): Finding[] {
    const telling = share.questions.filter(({ address }) => {
      const answer = this.answers.get(address);
      return answer !== undefined && isTelling(answer);
    });
    if (telling.length === 0) return [];
    return this.#readAgain(share, bytesOf, (reference, lead) => {
      const answer = this.answers.get(questionOf(reference, lead)?.address ?? '');
      return answer === undefined ? [] : draftsOfAnswer(share.file, reference, answer);
    });
  }

  /** Reads a file again, to see where it says what turned out to be wrong. */
  #readAgain(
    { file, base }: Share,
    bytesOf: BytesOf,
    judge: (reference: Reference, lead: Lead) => Draft | readonly Draft[],
  ): Finding[] {
    const bytes = bytesOf(file);
    const reading = readFile(file, bytes);
    if (reading === null) return [];
    const leads = this.resolver.leadsFrom(base, reading.base !== null);
    const positions = positionsIn(bytes, reading.encoding);
    return reading.references
      .filter((reference) => isJudged(file, reference))
      .flatMap((reference) => judge(reference, leads.of(reference.written.replace(/#.*$/s, ''))))
      .map((draft) => placed(draft, positions(draft.offset)));
  }

  /** True where the page has the spot, or could not be read and so may have any. */
  #isThere(spot: Spot): boolean {
    if (spot.lookedUp === this.#reports) return spot.holds;
    spot.lookedUp = this.#reports;
    const anchors = this.site.anchorsOf(spot.page.path);
    spot.holds = anchors === null || leadsSomewhere(spot.fragment, anchors);
    return spot.holds;
  }
}

function isSame(one: readonly Spot[], other: readonly Spot[]): boolean {
  return one.length === other.length && one.every((spot, index) => spot === other[index]);
}
