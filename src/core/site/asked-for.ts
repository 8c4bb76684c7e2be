/** Files that nothing of a site has to refer to. */

/** Browsers, hosts and search engines ask for these by themselves. */
const ASKED_FOR =
  /^(?:favicon\.ico|apple-touch-icon[^/]*\.png|robots\.txt|humans\.txt|sitemap[^/]*\.(?:xml|txt)|feed\.xml|atom\.xml|rss\.xml|ads\.txt|browserconfig\.xml|site\.webmanifest|manifest\.json|\.htaccess|\.nojekyll|_headers|_redirects|CNAME|\.well-known\/.*)$/i;

/** For people, and for their tools. */
const LIES_BESIDE = /(?:^|\/)(?:LICEN[CS]E|COPYING|NOTICE|README)[^/]*$|\.map$/i;

/** True for what is asked for by its name, without a reference. */
export function isAskedFor(path: string): boolean {
  return ASKED_FOR.test(path);
}

/** True for a page that hosts show in the place of what they cannot give (RFC 9110, 15.5 and 15.6): at any address. */
export function isErrorPage(path: string): boolean {
  return /(?:^|\/)(?:40\d|50\d)\.html?$/.test(path);
}

/** True for what lies beside other files and is for nobody to load. */
export function liesBeside(path: string): boolean {
  return LIES_BESIDE.test(path);
}
