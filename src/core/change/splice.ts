/** Replaces spans of bytes. */

/** The bytes from `start` to `end` become `bytes`. */
export interface ByteEdit {
  readonly start: number;
  readonly end: number;
  readonly bytes: Uint8Array;
}

/**
 * A copy with every edit made; all other bytes stay as they are. Edits must not overlap; insertions at one
 * place keep their order.
 */
export function splice(whole: Uint8Array, edits: readonly ByteEdit[]): Uint8Array {
  const pieces: Uint8Array[] = [];
  let from = 0;
  // Sorting is stable.
  for (const { start, end, bytes } of edits.toSorted((a, b) => a.start - b.start)) {
    if (start < from) throw new RangeError('edits overlap');
    pieces.push(whole.subarray(from, start), bytes);
    from = end;
  }
  pieces.push(whole.subarray(from));
  const result = new Uint8Array(pieces.reduce((sum, { length }) => sum + length, 0));
  let at = 0;
  for (const piece of pieces) {
    result.set(piece, at);
    at += piece.length;
  }
  return result;
}
