/** What a reader asks of the tree construction stage (HTML 13.2.6): where elements end up, and how content is read. */

import { Byte } from '../../bytes.ts';
import { elements } from './names.ts';
import { ContentMode, type Tag } from './scan.ts';

/** Where a browser puts an element: in the head or the body (themselves included), or elsewhere (`html`, a frameset). */
export type Region = 'head' | 'body' | 'none';

/**
 * What an element stands in that changes what it does; the innermost counts. A `noscript` holds text where scripts run, and
 * changes nothing around it; its text is read as a body of its own.
 */
export type Inside = 'template' | 'noscript' | 'select' | 'svg' | 'math';

export interface Construction {
  /** Tells a start tag; `id` is its number among {@link elements}. */
  startTag(id: number, tag: Tag): ContentMode;
  /** False where the page has to be told again to the full rules. */
  endTag(tag: Tag): boolean;
  text(start: number, end: number): void;
  doctype(start: number, end: number): void;
  readonly wantsText: boolean;
  /** True once elements that change neither content nor rules need not be told any more. */
  readonly isSettled: boolean;
  readonly wantsEndTags: boolean;
  /** Of the element whose start tag was told last. */
  readonly region: Region;
  readonly inside: Inside | null;
  /** The element whose start tag was told last is not an HTML element. */
  readonly foreign: boolean;
  /** The adjusted current node is not an HTML element: CDATA sections are possible (HTML 13.2.5.42). */
  inForeignContent(): boolean;
}

const { id } = elements;

/** The content that an HTML element's start tag switches the tokenizer to, by the element's number. */
export const contentOf = new Uint8Array(elements.names.length + 1);
contentOf[id.title] = contentOf[id.textarea] = ContentMode.Rcdata;
for (const name of ['iframe', 'noembed', 'noframes', 'style', 'xmp'] as const) {
  contentOf[id[name]] = ContentMode.Rawtext;
}
contentOf[id.script] = ContentMode.ScriptData;
contentOf[id.plaintext] = ContentMode.Plaintext;
contentOf[id.noscript] = ContentMode.Noscript;

/** True where a span holds anything but white space, as the tree construction stage sees it. */
export function hasText(bytes: Uint8Array, start: number, end: number): boolean {
  for (let at = start; at < end; at++) {
    const byte = bytes[at] as number;
    if (
      byte !== Byte.Space &&
      byte !== Byte.LineFeed &&
      byte !== Byte.Tab &&
      byte !== Byte.CarriageReturn &&
      byte !== Byte.FormFeed
    ) {
      return byte !== Byte.Ampersand || !isSpaceReference(bytes, start, end);
    }
  }
  return false;
}

/** True for text that is white space once its character references are decoded, such as `&#32;`. */
function isSpaceReference(bytes: Uint8Array, start: number, end: number): boolean {
  if (end - start > 4096) return false;
  const text = String.fromCharCode(...bytes.subarray(start, end));
  return /^(?:[\t\n\f\r ]|&(?:#0*(?:9|10|12|13|32)(?![0-9]);?|#x0*(?:9|a|c|d|20)(?![0-9a-f]);?|Tab;|NewLine;))*$/i.test(
    text,
  );
}
