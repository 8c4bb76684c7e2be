/** The edit that puts one address in the place of another: as few bytes as may be, the rest stays as it is written. */

import type { Edit } from '../change/edit.ts';
import { encodeSegment, escapeTail } from '../mend/address.ts';
import { agreesWithAscii, decoderFor } from '../read/encoding.ts';
import { traceValue } from '../read/html/values.ts';
import type { Reference } from '../read/reading.ts';

/** Documents that hold each other in attributes: so often may character references be written as such. */
const MOST_LAYERS = 3;

/** Null where nothing is to be changed. */
export function addressEdit(
  bytes: Uint8Array,
  encoding: string,
  reference: Reference,
  address: string,
): Edit | null {
  const { offset, length, written } = reference;
  if (written === address) return null;
  const end = offset + length;
  const whole = { start: offset, end, text: escapeTail(address, reference) };
  if (!agreesWithAscii(encoding)) return whole;
  const lead = changedLead(written, address);
  const old = byteLength(written.slice(0, lead.old), encoding);
  if (old === null) return whole;
  let value = bytes.subarray(offset, end);
  let offsetOf = (index: number) => offset + index;
  for (let layer = 0; layer < MOST_LAYERS; layer++) {
    if (decoderFor(encoding).decode(value) === written)
      return { start: offset, end: offsetOf(old), text: escapedTimes(lead.text, layer) };
    const outer = offsetOf;
    const traced = traceValue(value, 0, value.length);
    value = traced.bytes;
    offsetOf = (index) => outer(traced.offsetOf(index));
  }
  // Where it has escapes that are none of markup, nobody can tell which bytes are which.
  return whole;
}

function escapedTimes(text: string, layers: number): string {
  const safe = text.replace(/["'()<>`\s]/g, (character) => encodeSegment(character));
  return layers === 0 ? safe : safe.replaceAll('&', `&${'amp;'.repeat(layers)}`);
}

/** What differs, up to the last step from which on both are the same. */
function changedLead(written: string, address: string): { readonly old: number; readonly text: string } {
  let same = 0;
  const most = Math.min(written.length, address.length);
  while (same < most && written.at(-1 - same) === address.at(-1 - same)) same++;
  let [old, fresh] = [written.length - same, address.length - same];
  // Never within a step, or within what stands for one character.
  while (same > 0 && !isAtStep(written, old, fresh, address)) {
    same--;
    old++;
    fresh++;
  }
  return { old, text: address.slice(0, fresh) };
}

function isAtStep(written: string, old: number, fresh: number, address: string): boolean {
  const starts = (text: string, at: number) => at === 0 || /[/\\?#]/.test(text[at - 1] as string);
  const mark = /[/\\?#]/.test(written[old] ?? '');
  return mark || (starts(written, old) && starts(address, fresh));
}

/** Null where a character takes nobody knows how many. */
function byteLength(text: string, encoding: string): number | null {
  if (/^[ -~]*$/.test(text)) return text.length;
  return encoding === 'utf-8' ? new TextEncoder().encode(text).length : null;
}
