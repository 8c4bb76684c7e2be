/** The files of the preview's own pages, as they were built beside the program. */
import { loadFile } from '../disk/load.ts';
import { packageFolder } from '../disk/package.ts';

const known = new Map<string, string>();

/** Of the scripts for pages, and of the deck. */
export function browserFile(name: 'added.js' | 'looked.js' | 'deck.js' | 'deck.css' | 'deck.html'): string {
  let text = known.get(name);
  if (text === undefined) {
    text = new TextDecoder().decode(loadFile(packageFolder(), `dist/preview/${name}`));
    known.set(name, text);
  }
  return text;
}
