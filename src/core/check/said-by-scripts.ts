/** What the scripts of a page say in their strings, and which ids they give: by the word, since many may be asked for. */
import { pushTo } from '../group-by.ts';
import { type Entry, factsIn, type RunList } from './run-list.ts';
import type { ScriptFiles } from './script-files.ts';
import type { Share } from './share.ts';

type BytesOf = (path: string) => Uint8Array;

/** True of a script, by its number in the list. */
type Counts = (script: number) => boolean;

interface Said {
  readonly script: number;
  readonly text: string;
}

export class SaidByScripts {
  /** Scripts by the words of their strings, as often as they say them. */
  readonly #words = new Map<string, number[]>();
  /** Scripts by the ids that they give; with an `*` at the end the start of some. */
  readonly #ids = new Map<string, number[]>();
  readonly #texts: Said[] = [];
  /** Those of libraries, which are long, and whose words nobody counts. */
  readonly #libraries: Said[] = [];

  constructor({ entries }: Pick<RunList, 'entries'>, page: Share, files: ScriptFiles, bytesOf: BytesOf) {
    for (const [script, entry] of entries.entries()) {
      const facts = factsIn(entry);
      if (facts === null) continue;
      for (const id of facts.ids) pushTo(this.#ids, id, script);
      const text = files.saidBy(entry as Entry, page, bytesOf);
      (facts.isWhole ? this.#texts : this.#libraries).push({ script, text });
      if (facts.isWhole) for (const [word] of text.matchAll(WORD)) pushTo(this.#words, word, script);
    }
  }

  /** True where one of the scripts that count gives an element that id, or may. */
  givesId(id: string, counts: Counts): boolean {
    if (this.#ids.get(id)?.some(counts)) return true;
    for (let length = 0; length <= id.length; length++)
      if (this.#ids.get(`${id.slice(0, length)}*`)?.some(counts)) return true;
    return false;
  }

  /** True where the scripts that count say a word more often than `times`. */
  says(word: string, times: number, counts: Counts): boolean {
    let said = 0;
    for (const script of this.#words.get(word) ?? []) if (counts(script) && ++said > times) return true;
    const isIn = ({ script, text }: Said) => counts(script) && holdsWord(text, word);
    // Of odd words the texts are gone through.
    return this.#libraries.some(isIn) || (!PLAIN.test(word) && this.#texts.some(isIn));
  }
}

const WORD = /[\p{L}\p{N}_-]+/gu;
const PLAIN = /^[\p{L}\p{N}_-]+$/u;

function holdsWord(text: string, word: string): boolean {
  if (!text.includes(word)) return false;
  const escaped = word.replace(/[\^$\\.*+?()[\]{}|/]/g, '\\$&');
  return new RegExp(`(?<![\\p{L}\\p{N}_-])${escaped}(?![\\p{L}\\p{N}_-])`, 'u').test(text);
}
