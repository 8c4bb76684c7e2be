/**
 * Documents in `srcdoc` attributes (HTML 4.8.5): each is a page in small, with scripts and names of its own. As long as
 * scripts are run it has a name of its own, which says where it stands; what is said of it is said of its page.
 */

import type { FileEdit } from '../change/edit.ts';
import type { MissingName } from '../judge/rule.ts';
import { agreesWithAscii } from '../read/encoding.ts';
import { traceValue } from '../read/html/values.ts';
import type { Frame, Span } from '../read/reading.ts';
import type { Finding, Mend } from '../report.ts';
import type { Leads } from '../resolve/resolver.ts';
import { handlerNeedsOf, scriptsOf } from './page-code.ts';
import type { RunningPage, Sources } from './running-page.ts';
import type { ScriptFiles } from './script-files.ts';
import type { Share } from './share.ts';

/** No file of a site can have it in its name. */
const MARK = '\0';

/** `page` as it is without them; addresses in them count from it (HTML 2.4.3, fallback base URL). */
export function framesOf(page: Share, frames: readonly Frame[], leads: Leads): Share[] {
  if (!agreesWithAscii(page.encoding)) return [];
  return frames.flatMap(({ offset, length, reading }) => {
    const facts = reading.page;
    const scripts = scriptsOf(reading, leads, () => NOWHERE).map((tag) => ({ ...tag, blocking: null }));
    const handlers = handlerNeedsOf(facts);
    const file = [page.file, offset, length].join(MARK);
    const own: Share = {
      ...page,
      file,
      anchors: reading.anchors,
      firstAnchors: reading.firstAnchors,
      lastAnchor: reading.lastAnchor,
      imports: facts?.importMap ?? null,
      scripts,
      handlers,
      frames: [],
    };
    const inside = framesOf(own, facts?.frames ?? [], leads);
    return scripts.length + handlers.length === 0 ? inside : [own, ...inside];
  });
}

const NOWHERE = { line: 1, column: 1, endLine: 1, endColumn: 1 };

/** What runs the scripts of a share. */
export function runnerOf({ file, record }: Share): MissingName['runner'] {
  if (file.includes(MARK)) return 'document in srcdoc';
  return record === null ? 'worker' : 'page';
}

/** Where a document stands: its page, or the document that holds it, and the span there; null for a file. */
function placeOf(name: string): { readonly holder: string; readonly span: Span } | null {
  const parts = name.split(MARK);
  if (parts.length < 3) return null;
  const [offset = 0, length = 0] = parts.slice(-2).map(Number);
  return { holder: parts.slice(0, -2).join(MARK), span: { offset, length } };
}

function tracedIn(name: string, bytesOf: Sources['bytesOf']) {
  const place = placeOf(name);
  if (place === null) return null;
  const { holder, span } = place;
  const bytes = sourcesIn(bytesOf)(holder);
  return { holder, ...traceValue(bytes, span.offset, span.offset + span.length) };
}

/** The bytes of files, and of documents in them. */
function sourcesIn(bytesOf: Sources['bytesOf']): Sources['bytesOf'] {
  return (name) => tracedIn(name, bytesOf)?.bytes ?? bytesOf(name);
}

/** Sources that know the documents in pages besides. */
export function withFrames({ bytesOf, extentIn }: Sources): Sources {
  return {
    bytesOf: sourcesIn(bytesOf),
    extentIn(name, span) {
      const { file, ...own } = inItsFile(name, span, bytesOf);
      return extentIn(file, own);
    },
  };
}

/** Where in its file something of a document stands. */
function inItsFile(name: string, span: Span, bytesOf: Sources['bytesOf']): Span & { readonly file: string } {
  const traced = tracedIn(name, bytesOf);
  if (traced === null) return { file: name, ...span };
  const offset = traced.offsetOf(span.offset);
  const length = traced.offsetOf(span.offset + span.length) - offset;
  return inItsFile(traced.holder, { offset, length }, bytesOf);
}

/** A frame is told of only where nobody reaches into it: what its page puts there is its own affair. */
export function framesAlone(
  { share, list }: RunningPage,
  files: ScriptFiles,
  bytesOf: Sources['bytesOf'],
): readonly Share[] {
  if (share.frames.length === 0) return share.frames;
  const texts = [share.file, ...list.entries.flatMap(({ file }) => file ?? [])];
  return texts.some((path) => files.hasText(path, REACHING, bytesOf)) ? [] : share.frames;
}

const REACHING = /contentWindow|contentDocument|\bframes\b/;

/** What is said of documents, as it is said of their pages. */
export function saidOfPages(findings: readonly Finding[], bytesOf: Sources['bytesOf']): readonly Finding[] {
  const isInside = (name: string) => name.includes(MARK);
  return findings.map((finding): Finding => {
    const { file, pages, order, mends } = finding;
    const isOfPage = [file, finding.message, ...(pages ?? []), ...filesOf(mends)].some(isInside);
    if (!isOfPage) return finding;
    const { file: page, ...span } = inItsFile(file, finding, bytesOf);
    return {
      ...finding,
      ...span,
      file: page,
      message: shown(finding.message),
      order: order && { is: order.is.map(shown), should: order.should.map(shown) },
      // What is in one document of a page is there on that page alone.
      pages: isInside(file) ? null : pages && [...new Set(pages.map(shown))],
      mends: mends.flatMap((mend) => mendOfPage(mend, bytesOf) ?? []),
    };
  });
}

function filesOf(mends: readonly Mend[]): string[] {
  return mends.flatMap(({ edits }) => edits.map(({ file }) => file));
}

function shown(text: string): string {
  return text.replace(/\0\d+\0\d+/g, '');
}

/** Null where a text would have to be written otherwise in an attribute. */
function mendOfPage(mend: Mend, bytesOf: Sources['bytesOf']): Mend | null {
  const edits = mend.edits.map((edit): FileEdit | null => {
    const { start, end, text } = edit;
    if (!edit.file.includes(MARK)) return edit;
    const { file, offset, length } = inItsFile(edit.file, { offset: start, length: end - start }, bytesOf);
    return /["'&]/.test(text) ? null : { file, start: offset, end: offset + length, text };
  });
  const own = edits.filter((edit) => edit !== null);
  return own.length < edits.length ? null : { ...mend, title: shown(mend.title), edits: own };
}
