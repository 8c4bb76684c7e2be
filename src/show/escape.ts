/**
 * Text from outside made safe to show, one function for each way out: names, addresses and titles may hold control
 * characters and marks that turn the direction of text, which could play with whoever reads them, and addresses names
 * and passwords, which are nobody's business.
 */
import { withoutCredentials } from '../core/resolve/credentials.ts';

/** Control characters, and characters that are not seen and change how others are (Unicode 5.0 and later, bidi controls). */
const ACTING = /[\p{Cc}\u061C\u200E\u200F\u2028-\u202E\u2066-\u2069]/gu;

const hex = (character: string) => (character.codePointAt(0) ?? 0).toString(16);

/** For a terminal: `\x1b`, `\u202e`. */
export function visible(text: string): string {
  return withoutCredentials(text).replace(ACTING, (character) =>
    character < '\u0100' ? `\\x${hex(character).padStart(2, '0')}` : `\\u${hex(character).padStart(4, '0')}`,
  );
}

/** For an element or a quoted attribute of a page: what acts is shown as what it is. */
export function forMarkup(text: string): string {
  return plainly(text).replace(ACTING, (character) => `\\u${hex(character).padStart(4, '0')}`);
}

/** For an element or an attribute of XML (1.0, 2.2 and 4.1); what XML cannot hold at all becomes U+FFFD. */
export function forXml(text: string): string {
  return plainly(
    text
      .replace(/[^\t\n\r\u0020-\uD7FF\uE000-\uFFFD\u{10000}-\u{10FFFF}]/gu, '\uFFFD')
      .replace(/[\n\r\t]/g, ' '),
  ).replace(ACTING, (character) => `&#x${hex(character)};`);
}

/** JSON (RFC 8259, 7) whose strings hold nothing that acts: escapes that every reader takes back. */
export function asJson(value: unknown, indent?: number): string {
  const whole = JSON.stringify(value, null, indent);
  // Looked for in the texts themselves: escapes of JSON could be taken for slashes.
  const safe = whole.includes('@') ? JSON.stringify(value, withoutCredentialsIn, indent) : whole;
  return safe.replace(
    /[\x7f-\x9f\u061C\u200E\u200F\u2028-\u202E\u2066-\u2069\uFEFF]/g,
    (character) => `\\u${hex(character).padStart(4, '0')}`,
  );
}

function withoutCredentialsIn(_key: string, value: unknown): unknown {
  return typeof value === 'string' ? withoutCredentials(value) : value;
}

function plainly(text: string): string {
  return withoutCredentials(text)
    .replaceAll('&', '&amp;')
    .replaceAll('<', '&lt;')
    .replaceAll('>', '&gt;')
    .replaceAll('"', '&quot;');
}
