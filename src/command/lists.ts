/** Lists as people give them. */

/** The items of a list that is parted by commas; commas in braces belong to a pattern. */
export function splitList(list: string): string[] {
  return list
    .split(/,(?![^{}]*\})/)
    .map((item) => item.trim())
    .filter((item) => item !== '');
}
