/** Whether an element that a script looks for is there as it runs: as the page has it, or as its scripts may make it. */
import { oneCharacterAByte } from '../bytes.ts';
import { onceFor } from '../once-for.ts';
import { type ElementQuery, selectorOf } from '../order/element-query.ts';
import type { FindElement } from '../order/page-script.ts';
import { FoundElements, PlainMarkup } from '../page/find-elements.ts';
import { openPage } from '../page/page.ts';
import { parseSelector } from '../page/selector.ts';
import { agreesWithAscii, decoderFor } from '../read/encoding.ts';
import { makeSource } from '../read/source.ts';
import type { ScriptTag } from './page-code.ts';
import { type Entry, factsIn, type RunList } from './run-list.ts';
import { SaidByScripts } from './said-by-scripts.ts';
import type { ScriptFiles } from './script-files.ts';
import type { Share } from './share.ts';

type BytesOf = (path: string) => Uint8Array;

/** What was found already, by what was looked for; good for as long as the page stays as it is. */
const placesOf = onceFor((_share: Share) => new Map<string, number | null>());

/** Where the page has an element, as written in its file; null where it has none for certain. */
export function placeOfElement(share: Share, query: ElementQuery, bytesOf: BytesOf): number | null {
  const { by, value } = query;
  // Most ids are told by what is known of the page anyway.
  if (by === 'id' && !idsOf(share).has(value)) return null;
  const places = placesOf(share);
  const key = `${by} ${selectorOf(query)}`;
  let place = places.get(key);
  if (place === undefined) {
    place = plainMarkup(share, bytesOf)?.placeOf(query) ?? elementsOf(share, bytesOf).placeOf(query);
    places.set(key, place);
  }
  return place;
}

/** Of what has elements they are known. */
function idsOf({ anchors }: Share): ReadonlySet<string> {
  return anchors as ReadonlySet<string>;
}

let lastMarkup: { readonly share: Share; readonly markup: PlainMarkup } | null = null;

/** Null where bytes are no characters. */
function plainMarkup(share: Share, bytesOf: BytesOf): PlainMarkup | null {
  if (!agreesWithAscii(share.encoding)) return null;
  if (lastMarkup?.share !== share)
    lastMarkup = { share, markup: new PlainMarkup(oneCharacterAByte(bytesOf(share.file))) };
  return lastMarkup.markup;
}

let last: { readonly share: Share; readonly elements: FoundElements } | null = null;

/** What is asked of one page is asked together: the last one is kept. */
export function elementsOf(share: Share, bytesOf: BytesOf): FoundElements {
  if (last?.share !== share)
    last = { share, elements: new FoundElements(markupOf(share, new Uint8Array(bytesOf(share.file)))) };
  return last.elements;
}

/** A page's text, without a reading of it where it is not needed for that. */
function markupOf(
  { file, encoding }: Share,
  bytes: Uint8Array,
): ConstructorParameters<typeof FoundElements>[0] {
  if (!agreesWithAscii(encoding)) return openPage(file, bytes);
  const source = makeSource(bytes, decoderFor(encoding));
  return { source, text: (start, end) => source.text(start, end), offsetInFile: (offset) => offset };
}

const saidByList = new WeakMap<object, SaidByScripts>();

/** Pages that run the same say the same. */
function saidByScriptsOf(
  list: Pick<RunList, 'entries'>,
  page: Share,
  files: ScriptFiles,
  bytesOf: BytesOf,
): SaidByScripts {
  let said = saidByList.get(list.entries);
  if (said === undefined) {
    said = new SaidByScripts(list, page, files, bytesOf);
    saidByList.set(list.entries, said);
  }
  return said;
}

/** Runs of a page's scripts with its elements; `tags` where some were moved, or run at another time. */
export function finderFor(
  share: Share,
  list: Pick<RunList, 'entries'>,
  files: ScriptFiles,
  bytesOf: BytesOf,
  pieces: readonly Share[],
  tags: readonly Pick<ScriptTag, 'offset' | 'isInHead'>[] = share.scripts,
): FindElement {
  const doesAny = (what: 'putsMarkup' | 'copiesTemplates') =>
    list.entries.some((entry) => factsIn(entry)?.[what]);
  return (query, script, hasBegun, isLate) => {
    const entry = list.entries[script] as Entry;
    const { offset, isInHead } = tags[entry.tag] as ScriptTag;
    const isWhole = isLate || entry.runs === 'deferred';
    if (query.by === 'body')
      return isWhole || !isInHead ? 'there' : entry.runs === 'async' ? 'racing' : 'further-down';
    // Of later ids it is known that none stands behind the last.
    const isBefore = () => offset > (share.firstAnchors.get(query.value) ?? share.lastAnchor);
    if (query.by === 'id' && idsOf(share).has(query.value) && (isWhole || isBefore())) return 'there';
    const place = placeOfElement(share, query, bytesOf);
    if (place !== null && (isWhole || place < offset)) return 'there';
    // What is put in comes after the page.
    if (isLate && pieces.some((piece) => placeOfElement(piece, query, bytesOf) !== null)) return 'there';
    if (query.isWritten) return 'nowhere';
    const said = saidByScriptsOf(list, share, files, bytesOf);
    if (mayBeMade(query, said, (one) => isLate || hasBegun(one))) return 'there';
    if (place === null) {
      // Markup that nobody sees before, and what may be a copy of a template's.
      if (isLate && doesAny('putsMarkup')) return 'there';
      return doesAny('copiesTemplates') && isInTemplate(share, query, bytesOf) ? 'there' : 'nowhere';
    }
    return entry.runs === 'async' ? 'racing' : 'further-down';
  };
}

/** True where a page has templates, and the words that tell the element. */
function isInTemplate(share: Share, query: ElementQuery, bytesOf: BytesOf): boolean {
  const text = oneCharacterAByte(bytesOf(share.file));
  return /<template[\s>]/i.test(text) && wordsOf(query).words.every((word) => text.includes(word));
}

/** True where the words that tell the element are among the strings of a script that counts. */
function mayBeMade(query: ElementQuery, said: SaidByScripts, counts: (script: number) => boolean): boolean {
  const { words, isId } = wordsOf(query);
  // What is looked for is said by who looks for it.
  const times = query.literal === null ? 1 : 0;
  return words.some((word) => (isId && said.givesId(word, counts)) || said.says(word, times, counts));
}

/** The words by which an element is found, the most telling ones. */
function wordsOf({ by, value }: ElementQuery): { readonly words: readonly string[]; readonly isId: boolean } {
  if (by === 'id') return { words: [value], isId: true };
  if (by !== 'selector') return { words: value.split(/\s+/).filter((one) => one !== ''), isId: false };
  const compounds = (parseSelector(value) ?? []).flat();
  const words = compounds.flatMap(({ tag, ids, classes, attributes }) => {
    const telling = [...ids, ...classes, ...attributes.map((one) => one.value || one.name)];
    return telling.length > 0 || tag === null ? telling : [tag];
  });
  return { words, isId: compounds.some(({ ids }) => ids.length > 0) };
}
