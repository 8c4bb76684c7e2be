/**
 * Islands: well-formed stretches of SVG, MathML or a select in a body, which can be read without the full rules.
 * Inside one, every end tag closes the element opened last, nothing breaks out, and no HTML stands where the
 * standard would let it. Whatever is not so ends the quick reading of the page.
 */

import { Byte } from '../../bytes.ts';
import { breakouts } from './breakouts.ts';
import type { Inside } from './construction.ts';
import { elements } from './names.ts';
import type { Tag } from './scan.ts';

const { id } = elements;
/** Elements that may hold HTML (HTML 13.2.4.1, integration points): text in them is harmless, tags are not. */
const integrationPoints = new Set(
  (['annotation-xml', 'desc', 'foreignobject', 'mi', 'mn', 'mo', 'ms', 'mtext', 'title'] as const).map(
    (name) => id[name],
  ),
);
const selectParts = new Set([id.option, id.optgroup, id.hr]);

export class Island {
  /** Where each open element's name stands, innermost last; outermost is the island itself. */
  readonly #open: number[] = [];
  #holdsText = false;

  constructor(
    readonly bytes: Uint8Array,
    readonly inside: Inside & ('svg' | 'math' | 'select'),
    tag: Tag,
  ) {
    this.#push(tag);
  }

  /** False where the full rules are needed. */
  startTag(element: number, tag: Tag): boolean {
    if (this.inside === 'select') return selectParts.has(element);
    if (this.#holdsText || breakouts.has(element) || element === id.font) return false;
    if (tag.selfClosing) return true;
    this.#push(tag);
    this.#holdsText = integrationPoints.has(element);
    return true;
  }

  /** `closed` at the end of the island, `inside` further within it, `odd` where the full rules are needed. */
  endTag(element: number, tag: Tag): 'closed' | 'inside' | 'odd' {
    if (this.inside === 'select') {
      if (element === id.select) return 'closed';
      return element === id.option || element === id.optgroup ? 'inside' : 'odd';
    }
    if (element === id.p || element === id.br || !this.#closesLast(tag)) return 'odd';
    this.#open.length -= 2;
    this.#holdsText = false;
    return this.#open.length === 0 ? 'closed' : 'inside';
  }

  #push({ nameStart, nameEnd }: Tag): void {
    this.#open.push(nameStart, nameEnd);
  }

  #closesLast({ nameStart, nameEnd }: Tag): boolean {
    const { bytes } = this;
    const end = this.#open.at(-1) as number;
    const start = this.#open.at(-2) as number;
    if (end - start !== nameEnd - nameStart) return false;
    for (let at = 0; at < end - start; at++)
      if (lower(bytes[start + at]) !== lower(bytes[nameStart + at])) return false;
    return true;
  }
}

function lower(byte: number | undefined): number {
  return byte !== undefined && byte >= Byte.CapitalA && byte <= Byte.CapitalZ
    ? byte | Byte.Small
    : (byte ?? 0);
}
