/** Elements that no browser knows, and that hold an address: they were probably meant to be others. */
import { htmlTagNames } from 'html-tag-names';
import { Byte } from '../../bytes.ts';
import { isOneSlip } from '../../site/near-names.ts';
import { Slot, type Tag } from './scan.ts';

const known = new Set(htmlTagNames);
/** What holds addresses in `src` or `href`. */
const holding = [
  'script',
  'link',
  'img',
  'iframe',
  'video',
  'audio',
  'source',
  'embed',
  'area',
  'base',
  'track',
  'image',
];
/** Elements without an end tag: one name is all that is to be mended (HTML 13.1.2). */
const VOID: ReadonlySet<string> = new Set(['link', 'img', 'source', 'embed', 'area', 'base', 'track']);

/** A cheap look that passes over nearly every tag: the slot of the first `src` or `href` with a value; -1 where it has none. */
export function addressSlot(bytes: Uint8Array, { attributes, attributeCount }: Tag): number {
  for (let index = 0, slot = 0; index < attributeCount; index++, slot += Slot.Width) {
    const start = attributes[slot + Slot.NameStart] as number;
    const length = (attributes[slot + Slot.NameEnd] as number) - start;
    if ((length !== 3 && length !== 4) || (attributes[slot + Slot.ValueStart] as number) < 0) continue;
    const first = (bytes[start] as number) | Byte.Small;
    if (length === 3 ? first !== Byte.S : first !== 0x68) continue;
    const name = String.fromCharCode(...bytes.subarray(start, start + length)).toLowerCase();
    if (name === 'src' || name === 'href') return slot;
  }
  return -1;
}

export interface MeantElement {
  readonly meant: string;
  readonly isVoid: boolean;
}

/** What an element (in lower case) was probably meant to be; null for all that browsers know, and for custom elements. */
export function meantElement(name: string): MeantElement | null {
  if (known.has(name) || name.includes('-') || name.includes(':')) return null;
  const near = holding.find((one) => isOneSlip(name, one));
  if (near === undefined) return null;
  const meant = near === 'image' ? 'img' : near;
  return { meant, isVoid: VOID.has(meant) };
}
