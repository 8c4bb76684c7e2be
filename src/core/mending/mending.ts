/**
 * Carries out mends: as many at once as do not meet, judged again as often as something is left to mend. What brings a
 * finding that was not there is withheld.
 */

import { applyEdits, type FileEdit } from '../change/edit.ts';
import { areEqual, type Files } from '../change/files.ts';
import { pushTo } from '../group-by.ts';
import { isMendable, isSettled } from '../judge/causes.ts';
import { ruleNamed } from '../judge/index.ts';
import { encodingOf, syntaxOf } from '../read/written-as.ts';
import type { Finding, Mend } from '../report.ts';
import { Edited, Places } from './edits.ts';
import { proposalsFor, type SiteWords } from './proposals.ts';

export interface ToMend {
  /** The site's files; what is written there is judged. */
  readonly files: Files;
  /** What is found by now, after changes to the files named. */
  judge(changed: ReadonlySet<string>): Promise<readonly Finding[]>;
  /** Of a finding that is to be mended, which of its mends is; null for none. */
  choose(finding: Finding, mends: readonly Mend[]): Promise<Mend | null>;
  /** What somebody answers to a question on a finding; null where there is no answer. */
  ask(finding: Finding, question: string): Promise<string | null>;
  /** Findings that are to be mended. */
  isWanted(finding: Finding): boolean;
  readonly words: SiteWords;
}

/** A mend that was not made, since it would bring a finding that was not there. */
export interface Withheld {
  readonly finding: Finding;
  readonly mend: Mend;
  readonly brings: Finding;
}

export interface Mended {
  readonly done: readonly Finding[];
  readonly withheld: readonly Withheld[];
  /** What is found now, and what of it has mends that were not made. */
  readonly left: readonly Finding[];
  readonly open: readonly Finding[];
}

/** Times that what was mended is judged again at most: mends that wait for others come later. */
const MOST_PASSES = 12;
/** Times that all of it is begun anew. */
const MOST_STARTS = 4;
/** Times that a mend which was withheld is tried by itself. */
const MOST_RETRIED = 30;

export async function mendAll(toMend: ToMend, findings: readonly Finding[]): Promise<Mended> {
  return new Mending(toMend, findings).run();
}

interface Chosen {
  readonly finding: Finding;
  readonly mend: Mend;
}

/** Mends that were made together. */
interface Pass {
  readonly chosen: readonly Chosen[];
  /** The bytes of the files as they were before. */
  readonly written: ReadonlyMap<string, Uint8Array>;
  /** What they bring, or do not settle. */
  readonly brought: readonly Finding[];
}

class Mending {
  readonly #originals = new Map<string, Uint8Array>();
  /** How often each finding was there at first. */
  readonly #known: ReadonlyMap<string, number>;
  readonly #withheld = new Map<string, Withheld>();
  /** What was chosen, by finding and by what was proposed: nobody is asked twice. */
  readonly #answers = new Map<string, Mend | null>();
  /** What somebody said. */
  readonly #said = new Map<string, string | null>();
  #done: Chosen[] = [];
  #now: readonly Finding[];

  constructor(
    readonly toMend: ToMend,
    readonly first: readonly Finding[],
  ) {
    this.#now = first;
    this.#known = amounts(first);
  }

  async run(): Promise<Mended> {
    for (let start = 0; start < MOST_STARTS; start++) {
      await this.#passes();
      const brought = this.#brought(false);
      if (brought.length === 0) break;
      // What was to be mended later, and was not, takes what brought it along.
      for (const finding of brought) this.#withhold(finding, this.#done, false);
      await this.#putBack(this.#originals, start + 1 === MOST_STARTS);
    }
    await this.#retry();
    return {
      done: this.#done.map(({ finding }) => finding),
      withheld: [...this.#withheld.values()],
      left: this.#now,
      open: this.#open(),
    };
  }

  /** What could be mended still. */
  #open(): Finding[] {
    const { isWanted, files, words } = this.toMend;
    const wanted = this.#now.filter((finding) => isMendable(finding) && isWanted(finding));
    const proposals = proposalsFor(wanted, files, words, this.#answerTo);
    return wanted.filter((finding, index) =>
      proposals[index]?.some((mend) => !this.#withheld.has(withheldKey(finding, mend))),
    );
  }

  async #passes(): Promise<void> {
    this.#done = [];
    for (let pass = 0; pass < MOST_PASSES; pass++) {
      const made = await this.#pass();
      if (made === null) return;
      const { chosen, written, brought } = made;
      if (brought.length === 0) {
        this.#done.push(...chosen);
        continue;
      }
      for (const finding of brought) this.#withhold(finding, chosen, true);
      await this.#putBack(written, false);
    }
  }

  /** Makes the mends that can be made together; null where there are none. */
  async #pass(): Promise<Pass | null> {
    const chosen = await this.#choose();
    if (chosen.length === 0) return null;
    const before = this.#now;
    const written = this.#write(chosen);
    this.#now = await this.toMend.judge(new Set(written.keys()));
    return { chosen, written, brought: [...this.#brought(true), ...this.#unsettled(chosen, before)] };
  }

  /** Tries what was withheld once more, each by itself: for what others brought along it does not answer. */
  async #retry(): Promise<void> {
    let left = MOST_RETRIED;
    for (let isFurther = true; isFurther; ) {
      isFurther = false;
      for (const [key, withheld] of [...this.#withheld]) {
        if (left-- <= 0) return;
        this.#withheld.delete(key);
        if (await this.#holdsAlone()) isFurther = true;
        else this.#withheld.set(key, withheld);
      }
    }
  }

  /** Makes what is not withheld, and what that leaves to mend; false where that brings anything: then nothing is changed. */
  async #holdsAlone(): Promise<boolean> {
    const done = this.#done;
    const before = new Map<string, Uint8Array>();
    let isHolding = true;
    for (let pass = 0; pass < MOST_PASSES && isHolding; pass++) {
      const made = await this.#pass();
      if (made === null) break;
      for (const [file, bytes] of made.written) if (!before.has(file)) before.set(file, bytes);
      isHolding = made.brought.length === 0;
      this.#done = [...this.#done, ...made.chosen];
    }
    if (isHolding && this.#brought(false).length === 0) return true;
    this.#done = done;
    await this.#putBack(before, false);
    return false;
  }

  async #putBack(written: ReadonlyMap<string, Uint8Array>, isEnd: boolean): Promise<void> {
    for (const [file, bytes] of written) this.toMend.files.write(file, bytes);
    this.#now = await this.toMend.judge(new Set(written.keys()));
    if (isEnd) this.#done = [];
  }

  /** What is still found although it was mended. */
  #unsettled(chosen: readonly Chosen[], before: readonly Finding[]): Finding[] {
    const left = amounts(before);
    for (const { finding } of chosen) left.set(keyOf(finding), (left.get(keyOf(finding)) ?? 0) - 1);
    const now = amounts(this.#now);
    return chosen.flatMap(({ finding }) => {
      const key = keyOf(finding);
      return (now.get(key) ?? 0) > (left.get(key) ?? 0) ? finding : [];
    });
  }

  async #ask(finding: Finding): Promise<void> {
    const question = ruleNamed(finding.rule)?.asks;
    const key = keyOf(finding);
    if (question === undefined || this.#said.has(key)) return;
    this.#said.set(key, await this.toMend.ask(finding, question));
  }

  readonly #answerTo = (finding: Finding): string | null => this.#said.get(keyOf(finding)) ?? null;

  /** The mends that are made together: none of their edits meets one of another. */
  async #choose(): Promise<Chosen[]> {
    const { isWanted, files, words, choose } = this.toMend;
    const wanted = this.#now.filter((finding) => isMendable(finding) && isWanted(finding));
    for (const finding of wanted) await this.#ask(finding);
    const proposals = proposalsFor(wanted, files, words, this.#answerTo);
    const chosen: Chosen[] = [];
    const taken = new Edited();
    for (const [index, finding] of wanted.entries()) {
      const mends = (proposals[index] as readonly Mend[]).filter(
        (mend) => !this.#withheld.has(withheldKey(finding, mend)),
      );
      if (mends.length === 0) continue;
      const key = JSON.stringify([keyOf(finding), finding.line, mends.map(({ title }) => title)]);
      let mend = this.#answers.get(key);
      if (mend === undefined) {
        mend = await choose(finding, mends);
        this.#answers.set(key, mend);
      }
      const current = mend && mends.find(({ title }) => title === mend?.title);
      if (current && taken.take(current.edits)) chosen.push({ finding, mend: current });
    }
    return chosen;
  }

  /** Makes edits; gives the bytes of the files as they were before. */
  #write(chosen: readonly Chosen[]): Map<string, Uint8Array> {
    const { files } = this.toMend;
    const edits = new Map<string, FileEdit[]>();
    const rankOf = ({ finding: { rule } }: Chosen) => ruleNamed(rule)?.rank ?? 0;
    for (const { mend } of chosen.toSorted((one, other) => rankOf(one) - rankOf(other)))
      for (const edit of mend.edits) pushTo(edits, edit.file, edit);
    const before = new Map<string, Uint8Array>();
    for (const [file, own] of edits) {
      const bytes = new Uint8Array(files.read(file));
      const once = [...new Map(own.map((edit) => [JSON.stringify(edit), edit])).values()];
      const after = applyEdits(bytes, once, encodingOf(file, bytes), syntaxOf(file));
      if (areEqual(bytes, after)) continue;
      before.set(file, bytes);
      if (!this.#originals.has(file)) this.#originals.set(file, bytes);
      files.write(file, after);
    }
    return before;
  }

  /** Findings that were not there at first; where `isTolerant`, without those that the next pass is sure to mend. */
  #brought(isTolerant: boolean): Finding[] {
    const left = new Map(this.#known);
    const { isWanted } = this.toMend;
    return this.#now.filter((finding) => {
      const key = keyOf(finding);
      const amount = left.get(key) ?? 0;
      left.set(key, amount - 1);
      if (amount > 0) return false;
      const isNext = finding.mends[0]?.sure === true || isSettled(finding);
      return !(isTolerant && isWanted(finding) && isNext);
    });
  }

  /** Withholds the mends that a finding comes from: where it stands in what they write, else all that have to do with it. */
  #withhold(brings: Finding, chosen: readonly Chosen[], areTogether: boolean): void {
    const end = brings.offset + brings.length;
    const inFile = chosen.filter(({ mend }) => mend.edits.some(({ file }) => file === brings.file));
    const moved = new Places(
      chosen.flatMap(({ mend }) => mend.edits.filter(({ file }) => file === brings.file)),
    );
    const there = inFile.filter(
      ({ mend }) =>
        areTogether &&
        mend.edits.some((edit) => {
          if (edit.file !== brings.file) return false;
          const from = moved.after(edit);
          return from <= end && from + edit.text.length >= brings.offset;
        }),
    );
    const led = chosen.filter(
      ({ mend }) => mend.target !== null && (mend.target === brings.target || mend.target === brings.file),
    );
    const own = chosen.filter(({ finding }) => finding === brings);
    const culprits = [own, there, inFile, led, chosen].find((some) => some.length > 0) as readonly Chosen[];
    for (const { finding, mend } of culprits)
      this.#withheld.set(withheldKey(finding, mend), { finding, mend, brings });
  }
}

function amounts(findings: readonly Finding[]): Map<string, number> {
  const amount = new Map<string, number>();
  for (const finding of findings) amount.set(keyOf(finding), (amount.get(keyOf(finding)) ?? 0) + 1);
  return amount;
}

/** The same finding has the same key, wherever edits have moved it. */
function keyOf({ rule, file, written, target, grade }: Finding): string {
  return JSON.stringify([rule, grade, file, written, target]);
}

function withheldKey(finding: Finding, { title }: Mend): string {
  return `${keyOf(finding)} ${title}`;
}
