/** Comments that hold other ones. */

/**
 * True where a comment that ended is followed by the end of another one: what was put into a comment with comments of its
 * own ends too early, and takes nothing with it.
 */
export function closesAgain(plain: string, end: number, opener: string, closer: string): boolean {
  const [close, open] = [plain.indexOf(closer, end), plain.indexOf(opener, end)];
  return close >= 0 && (open < 0 || close < open);
}
