/** What the text of an edit to a file is written in. */
import type { Syntax } from '../change/edit.ts';
import { isMarkup, isPageName } from '../site/formats.ts';
import { extensionOf } from '../site/inventory.ts';
import { type Format, sniffEncoding } from './encoding.ts';

/** Its encoding, by the Encoding standard's name. */
export function encodingOf(file: string, bytes: Uint8Array): string {
  return sniffEncoding(bytes, formatOf(file));
}

function formatOf(file: string): Format {
  if (isPageName(file)) return 'html';
  if (extensionOf(file) === 'css') return 'css';
  return isMarkup(file) ? 'xml' : 'other';
}

export function syntaxOf(file: string): Syntax {
  if (isPageName(file) || isMarkup(file)) return 'markup';
  return extensionOf(file) === 'css' ? 'css' : 'script';
}
