/** Adds the preview's script to a page on its way to the browser; the file stays as it is. */
import { oneCharacterAByte } from '../core/bytes.ts';
import { openPage, type Page } from '../core/page/page.ts';
import { tagsOf } from '../core/page/tags.ts';
import { sniffEncoding } from '../core/read/encoding.ts';
import { startOfText } from '../core/read/source.ts';
import { extensionOf } from '../core/site/inventory.ts';
import { OWN } from './messages.ts';

/** Told apart from what is in the file. */
const ADDED = `<!-- added by cravel preview, not in the file --><script src="${OWN}/page.js"></script>`;

/** Bytes in which a browser looks for a page's encoding (HTML 13.2.3.2). */
const PRESCAN = 1024;

export interface Shown {
  readonly bytes: Uint8Array;
  /** To be said by the host, since what says it in the page stands too far down now; null where nothing is. */
  readonly charset: string | null;
}

/** The page with the script before all else that it loads. */
export function withAdded(file: string, bytes: Uint8Array): Shown {
  const page = openPage(file, bytes);
  const at = placeIn(page);
  if (at === null) return { bytes, charset: null };
  const shown = page.edited([{ start: at, end: at, text: ADDED }]);
  const pushed = bytes.subarray(
    Math.max(0, PRESCAN - ADDED.length - 'charset="windows-1252"'.length),
    PRESCAN,
  );
  const isPushed = /charset|encoding/i.test(oneCharacterAByte(pushed));
  return { bytes: shown, charset: isPushed ? sniffEncoding(bytes, 'html') : null };
}

/** Right behind the start of the head, where that is written; null in XML that has none. */
function placeIn(page: Page): number | null {
  const tags = tagsOf(page);
  const start = tags.first('head') ?? tags.first('html');
  if (start !== null) return start.startTag.end;
  return extensionOf(page.file) === 'xhtml'
    ? null
    : Math.max(tags.doctypeEnd, startOfText(page.source.plain));
}
