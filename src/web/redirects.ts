/** How hosts send on, and how far anybody follows. */

/** Redirects followed, as many as browsers follow (Fetch 4.4). */
export const MOST_HOPS = 20;
/** Statuses of answers that send on to another address (Fetch 2.2.3, redirect status). */
const REDIRECTS: ReadonlySet<number> = new Set([301, 302, 303, 307, 308]);
/** What is said of a host beyond that. */
export const TOO_FAR = `the host sends on more than ${MOST_HOPS} times`;

/** Where an answer to a request at `from` sends on to; null where it does not, and in words where nobody can follow. */
export async function sentOnBy(response: Response, from: URL | string): Promise<URL | string | null> {
  const to = REDIRECTS.has(response.status) ? response.headers.get('location') : null;
  if (to === null) return null;
  await response.body?.cancel();
  const next = URL.canParse(to, from) ? new URL(to, from) : null;
  if (next !== null && /^https?:$/.test(next.protocol)) return next;
  return `the host sends on to what is no web address: ${to}`;
}
