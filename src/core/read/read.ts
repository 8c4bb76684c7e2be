/** Picks the reader for a file by its name. */
import { extensionOf } from '../site/inventory.ts';
import { readCss } from './css.ts';
import { readHtml } from './html.ts';
import type { Reading } from './reading.ts';

type Reader = (bytes: Uint8Array) => Reading;

const readers: Readonly<Record<string, Reader>> = {
  html: readHtml,
  htm: readHtml,
  xhtml: readHtml,
  css: readCss,
};

export function readerFor(path: string): Reader | null {
  return readers[extensionOf(path)] ?? null;
}

/** A page is an HTML file. */
export function isPage(path: string): boolean {
  return readers[extensionOf(path)] === readHtml;
}
