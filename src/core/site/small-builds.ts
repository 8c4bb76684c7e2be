/** Builds of one thing that their names tell apart: `tides.js`, `tides.min.js` and `tides-min.js`. */

const MARK = /[-.]min(?=\.[^./]*$)/i;

/** True for a file that is called minified. */
export function isCalledSmall(path: string): boolean {
  return MARK.test(path);
}

/** Where the other builds of a file would lie: of a minified one the readable, of that the minified ones. */
export function otherBuildsOf(path: string): string[] {
  if (isCalledSmall(path)) return [path.replace(MARK, '')];
  return ['.min', '-min'].map((mark) => path.replace(/(?=\.[^./]*$)/, mark));
}
