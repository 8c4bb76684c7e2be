/** Picks the reader for a file by its name, and its encoding by its bytes. */

import type { Edit } from '../change/edit.ts';
import { pageExtensions } from '../site/formats.ts';
import { extensionOf } from '../site/inventory.ts';
import { readCssSource } from './css.ts';
import { agreesWithAscii, decoderFor, type Format, sniffEncoding, transcode } from './encoding.ts';
import { readFeedSource } from './feed.ts';
import { readHtmlSource } from './html.ts';
import type { Reading } from './reading.ts';
import { readManifestSource } from './script/json.ts';
import { readScriptSource } from './script.ts';
import { makeSource, type Source } from './source.ts';
import { readSvgSource } from './svg.ts';

interface Reader {
  readonly format: Format;
  read(source: Source, encoding: string): Reading;
}

const html: Reader = { format: 'html', read: (source, encoding) => readHtmlSource(source, encoding) };
/** By its name nobody knows as what a script is run. */
const script: Reader = {
  format: 'other',
  read: (source, encoding) => readScriptSource(source, encoding, false),
};
const feed: Reader = { format: 'xml', read: readFeedSource };

const readers: Readonly<Record<string, Reader>> = {
  ...Object.fromEntries([...pageExtensions].map((extension) => [extension, html])),
  css: { format: 'css', read: readCssSource },
  js: script,
  mjs: script,
  svg: { format: 'xml', read: readSvgSource },
  webmanifest: { format: 'other', read: readManifestSource },
  xml: feed,
  rss: feed,
  atom: feed,
};

function readerOf(path: string): Reader | null {
  const extension = extensionOf(path);
  // The older name of a web app manifest.
  if (/(?:^|\/)manifest\.json$/.test(path)) return readers.webmanifest as Reader;
  return Object.hasOwn(readers, extension) ? (readers[extension] as Reader) : null;
}

/** True for files that may hold references. */
export function isRead(path: string): boolean {
  return readerOf(path) !== null;
}

/** A page is an HTML file. */
export function isPage(path: string): boolean {
  return readerOf(path) === html;
}

/**
 * What a file says, with offsets in the file as it is on disk; null for a file that holds no references by its
 * name. Never throws, whatever the bytes.
 */
export function readFile(path: string, bytes: Uint8Array): Reading | null {
  const reader = readerOf(path);
  if (reader === null) return null;
  const encoding = sniffEncoding(bytes, reader.format);
  if (encoding === 'utf-8') return reader.read(makeSource(bytes), encoding);
  if (agreesWithAscii(encoding)) return reader.read(makeSource(bytes, decoderFor(encoding)), encoding);
  const { bytes: utf8, offsetOf } = transcode(bytes, encoding);
  return traced(reader.read(makeSource(utf8), encoding), offsetOf);
}

/** A reading with every place traced back to the file that it was made from. */
function traced(reading: Reading, offsetOf: (index: number) => number): Reading {
  const move = <T extends { readonly offset: number; readonly length: number }>(spot: T): T => {
    const offset = offsetOf(spot.offset);
    return { ...spot, offset, length: offsetOf(spot.offset + spot.length) - offset };
  };
  const { page } = reading;
  return {
    ...reading,
    firstAnchors: new Map(Array.from(reading.firstAnchors, ([id, place]) => [id, offsetOf(place)])),
    lastAnchor: offsetOf(reading.lastAnchor),
    references: reading.references.map(move),
    hints: reading.hints.map(move),
    faults: reading.faults.map(move),
    page: page && {
      ...page,
      // Nothing but its mark tells that a file is UTF-16 (HTML 13.2.3.2).
      hasMark: page.hasMark || reading.encoding.startsWith('utf-16'),
      doctype: page.doctype && move(page.doctype),
      title: page.title && move(page.title),
      charset: page.charset && { ...page.charset, offset: offsetOf(page.charset.offset) },
      base: page.base && { ...page.base, offset: offsetOf(page.base.offset) },
      inlineScripts: page.inlineScripts.map(move),
      inlineStyles: page.inlineStyles.map(move),
      code: page.code.map(move),
      handlers: page.handlers.map(move),
      nearMisses: page.nearMisses.map(move),
      emptyScripts: page.emptyScripts.map(move),
      ignoredCode: page.ignoredCode.map(move),
      inert: page.inert.map((one) => ({ ...move(one), mend: movedEdit(one.mend, offsetOf) })),
      partMarks: page.partMarks.map(move),
      swallowed: page.swallowed.map((one) => ({
        ...move(one),
        taken: move(one.taken),
        mend: movedEdit(one.mend, offsetOf),
      })),
    },
  };
}

function movedEdit(edit: Edit | null, offsetOf: (index: number) => number): Edit | null {
  return edit && { start: offsetOf(edit.start), end: offsetOf(edit.end), text: edit.text };
}
