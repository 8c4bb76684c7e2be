/** Lines and columns as editors count them, worked out only for files with something to report. */
import { Byte, hasMark } from '../bytes.ts';
import { lastNotAfter } from '../rising.ts';
import { agreesWithAscii, decoderFor, transcode } from './encoding.ts';

export interface Position {
  /** 1-based. */
  readonly line: number;
  /** 1-based, in UTF-16 code units; a byte order mark does not count. */
  readonly column: number;
}

/** From the first character of something to the one behind its last. */
export interface Extent extends Position {
  readonly endLine: number;
  readonly endColumn: number;
}

/** Where every file starts. */
const START: Position = { line: 1, column: 1 };
/** What is said of a file as a whole. */
export const AT_START: Extent = { ...START, endLine: 1, endColumn: 1 };

/** The extent of a number of bytes, by the positions of their file. */
export function extentOf(
  positionOf: (offset: number) => Position,
  { offset, length }: { readonly offset: number; readonly length: number },
): Extent {
  const { line, column } = positionOf(offset);
  if (length === 0) return { line, column, endLine: line, endColumn: column };
  const end = positionOf(offset + length);
  return { line, column, endLine: end.line, endColumn: end.column };
}

/**
 * The way back: the byte offset of a line and a column; the last one of a line that is shorter, and the end of the file
 * where there is no such line.
 */
export function offsetsIn(bytes: Uint8Array, encoding = 'utf-8'): (position: Position) => number {
  const positionOf = positionsIn(bytes, encoding);
  const isWide = !agreesWithAscii(encoding);
  return ({ line, column }) => {
    let low = 0;
    let high = bytes.length + 1;
    while (high - low > 1) {
      const middle = (low + high) >> 1;
      const at = positionOf(middle);
      if (at.line < line || (at.line === line && at.column <= column)) low = middle;
      else high = middle;
    }
    // Bytes within a character count as its end where they agree with ASCII, else as its start.
    while (isWide && low > 0 && isSame(positionOf(low - 1), positionOf(low))) low--;
    return low;
  };
}

/**
 * Positions of byte offsets in a file of the given encoding. Lines end at CR LF, LF or CR; they are counted when the first
 * offset beyond the start is asked for.
 */
export function positionsIn(bytes: Uint8Array, encoding = 'utf-8'): (offset: number) => Position {
  let positionOf: ((offset: number) => Position) | null = null;
  return (offset) => {
    if (offset === 0) return START;
    positionOf ??= agreesWithAscii(encoding)
      ? positionsInBytes(bytes, encoding)
      : positionsInUnits(bytes, encoding);
    return positionOf(offset);
  };
}

function isSame(one: Position, other: Position): boolean {
  return one.line === other.line && one.column === other.column;
}

function positionsInBytes(bytes: Uint8Array, encoding: string): (offset: number) => Position {
  // Most files end their lines with LF alone: native searches find those.
  const starts = bytes.includes(Byte.CarriageReturn)
    ? lineStarts(bytes.length, (at) => bytes[at])
    : lineFeeds(bytes);
  const mark = hasMark(bytes) ? 3 : 0;
  let units: ((offset: number) => number) | null = null;
  // What is told of has an end, mostly on the same line.
  let line = 0;
  return (offset) => {
    if (offset < (starts[line] as number) || offset >= (starts[line + 1] ?? Number.POSITIVE_INFINITY))
      line = lastNotAfter(starts, offset);
    const start = Math.max(starts[line] as number, mark);
    if (offset <= start) return { line: line + 1, column: 1 };
    if (offset - start <= STRIDE && isAscii(bytes, start, offset))
      return { line: line + 1, column: offset - start + 1 };
    units ??= unitCounter(bytes, mark, encoding);
    return { line: line + 1, column: units(offset) - units(start) + 1 };
  };
}

/** Bytes between two places whose units are counted once. */
const STRIDE = 1024;

function isAscii(bytes: Uint8Array, start: number, end: number): boolean {
  for (let at = start; at < end; at++) if ((bytes[at] as number) >= Byte.BeyondAscii) return false;
  return true;
}

/**
 * Counts the UTF-16 units from `from` to an offset. What stands before is decoded once, in strides; an offset asks for
 * the rest of one stride only, however long its line is.
 */
function unitCounter(bytes: Uint8Array, from: number, encoding: string): (offset: number) => number {
  const decoder = decoderFor(encoding);
  const isUtf8 = encoding === 'utf-8';
  const length = (start: number, end: number) =>
    isAscii(bytes, start, end) ? end - start : decoder.decode(bytes.subarray(start, end)).length;
  const ends = [from];
  const counts = [0];
  const goOn = (start: number) => {
    let end = Math.min(start + STRIDE, bytes.length);
    // More than three bytes that continue nothing are a character each.
    const limit = isUtf8 ? Math.min(end + 4, bytes.length) : bytes.length;
    while (end < limit && !isBoundary(bytes, end, isUtf8)) end++;
    counts.push((counts.at(-1) as number) + length(start, end));
    ends.push(end);
    return end;
  };
  return (offset) => {
    for (let end = ends.at(-1) as number; end < offset; ) end = goOn(end);
    const stride = lastNotAfter(ends, offset);
    return (counts[stride] as number) + length(ends[stride] as number, offset);
  };
}

/**
 * True where a character starts: at what continues none (UTF-8), and after what is none's second byte in any encoding
 * that agrees with ASCII.
 */
function isBoundary(bytes: Uint8Array, at: number, isUtf8: boolean): boolean {
  return isUtf8 ? ((bytes[at] as number) & 0xc0) !== Byte.BeyondAscii : (bytes[at - 1] as number) < Byte.Zero;
}

function positionsInUnits(bytes: Uint8Array, encoding: string): (offset: number) => Position {
  const { text, unitOffsets } = transcode(bytes, encoding);
  const starts = lineStarts(text.length, (at) => text.charCodeAt(at));
  const mark = text.startsWith('\uFEFF') ? 1 : 0;
  return (offset) => {
    let unit = lastNotAfter(unitOffsets, offset);
    // Several units may stand for the same bytes: the first is meant.
    while (unit > 0 && unitOffsets[unit - 1] === unitOffsets[unit]) unit--;
    const line = lastNotAfter(starts, unit);
    const start = Math.max(starts[line] as number, mark);
    return { line: line + 1, column: Math.max(unit - start, 0) + 1 };
  };
}

function lineFeeds(bytes: Uint8Array): number[] {
  const starts = [0];
  for (let at = bytes.indexOf(Byte.LineFeed); at >= 0; at = bytes.indexOf(Byte.LineFeed, at + 1))
    starts.push(at + 1);
  return starts;
}

function lineStarts(length: number, unitAt: (at: number) => number | undefined): number[] {
  const starts = [0];
  for (let at = 0; at < length; at++) {
    const unit = unitAt(at);
    if (unit === Byte.LineFeed || (unit === Byte.CarriageReturn && unitAt(at + 1) !== Byte.LineFeed))
      starts.push(at + 1);
  }
  return starts;
}

/** How many lines a text goes over, white space around it left out. */
export function lineAmount(text: string): number {
  return text.trim().split('\n').length;
}
