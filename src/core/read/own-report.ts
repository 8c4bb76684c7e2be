/** Reports of a check that lie in the site: they are no pages of it. */

/** What such a page has behind its doctype. */
export const REPORT_MARK = '<!-- A report of cravel check: no page of the site. -->';

const START = new TextEncoder().encode(`<!doctype html>\n${REPORT_MARK}`);

/** True for a page that is a report of a check. */
export function isOwnReport(bytes: Uint8Array): boolean {
  return bytes.length > START.length && START.every((byte, at) => bytes[at] === byte);
}
