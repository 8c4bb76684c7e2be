/** Names and passwords of web addresses: sent to the host that they are for, and to no other. */

/** Takes them out of the address, which then can be asked for; gives the header that says them (RFC 7617). */
export function authorization(url: URL): Record<string, string> {
  if (url.username === '' && url.password === '') return {};
  const words = `${decodedOr(url.username)}:${decodedOr(url.password)}`;
  url.username = '';
  url.password = '';
  return { authorization: `Basic ${Buffer.from(words).toString('base64')}` };
}

/** Percent-decoded; as it is where that makes no text. */
export function decodedOr(text: string): string {
  try {
    return decodeURIComponent(text);
  } catch {
    return text;
  }
}
