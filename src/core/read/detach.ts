/** Texts that hold on to nothing but themselves. */

/** Copies a text that may be a slice of a whole file, which would stay in memory with it. */
export function detach(text: string): string {
  // Joining makes a new string; taking the end off it again keeps no more than that.
  return `${text}\0`.slice(0, -1);
}
