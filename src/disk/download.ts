/** Fetches one file from a web host, within limits of time and size. */
import { CravelError, fail } from '../core/errors.ts';
import type { Allowance } from './archive.ts';
import { whyNotFetched } from './reason.ts';

export interface Downloaded {
  /** Where it came from in the end, redirects followed. */
  readonly url: string;
  readonly type: string;
  readonly bytes: Uint8Array;
}

/** Milliseconds until an answer must be complete. */
const TIME = 60_000;

export function isWebAddress(source: string): boolean {
  return /^https?:\/\//i.test(source);
}

/** Throws a `CravelError` that says why the address could not be fetched. */
export async function download(address: string, allowance: Allowance): Promise<Downloaded> {
  try {
    const answer = await fetch(address, { signal: AbortSignal.timeout(TIME), redirect: 'follow' });
    if (!answer.ok)
      throw fail('not-fetched', address, `the host answered ${answer.status} ${answer.statusText}`.trim());
    allowance.file();
    const pieces: Uint8Array[] = [];
    for await (const piece of answer.body ?? []) {
      allowance.bytes(piece.length);
      pieces.push(piece);
    }
    const type = answer.headers.get('content-type')?.toLowerCase() ?? '';
    return { url: answer.url, type, bytes: Buffer.concat(pieces) };
  } catch (error) {
    if (error instanceof CravelError) throw error;
    throw fail('not-fetched', address, whyNotFetched(error, TIME).text);
  }
}
