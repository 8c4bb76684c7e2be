/** Lines and columns as editors count them, worked out only for files with something to report. */
import { agreesWithAscii, decoderFor, transcode } from './encoding.ts';

export interface Position {
  /** 1-based. */
  readonly line: number;
  /** 1-based, in UTF-16 code units; a byte order mark does not count. */
  readonly column: number;
}

/** Positions of byte offsets in a file of the given encoding. Lines end at CR LF, LF or CR. */
export function positionsIn(bytes: Uint8Array, encoding = 'utf-8'): (offset: number) => Position {
  if (!agreesWithAscii(encoding)) return positionsInUnits(bytes, encoding);
  const decoder = decoderFor(encoding);
  // Most files end their lines with LF alone: native searches find those.
  const starts = bytes.includes(0x0d) ? lineStarts(bytes.length, (at) => bytes[at]) : lineFeeds(bytes);
  const mark = bytes[0] === 0xef && bytes[1] === 0xbb && bytes[2] === 0xbf ? 3 : 0;
  const unitsIn = (start: number, end: number) => {
    for (let at = start; at < end; at++)
      if ((bytes[at] as number) >= 0x80) return decoder.decode(bytes.subarray(start, end)).length;
    return end - start;
  };
  return (offset) => {
    const line = lastNotAfter(starts, offset);
    const start = Math.max(starts[line] as number, mark);
    return { line: line + 1, column: unitsIn(start, offset) + 1 };
  };
}

function positionsInUnits(bytes: Uint8Array, encoding: string): (offset: number) => Position {
  const { text, unitOffsets } = transcode(bytes, encoding);
  const starts = lineStarts(text.length, (at) => text.charCodeAt(at));
  const mark = text.startsWith('\uFEFF') ? 1 : 0;
  return (offset) => {
    const unit = lastNotAfter(unitOffsets, offset);
    const line = lastNotAfter(starts, unit);
    return { line: line + 1, column: unit - Math.max(starts[line] as number, mark) + 1 };
  };
}

function lineFeeds(bytes: Uint8Array): number[] {
  const starts = [0];
  for (let at = bytes.indexOf(0x0a); at >= 0; at = bytes.indexOf(0x0a, at + 1)) starts.push(at + 1);
  return starts;
}

function lineStarts(length: number, unitAt: (at: number) => number | undefined): number[] {
  const starts = [0];
  for (let at = 0; at < length; at++) {
    const unit = unitAt(at);
    if (unit === 0x0a || (unit === 0x0d && unitAt(at + 1) !== 0x0a)) starts.push(at + 1);
  }
  return starts;
}

/** The index of the last of the rising `values` that is not greater than `wanted`. */
function lastNotAfter(values: ArrayLike<number>, wanted: number): number {
  let low = 0;
  let high = values.length;
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if ((values[middle] as number) <= wanted) low = middle;
    else high = middle;
  }
  return low;
}
