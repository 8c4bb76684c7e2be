/** How hosts send on, and how far anybody follows. */

/** Redirects followed, as many as browsers follow (Fetch 4.4). */
export const MOST_HOPS = 20;
/** Statuses of answers that send on to another address (Fetch 2.2.3, redirect status). */
export const REDIRECTS: ReadonlySet<number> = new Set([301, 302, 303, 307, 308]);
