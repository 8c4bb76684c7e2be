/** Names and passwords in addresses (RFC 3986, 3.2.1, "userinfo"): they are for the host alone. */

/** What stands between the slashes and the `@`. */
const USERINFO = /((?:^|[^\w+.-])(?:[a-z][a-z0-9+.-]*:)?[\\/]{2})[^\s"'`<>\\/?#@]*(?:@[^\s"'`<>\\/?#@]*)*@/gi;

/** A text with an ellipsis in place of every name and password in an address. */
export function withoutCredentials(text: string): string {
  return text.includes('@') ? text.replace(USERINFO, '$1…@') : text;
}
