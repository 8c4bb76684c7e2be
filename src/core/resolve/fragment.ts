/** Does a fragment lead somewhere in a page? (HTML 7.4.6.3, the indicated part of the document.) */

/** True where the fragment (as written, without `#`) indicates the page's top or one of its anchors. */
export function leadsSomewhere(fragment: string, anchors: Pick<ReadonlySet<string>, 'has'>): boolean {
  const name = anchorName(fragment);
  if (name === '' || anchors.has(name)) return true;
  const decoded = decodeFragment(name);
  return anchors.has(decoded) || decoded.toLowerCase() === 'top';
}

/** The fragment without its fragment directive (`:~:text=…`), which is no part of an anchor's name. */
export function anchorName(fragment: string): string {
  const directive = fragment.indexOf(':~:');
  return directive < 0 ? fragment : fragment.slice(0, directive);
}

/** Percent-decoded, as far as that makes text. */
export function decodeFragment(text: string): string {
  try {
    return decodeURIComponent(text);
  } catch {
    return text;
  }
}
