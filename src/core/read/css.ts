/** Reads a stylesheet: the addresses that `@import` and `url()` hold. */
import { decodeEscapes, scanCss } from './css/scan.ts';
import { textOf } from './decode.ts';
import type { Kind, Reading, Reference } from './reading.ts';

const NO_ANCHORS: ReadonlySet<string> = new Set();

/** Reads CSS (CSS Syntax Level 3); `url(#local)` and `@namespace` addresses load nothing and stay out. */
export function readCss(bytes: Uint8Array): Reading {
  const references: Reference[] = [];
  const functions: string[] = [];
  let rule = '';
  let ruleHasAddress = false;

  const name = (start: number, end: number) => decodeEscapes(textOf(bytes, start, end)).toLowerCase();
  const add = (start: number, end: number, holder: string) => {
    const written = decodeEscapes(textOf(bytes, start, end));
    const importing = rule === 'import' && !ruleHasAddress;
    ruleHasAddress = true;
    if (rule === 'namespace' || (!importing && written.startsWith('#'))) return;
    const kind: Kind = importing ? 'stylesheet' : rule === 'font-face' ? 'font' : 'image';
    references.push({
      kind,
      holder: importing ? '@import' : holder,
      offset: start,
      length: end - start,
      written,
    });
  };

  scanCss(bytes, {
    string(start, end) {
      const inside = functions.at(-1);
      if (inside === 'url') add(start, end, 'url()');
      else if (rule === 'import' && inside === undefined && !ruleHasAddress) add(start, end, '@import');
    },
    url: (start, end) => add(start, end, 'url()'),
    open: (start, end) => functions.push(name(start, end)),
    close: () => functions.pop(),
    atKeyword(start, end) {
      rule = name(start, end);
      ruleHasAddress = false;
    },
    boundary(byte) {
      functions.length = 0;
      const opensFontFace = byte === 0x7b || (byte === 0x3b && rule === 'font-face');
      if (!(opensFontFace && rule === 'font-face')) rule = '';
      ruleHasAddress = false;
    },
  });
  return { references, anchors: NO_ANCHORS, base: null };
}
