/** Choices in words. */

/** `a, b or c` */
export function oneOf(words: readonly string[]): string {
  return words.length < 2 ? words.join('') : `${words.slice(0, -1).join(', ')} or ${words.at(-1)}`;
}
