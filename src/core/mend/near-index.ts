/** Names of one folder that are nearly another one, found without comparing it with each. */
import { groupBy, pushTo } from '../group-by.ts';
import { extensionOf, fold, nameOf } from '../site/inventory.ts';
import { letterIndex } from './letter-index.ts';
import { MOST_OFF, nameDistance, plainName, stemOf, wordsOf } from './name-distance.ts';

/** A file, and how far its name is off. */
export interface Near {
  readonly path: string;
  readonly distance: number;
}

/** Comparisons that cost less than an index. */
const CHEAP = 100_000;
/** Names that one word, stem or build brings into question, at most: those that come first. */
const MOST = 500;

export class NearIndex {
  #known: readonly string[] | null = null;
  #compared = 0;
  #proposers: readonly ((written: string) => Iterable<number>)[] | null = null;

  /** `paths` are the files of one folder, in order. */
  constructor(readonly paths: readonly string[]) {}

  get #names(): readonly string[] {
    this.#known ??= this.paths.map((path) => fold(nameOf(path)));
    return this.#known;
  }

  /** Files with nearly the name `written` (folded), the nearest first. */
  of(written: string): Near[] {
    const near: Near[] = [];
    for (const index of this.#proposed(written)) {
      const distance = nameDistance(written, this.#names[index] as string);
      if (distance <= MOST_OFF) near.push({ path: this.paths[index] as string, distance });
    }
    return near.sort((a, b) => a.distance - b.distance || (a.path < b.path ? -1 : 1));
  }

  #proposed(written: string): Iterable<number> {
    this.#compared += this.paths.length;
    if (this.#compared < CHEAP) return this.paths.keys();
    this.#proposers ??= proposersFor(this.#names);
    return new Set(this.#proposers.flatMap((propose) => [...propose(written)]));
  }
}

function proposersFor(names: readonly string[]): ((written: string) => Iterable<number>)[] {
  const by = (keyOf: (name: string) => string) => {
    const groups = groupBy(names.keys(), (index) => keyOf(names[index] as string));
    return (written: string) => (groups.get(keyOf(written)) ?? []).slice(0, MOST);
  };
  const byExtension = groupBy(names.keys(), (index) => extensionOf(names[index] as string));
  const alike = new Map(
    [...byExtension].map(([extension, members]) => {
      const propose = [
        byWords(names, members),
        letterIndex(members.map((index) => [index, stemOf(names[index] as string)])),
      ];
      return [extension, propose] as const;
    }),
  );
  return [
    by(plainName),
    by(stemOf),
    (written) => (alike.get(extensionOf(written)) ?? []).flatMap((propose) => propose(stemOf(written))),
  ];
}

/** Names that hold all words of another one, and names all of whose words it holds. */
function byWords(names: readonly string[], members: readonly number[]): (stem: string) => number[] {
  const words = new Map(members.map((index) => [index, new Set(wordsOf(stemOf(names[index] as string)))]));
  const byWord = new Map<string, number[]>();
  for (const [index, own] of words) {
    for (const word of own) pushTo(byWord, word, index);
  }
  const rarity = (word: string) => byWord.get(word)?.length ?? 0;
  const rarest = (all: Iterable<string>) =>
    [...all].reduce((best, word) => (rarity(word) < rarity(best) ? word : best));
  const byRarest = groupBy(members, (index) => rarest(words.get(index) as Set<string>));
  return (stem) => {
    const own = new Set(wordsOf(stem));
    const holding = byWord.get(rarest(own)) ?? [];
    const held = [...own].flatMap((word) => byRarest.get(word)?.slice(0, MOST) ?? []);
    return [...holding.slice(0, MOST), ...held];
  };
}
