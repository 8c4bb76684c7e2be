/** What is said of files by what the rest of the site holds: a second look, once all files were taken. */

import { addTo } from '../group-by.ts';
import { type Draft, placed } from '../judge/drafts.ts';
import type { Answer } from '../judge/rule.ts';
import { extentOf, positionsIn } from '../read/lines.ts';
import { readFile } from '../read/read.ts';
import type { Reference } from '../read/reading.ts';
import type { Finding } from '../report.ts';
import { leadsSomewhere } from '../resolve/fragment.ts';
import type { Lead, Resolver } from '../resolve/resolver.ts';
import type { SiteView } from '../resolve/subject.ts';
import { isSameSet } from '../same.ts';
import { draftOfSpot } from './absent-spots.ts';
import { draftsOfAnswer, isTelling, questionOf } from './elsewhere.ts';
import { isJudged } from './judged.ts';
import type { Ledger } from './ledger.ts';
import { Marks } from './marks.ts';
import { Sayings } from './sayings.ts';
import type { Share, Suspect } from './share.ts';

type BytesOf = (path: string) => Uint8Array;

export class SecondLook {
  /** What was said of missing spots, by file; kept until what it depends on changes. */
  readonly #missing = new Map<string, readonly Finding[]>();
  /** Files whose spots are to be looked for. */
  readonly #waiting = new Map<string, Share>();
  /** The files that lead to spots of each page; made when the site first changes. */
  #leading: Map<string, Set<string>> | null = null;
  /** Which spots this look had already, and whether they are there. */
  readonly #lookedUp = new Marks();
  readonly #holds: boolean[] = [];
  #looks = 0;
  #sayings = new Sayings();
  resolver: Resolver;
  /** What other hosts answered, by address. */
  answers: ReadonlyMap<string, Answer> = new Map();

  constructor(
    readonly site: SiteView,
    readonly ledger: Ledger,
    resolver: Resolver,
  ) {
    this.resolver = resolver;
  }

  /** Makes the list of who leads to which page, to keep it up from now on. */
  prepare(): void {
    if (this.#leading !== null) return;
    this.#leading = new Map();
    for (const share of this.ledger.shares.values()) this.#lead(this.#leading, share);
  }

  /** Takes note of the share of a file, new or in place of `before`. */
  note(share: Share, before: Share | undefined): void {
    if (before !== undefined) this.forget(before, share);
    if (share.spots.length > 0) this.#waiting.set(share.file, share);
    if (this.#leading === null) return;
    this.#lead(this.#leading, share);
    if (before === undefined) this.#wait(share.file);
  }

  /** Forgets what was said of a share, and of others by what it holds. */
  forget(share: Share, after?: Share): void {
    const { file, anchors } = share;
    this.#missing.delete(file);
    this.#waiting.delete(file);
    for (const page of this.#pagesOf(share)) this.#leading?.get(page)?.delete(file);
    const now = after?.anchors ?? null;
    if (anchors !== null && (now === null || !isSameSet(anchors, now))) this.#wait(file);
  }

  #pagesOf({ spots }: Share): ReadonlySet<string> {
    const { pages } = this.resolver.spots;
    return new Set(spots.map((spot) => pages[spot] as string));
  }

  #lead(leading: Map<string, Set<string>>, share: Share): void {
    for (const page of this.#pagesOf(share)) addTo(leading, page, share.file);
  }

  /** The spots of those that lead to a page are to be looked for again. */
  #wait(page: string): void {
    for (const file of this.#leading?.get(page) ?? []) {
      const share = this.ledger.get(file);
      if (share !== undefined) this.#waiting.set(file, share);
    }
  }

  /** The files of the site, or what they hold, are other ones now. */
  changed(resolver: Resolver): void {
    this.resolver = resolver;
    this.#sayings = new Sayings();
  }

  /** Findings on addresses that are told by the spots of other pages. */
  suspected({ file, base, suspects }: Share): readonly Finding[] {
    return suspects.flatMap((suspect) => this.#judgeSuspect(file, base, suspect));
  }

  #judgeSuspect(file: string, base: string | null, { extent, ...suspect }: Suspect): Finding[] {
    const draft = this.#sayings.of({ file, base, ...suspect, site: this.site });
    return draft === null ? [] : [placed(draft, extent)];
  }

  /** Findings on spots of pages that none of their elements answers. */
  missingSpots(bytesOf: BytesOf): Iterable<readonly Finding[]> {
    this.#looks++;
    for (const [file, share] of this.#waiting) {
      const findings = this.#isComplete(share) ? [] : this.#judgeSpots(share, bytesOf);
      if (findings.length === 0) this.#missing.delete(file);
      else this.#missing.set(file, findings);
    }
    this.#waiting.clear();
    return this.#missing.values();
  }

  #judgeSpots(share: Share, bytesOf: BytesOf): Finding[] {
    const { file, base } = share;
    return this.#readAgain(share, bytesOf, (reference, lead) => {
      const hash = reference.written.indexOf('#');
      const page = lead.isOwn ? file : lead.found?.path;
      if (hash < 0 || page === undefined) return [];
      // Of thousands on a page one may be missing, and the judgement resolves each anew: a tenth of the whole check.
      if (this.#isThere(page, reference.written.slice(hash + 1))) return [];
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
      .flatMap((reference) => judge(reference, leads.of(reference.written.replace(/#.*/s, ''))))
      .map((draft) => placed(draft, extentOf(positions, draft)));
  }

  #isComplete({ spots }: Share): boolean {
    const { pages, fragments } = this.resolver.spots;
    return spots.every((spot) => {
      if (this.#lookedUp.isFirst(spot, this.#looks))
        this.#holds[spot] = this.#isThere(pages[spot] as string, fragments[spot] as string);
      return this.#holds[spot];
    });
  }

  /** True where the page has the spot, or could not be read and so may have any. */
  #isThere(page: string, fragment: string): boolean {
    const anchors = this.site.anchorsOf(page);
    return anchors === null || leadsSomewhere(fragment, anchors);
  }
}
