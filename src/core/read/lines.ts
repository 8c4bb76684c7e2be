/** Lines and columns as editors count them, worked out only for files with something to report. */

export interface Position {
  /** 1-based. */
  readonly line: number;
  /** 1-based, in UTF-16 code units; a byte order mark does not count. */
  readonly column: number;
}

const utf8 = new TextDecoder('utf-8', { ignoreBOM: false });

/** Positions of byte offsets in a UTF-8 file. Lines end at CR LF, LF or CR. */
export function positionsIn(bytes: Uint8Array): (offset: number) => Position {
  const starts = [0];
  for (let at = 0; at < bytes.length; at++) {
    const byte = bytes[at];
    if (byte === 0x0a || (byte === 0x0d && bytes[at + 1] !== 0x0a)) starts.push(at + 1);
  }
  return (offset) => {
    let low = 0;
    let high = starts.length;
    while (high - low > 1) {
      const middle = (low + high) >> 1;
      if ((starts[middle] as number) <= offset) low = middle;
      else high = middle;
    }
    const column = utf8.decode(bytes.subarray(starts[low], offset)).length + 1;
    return { line: low + 1, column };
  };
}
