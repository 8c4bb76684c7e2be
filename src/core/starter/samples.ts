/** Sample texts: what a starter that comes with Cravel says in place of the words that only the site's makers have. */
import { inOneLine } from '../page/naming.ts';
import { outlineOf } from '../page/outline.ts';
import { escapeMarkup, openPage } from '../page/page.ts';
import { isPage } from '../read/read.ts';
import { renderStarter, type Starter } from './render.ts';
import { isFilledIn } from './scaffold.ts';

/** Elements whose text is for people to read. */
const READ: ReadonlySet<string> = new Set([
  'p',
  'li',
  'dd',
  'dt',
  'h1',
  'h2',
  'h3',
  'figcaption',
  'td',
  'blockquote',
]);
/** Fewer words may well be meant. */
const LEAST_WORDS = 4;

/** The texts as they stand in the markup of pages; none of a starter of somebody's own, whose words are theirs. */
export function samplesOf(starter: Starter, values: Readonly<Record<string, string>>): readonly string[] {
  if (starter.own) return [];
  const decoder = new TextDecoder();
  const sources = [...starter.files.values()].map((bytes) => decoder.decode(bytes)).join('\n');
  const samples = new Set<string>();
  for (const [path, bytes] of renderStarter(starter, values).files) {
    if (!isPage(path)) continue;
    const page = openPage(path, bytes);
    for (const { name, startTag, endTag } of outlineOf(page).elements) {
      if (!READ.has(name) || endTag === null) continue;
      const text = page.text(startTag.end, endTag.start);
      // What a blank has filled is no sample.
      if (!text.includes('<') && sources.includes(text) && inOneLine(text).split(' ').length >= LEAST_WORDS)
        samples.add(text);
    }
  }
  const { description = '' } = values;
  if (!isFilledIn(starter, values, description)) samples.add(escapeMarkup(description));
  return [...samples];
}
