/** Tells text from what only has its name. */

/** Why bytes cannot be read as text; null where they can. UTF-16 is told by its byte order mark. */
export function notText(bytes: Uint8Array): string | null {
  const mark = ((bytes[0] ?? 0) << 8) | (bytes[1] ?? 0);
  if (mark === 0xfeff || mark === 0xfffe) return null;
  const zero = bytes.subarray(0, 4096).indexOf(0);
  if (zero < 0) return null;
  return `this is not text (byte ${zero} is NUL): give it the extension of what it is, or take it out of the site`;
}
